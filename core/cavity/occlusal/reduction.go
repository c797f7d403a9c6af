package occlusal

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/anatomy"
	"obturon/core/cavity"
	"obturon/core/lesion"
	"obturon/core/notation"
	"obturon/core/school"
	"obturon/core/solid"
)

// reduction takes the top off a cusp that is to be covered: a roof that falls
// away from where the tip was to both sides and along the ridge, as the cusp did.
// Its coordinates are those of the occlusal table's frame.
type reduction struct {
	tip      r3.Vec
	height   float64 // of the roof's top
	sign     float64 // +1 on the facial side, -1 on the lingual
	from, to float64 // x between the grooves, or the ridges, beside the cusp
	// fromEnd and toEnd tell that a marginal ridge lies there: beside it the
	// whole corner of the crown goes, outwards of the ridge.
	fromEnd, toEnd bool
	inner          float64 // outwards from the table's middle, where the roof ends
	inward         float64 // slopes of the roof
	outward        float64
	along          float64
}

const (
	reductionRound = 0.3 // mm, of its edges: none is left sharp
	ridgeBeside    = 1.6 // mm of marginal ridge kept beside a covered cusp, as all schools ask for of premolars
)

// Rounded (mm) is taken off the surface of a break, so that no enamel on it stands without
// dentin.
const Rounded = 0.2

// newReduction lays the roof of a covered cusp: as deep as the design has it, and
// a little under what has broken off.
func newReduction(r request, d Design, cusp anatomy.Named) reduction {
	take := d.CuspReduction
	if lost := r.Lost[cusp.Name]; lost > 0 {
		take = math.Max(take, lost+Rounded)
	}
	return newRoof(r, d, cusp, take)
}

// newRoof lays the roof so many mm under a cusp's tip.
func newRoof(r request, d Design, cusp anatomy.Named, take float64) reduction {
	m := r.Model
	tip := m.Table.To(cusp.At)
	c := reduction{tip: tip, height: tip.Z - take, sign: math.Copysign(1, tip.Y)}
	// The slopes of the cusp itself, as far as a bur can follow them: the outer
	// one is a bevel for the opposing cusp where this one is functional.
	const beside, least, most = 0.8, 0.2, 1.0
	fall := func(dx, dy float64) float64 {
		drop := (tip.Z - m.RiddenHeights().At(tip.X+dx, tip.Y+dy)) / math.Hypot(dx, dy)
		return math.Min(math.Max(drop, least), most)
	}
	c.outward, c.inward = fall(0, c.sign*beside), fall(0, -c.sign*beside)
	c.along = (fall(beside, 0) + fall(-beside, 0)) / 2
	groove := 0.0
	if line := m.CentralLine(); len(line) > 0 {
		nearest := math.Inf(1)
		for _, p := range line {
			if q := m.Table.To(p); math.Abs(q.X-tip.X) < nearest {
				nearest, groove = math.Abs(q.X-tip.X), q.Y
			}
		}
	}
	c.inner = c.sign * groove
	c.from, c.to = c.territory(r, d, cusp.Name)
	c.height -= c.short(m, take)
	return c
}

// short is how much room (mm) lacks about the tip for a reduction: where the cusp
// falls away more steeply than the roof.
func (c *reduction) short(m *anatomy.Model, want float64) float64 {
	const about, step, most = 1.0, 0.1, 1.0 // mm
	least := want
	for x := -about; x <= about; x += step {
		for y := -about; y <= about; y += step {
			at := r3.Vec{X: c.tip.X + x, Y: c.tip.Y + y}
			inside := math.Hypot(x, y) <= about && at.X > c.from && at.X < c.to && c.sign*at.Y > c.inner
			if h := m.TableHeights().At(at.X, at.Y); inside && h > c.roof(at) {
				least = math.Min(least, h-c.roof(at))
			}
		}
	}
	return math.Min(want-least, most)
}

