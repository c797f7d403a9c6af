package solid

import (
	"math"
	"testing"

	"gonum.org/v1/gonum/spatial/r3"
)

// endless is a tool that goes on without end past its bounds, as a bur's way out of
// the tooth does.
type endless struct {
	half    float64 // mm along x
	feature uint16
	bounds  Box
}

func (s endless) Distance(p r3.Vec) float64 { return math.Abs(p.X) - s.half }
func (s endless) Feature(r3.Vec) uint16     { return s.feature }
func (s endless) Bounds() Box               { return s.bounds }

func TestAUnionCutsWhatEachOfItsToolsCuts(t *testing.T) {
	around := Box{Min: r3.Vec{X: -3, Y: -3, Z: -3}, Max: r3.Vec{X: 3, Y: 3, Z: 3}}
	block := NewBlank(NewGrid(around, 0.1), func(p r3.Vec) float64 {
		return math.Max(math.Abs(p.X), math.Max(math.Abs(p.Y), math.Abs(p.Z))) - 2.5
	})
	whole := Box{Min: r3.Vec{X: -3, Y: -3, Z: -3}, Max: r3.Vec{X: 3, Y: 3, Z: 3}}
	ball := func(x float64, label uint16) Tool {
		return NewMotion(Ball{0.7}, label, Pose{Tip: r3.Vec{X: x, Z: 1.2}, Axis: r3.Vec{Z: 1}}, Pose{Tip: r3.Vec{X: x, Z: 3}, Axis: r3.Vec{Z: 1}})
	}
	a, b := ball(-1.2, 3), ball(1.2, 5)
	for name, tools := range map[string][]Tool{"apart": {a, b}, "overlapping": {a, ball(-0.6, 5)}, "one about the other": {a, endless{0.3, 5, whole}}} {
		apart, joined := block.Uncut().Carve(tools...).Mesh(), block.Uncut().Carve(Union(tools)).Mesh()
		if math.Abs(apart.Volume()-joined.Volume()) > 1e-3*apart.Volume() {
			t.Errorf("%s: one after the other %.3f mm³ are left, together %.3f", name, apart.Volume(), joined.Volume())
		}
		if !joined.Closed() {
			t.Errorf("%s: open", name)
		}
		labels := map[uint16]bool{}
		for _, l := range joined.Labels {
			labels[l] = true
		}
		if !labels[3] || !labels[5] {
			t.Errorf("%s: not every tool is named: %v", name, labels)
		}
	}
	if Union([]Tool{a}) != a {
		t.Error("one tool alone is joined with nothing")
	}
}

func TestAToolInAUnionEndsAtItsBounds(t *testing.T) {
	low := endless{0.3, 1, Box{Min: r3.Vec{X: -1, Y: -1, Z: -1}, Max: r3.Vec{X: 1, Y: 1, Z: 1}}}
	far := endless{0.1, 2, Box{Min: r3.Vec{X: -1, Y: 4, Z: -1}, Max: r3.Vec{X: 1, Y: 5, Z: 1}}}
	u := Union([]Tool{low, far})
	if d := u.Distance(r3.Vec{Y: 2.5}); d < 1.4 {
		t.Errorf("between the two a place lies %.2f mm off", d)
	}
	if d := u.Distance(r3.Vec{}); math.Abs(d+0.3) > 1e-9 || u.Feature(r3.Vec{Y: 4.5}) != 2 {
		t.Errorf("inside it is %.2f, over there feature %d", d, u.Feature(r3.Vec{Y: 4.5}))
	}
}

// In the depth of a crease the nearest point's normal points aside.
func TestDistanceToASurfaceUnderACrease(t *testing.T) {
	var points, normals []r3.Vec
	for y := -4.0; y <= 4; y += 0.05 {
		for s := 0.0; s <= 4; s += 0.05 { // the two flanks of a narrow V, its edge at the origin
			for _, side := range []float64{-1, 1} {
				points = append(points, r3.Vec{X: side * s * 0.2, Y: y, Z: s})
				normals = append(normals, r3.Unit(r3.Vec{X: -side, Z: 0.2}))
			}
		}
	}
	inside := func(p r3.Vec) bool { return p.Z < 5*math.Abs(p.X) }
	d := DistanceToSurface(NewGrid(Box{Min: r3.Vec{X: -1, Y: -1, Z: -3}, Max: r3.Vec{X: 1, Y: 1, Z: 1}}, 0.2), points, normals, inside)
	for _, deep := range []float64{0.5, 1, 2} {
		if got := d.Distance(r3.Vec{Z: -deep}); math.Abs(got+deep) > 0.05 {
			t.Errorf("%.1f mm under the crease reads %.3f", deep, got)
		}
	}
}
