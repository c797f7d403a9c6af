package face

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/anatomy"
	"obturon/core/lesion"
	"obturon/core/prep"
	"obturon/core/solid"
)

// Cavity is a preparation on a face or an edge as a solid that cuts the tooth.
type Cavity struct {
	Site    lesion.Site
	surface *solid.Blank
	// Frame is how the cavity is seen: W is the bur's axis out of the tooth, V
	// as far towards the biting side as the face allows.
	Frame    anatomy.Frame
	skin     *anatomy.Skin
	dentin   *solid.Dense
	body     body
	lock     *pocket
	bevel    *bevel
	grooves  []groove
	caries   []lesion.Lesion
	fillings []lesion.Lesion
	bounds   solid.Box
}

// place is a place in or close around the tooth with what lies over it.
type place struct {
	p            r3.Vec
	foot, normal r3.Vec // of the outer surface over it
	depth        float64
}

// body is the cavity without bevels and grooves.
type body interface {
	// distance is the signed distance (mm) to its surface near it.
	distance(at *place) float64
	// over is how far (mm) along the tooth a place of the outer surface lies
	// from the body's edge.
	over(foot, normal r3.Vec) float64
	feature(at *place) uint16
	// walls is the distance (mm) from the walls alone, as if they had no end.
	walls(at *place) float64
	bounds() solid.Box
	// toPulp is the least distance (mm) of its surface in the tooth to the pulp.
	toPulp(pulp *solid.Dense) float64
}

const (
	excavationMargin = 0.1 // mm cut beyond the lesion's modelled border
	freshened        = 0.1 // mm taken off the walls of an old filling's room
	intoEnamel       = 0.2 // mm past the junction that a round bur takes with the dentin
	away             = 2.0 // mm, stands for "not near"
)

func (c *Cavity) at(p r3.Vec) place { return placeOf(p, c.skin, c.surface) }

func placeOf(p r3.Vec, skin *anatomy.Skin, surface *solid.Blank) place {
	at := place{p: p}
	at.foot, at.normal, at.depth = skin.Over(p)
	// Close to the surface its own field counts: where a bevel thins out, a
	// hundredth of a millimetre moves the margin far.
	const near, far = 0.05, 0.14 // mm: within the band in which that field is stored
	if aside := math.Abs(at.depth); aside < far {
		own := solid.Smoothstep(near, far, aside)
		at.depth = own*at.depth - (1-own)*surface.Distance(p)
	}
	return at
}

// Distance is the signed distance (mm) to the cavity's surface near it.
func (c *Cavity) Distance(p r3.Vec) float64 {
	at := c.at(p)
	d := c.cut(&at)
	for n := range c.grooves {
		d = math.Min(d, c.grooves[n].distance(p))
	}
	if c.bevel != nil {
		d = math.Min(d, c.bevel.distance(&at, c.body))
	}
	return d
}

// cut is the distance to the body with what is followed past it.
func (c *Cavity) cut(at *place) float64 {
	d := c.body.distance(at)
	if c.lock != nil {
		d = math.Min(d, c.lock.distance(at))
	}
	return c.emptied(at, c.excavated(at, d))
}

// excavated is the least of d and the distance to caries followed: within the
// walls, and past them in dentin only.
func (c *Cavity) excavated(at *place, d float64) float64 {
	for _, l := range c.caries {
		dug := distanceTo(l, at) - excavationMargin
		if dug >= d {
			continue
		}
		d = math.Min(d, math.Max(dug, math.Min(c.body.walls(at), c.dentin.Distance(at.p)-intoEnamel)))
	}
	return d
}

// distanceTo is the distance to a lesion; what lies over a place is found once.
func distanceTo(l lesion.Lesion, at *place) float64 {
	if f, onFace := l.(*lesion.Face); onFace {
		return f.DistanceUnder(at.foot, at.normal, at.depth)
	}
	return l.Distance(at.p)
}

