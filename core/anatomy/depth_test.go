package anatomy_test

import (
	"math"
	"testing"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/anatomy"
	"obturon/core/notation"
	"obturon/core/solid"
)

// The depth into a ball of dentin is known all through it, past the band in which its border is.
func TestTheDepthIntoDentinIsKnownAllThrough(t *testing.T) {
	const radius = 3.0 // mm
	ball := solid.Sample(solid.NewGrid(solid.Box{Min: r3.Vec{X: -4, Y: -4, Z: -4}, Max: r3.Vec{X: 4, Y: 4, Z: 4}}, 0.2), func(p r3.Vec) float64 {
		return math.Max(r3.Norm(p)-radius, -0.5) // as a field that is a distance near its border only
	})
	m := anatomy.FromFields(notation.MustParse("46"), anatomy.Frame{}, nil, ball, nil)
	for _, p := range []r3.Vec{{X: 3.5}, {Y: 2.8}, {Z: -2.2}, {X: 1, Y: 1, Z: 1}, {X: 0.3}, {Y: -1.5, Z: 0.4}} {
		if got, want := m.IntoDentin(p), radius-r3.Norm(p); math.Abs(got-want) > 0.06 {
			t.Errorf("%v: %.2f mm into dentin, want %.2f", p, got, want)
		}
	}
}
