package occlusal

import (
	"errors"
	"math"

	"gonum.org/v1/gonum/mat"
	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/anatomy"
	"obturon/core/cavity"
	"obturon/core/notation"
)

// proximal is the outer surface of one side as a box sees it, in the frame
// (n, y, z) of the occlusal table.
type proximal struct {
	model   *anatomy.Model
	side    notation.Side
	sign    float64
	contact r3.Vec  // the contact's middle
	ridge   float64 // height of the marginal ridge's crest
}

func newProximal(m *anatomy.Model, side notation.Side) proximal {
	p := proximal{model: m, side: side, sign: 1}
	crest := m.MesialRidge
	if side == notation.Distal {
		p.sign, crest = -1, m.DistalRidge
	}
	p.contact = p.into(m.Contact(side).At)
	p.ridge = m.Table.To(crest).Z
	return p
}

// into takes a point of the tooth frame to (n, y, z); from brings it back.
func (p *proximal) into(q r3.Vec) r3.Vec {
	q = p.model.Table.To(q)
	q.X *= p.sign
	return q
}

func (p *proximal) from(q r3.Vec) r3.Vec {
	q.X *= p.sign
	return p.model.Table.From(q)
}

// direction brings a direction of (n, y, z) back to the tooth frame.
func (p *proximal) direction(d r3.Vec) r3.Vec {
	d.X *= p.sign
	return p.model.Table.Turn(d)
}

// surface is where the line through (y, z) leaves the tooth, falling by a
// slope past n = from.
func (p *proximal) surface(y, z, from, sin, cos float64) (at r3.Vec, ok bool) {
	const inside, reach, step = 1.0, 8.0, 0.2
	start := r3.Vec{X: inside, Y: y, Z: z}
	t, ok := p.model.Surface.RootAlong(p.from(start), p.direction(r3.Vec{X: 1}), 0, reach, step)
	if !ok {
		return at, false
	}
	if sin == 0 || inside+t <= from {
		return r3.Vec{X: inside + t, Y: y, Z: z}, true
	}
	start.X = from
	t, ok = p.model.Surface.RootAlong(p.from(start), p.direction(r3.Vec{X: cos, Z: -sin}), 0, reach, step)
	return r3.Vec{X: from + t*cos, Y: y, Z: z - t*sin}, ok
}

// normal is the outer surface's normal at a point of it, in (n, y, z).
func (p *proximal) normal(at r3.Vec) r3.Vec {
	g := r3.Unit(p.model.Surface.Gradient(p.from(at)))
	f := p.model.Table
	return r3.Vec{X: p.sign * r3.Dot(g, f.U), Y: r3.Dot(g, f.V), Z: r3.Dot(g, f.W)}
}

// slopedShare is how much of the seat falls away, where it does: the outer half to
// two thirds, which the board school asks for along the enamel rods.
const slopedShare = 0.6

// newSeat lays the gingival floor at a height.
func (p *proximal) newSeat(level, axialDepth, slopeDegrees float64) (seat, error) {
	s := seat{level: level, cos: 1}
	if slopeDegrees == 0 {
		return s, nil
	}
	at, ok := p.surface(p.contact.Y, level, 0, 0, 1)
	if !ok {
		return s, cavity.ErrBoxOffTooth
	}
	s.outer = at.X - slopedShare*axialDepth
	s.sin, s.cos = math.Sincos(slopeDegrees * math.Pi / 180)
	return s, nil
}

// seatMargin is where the seat meets the outer surface at y.
func (p *proximal) seatMargin(s seat, y float64) (r3.Vec, bool) {
	return p.surface(y, s.level, s.outer, s.sin, s.cos)
}

