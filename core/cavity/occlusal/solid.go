package occlusal

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/anatomy"
	"obturon/core/cavity"
	"obturon/core/solid"
)

// Solid is a preparation as a solid that cuts the tooth. It is open towards
// the bur, and at boxes towards the adjacent tooth.
type Solid struct {
	Table    anatomy.Frame
	parts    []*part
	diseased cavity.Removal
	dentin   *solid.Dense
	reduced  []reduction
	bevel    *bevel // nil where margins are left as the walls make them
	bounds   solid.Box
}

// excavationStep (mm) is how far before floor or wall caries is followed from.
const excavationStep = 0.2

// Distance is the signed distance (mm) to the cavity's surface near it.
func (c *Solid) Distance(p r3.Vec) float64 {
	q := c.Table.To(p)
	d := math.Inf(1)
	for _, part := range c.parts {
		d = min(d, part.distance(q))
	}
	if d > -excavationStep {
		d = min(c.excavated(p, q, d), c.diseased.Fillings(p, nil))
	}
	d = min(d, c.overCusps(q))
	if c.bevel != nil {
		d = min(d, c.bevel.distance(p, q, c.lateral))
	}
	return d
}

// overCusps is the distance (mm) to what is taken off cusps.
func (c *Solid) overCusps(q r3.Vec) float64 {
	d := math.Inf(1)
	for n := range c.reduced {
		d = min(d, c.reduced[n].distance(q))
	}
	return d
}

// OverCusps is the distance (mm) of a place of the tooth to what is taken off
// cusps; infinite where none is covered.
func (c *Solid) OverCusps(p r3.Vec) float64 { return c.overCusps(c.Table.To(p)) }

// lateral is the distance (mm) from the walls alone, as if they had no floor.
func (c *Solid) lateral(q r3.Vec) float64 {
	d := math.Inf(1)
	for _, part := range c.parts {
		d = min(d, part.lateral(q))
	}
	return d
}

// excavated is the least of d and the distance to what is cut where caries is
// followed: within the walls, and past floors and axial walls in dentin. Enamel
// outside the walls is left, however carious: there the walls themselves are
// too narrow.
func (c *Solid) excavated(p, q r3.Vec, d float64) float64 {
	const matters = 0.5 // mm
	dug := c.excavation(p)
	if dug >= d {
		return d
	}
	if dug > matters {
		return dug
	}
	within, beyond := math.Inf(1), math.Inf(1)
	for _, part := range c.parts {
		w, b := part.past(q)
		within, beyond = min(within, w), min(beyond, b)
	}
	// Outside the walls, in dentin only; from a little inside on, so that no film of
	// caries is left where the two meet.
	if within > -excavationStep && beyond < within {
		within = min(within, max(beyond, c.dentin.Distance(p)-cavity.IntoEnamel))
	}
	return min(d, max(dug, within))
}

// excavation is the distance to the lesions, a little past their borders.
func (c *Solid) excavation(p r3.Vec) float64 {
	d := c.diseased.Caries(p, nil)
	if d > 0 { // lesions know their depth along one direction only
		d *= 0.6
	}
	return d
}

// Feature names the part of the surface nearest p.
func (c *Solid) Feature(p r3.Vec) uint16 {
	q := c.Table.To(p)
	var nearest *part
	d := math.Inf(1)
	for _, part := range c.parts {
		if here := part.distance(q); here < d {
			d, nearest = here, part
		}
	}
	dug := min(c.excavated(p, q, d), c.diseased.Fillings(p, nil))
	if c.overCusps(q) < dug-1e-6 {
		return cavity.CuspReduction
	}
	if c.bevel != nil && c.bevel.distance(p, q, c.lateral) < dug-1e-6 {
		return c.wallFeature(q) | cavity.BevelFlag
	}
	if dug < d-1e-6 {
		return cavity.Excavation
	}
	return nearest.feature(q)
}

// wallFeature names the wall nearest q.
func (c *Solid) wallFeature(q r3.Vec) uint16 {
	nearest, d := c.parts[0], math.Inf(1)
	for _, part := range c.parts {
		if here := part.lateral(q); here < d {
			d, nearest = here, part
		}
	}
	return nearest.wallFeature(q)
}

// toPulp is the least distance from a surface of the cavity to the pulp, mm,
// and whether it is a box's axial wall or seat that comes nearest.
func (c *Solid) toPulp(m *anatomy.Model) (mm float64, atBox *box) {
	mm = math.Inf(1)
	pulp := m.Pulp()
	for _, part := range c.parts {
		if d := part.floorToPulp(c.Table, pulp); d < mm {
			mm, atBox = d, nil
		}
		for _, b := range part.boxes {
			if d := b.toPulp(c.Table, pulp); d < mm {
				mm, atBox = d, b
			}
		}
	}
	return mm, atBox
}

// Bounds holds everything the cavity can remove.
func (c *Solid) Bounds() solid.Box { return c.bounds }

// Floors are the heights of the pulpal floors in the table's frame at (x, y),
// mesial first.
func (c *Solid) Floors(x, y float64) []float64 {
	var levels []float64
	for _, part := range c.parts {
		if part.outline != nil {
			levels = append(levels, part.floorLevel(x, y))
		}
	}
	return levels
}
