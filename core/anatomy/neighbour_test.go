package anatomy

import (
	"math"
	"testing"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/notation"
)

func TestEveryNeighbourTouchesAndNoneOverlaps(t *testing.T) {
	for id, m := range averages() {
		for _, side := range []notation.Side{notation.Mesial, notation.Distal} {
			other, ok := m.Tooth.Neighbour(side, m.AgeYears)
			if !ok {
				continue
			}
			right, err := notation.New(quadrantOnTheRight(other), other.Position())
			if err != nil {
				t.Fatal(err)
			}
			n := Place(m, side, averages()[right.String()].For(other))
			if n.Gap < 0 || n.Gap > 0.02 {
				t.Errorf("%s to %s: gap %.4f mm", id, other, n.Gap)
			}
			// No point of one tooth may lie inside the other.
			deepest := 0.0
			for _, v := range n.Surface.Uncut().Mesh().Vertices {
				deepest = math.Min(deepest, m.Surface.Distance(n.Into(v)))
			}
			if deepest < -0.03 {
				t.Errorf("%s to %s: they overlap by %.3f mm", id, other, -deepest)
			}
		}
	}
}

func quadrantOnTheRight(t notation.Tooth) int {
	q := 4
	if t.Upper() {
		q = 1
	}
	if t.Primary() {
		q += 4
	}
	return q
}

func TestPlacementsUndoAndJoin(t *testing.T) {
	a := Placement{Yaw: 0.3, Offset: r3.Vec{X: 8, Y: -1, Z: 0.4}}
	b := Placement{Mirrored: true, Yaw: -0.2, Offset: r3.Vec{X: 7, Y: 2}}
	for _, p := range []r3.Vec{{X: 1, Y: 2, Z: 3}, {X: -4, Z: 1}} {
		for _, place := range []Placement{a, b} {
			if got := place.From(place.Into(p)); r3.Norm(r3.Sub(got, p)) > 1e-9 {
				t.Errorf("%v comes back as %v", p, got)
			}
		}
		for _, pair := range [][2]Placement{{a, b}, {b, a}, {b, b}} {
			want := pair[0].Into(pair[1].Into(p))
			if got := pair[0].Then(pair[1]).Into(p); r3.Norm(r3.Sub(got, want)) > 1e-9 {
				t.Errorf("joined: %v, one after the other: %v", got, want)
			}
		}
	}
}

func TestAntagonistRestsOnTheTooth(t *testing.T) {
	for id, m := range averages() {
		plane := m.AntagonistPlane()
		above := math.Inf(-1)
		for _, v := range m.Surface.Uncut().Mesh().Vertices {
			above = math.Max(above, plane.To(v).Z)
		}
		if math.Abs(above) > 0.12 {
			t.Errorf("%s: the tooth rises %.3f mm over the plane that rests on it", id, above)
		}
	}
}