// emptied is the least of d and the distance to old fillings' room, freshened.
func (c *Cavity) emptied(at *place, d float64) float64 {
	for _, l := range c.fillings {
		d = math.Min(d, distanceTo(l, at)-freshened)
	}
	return d
}

// Feature names the part of the surface nearest p.
func (c *Cavity) Feature(p r3.Vec) uint16 {
	const same = 1e-6 // mm
	at := c.at(p)
	d := c.cut(&at)
	for n := range c.grooves {
		if c.grooves[n].distance(p) < d-same {
			return prep.RetentionGroove
		}
	}
	if c.bevel != nil && c.bevel.distance(&at, c.body) < d-same {
		return c.body.feature(&at) | prep.BevelFlag
	}
	plain := c.body.distance(&at)
	if c.lock != nil && c.lock.distance(&at) < plain-same {
		return prep.LingualLock
	}
	if d < plain-same {
		return prep.Excavation
	}
	return c.body.feature(&at)
}

// Bounds holds everything the cavity can remove.
func (c *Cavity) Bounds() solid.Box { return c.bounds }

// Build makes the cavity of a design.
func Build(r Request, d Design) (*Cavity, error) {
	c := &Cavity{Site: d.Site, surface: r.Model.Surface, skin: r.Model.Skin(), dentin: r.Model.Dentin()}
	for _, l := range r.Lesions {
		switch l.Is() {
		case lesion.OldRestoration:
			c.fillings = append(c.fillings, l)
		case lesion.Fracture: // what is lost is cut by the broken face itself
		default:
			c.caries = append(c.caries, l)
		}
	}
	var err error
	switch d.Class() {
	case lesion.ClassIII:
		err = c.buildBox(r, d)
	case lesion.ClassIV:
		err = c.buildCorner(r, d)
	default:
		err = c.buildPocket(r, d)
	}
	if err != nil {
		return nil, err
	}
	c.setBounds(d)
	return c, nil
}

// setBounds takes in the body, its bevel, and what is followed past it.
func (c *Cavity) setBounds(d Design) {
	const around = 0.3 // mm
	c.bounds = c.body.bounds()
	if c.bevel != nil {
		widest := c.bevel.reach() + around
		grow := r3.Vec{X: widest, Y: widest, Z: widest}
		c.bounds = solid.Box{Min: r3.Sub(c.bounds.Min, grow), Max: r3.Add(c.bounds.Max, grow)}
	}
	if c.lock != nil {
		include(&c.bounds, c.lock.bounds())
	}
	for _, l := range append(append([]lesion.Lesion{}, c.caries...), c.fillings...) {
		include(&c.bounds, l.Bounds())
	}
}

func include(b *solid.Box, other solid.Box) {
	for _, p := range []r3.Vec{other.Min, other.Max} {
		b.Min = r3.Vec{X: math.Min(b.Min.X, p.X), Y: math.Min(b.Min.Y, p.Y), Z: math.Min(b.Min.Z, p.Z)}
		b.Max = r3.Vec{X: math.Max(b.Max.X, p.X), Y: math.Max(b.Max.Y, p.Y), Z: math.Max(b.Max.Z, p.Z)}
	}
}

// boxOf is the box about a frame's block from low to high.
func boxOf(f anatomy.Frame, low, high r3.Vec) solid.Box {
	first := f.From(low)
	b := solid.Box{Min: first, Max: first}
	for _, corner := range solid.Corners(solid.Box{Min: low, Max: high}) {
		p := f.From(corner)
		include(&b, solid.Box{Min: p, Max: p})
	}
	return b
}

// ToPulp is the least distance (mm) of the cavity's walls and grooves to the
// pulp, caries followed past them left out.
func (c *Cavity) ToPulp(m *anatomy.Model) float64 {
	least := c.body.toPulp(m.Pulp())
	for _, g := range c.grooves {
		for _, p := range g.line {
			least = math.Min(least, m.Pulp().Distance(p)-g.radius)
		}
	}
	return least
}
