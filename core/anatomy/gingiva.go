package anatomy

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"
)

// Gingiva is how far the free gingival margin lies above the CEJ, mm:
// on the facial and lingual surfaces, and at the papillae between the teeth.
// Negative values mean recession.
type Gingiva struct{ Facial, Lingual, Papilla float64 }

// GingivaAt is the healthy margin of an age. Passive eruption, as periodontology
// describes it, leaves it 1 to 2 mm above the CEJ on young crowns and
// brings it down to that line late in life.
func GingivaAt(ageYears float64) Gingiva {
	share := math.Min(math.Max((ageYears-15)/45, 0), 1)
	height := mix(1.2, 0.3, share)
	return Gingiva{Facial: height, Lingual: height, Papilla: height + 0.5}
}

// GingivalLine is the free gingival margin around the tooth, a closed line
// that starts mesially and runs facially.
func (m *Model) GingivalLine(g Gingiva) []r3.Vec {
	return m.aroundNeck(func(u, v float64) float64 {
		side := g.Facial
		if v < 0 {
			side = g.Lingual
		}
		return mix(side, g.Papilla, u*u)
	})
}

// aroundNeck draws a line around the tooth, above the CEJ by so many
// mm as above says for the direction (u, v) from the axis.
func (m *Model) aroundNeck(above func(u, v float64) float64) []r3.Vec {
	const points, beyond = 120, 1.6
	cover := enamelCover{m.shape.c}
	line := make([]r3.Vec, 0, points)
	for n := range points {
		v, u := math.Sincos(2 * math.Pi * float64(n) / points)
		z := cover.cervicalLine(u, v) + above(u, v)
		s := m.shape.body.section(z)
		x, y := u*s.mesial, v*(s.buccal-s.centre)
		if u < 0 {
			x = u * s.distal
		}
		if v < 0 {
			y = v * (s.centre + s.lingual)
		}
		inner := m.shape.lean.leaning(r3.Vec{X: 0.3 * x, Y: s.centre + 0.3*y, Z: z})
		outer := m.shape.lean.leaning(r3.Vec{X: beyond * x, Y: s.centre + beyond*y, Z: z})
		way := r3.Sub(outer, inner)
		if t, ok := m.Surface.RootAlong(inner, way, 0, 1, 0.05); ok {
			line = append(line, r3.Add(inner, r3.Scale(t, way)))
		}
	}
	return line
}

// LevelBeside is the height of a line around the adjacent tooth a place, seen along
// the tooth; ok is false where none runs near.
func LevelBeside(line []r3.Vec, at r3.Vec) (z float64, ok bool) {
	const furthest = 2.0 // mm
	least := furthest
	for _, p := range line {
		if d := math.Hypot(p.X-at.X, p.Y-at.Y); d < least {
			least, z, ok = d, p.Z, true
		}
	}
	return z, ok
}
