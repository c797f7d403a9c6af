package rehearsal

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/notation"
	"obturon/core/solid"
)

// Taking is what a step takes by tissue, mm³.
type Taking struct{ Enamel, Dentin, Filling float64 }

// takenBetween parts what two states of a cavity differ by.
func (s *Survey) takenBetween(before, after []float32) Taking {
	var t Taking
	cell := math.Pow(s.Kept.H, 3)
	for n := range before {
		taken := float64(before[n]-after[n]) * cell
		switch {
		case taken <= 0:
		case s.Filling != nil && s.Filling[n]:
			t.Filling += taken
		case s.Dentin[n]:
			t.Dentin += taken
		default:
			t.Enamel += taken
		}
	}
	return t
}

// HotPulp (mm) is how close to the pulp a running bur warms it (operative dentistry
// convention: about a millimetre of dentin insulates it).
const HotPulp = 1.0

// hot is how far (mm) the tip of a cutting goes with its head closer to the pulp than
// HotPulp.
func (s *Survey) hot(c Cutting) float64 {
	const apart, coarse = 0.25, 0.1 // mm
	balls := c.Head.Balls(coarse)
	axial := balls[:0:0]
	for _, b := range balls {
		if b.Off == 0 {
			axial = append(axial, b)
		}
	}
	close := func(tip r3.Vec) bool {
		for _, b := range axial {
			if s.Pulp.Distance(r3.Add(tip, r3.Scale(b.Height, c.Axis)))-b.Radius < HotPulp {
				return true
			}
		}
		return false
	}
	sum := 0.0
	for _, w := range c.Ways {
		for n := 1; n < len(w); n++ {
			way := r3.Sub(w[n], w[n-1])
			parts := int(math.Ceil(r3.Norm(way) / apart))
			for k := range parts {
				if close(r3.Add(w[n-1], r3.Scale((float64(k)+0.5)/float64(parts), way))) {
					sum += r3.Norm(way) / float64(parts)
				}
			}
		}
	}
	return sum
}

// Start is where a step's first bur enters, in the tooth frame; ok is false by hand.
func (r *Rehearsal) Start(s *Step) (at r3.Vec, ok bool) {
	if len(s.Cuts) == 0 || len(s.Cuts[0].Ways) == 0 {
		return at, false
	}
	return r.Survey.Frame.From(s.Cuts[0].Ways[0][0]), true
}

// Sunk is how deep (mm) the tips of a step's burs go under the tooth as it comes, along
// the bur, where they go deepest in their part of the cavity: where that is least and
// where most; ok is false where none goes under it.
func (r *Rehearsal) Sunk(s *Step) (least, most float64, ok bool) {
	const part, level = 0.3, 0.1 // mm across, mm over the deepest of a part
	type place struct{ x, y int }
	at := func(p r3.Vec) place { return place{int(math.Round(p.X / part)), int(math.Round(p.Y / part))} }
	lowest := map[place]float64{}
	for _, c := range s.Cuts {
		for _, w := range c.Ways {
			for _, tip := range w {
				if z, known := lowest[at(tip)]; !known || tip.Z < z {
					lowest[at(tip)] = tip.Z
				}
			}
		}
	}
	least = math.Inf(1)
	for _, c := range s.Cuts {
		for _, w := range c.Ways {
			for _, tip := range w {
				if tip.Z > lowest[at(tip)]+level {
					continue
				}
				if under := r.under(tip, c.Axis); under > 0 {
					least, most, ok = math.Min(least, under), math.Max(most, under), true
				}
			}
		}
	}
	return least, most, ok
}

// under is how far (mm) a place of the cavity's frame lies under the tooth's surface along
// an axis; 0 outside.
func (r *Rehearsal) under(tip, axis r3.Vec) float64 {
	const deepest, step = 12.0, 0.1 // mm
	from, along := r.Survey.Frame.From(tip), r.Survey.Frame.Turn(axis)
	surface := r.Before.Distance
	if surface(from) >= 0 {
		return 0
	}
	if out, ok := solid.RootAlong(surface, from, along, 0, deepest, step); ok {
		return out
	}
	return 0
}

// Ridge is what stands (mm) after a step between what is cut and the tooth's surface on a
// side, at the height of the floor; ok is false of a cavity that is not occlusal and of a
// side with a box.
func (r *Rehearsal) Ridge(s *Step, side notation.Side) (mm float64, ok bool) {
	furthest := s.furthest[side]
	if furthest == nil {
		return 0, false
	}
	const widest, step = 6.0, 0.1 // mm
	out := r3.Vec{X: 1}
	if side == notation.Distal {
		out.X = -1
	}
	return solid.RootAlong(r.Before.Distance, r.Survey.Frame.From(*furthest), r.Survey.Frame.Turn(out), 0, widest, step)
}

// atFloor (mm) is over the floor, where line angles have ended.
const atFloor = 0.3

// furthest is the place furthest to a side that has been cut out of the tooth, in the
// cavity's frame; nil where nothing has.
func (p *progress) furthest(side notation.Side) *r3.Vec {
	sign := 1.0
	if side == notation.Distal {
		sign = -1
	}
	g := p.survey.Kept.Grid
	best, found := math.Inf(-1), -1
	// The ridge falls away higher up, whatever is cut.
	k := int(math.Round((p.survey.floorAt + atFloor - g.Origin.Z) / g.H))
	if k < 0 || k >= g.N[2] {
		return nil
	}
	layer := g.N[0] * g.N[1]
	for n := k * layer; n < (k+1)*layer; n++ {
		if p.swept[n] > 0 || p.survey.tooth.Values[n] > 0 {
			continue
		}
		if x := sign * (g.Origin.X + float64(n%g.N[0])*g.H); x > best {
			best, found = x, n
		}
	}
	if found < 0 {
		return nil
	}
	at := g.Point(found%g.N[0], found/g.N[0]%g.N[1], found/(g.N[0]*g.N[1]))
	return &at
}
