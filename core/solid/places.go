package solid

import (
	"iter"

	"gonum.org/v1/gonum/spatial/r3"
)

// Places are those of a box so far apart (mm) from its low corner on, for volumes that are summed
// from samples.
func Places(b Box, apart float64) iter.Seq[r3.Vec] {
	return func(yield func(r3.Vec) bool) {
		for z := b.Min.Z; z <= b.Max.Z; z += apart {
			for y := b.Min.Y; y <= b.Max.Y; y += apart {
				for x := b.Min.X; x <= b.Max.X; x += apart {
					if !yield(r3.Vec{X: x, Y: y, Z: z}) {
						return
					}
				}
			}
		}
	}
}
