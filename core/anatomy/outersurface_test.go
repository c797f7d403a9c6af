package anatomy

import (
	"math"
	"testing"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/notation"
	"obturon/core/solid"
)

func TestSkinOfABallKnowsDepthAndFoot(t *testing.T) {
	const radius = 4.0
	centre := r3.Vec{X: 0.13, Y: -0.21, Z: 0.07}
	around := solid.Box{Min: r3.Vec{X: -5, Y: -5, Z: -5}, Max: r3.Vec{X: 5, Y: 5, Z: 5}}
	ball := solid.NewBlank(solid.NewGrid(around, 0.1), func(p r3.Vec) float64 { return r3.Norm(r3.Sub(p, centre)) - radius })
	outer := FromFields(notation.Tooth{}, Frame{}, ball, nil, nil).OuterSurface()
	for _, out := range []r3.Vec{{X: 1}, {X: -0.3, Y: 0.8, Z: 0.2}, {X: 0.5, Y: 0.5, Z: -0.7}} {
		out = r3.Unit(out)
		for _, depth := range []float64{-0.5, 0, 0.3, 1.5, 2.5} {
			p := r3.Add(centre, r3.Scale(radius-depth, out))
			foot, normal, got := outer.Over(p)
			if math.Abs(got-depth) > 0.01 {
				t.Errorf("depth %v along %v reads %.3f", depth, out, got)
			}
			if off := r3.Norm(r3.Sub(foot, r3.Add(centre, r3.Scale(radius, out)))); off > 0.08 {
				t.Errorf("the foot at depth %v along %v lies %.3f mm off", depth, out, off)
			}
			if r3.Dot(normal, out) < 0.999 {
				t.Errorf("the normal at depth %v along %v is %v", depth, out, normal)
			}
		}
	}
}
