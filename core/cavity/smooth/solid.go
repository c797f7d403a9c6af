package smooth

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/anatomy"
	"obturon/core/cavity"
	"obturon/core/lesion"
	"obturon/core/solid"
)

// Solid is a preparation on a smooth surface or an incisal edge as a solid that
// cuts the tooth.
type Solid struct {
	Site    lesion.Site
	surface *solid.Blank
	// Frame is how the cavity is seen: W is the bur's axis out of the tooth, V
	// as far towards the biting side as the surface allows.
	Frame    anatomy.Frame
	outer    *anatomy.OuterSurface
	dentin   *solid.Dense
	body     body
	lock     *pocket
	bevel    *cavity.Bevel
	grooves  []groove
	diseased cavity.Removal
	bounds   solid.Box
}

// body is the cavity without bevels and grooves.
type body interface {
	// distance is the signed distance (mm) to its surface near it.
	distance(at *cavity.Place) float64
	cavity.Edge
	feature(at *cavity.Place) uint16
	// walls is the distance (mm) from the walls alone, as if they had no end.
	walls(at *cavity.Place) float64
	bounds() solid.Box
	// toPulp is the least distance (mm) of its surface in the tooth to the pulp.
	toPulp(pulp *solid.Dense) float64
}

const away = 2.0 // mm, stands for "not near"

func (c *Solid) at(p r3.Vec) cavity.Place { return cavity.PlaceOf(p, c.outer, c.surface) }

// Distance is the signed distance (mm) to the cavity's surface near it.
func (c *Solid) Distance(p r3.Vec) float64 {
	at := c.at(p)
	d := c.cut(&at)
	for n := range c.grooves {
		d = math.Min(d, c.grooves[n].distance(p))
	}
	if c.bevel != nil {
		d = math.Min(d, c.bevel.Distance(&at, c.body))
	}
	return d
}

// cut is the distance to the body with what is followed past it: caries within
// the walls, and past them in dentin only; old fillings with their whole room. What
// has broken off lays caries beside it open, and no wall stands there: it goes whole.
func (c *Solid) cut(at *cavity.Place) float64 {
	d := c.body.distance(at)
	if c.lock != nil {
		d = math.Min(d, c.lock.distance(at))
	}
	if dug := c.diseased.Caries(at.P, at); dug < d && kindOf(c.Site) == cavity.IncisalAngle {
		d = dug
	} else if dug < d {
		d = math.Min(d, math.Max(dug, math.Min(c.body.walls(at), c.dentin.Distance(at.P)-cavity.IntoEnamel)))
	}
	return math.Min(d, c.diseased.Fillings(at.P, at))
}

// Feature names the part of the surface nearest p.
func (c *Solid) Feature(p r3.Vec) uint16 {
	const same = 1e-6 // mm
	at := c.at(p)
	d := c.cut(&at)
	for n := range c.grooves {
		if c.grooves[n].distance(p) < d-same {
			return cavity.RetentionGroove
		}
	}
	if c.bevel != nil && c.bevel.Distance(&at, c.body) < d-same {
		return c.body.feature(&at) | cavity.BevelFlag
	}
	plain := c.body.distance(&at)
	if c.lock != nil && c.lock.distance(&at) < plain-same {
		return cavity.LingualLock
	}
	if d < plain-same {
		return cavity.Excavation
	}
	return c.body.feature(&at)
}

// Bounds holds everything the cavity can remove.
func (c *Solid) Bounds() solid.Box { return c.bounds }

// build makes the cavity of a design. It fails with cavity.ErrOffSmoothSurface where the
// figures leave the surface.
func build(r request, d Design) (*Solid, error) {
	c := &Solid{
		Site:     d.Site,
		surface:  r.Model.Surface,
		outer:    r.Model.OuterSurface(),
		dentin:   r.Model.Dentin(),
		diseased: cavity.NewRemoval(r.Endpoint(), r.Lesions),
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
func (c *Solid) setBounds(d Design) {
	const around = 0.3 // mm
	c.bounds = c.body.bounds()
	if c.bevel != nil {
		widest := c.bevel.Reach() + around
		grow := r3.Vec{X: widest, Y: widest, Z: widest}
		c.bounds = solid.Box{Min: r3.Sub(c.bounds.Min, grow), Max: r3.Add(c.bounds.Max, grow)}
	}
	if c.lock != nil {
		c.include(c.lock.bounds())
	}
	for _, b := range c.diseased.Boxes() {
		c.include(b)
	}
}

func (c *Solid) include(b solid.Box) {
	c.bounds = solid.Enclosing(c.bounds.Min, c.bounds.Max, b.Min, b.Max)
}

// ToPulp is the least distance (mm) of the cavity's walls and grooves to the
// pulp, caries followed past them left out.
func (c *Solid) ToPulp(m *anatomy.Model) float64 {
	least := c.body.toPulp(m.Pulp())
	for _, g := range c.grooves {
		for _, p := range g.line {
			least = math.Min(least, m.Pulp().Distance(p)-g.radius)
		}
	}
	return least
}
