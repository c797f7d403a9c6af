package reach

import (
	"math"
	"testing"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/instrument"
	"obturon/core/solid"
)

// In an open-topped groove as wide as its bur the settled ways run along its middle, and
// places from which nothing fits are left out.
func TestSettledWaysRunAlongAGroove(t *testing.T) {
	const radius, y0, z0 = 0.25, 0.043, -0.267 // off the lattice
	free := func(p r3.Vec) float64 {           // a round groove along x, open upwards
		y, z := p.Y-y0, p.Z-z0
		if z > 0 {
			return radius - math.Abs(y)
		}
		return radius - math.Hypot(y, z)
	}
	g := solid.NewGrid(solid.Box{Min: r3.Vec{X: -2, Y: -1.5, Z: -1.2}, Max: r3.Vec{X: 2, Y: 1.5, Z: 1}}, 0.1)
	s := Where(solid.Sample(g, free), &instrument.Head{Shape: instrument.Round, Diameter: 2 * radius, Length: 2 * radius}, r3.Vec{Z: 1}, 0, g.Room())
	tip := z0 - radius
	ways := s.Settle([]Way{
		{{X: -1, Y: y0 + 0.06, Z: tip + 0.05}, {X: 1, Y: y0 - 0.05, Z: tip - 0.04}},
		{{X: -1, Y: y0 + 0.5, Z: tip}, {X: 1, Y: y0 + 0.5, Z: tip}}, // in the wall
	}, 0.05)
	if len(ways) != 1 {
		t.Fatalf("%d ways", len(ways))
	}
	if long := ways[0].Length(); math.Abs(long-2) > 0.1 {
		t.Errorf("%.2f long", long)
	}
	for _, p := range ways[0] {
		if off := math.Abs(p.Y - y0); off > 0.045 {
			t.Errorf("%v lies %.3f off the middle", p, off)
		}
		if p.Z < tip-0.03 {
			t.Errorf("%v lies %.3f under the groove", p, tip-p.Z)
		}
	}
}
