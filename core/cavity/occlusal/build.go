package occlusal

import (
	"math"
	"slices"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/cavity"
	"obturon/core/notation"
	"obturon/core/school"
	"obturon/core/solid"
)

// build makes the cavity of a design. It fails with cavity.ErrNothingToOpen,
// ErrOffOcclusalSurface or ErrBoxOffTooth.
func build(r request, d Design) (*Solid, error) {
	stretches, err := layOut(r)
	if err != nil {
		return nil, err
	}
	c := &Solid{Table: r.Model.Table, dentin: r.Model.Dentin()}
	for n, s := range stretches {
		ends := crownEnds{mesial: n == 0, distal: n == len(stretches)-1}
		part, err := s.build(r, d, ends)
		if err != nil {
			return nil, err
		}
		c.parts = append(c.parts, part)
	}
	c.diseased = cavity.NewRemoval(r.Endpoint(), r.allLesions())
	for _, cusp := range r.Model.CuspTips {
		if slices.Contains(d.Reduced, cusp.Name) && (d.CuspReduction > 0 || r.Lost[cusp.Name] > 0) {
			c.reduced = append(c.reduced, newReduction(r, d, cusp))
			if lost := r.Lost[cusp.Name]; lost > 0 { // whatever the cover, what has broken off is gone
				c.reduced = append(c.reduced, newRoof(r, Design{}, cusp, lost))
			}
		}
	}
	c.bevel = newBevel(r, d)
	c.setBounds(r.Model)
	return c, nil
}

// leadInto is how steeply the walls turn towards the cusp before a box, mm sideways for
// each mm inwards: the steeper, the further the margin bows into the cusp past the
// straight way to its exit. Where the school asks for no curve the corner is only taken
// off, as any bur does.
func leadInto(r request, d Design) float64 {
	const (
		corner   = 1.6
		gentlest = 0.25 // a taper
		steeper  = 8.0  // for each mm of bow, as measured on boxes of premolars and molars
	)
	if d.ReverseCurve == 0 && !r.Requires(school.OutlineReverseCurve) {
		return corner
	}
	return math.Max(gentlest, steeper*d.ReverseCurve)
}

// crownEnds tells which ends of a stretch face a proximal surface of the crown
// rather than a ridge inside it.
type crownEnds struct{ mesial, distal bool }

// endZone (mm) is the part of the outline that counts as its mesial or distal end.
const endZone = 0.9

func (s stretch) build(r request, d Design, ends crownEnds) (*part, error) {
	c := &part{
		slope:  math.Tan(d.FloorTilt * math.Pi / 180),
		radius: d.LineAngleRadius, lead: leadInto(r, d), edge: d.Axiopulpal / math.Sqrt2,
		mesialX: math.Inf(1), distalX: math.Inf(-1),
	}
	if d.Bonded {
		c.bevelled = d.BevelWidth * math.Cos(d.BevelAngle*math.Pi/180)
	}
	for _, side := range s.boxes {
		p := newProximal(r.Model, side)
		b, err := p.newBox(d)
		if err != nil {
			return nil, err
		}
		if len(s.line) == 0 && d.Bonded { // its corners are all that its margin turns at
			b.corner = math.Max(b.corner, r.Aim(school.OutlineSmoothness))
		}
		c.boxes = append(c.boxes, b)
	}
	if len(s.line) == 0 {
		return c, nil
	}
	end := math.Max(math.Max(d.DovetailWidth, d.IsthmusWidth)/2, burRadius)
	limits, err := s.limits(r, d, c, end, ends)
	if err != nil {
		return nil, err
	}
	course := s.course(c, limits, end)
	mesialCentre, distalCentre := course[0], course[len(course)-1]
	var widened []solid.Point2
	if !s.has(notation.Mesial) {
		widened = append(widened, mesialCentre)
		if ends.mesial {
			c.mesialX = mesialCentre.X
		}
	}
	if !s.has(notation.Distal) {
		widened = append(widened, distalCentre)
		if ends.distal {
			c.distalX = distalCentre.X
		}
	}
	lean := func(p, normal solid.Point2) float64 {
		// Walls beside the marginal ridges lean out, the others in (those
		// beside a ridge inside the crown too); the change runs round the
		// corner of the outline's end.
		beside := 0.0
		switch {
		case normal.X > 0 && ends.mesial && !s.has(notation.Mesial):
			beside = solid.Smoothstep(mesialCentre.X-0.5, mesialCentre.X, p.X)
		case normal.X < 0 && ends.distal && !s.has(notation.Distal):
			beside = solid.Smoothstep(-distalCentre.X-0.5, -distalCentre.X, -p.X)
		}
		beside *= solid.Smoothstep(0.15, 0.8, math.Abs(normal.X))
		return d.WallConvergence + (-d.RidgeDivergence-d.WallConvergence)*beside
	}
	form := newForm(s.strokes(r.Model.Table, d, course, widened, end, limits[1], limits[0]), c.bevelled)
	o := newOutline(form.isthmusFlow(course, d.IsthmusWidth, endZone), r.Model.TableHeights(), lean)
	c.outline = &o
	return c, c.setLevel(r.Model, d.PulpalDepth)
}

