package lesion

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/anatomy"
	"obturon/core/solid"
)

// Lesion is what must go as a volume in the tooth: carious tissue, or an old
// filling.
type Lesion interface {
	solid.Tool
	// Found is the finding that it stands for.
	Found() Finding
	// IntoDentin is the depth past the dentino-enamel junction, mm; negative
	// when the lesion stops in enamel.
	IntoDentin() float64
	// Volume in mm³.
	Volume() float64
	// Middle is a surface point over the middle of the lesion.
	Middle() r3.Vec
}

// ContentOf is what lies where a lesion does.
func ContentOf(l Lesion) Content { return l.Found().Kind.Content() }

// ToPulp is the dentin (mm) that a lesion leaves over the pulp where it comes
// nearest; negative where it lies in it, infinite where it is far away.
func ToPulp(m *anatomy.Model, l Lesion) float64 {
	const h, far = 0.1, 1.5 // mm between samples; mm from the pulp that matter
	pulp, least := m.Pulp(), math.Inf(1)
	for p := range solid.Places(l.Bounds(), h) {
		if left := pulp.Distance(p); left < min(least, far) && l.Distance(p) <= 0 {
			least = left
		}
	}
	return least
}

// VolumeWithin is the part of a lesion's volume inside a field, mm³.
func VolumeWithin(l Lesion, field func(r3.Vec) float64) float64 {
	return sampleWithin(l, field)
}

// sampleVolume sums the samples of a volume, mm³.
func sampleVolume(l solid.Tool) float64 {
	return sampleWithin(l, func(r3.Vec) float64 { return math.Inf(-1) })
}

func sampleWithin(l solid.Tool, field func(r3.Vec) float64) float64 {
	const h = 0.1 // mm between samples
	sum := 0.0
	for p := range solid.Places(l.Bounds(), h) {
		d := l.Distance(p)
		if d < h {
			d = math.Max(d, field(p))
		}
		sum += solid.Occupied(d, h) * h * h * h
	}
	return sum
}
