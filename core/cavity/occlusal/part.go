package occlusal

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/anatomy"
	"obturon/core/cavity"
	"obturon/core/notation"
	"obturon/core/solid"
)

// part is one stretch of the preparation as a solid: the opened fissures with
// their floor, and the boxes at their ends. Its coordinates are those of the
// occlusal table's frame.
type part struct {
	outline *outline // of the opened fissures; nil for a slot
	level   float64  // floor height at the table's origin
	slope   float64  // rise of the floor per mm towards facial
	radius  float64  // line angle
	mesialX float64  // where the end walls begin
	distalX float64
	boxes   []*box
	edge    float64 // radius of the axiopulpal rounding
	lead    float64 // mm sideways for each mm inwards of the walls that lead into a box
	// bevelled is how far (mm) a bevel moves the margin out.
	bevelled float64
}

// floorLevel is the pulpal floor's height at (x, y), mm.
func (c *part) floorLevel(_, y float64) float64 { return c.level + c.slope*y }

// distance is the signed distance (mm) to the part's surface near it.
func (c *part) distance(q r3.Vec) float64 {
	const under = 1.0 // mm under the floor where the isthmus plays no part
	d := math.Inf(1)
	wall, above := math.Inf(1), math.Inf(1)
	isthmus := c.outline != nil
	if isthmus {
		if above = c.above(q); above < -under {
			d, isthmus = -above, false
		} else {
			wall = c.wallAt(q)
		}
	}
	for _, b := range c.boxes {
		if b.far(q) {
			d = min(d, away)
			continue
		}
		f := b.facesAt(q)
		d = min(d, b.distance(&f))
		if isthmus {
			wall = c.joinWalls(wall, f.wedge(c.lead))
			d = min(d, c.rounding(&f, wall, above))
		}
	}
	if !isthmus {
		return d
	}
	return min(d, solid.RoundedIntersection(wall, -above, c.radius))
}

// lateral is the distance (mm) from the part's walls alone, as if they had no floor.
func (c *part) lateral(q r3.Vec) float64 {
	d, wall := math.Inf(1), math.Inf(1)
	if c.outline != nil {
		wall = c.wallAt(q)
	}
	for _, b := range c.boxes {
		if b.far(q) {
			continue
		}
		f := b.facesAt(q)
		d = min(d, f.lateral(b.corner))
		if c.outline != nil {
			wall = c.joinWalls(wall, f.wedge(c.lead))
		}
	}
	if c.outline == nil || math.IsInf(d, 1) {
		return min(d, wall)
	}
	const blend = 0.25 // mm: a bevel runs round the corner where the two meet
	return solid.SmoothMin(d, wall, blend)
}

// wallFeature names the wall nearest q.
func (c *part) wallFeature(q r3.Vec) uint16 {
	feature, d := uint16(0), math.Inf(1)
	if c.outline != nil {
		feature, d = c.isthmusFeature(q), c.wallAt(q)
	}
	for _, b := range c.boxes {
		f := b.facesAt(q)
		if c.outline != nil {
			if wedge := f.wedge(c.lead); wedge < d {
				feature, d = f.sideFeature(), wedge
			}
		}
		if lateral := f.lateral(b.corner); lateral < d {
			feature, _ = f.wall()
			d = lateral
		}
	}
	return feature
}

// cornerBlend (mm) is over how much the corner between isthmus and box becomes a
// curve; a bevel needs so much more as it moves the margin.
const cornerBlend = 0.4

// joinWalls unites the isthmus with the walls that lead into a box.
func (c *part) joinWalls(isthmus, lead float64) float64 {
	return solid.SmoothMin(isthmus, lead, cornerBlend+c.bevelled)
}

// past is negative in the line angles within the walls, and from a little
// before floor, seat and axial walls on: where caries may be followed.
func (c *part) past(q r3.Vec) (within, beyond float64) {
	within, beyond = math.Inf(1), math.Inf(1)
	if c.outline != nil {
		wall, above := c.wallAndHeight(q)
		within, beyond = max(wall, -above), above-excavationStep
	}
	for _, b := range c.boxes {
		f := b.facesAt(q)
		_, wall := f.wall()
		within = min(within, max(wall, f.seat))
		beyond = min(beyond, min(-f.axial, -f.seat)-excavationStep)
	}
	return within, beyond
}

// wallAndHeight gives the distance to the isthmus's leaning wall and the
// height over the floor's plane.
func (c *part) wallAndHeight(q r3.Vec) (wall, above float64) { return c.wallAt(q), c.above(q) }

// wallAt is the distance to the isthmus's leaning wall.
func (c *part) wallAt(q r3.Vec) float64 {
	d, sin, cos, margin := c.outline.wallAt(q.X, q.Y)
	if math.Abs(d) < 0.6 { // smooth slopes matter near the wall only
		d = c.outline.distance.Smooth(q.X, q.Y)
	}
	return d*cos + (q.Z-margin)*sin
}

