package cavity

import (
	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/lesion"
	"obturon/core/solid"
)

// ClearedCaries (mm³) left of one lesion counts as none: half of what every school
// still calls cleared, for the gauge's own error.
const ClearedCaries = 0.01

// CariesLeft lists the places of a lesion that a cavity leaves though they are to go, and how
// much they come to (mm³). What stays on purpose does not count; what has broken off, and an
// old filling's room, are never left.
func CariesLeft(l lesion.Lesion, end Endpoint, cut solid.Tool, outside func(r3.Vec) float64) (places []r3.Vec, mm3 float64) {
	if lesion.ContentOf(l) != lesion.Caries {
		return nil, 0
	}
	const h = 0.1 // mm between samples
	for q := range solid.Places(l.Bounds(), h) {
		share := solid.Occupied(max(l.Distance(q), outside(q)), h)
		if share == 0 || end.Keeps(l.Found(), q) < h/2 {
			continue
		}
		if share *= solid.Occupied(-cut.Distance(q), h); share > 0 {
			places = append(places, q)
			mm3 += share * h * h * h
		}
	}
	return places, mm3
}
