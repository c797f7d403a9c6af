package occlusal

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/anatomy"
	"obturon/core/cavity"
	"obturon/core/lesion"
	"obturon/core/notation"
	"obturon/core/school"
)

const (
	clearanceSlack = 0.02 // mm cut past the clearance asked for, for the cut's own error
	freeReach      = 0.3  // mm past the contact area where no tooth stands beside
	leastReach     = 0.8  // mm to either side: half of the smallest pear and its room to move
)

// proposeBox finds the figures of a box from the lesion, the adjacent tooth and the
// school; its seat lies no higher than highest, in the table's frame.
func proposeBox(r request, side notation.Side, d Design, highest float64) BoxDesign {
	p := newProximal(r.Model, side)
	own := BoxDesign{Present: true, AxialDepth: math.Max(r.Aim(school.BoxAxialDepth), 2*burRadius)}
	rim := p.lesionRim(r.proximalOn(side))
	level := p.proposeLevel(r, own.AxialDepth, d)
	level = math.Max(math.Min(level, highest), p.lowest())
	for _, q := range rim { // the lesion goes first
		level = math.Min(level, q.Z-cavity.UprightCover)
	}
	own.Depth = p.ridge - level
	own.AxialDepth = p.proposeAxialDepth(r, level, own.AxialDepth, d.GingivalSlope)
	leans := [2]float64{d.NonfunctionalLean, d.FunctionalLean}
	if !r.Model.Tooth.Upper() {
		leans[0], leans[1] = leans[1], leans[0]
	}
	own.BuccalReach = p.proposeReach(r, school.BoxClearanceBuccal, +1, rim, leans[0], level, own.AxialDepth)
	own.LingualReach = p.proposeReach(r, school.BoxClearanceLingual, -1, rim, leans[1], level, own.AxialDepth)
	return p.coverLesions(r, d, own)
}

// coverLesions enlarges a box by small steps until no carious enamel is left
// outside it: caries past the walls is followed in dentin only.
func (p *proximal) coverLesions(r request, d Design, own BoxDesign) BoxDesign {
	const step, rounds = 0.05, 24 // mm
	lesions := r.proximalOn(p.side)
	for range rounds {
		d.Boxes[p.side] = own
		b, err := p.newBox(d)
		if err != nil {
			return own
		}
		deepen, buccal, lingual, lower := p.leftOver(r, b, d, lesions)
		if !deepen && !buccal && !lingual && !lower {
			return own
		}
		for _, grow := range []struct {
			needed bool
			figure *float64
		}{{deepen, &own.AxialDepth}, {buccal, &own.BuccalReach}, {lingual, &own.LingualReach}, {lower, &own.Depth}} {
			if grow.needed {
				*grow.figure += step
			}
		}
	}
	return own
}

// leftOver tells in which directions lesions reach past a box.
func (p *proximal) leftOver(r request, b *box, d Design, lesions []*lesion.Proximal) (deepen, buccal, lingual, lower bool) {
	const apart, over = 0.12, 0.04 // mm; over is cut past the lesion at the least
	alone := &part{boxes: []*box{b}, radius: d.LineAngleRadius}
	c := &Solid{Table: r.Model.Table, parts: []*part{alone}, dentin: r.Model.Dentin()}
	all := make([]lesion.Lesion, len(lesions))
	for n, l := range lesions {
		all[n] = l
	}
	c.diseased = cavity.NewRemoval(r.Endpoint(), all)
	for _, l := range lesions {
		if lesion.ContentOf(l) == lesion.Filling { // its room is empty whatever the box
			continue
		}
		bounds := l.Bounds()
		for z := bounds.Min.Z; z <= bounds.Max.Z; z += apart {
			for y := bounds.Min.Y; y <= bounds.Max.Y; y += apart {
				for x := bounds.Min.X; x <= bounds.Max.X; x += apart {
					q := r3.Vec{X: x, Y: y, Z: z}
					if l.Distance(q) > 0 || c.Distance(q) < -over {
						continue
					}
					feature := b.past(r.Model.Table.To(q))
					deepen, buccal = deepen || feature == cavity.AxialWall, buccal || feature == cavity.BoxBuccal
					lingual, lower = lingual || feature == cavity.BoxLingual, lower || feature == cavity.GingivalFloor
				}
			}
		}
	}
	return deepen, buccal, lingual, lower
}

// past names the wall of a box past which a place lies furthest. A place to the side of
// the box is reached by its side wall, however far inwards the tooth curves there: a
// deeper axial wall would take the whole seat for it.
func (b *box) past(q r3.Vec) uint16 {
	f := b.facesAt(q)
	feature, wall := f.wall()
	switch {
	case f.seat > wall:
		return cavity.GingivalFloor
	case feature == cavity.AxialWall && f.sides() > 0:
		return f.sideFeature()
	}
	return feature
}

// lesionRim is where the lesions of the side reach furthest, in (n, y, z).
func (p *proximal) lesionRim(lesions []*lesion.Proximal) []r3.Vec {
	var rim []r3.Vec
	for _, l := range lesions {
		for _, q := range l.Rim() {
			rim = append(rim, p.into(q))
		}
	}
	return rim
}

