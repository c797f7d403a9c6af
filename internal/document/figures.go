package document

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"
)

// Thousandth rounds a figure far below what is measurable, so that documents stay short.
func Thousandth(v float64) float64 { return math.Round(v*1000) / 1000 }

// Triple writes a place or direction.
func Triple(v r3.Vec) []float64 { return []float64{Thousandth(v.X), Thousandth(v.Y), Thousandth(v.Z)} }