// roof is the height left over (x, y).
func (c *reduction) roof(q r3.Vec) float64 {
	const soft = 0.3 // mm over which the roof's top is rounded
	round := func(v float64) float64 { return math.Sqrt(v*v+soft*soft) - soft }
	return c.height - c.slope(q)*round(c.sign*(q.Y-c.tip.Y)) - c.along*round(q.X-c.tip.X)
}

// slope is that of the roof's side at (x, y).
func (c *reduction) slope(q r3.Vec) float64 {
	if c.sign*(q.Y-c.tip.Y) > 0 {
		return c.outward
	}
	return c.inward
}

// territory is the stretch along the tooth that belongs to a cusp: up to the
// middle between it and the next of its side, to the marginal ridge, or out
// through a box.
func (c *reduction) territory(r request, d Design, name string) (from, to float64) {
	m := r.Model
	const through = 9.0 // mm, past any crown
	end := func(side notation.Side, sign float64) float64 {
		if d.Has(side) {
			return sign * through
		}
		return m.Table.To(m.Contact(side).At).X - sign*ridgeBeside
	}
	from, to = end(notation.Distal, -1), end(notation.Mesial, +1)
	c.fromEnd, c.toEnd = !d.Has(notation.Distal), !d.Has(notation.Mesial)
	for _, other := range m.CuspTips {
		q := m.Table.To(other.At)
		if other.Name == name || q.Y*c.sign <= 0 {
			continue
		}
		if middle := (q.X + c.tip.X) / 2; q.X > c.tip.X {
			to, c.toEnd = math.Min(to, middle), false
		} else {
			from, c.fromEnd = math.Max(from, middle), false
		}
	}
	return from, to
}

// distance is the signed distance (mm) to the reduction's surface near it.
func (c *reduction) distance(q r3.Vec) float64 {
	slope := c.slope(q)
	under := (c.roof(q) - q.Z) / math.Sqrt(1+slope*slope+c.along*c.along)
	aside := max(pastEnd(q.X-c.to, c.toEnd, c.beyond(q)), pastEnd(c.from-q.X, c.fromEnd, c.beyond(q)), c.inner-c.sign*q.Y)
	return solid.RoundedIntersection(aside, under, reductionRound)
}

// beyond is how far (mm) outwards a place lies of where a marginal ridge runs
// into the cusp.
func (c *reduction) beyond(q r3.Vec) float64 {
	const inside = 0.8 // mm inwards of the tip
	return max(c.sign*(q.Y-c.tip.Y)+inside, 0)
}

// pastEnd is the distance (mm) past the end of a territory; at a marginal ridge
// the end runs outwards round the corner of the crown.
func pastEnd(past float64, ridge bool, beyond float64) float64 {
	if !ridge {
		return past
	}
	return (past - beyond) / math.Sqrt2
}

// bounds holds what the reduction can remove, in the table's frame.
func (c *reduction) bounds(m *anatomy.Model) solid.Box {
	const around, top = 0.8, 4.0 // mm
	x := m.Sizes.Mesiodistal/2 + around
	outer := m.Sizes.Buccolingual/2 + around
	fall := max(c.outward, c.inward)*outer + c.along*x
	low := r3.Vec{X: max(c.from-around, -x), Y: c.sign * (c.inner - around), Z: c.height - fall}
	high := r3.Vec{X: min(c.to+around, x), Y: c.sign * outer, Z: top}
	if c.fromEnd {
		low.X = -x
	}
	if c.toEnd {
		high.X = x
	}
	if low.Y > high.Y {
		low.Y, high.Y = high.Y, low.Y
	}
	return solid.Box{Min: low, Max: high}
}

// leastCusp (mm) is the base under which any cusp is covered: so thin a shell breaks, filled
// with whatever (operative dentistry convention).
const leastCusp = 1.0