// pastAxial (mm) is how far into a box the isthmus is drawn: it ends inside.
const pastAxial = 0.6

// limits are the outline's mesial and distal ends, x in the table's frame.
func (s stretch) limits(r request, d Design, c *part, end float64, ends crownEnds) ([2]float64, error) {
	first, last := s.line[0], s.line[len(s.line)-1]
	inner := math.Max(end, s.reach())
	limits := [2]float64{first.X + inner, last.X - inner}
	for n, e := range []struct {
		side  notation.Side
		from  r3.Vec
		ridge float64
		crown bool
	}{{notation.Mesial, first, d.MesialRidge, ends.mesial}, {notation.Distal, last, d.DistalRidge, ends.distal}} {
		if b := c.box(e.side); b != nil {
			limits[n] = b.sign * (b.axial.plan.at(e.from.Y) + pastAxial)
			continue
		}
		if !e.crown {
			continue
		}
		sign := 1 - 2*float64(n)
		surface, err := proximalSurface(r.Model, e.from, sign)
		if err != nil {
			return limits, err
		}
		limits[n] = surface - sign*e.ridge
	}
	if limits[0]-limits[1] < 2*end {
		middle := (limits[0] + limits[1]) / 2
		limits = [2]float64{middle + end, middle - end}
	}
	return limits, nil
}

// course is the middle line of the isthmus, mesial first, into the boxes.
func (s stretch) course(c *part, limits [2]float64, end float64) []solid.Point2 {
	line := append([]r3.Vec{}, s.line...)
	if len(line) == 1 {
		line = append(line, r3.Add(line[0], r3.Vec{X: -0.01}))
	}
	from, to := limits[1]+end, limits[0]-end
	if b := c.box(notation.Mesial); b != nil {
		to = limits[0]
		line = append(intoBox(b, to, line[0]), line...)
	}
	if b := c.box(notation.Distal); b != nil {
		from = limits[1]
		into := intoBox(b, from, line[len(line)-1])
		for n := len(into) - 1; n >= 0; n-- {
			line = append(line, into[n])
		}
	}
	return clipCourse(smoothCourse(line, courseSmoothing), from, to)
}

// intoBox leads from the middle of a box to where the fissure starts.
func intoBox(b *box, x float64, start r3.Vec) []r3.Vec {
	const step = 0.2 // mm
	lingual, buccal := b.across(b.seat.level)
	end := r3.Vec{X: x, Y: (lingual + buccal) / 2, Z: start.Z}
	way := r3.Sub(start, end)
	count := max(1, int(math.Hypot(way.X, way.Y)/step))
	var points []r3.Vec
	for n := range count {
		points = append(points, r3.Add(end, r3.Scale(float64(n)/float64(count), way)))
	}
	return points
}
