package lesion

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/solid"
)

// Lesion is carious tissue as a volume in the tooth.
type Lesion interface {
	solid.Tool
	// IntoDentin is the depth past the dentino-enamel junction, mm; negative
	// when the lesion stops in enamel.
	IntoDentin() float64
	// Volume in mm³.
	Volume() float64
	// Middle is a surface point over the middle of the lesion.
	Middle() r3.Vec
}

// sampleVolume sums the samples of a volume, mm³.
func sampleVolume(l solid.Tool) float64 {
	const h = 0.1 // mm between samples
	b := l.Bounds()
	sum := 0.0
	for z := b.Min.Z; z <= b.Max.Z; z += h {
		for y := b.Min.Y; y <= b.Max.Y; y += h {
			for x := b.Min.X; x <= b.Max.X; x += h {
				d := l.Distance(r3.Vec{X: x, Y: y, Z: z})
				sum += math.Min(math.Max(0.5-d/h, 0), 1) * h * h * h
			}
		}
	}
	return sum
}
