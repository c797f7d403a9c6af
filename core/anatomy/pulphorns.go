package anatomy

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/solid"
)

// summits is a chamber's roof: one smooth sheet over (x, y) that rises into the horns.
type summits struct {
	base   float64 // mm, between the horns
	width  float64 // mm, of a horn
	places []r3.Vec
	rises  []float64 // mm over the base
}

// newSummits lifts a sheet at a height until it just reaches the horns' tips, each of
// which stands on the foot of the others.
func newSummits(horns []pulpHorn, base, width float64) summits {
	s := summits{base: base, width: width, rises: make([]float64, len(horns))}
	for _, h := range horns {
		s.places = append(s.places, h.tip)
	}
	const rounds = 8
	for range rounds {
		for n, tip := range s.places {
			height, _ := s.at(tip)
			s.rises[n] = math.Max(s.rises[n]+tip.Z-height, 0)
		}
	}
	return s
}

// at is the sheet's height and its slope over (x, y).
func (s *summits) at(p r3.Vec) (height, slope float64) {
	const power = 1.35 // between a cone and a bell
	height = s.base
	var dx, dy float64
	for n, tip := range s.places {
		x, y := p.X-tip.X, p.Y-tip.Y
		r := math.Sqrt(x*x+y*y+hornRounding*hornRounding) - hornRounding
		if r <= 0 {
			height += s.rises[n]
			continue
		}
		q := math.Pow(r/s.width, power)
		rise := s.rises[n] * math.Exp(-q)
		height += rise
		fall := -rise * power * q / (r * (r + hornRounding))
		dx, dy = dx+fall*x, dy+fall*y
	}
	return height, math.Hypot(dx, dy)
}

// above is how far a place lies over the sheet, to first order (mm).
func (s *summits) above(p r3.Vec) float64 {
	height, slope := s.at(p)
	return (p.Z - height) / math.Sqrt(1+slope*slope)
}

// nearest is how far (mm) the axis of the nearest horn is, level, blended where two
// are as near.
func (s *summits) nearest(p r3.Vec) float64 {
	const far, blend = 10.0, 0.5 // mm
	least := far
	for _, tip := range s.places {
		least = solid.SmoothMin(least, math.Hypot(p.X-tip.X, p.Y-tip.Y), blend)
	}
	return least
}