// weakCusps lists the cusps that are covered: those that the dentist found undermined, where the
// cavity reaches them, those that a finding leaves thinner at their base than they can stand, and
// those of which no more than a shell is left. Cusps that no finding touches are kept as thin as
// they are by nature.
func weakCusps(r request, c *Solid, d Design) []string {
	const formed = 0.1 // mm within which it is a wall that stands there, and not what was cleaned out under enamel
	asked := r.Criterion(school.ResistCuspThickness)
	boxes := len(d.Sides())
	var weak []string
	for _, tip := range r.Model.CuspTips {
		_, undermined := r.Undermined[tip.Name]
		whole, _ := c.baseOf(r.Model, tip, false)
		walls, at := c.baseOf(r.Model, tip, true)
		more, _ := r.CuspNeed(tip, d.IsthmusWidth, boxes)
		stands := asked.Limits.Min + more
		switch {
		case walls < leastCusp && !r.EnamelOnly(),
			!r.KeepsCusps && undermined && (!math.IsInf(whole, 1) || d.boxBeside(r.Model.Table.To(tip.At).X)),
			!r.KeepsCusps && walls < stands && c.lateral(r.Model.Table.To(at)) < formed && r.touched(at, boxes):
			weak = append(weak, tip.Name)
		}
	}
	return weak
}

// boxBeside reports a box on a cusp's half of the tooth, or at its middle; x (mm) is the cusp's.
func (d Design) boxBeside(x float64) bool {
	const middle = 0.5 // mm
	return d.Has(notation.Mesial) && x > -middle || d.Has(notation.Distal) && x < middle
}

// touched reports a place of a wall that stands where it does for a finding which speaks for a
// cover: an old filling wider than the school would have the outline, or, where a marginal ridge
// is gone, caries over half the distance between the cusps. Between two ridges that stand the
// bond carries what caries has left (operative dentistry convention).
func (r request) touched(at r3.Vec, boxes int) bool {
	const beside = 0.8 // mm, a wall that leans in stands off at its foot
	for _, l := range r.fissures {
		most := r.Model.Intercuspal / 2
		if l.Finding.Kind == lesion.OldRestoration {
			most = r.Aim(school.OutlineIsthmusWidth)
		} else if boxes == 0 {
			continue
		}
		if 2*r.cover.half(l) > most && lesion.Away(l, at) < beside {
			return true
		}
	}
	return false
}

// baseOf is the least tooth (mm) outwards of the cavity at a cusp's base, and the place of the
// wall there, where the cavity comes beside it; infinite where it does not. Where a box opens, tooth thins
// out towards its exit by itself: besideBoxes leaves those places out.
func (c *Solid) baseOf(m *anatomy.Model, cusp anatomy.Named, besideBoxes bool) (least float64, place r3.Vec) {
	const beside, step, over, reach, march = 1.5, 0.25, 0.3, 7.0, 0.1 // mm
	tip := m.Table.To(cusp.At)
	out := r3.Scale(math.Copysign(1, tip.Y), m.Table.V)
	least = math.Inf(1)
	for x := tip.X - beside; x <= tip.X+beside; x += step {
		for _, level := range c.Floors(x, 0) {
			from := m.Table.From(r3.Vec{X: x, Z: level + over})
			wall, cut := solid.RootAlong(c.Distance, from, out, 0, reach, march)
			face, hit := m.Surface.RootAlong(from, out, 0, reach, march)
			if inBox := besideBoxes && c.boxWall(r3.Add(from, r3.Scale(wall, out))); cut && hit && !inBox && c.Distance(from) < 0 && face-wall < least {
				least, place = face-wall, r3.Add(from, r3.Scale(wall, out))
			}
		}
	}
	return least, place
}

// boxWall reports a place of the cut that a box has made.
func (c *Solid) boxWall(at r3.Vec) bool {
	switch c.Feature(at) {
	case cavity.BoxBuccal, cavity.BoxLingual, cavity.AxialWall, cavity.GingivalFloor:
		return true
	}
	return false
}
