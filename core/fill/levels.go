package fill

import (
	"math"
	"slices"
)

// Layering is how thick the increments of a composite may be, mm.
type Layering struct {
	// Most is what one of them may measure along the light.
	Most float64
	// First is that of the first in a box; 0 where it is like the others.
	First float64
}

// thinnest (mm) is what an increment is worth its light for: a floor nearer to another border
// is none.
const thinnest = 0.5

// Levels cuts a filling square to the light: the heights (mm) of the increments' borders,
// from its lowest place to its highest. The borders rest on the floors between, so that
// no increment lies over an edge, and what lies between two of them is in equal parts.
func (l Layering) Levels(bottom, top float64, floors []float64) []float64 {
	levels := []float64{bottom}
	for n, stop := range l.stops(bottom, top, floors) {
		if n == 0 && l.First > 0 && stop-bottom > l.First {
			// What is left over the first is worth an increment of its own.
			levels = append(levels, math.Min(bottom+l.First, math.Max((bottom+stop)/2, stop-thinnest)))
		}
		const rounding = 1e-9
		from := levels[len(levels)-1]
		parts := math.Ceil((stop-from)/l.Most - rounding)
		for k := 1.0; k <= parts; k++ {
			levels = append(levels, from+(stop-from)*k/parts)
		}
	}
	return levels
}

// stops are the heights at which an increment must end: the top, and the floors that lie
// neither near it nor near another.
func (l Layering) stops(bottom, top float64, floors []float64) []float64 {
	stops, last := []float64{}, bottom
	for _, floor := range slices.Sorted(slices.Values(floors)) {
		if floor >= last+thinnest && floor <= top-thinnest {
			stops, last = append(stops, floor), floor
		}
	}
	return append(stops, top)
}