// above is the height over the floor's plane.
func (c *part) above(q r3.Vec) float64 {
	height := q.Z - c.floorLevel(q.X, q.Y)
	if c.slope != 0 {
		height /= math.Sqrt(1 + c.slope*c.slope)
	}
	return height
}

// feature names the part of the surface nearest q.
func (c *part) feature(q r3.Vec) uint16 {
	feature, least, boxWall := uint16(0), math.Inf(1), uint16(0)
	isthmus, above := math.Inf(1), math.Inf(1)
	if c.outline != nil {
		isthmus, above = c.wallAndHeight(q)
	}
	wall, edge := isthmus, math.Inf(1)
	for _, b := range c.boxes {
		f := b.facesAt(q)
		if d := b.distance(&f); d < least {
			feature, least = b.feature(&f), d
		}
		if c.outline == nil {
			continue
		}
		wedge := f.wedge(c.lead)
		if wall = c.joinWalls(wall, wedge); wedge < isthmus {
			boxWall = f.sideFeature()
		}
		edge = min(edge, c.rounding(&f, wall, above))
	}
	if c.outline == nil {
		return feature
	}
	occlusal := solid.RoundedIntersection(wall, -above, c.radius)
	switch {
	case edge < min(occlusal, least)-1e-4:
		return cavity.AxiopulpalEdge
	case occlusal >= least:
		return feature
	case -above > wall:
		return cavity.Floor
	case boxWall != 0:
		return boxWall
	default:
		return c.isthmusFeature(q)
	}
}

// rounding is the distance to what takes the edge off the tooth between floor
// and axial wall; wall is that of the isthmus and the box together.
func (c *part) rounding(f *faces, wall, above float64) float64 {
	if c.edge <= 0 || above <= -c.edge || f.axial >= c.edge {
		return math.Inf(1)
	}
	rounded := -solid.RoundedIntersection(above, -f.axial, c.edge)
	beside := max(f.axial, -above) - c.edge // it reaches no further along floor and wall
	return solid.RoundedIntersection(max(rounded, max(beside, f.seat)), wall, c.radius)
}

func (c *part) isthmusFeature(q r3.Vec) uint16 {
	nx, ny := c.outline.distance.Slope(q.X, q.Y)
	switch {
	case math.Abs(ny) >= math.Abs(nx):
		if ny > 0 {
			return cavity.WallBuccal
		}
		return cavity.WallLingual
	case nx > 0 && q.X > c.mesialX:
		return cavity.WallMesial
	case nx < 0 && q.X < c.distalX:
		return cavity.WallDistal
	default:
		return cavity.WallExtension
	}
}

// insideAxial reports a place that no box's axial wall has cut away.
func (c *part) insideAxial(x, y float64) bool {
	for _, b := range c.boxes {
		if b.axial.distance(b.sign*x, y) < c.radius {
			return false
		}
	}
	return true
}

// floorToPulp is the least distance from the floor to the pulp, mm.
func (c *part) floorToPulp(table anatomy.Frame, pulp *solid.Dense) float64 {
	least := math.Inf(1)
	if c.outline == nil {
		return least
	}
	o := c.outline.distance
	for j := range o.NY {
		for i := range o.NX {
			x, y := o.X0+float64(i)*o.H, o.Y0+float64(j)*o.H
			if o.Values[j*o.NX+i] < 0.1 && c.insideAxial(x, y) { // the floor is a little wider than the margin
				least = min(least, pulp.Distance(table.From(r3.Vec{X: x, Y: y, Z: c.floorLevel(x, y)})))
			}
		}
	}
	return least
}

// toPulp is the least distance from the box's axial wall and seat to the pulp, mm.
func (b *box) toPulp(table anatomy.Frame, pulp *solid.Dense) float64 {
	const step, over = 0.15, 2.0 // mm
	least := math.Inf(1)
	low, high := b.across(b.seat.level)
	for y := low; y <= high; y += step {
		n := b.axial.plan.at(y)
		for z := b.seat.level; z < b.seat.level+over; z += step {
			least = min(least, pulp.Distance(table.From(r3.Vec{X: b.sign * n, Y: y, Z: z})))
		}
	}
	return least
}

// across is where the walls leave the tooth at a height: lingual and buccal y.
func (b *box) across(z float64) (lingual, buccal float64) {
	return -(b.lingual.at - b.lingual.fallAway*z), b.buccal.at - b.buccal.fallAway*z
}

func (c *part) box(side notation.Side) *box {
	for _, b := range c.boxes {
		if b.side == side {
			return b
		}
	}
	return nil
}
