package lesion

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"
)

// Away is how far (mm) a place lies from a lesion, negative inside it. Far from itself a
// lesion's own field may understate the distance; what holds it says at least so much.
func Away(l Lesion, p r3.Vec) float64 {
	b := l.Bounds()
	beside := func(v, low, high float64) float64 { return math.Max(math.Max(low-v, v-high), 0) }
	outside := r3.Norm(r3.Vec{
		X: beside(p.X, b.Min.X, b.Max.X), Y: beside(p.Y, b.Min.Y, b.Max.Y), Z: beside(p.Z, b.Min.Z, b.Max.Z),
	})
	return math.Max(l.Distance(p), outside)
}