// lowest is the height under which no seat is proposed: just above the CEJ.
func (p *proximal) lowest() float64 {
	const over = 0.4 // mm
	best, height := math.Inf(1), 0.0
	for _, q := range p.model.CervicalLine() {
		if at := p.into(q); at.X > 0 && math.Abs(at.Y-p.contact.Y) < best {
			best, height = math.Abs(at.Y-p.contact.Y), at.Z
		}
	}
	return height + over
}

// proposeLevel is the highest seat whose margin clears the adjacent tooth as asked.
func (p *proximal) proposeLevel(r request, axialDepth float64, d Design) float64 {
	const step, across, samples = 0.05, 0.8, 5 // mm
	level := p.contact.Z - r.Model.Contact(p.side).Height/2
	facing := r.Adjacent[p.side]
	if facing == nil {
		return level - freeReach
	}
	want := r.Aim(school.BoxClearanceGingival) + clearanceSlack
	for ; level > p.lowest(); level -= step {
		s, err := p.newSeat(level, axialDepth, d.GingivalSlope)
		if err != nil {
			break
		}
		least, found := math.Inf(1), false
		for n := range samples {
			y := p.contact.Y + across*(2*float64(n)/(samples-1)-1)
			if at, ok := p.seatMargin(s, y); ok {
				if c, ok := facing.Clearance(p.from(at)); ok {
					least, found = math.Min(least, c), true
				}
			}
		}
		if !found || least >= want {
			break
		}
	}
	return level
}

// proposeAxialDepth sets the axial wall so far into dentin as the school
// wants, within the depths that it accepts.
func (p *proximal) proposeAxialDepth(r request, level, aim, slope float64) float64 {
	into := r.Aim(school.BoxAxialIntoDentin)
	criterion, ok := r.School.For(school.BoxAxialDepth, r.Model.Tooth, r.Material)
	s, err := p.newSeat(level, aim, slope)
	if !ok || !criterion.Required() || into == 0 || err != nil {
		return aim
	}
	at, found := p.seatMargin(s, p.contact.Y)
	if !found {
		return aim
	}
	const reach = 3.0 // mm
	// Felt a little over the seat, where the wall stands.
	at.Z += axialFeel
	outer, found := p.surface(p.contact.Y, at.Z, 0, 0, 1)
	if !found {
		return aim
	}
	enamel, found := p.model.Dentin().RootAlong(p.from(outer), p.direction(r3.Vec{X: -1}), 0.05, reach, 0.05)
	if !found {
		return aim
	}
	const slack = 0.02 // mm inside the target, for the cut's own error
	depth := at.X - (outer.X - enamel) + into
	return math.Min(math.Max(depth, criterion.Target.Min+slack), criterion.Target.Max-slack)
}

// axialFeel (mm) is how far over the seat's margin the axial wall is judged.
const axialFeel = 0.65

// proposeReach takes the facial (+1) or lingual (-1) wall past the lesion and so far that its
// margin clears the adjacent tooth. A school that lets the contact stand keeps it
// where the lesion does not reach past it.
func (p *proximal) proposeReach(r request, id school.CriterionID, sign float64, rim []r3.Vec, lean, level, axialDepth float64) float64 {
	reach := leastReach
	fall := math.Tan(lean * math.Pi / 180)
	for _, q := range rim {
		// Where the wall stands at the lesion's height; it flares outwards, so
		// that the junction needs more.
		aside := sign*(q.Y-p.contact.Y) + cavity.UprightCover - fall*(p.contact.Z-q.Z)
		reach = math.Max(reach, aside)
	}
	reach = p.pastLesion(sign, reach, lean, level, axialDepth, rim)
	facing := r.Adjacent[p.side]
	criterion, ok := r.School.For(id, r.Model.Tooth, r.Material)
	if facing == nil {
		return math.Max(reach, p.model.Contact(p.side).Width/2+freeReach)
	}
	if !ok || !criterion.Required() {
		return reach
	}
	want := criterion.Aim + clearanceSlack
	const step, furthest = 0.05, 4.0 // mm
	for ; reach < furthest; reach += step {
		if c, ok := p.wallClearance(facing, sign, reach, lean, level, axialDepth); !ok || c >= want {
			break
		}
	}
	return reach
}

// pastLesion widens a wall until the whole rim of the lesion lies inside it.
func (p *proximal) pastLesion(sign, reach, lean, level, axialDepth float64, rim []r3.Vec) float64 {
	const step, furthest = 0.05, 4.0 // mm
	for ; reach < furthest; reach += step {
		w, err := p.newSideWall(sign, reach, lean, level, axialDepth)
		if err != nil {
			return reach
		}
		inside := true
		for _, q := range rim {
			inside = inside && w.distance(q.X, q.Y, q.Z) < -cavity.UprightCover/2
		}
		if inside {
			break
		}
	}
	return reach
}

// wallClearance is the least distance from a wall's proximal margin to the
// neighbour.
func (p *proximal) wallClearance(facing *anatomy.AdjacentSurface, sign, reach, lean, level, axialDepth float64) (mm float64, ok bool) {
	const step = 0.15 // mm
	w, err := p.newSideWall(sign, reach, lean, level, axialDepth)
	if err != nil {
		return 0, false
	}
	mm = math.Inf(1)
	for z := w.low; z <= w.high; z += step {
		at := r3.Vec{X: w.exit.at(z), Y: sign * (w.at - w.fallAway*z), Z: z}
		if c, found := facing.Clearance(p.from(at)); found {
			mm, ok = math.Min(mm, c), true
		}
	}
	return mm, ok
}
