package fill

import (
	"math"
	"testing"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/anatomy"
	"obturon/core/notation"
	"obturon/core/solid"
)

// A contact found patch by patch is that of every place by itself, whichever tooth stands
// beside and however far away.
func TestTheContactIsThatOfEveryPlace(t *testing.T) {
	const grid = 0.3 // mm
	for _, c := range []struct {
		tooth string
		side  notation.Side
		age   float64
	}{{"46", notation.Distal, 34}, {"22", notation.Mesial, 34}} {
		tooth := notation.MustParse(c.tooth)
		m, err := anatomy.Build(tooth, anatomy.MeasuredSizes{}, c.age, grid)
		if err != nil {
			t.Fatal(err)
		}
		other, ok := tooth.Neighbour(c.side, c.age)
		if !ok {
			t.Fatalf("no tooth stands beside %s", c.tooth)
		}
		model, err := anatomy.Build(other, anatomy.MeasuredSizes{}, c.age, grid)
		if err != nil {
			t.Fatal(err)
		}
		beside := anatomy.Place(m, c.side, model).AdjacentSurface(m.Contact(c.side), 2)
		for _, shift := range []float64{0, -1} {
			p := &Part{Mesh: crown(m, shift)}
			want := math.Inf(1)
			p.outer(func(v int32) {
				if d, _ := beside.Clearance(p.Mesh.Vertices[v]); d < want {
					want = d
				}
			})
			got, at, ok := p.Contact(beside)
			if !ok || math.Abs(got-want) > 0.005 {
				t.Errorf("%s %v moved by %.1f: contact %.4f, of every place %.4f", c.tooth, c.side, shift, got, want)
			}
			if d, _ := beside.Clearance(at); d != got {
				t.Errorf("%s %v: where the contact lies it measures %.4f, not %.4f", c.tooth, c.side, d, got)
			}
		}
	}
}

// crown is the surface of a tooth's crown, made narrower by so many tenths of its width.
func crown(m *anatomy.Model, shift float64) *solid.Mesh {
	whole := m.Surface.Uncut().Mesh()
	own := &solid.Mesh{Vertices: make([]r3.Vec, len(whole.Vertices))}
	for n, v := range whole.Vertices {
		own.Vertices[n] = r3.Vec{X: v.X * (1 + shift/10), Y: v.Y, Z: v.Z}
	}
	for n, t := range whole.Triangles {
		if whole.Centroid(n).Z > 0 {
			own.Triangles, own.Labels = append(own.Triangles, t), append(own.Labels, 0)
		}
	}
	return own
}