// newSideWall draws the buccal (+1) or lingual (-1) wall: it leaves the tooth
// at reach from the contact's middle at the contact's height, leans by so many
// degrees and meets the outer surface squarely. axialDepth keeps the flare
// from closing the box.
func (p *proximal) newSideWall(sign, reach, leanDegrees, low, axialDepth float64) (sideWall, error) {
	const step, clear = 0.15, 0.5 // mm; the ridge's rounded top is not followed
	w := sideWall{sign: sign, fallAway: math.Tan(leanDegrees * math.Pi / 180)}
	w.cos = math.Cos(leanDegrees * math.Pi / 180)
	w.at = sign*p.contact.Y + reach + w.fallAway*p.contact.Z
	// The inner end of the wall stays a bur's radius from the middle.
	most := math.Atan(math.Max(reach-burRadius, 0.05) / math.Max(axialDepth, 0.3))
	var heights, exits, yaws []float64
	for z := low; z <= math.Max(p.ridge-clear, low+4*step); z += step {
		at, ok := p.surface(sign*(w.at-w.fallAway*z), z, 0, 0, 1)
		if !ok {
			continue
		}
		normal := p.normal(at)
		heights, exits = append(heights, z), append(exits, at.X)
		yaws = append(yaws, math.Min(math.Max(math.Atan2(sign*normal.Y, normal.X), -0.3), most))
	}
	if len(heights) < 4 {
		return w, cavity.ErrBoxOffTooth
	}
	w.low, w.high = heights[0], heights[len(heights)-1]
	var err error
	if w.exit, err = fit(heights, exits, 3); err != nil {
		return w, err
	}
	if w.yaw, err = fit(heights, yaws, 2); err != nil {
		return w, err
	}
	w.keepTurns()
	return w, nil
}

// newAxialWall is parallel to the bur, at least axialDepth in from the seat's
// margin over the middle of the box.
func (p *proximal) newAxialWall(s seat, lingual, buccal, axialDepth float64) (axialWall, error) {
	const samples, middle = 15, 0.7
	var ys, ns []float64
	for k := range samples {
		y := lingual + (buccal-lingual)*(0.1+0.8*float64(k)/(samples-1))
		if at, ok := p.seatMargin(s, y); ok {
			ys, ns = append(ys, y), append(ns, at.X)
		}
	}
	if len(ys) < 4 {
		return axialWall{}, cavity.ErrBoxOffTooth
	}
	plan, err := fit(ys, ns, 2)
	if err != nil {
		return axialWall{}, err
	}
	const leastBulge = 0.01 // 1/mm: never hollow
	if plan[2] > -leastBulge {
		centre := (lingual + buccal) / 2
		top := plan.at(centre)
		plan = polynomial{top - leastBulge*centre*centre, 2 * leastBulge * centre, -leastBulge}
	}
	short := math.Inf(1) // by how much the margin comes inside the fit
	for k, y := range ys {
		if math.Abs(y-(lingual+buccal)/2) <= middle/2*(buccal-lingual) {
			short = math.Min(short, ns[k]-plan.at(y))
		}
	}
	plan[0] += short - axialDepth
	return axialWall{plan}, nil
}

// newBox builds a box from its figures.
func (p *proximal) newBox(d Design) (*box, error) {
	own := d.Boxes[p.side]
	b := &box{side: p.side, sign: p.sign, radius: d.LineAngleRadius, corner: d.LineAngleRadius}
	var err error
	if b.seat, err = p.newSeat(p.ridge-own.Depth, own.AxialDepth, d.GingivalSlope); err != nil {
		return nil, err
	}
	buccal, lingual := d.NonfunctionalLean, d.FunctionalLean
	if !p.model.Tooth.Upper() {
		buccal, lingual = lingual, buccal
	}
	low := b.seat.level - own.AxialDepth*b.seat.sin
	if b.buccal, err = p.newSideWall(+1, own.BuccalReach, buccal, low, own.AxialDepth); err != nil {
		return nil, err
	}
	if b.lingual, err = p.newSideWall(-1, own.LingualReach, lingual, low, own.AxialDepth); err != nil {
		return nil, err
	}
	from, to := b.across(low)
	if b.axial, err = p.newAxialWall(b.seat, from, to, own.AxialDepth); err != nil {
		return nil, err
	}
	if d.GrooveDepth > 0 {
		b.grooves = b.newGrooves(d.GrooveDepth, p.model.DentinHeights())
	}
	return b, nil
}

// fit is the least-squares polynomial of a degree through points.
func fit(xs, ys []float64, degree int) (polynomial, error) {
	a := mat.NewDense(len(xs), degree+1, nil)
	for n, x := range xs {
		v := 1.0
		for k := range degree + 1 {
			a.Set(n, k, v)
			v *= x
		}
	}
	var solution mat.VecDense
	if err := solution.SolveVec(a, mat.NewVecDense(len(ys), ys)); err != nil {
		var condition mat.Condition
		if !errors.As(err, &condition) {
			return nil, err
		}
	}
	p := make(polynomial, degree+1)
	for k := range p {
		p[k] = solution.AtVec(k)
	}
	return p, nil
}
