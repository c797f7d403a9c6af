package prep

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/anatomy"
	"obturon/core/lesion"
	"obturon/core/solid"
)

// Features of a cavity's surface, as solid labels.
const (
	Floor uint16 = iota + 1
	WallBuccal
	WallLingual
	WallMesial
	WallDistal
	WallExtension // sides of a groove extension
	Excavation    // caries followed below the floor
	// Of a proximal box.
	BoxBuccal
	BoxLingual
	AxialWall
	GingivalFloor
)

// FeatureName names a feature in the dentist's words.
func FeatureName(feature uint16) string {
	names := map[uint16]string{
		Floor: "pulpal floor", WallBuccal: "buccal wall", WallLingual: "lingual wall", WallMesial: "mesial wall",
		WallDistal: "distal wall", WallExtension: "groove extension wall", Excavation: "excavation",
		BoxBuccal: "buccal wall of the box", BoxLingual: "lingual wall of the box", AxialWall: "axial wall", GingivalFloor: "gingival floor",
	}
	return names[feature]
}

// Cavity is an occlusal preparation as a solid that cuts the tooth. It is
// open towards the bur.
type Cavity struct {
	Table    anatomy.Frame
	outline  outline
	level    float64 // floor height in the table's frame, at its origin
	slope    float64 // rise of the floor per mm towards facial
	radius   float64 // line angle
	mesialX  float64 // where the end walls begin
	distalX  float64
	excavate []*lesion.Occlusal
	bounds   solid.Box
}

// FloorLevel is the floor's height in the table's frame at (x, y), mm.
func (c *Cavity) FloorLevel(_, y float64) float64 { return c.level + c.slope*y }

const (
	excavationMargin = 0.1 // mm cut beyond the lesion's modelled border
	excavationStep   = 0.2 // mm above the floor up to which caries is followed
)

// Distance is the signed distance (mm) to the cavity's surface near it.
func (c *Cavity) Distance(p r3.Vec) float64 {
	q := c.Table.To(p)
	wall, above := c.wallAndHeight(q)
	d := solid.RoundedIntersection(wall, -above, c.radius)
	if len(c.excavate) > 0 && d > 0 && above < excavationStep {
		d = math.Min(d, c.excavation(p, above))
	}
	return d
}

// wallAndHeight gives the distance to the leaning wall and the height over
// the floor's plane.
func (c *Cavity) wallAndHeight(q r3.Vec) (wall, above float64) {
	d, sin, cos, margin := c.outline.wallAt(q.X, q.Y)
	if math.Abs(d) < 0.6 { // smooth slopes matter near the wall only
		d = c.outline.distance.Smooth(q.X, q.Y)
	}
	height := q.Z - c.FloorLevel(q.X, q.Y)
	if c.slope != 0 {
		height /= math.Sqrt(1 + c.slope*c.slope)
	}
	return d*cos + (q.Z-margin)*sin, height
}

// excavation follows caries below the floor, a little past its border.
func (c *Cavity) excavation(p r3.Vec, above float64) float64 {
	d := math.Inf(1)
	for _, l := range c.excavate {
		d = math.Min(d, l.Distance(p)-excavationMargin)
	}
	return math.Max(d, above-excavationStep)
}

// Feature names the part of the surface nearest p.
func (c *Cavity) Feature(p r3.Vec) uint16 {
	q := c.Table.To(p)
	wall, above := c.wallAndHeight(q)
	if len(c.excavate) > 0 && above < excavationStep {
		if c.excavation(p, above) < solid.RoundedIntersection(wall, -above, c.radius)-1e-6 {
			return Excavation
		}
	}
	if -above > wall {
		return Floor
	}
	nx, ny := c.outline.distance.Slope(q.X, q.Y)
	switch {
	case math.Abs(ny) >= math.Abs(nx):
		if ny > 0 {
			return WallBuccal
		}
		return WallLingual
	case nx > 0 && q.X > c.mesialX:
		return WallMesial
	case nx < 0 && q.X < c.distalX:
		return WallDistal
	default:
		return WallExtension
	}
}

// floorToPulp is the least distance from the floor to the pulp, mm.
func (c *Cavity) floorToPulp(m *anatomy.Model) float64 {
	least := math.Inf(1)
	o := c.outline.distance
	for j := range o.NY {
		for i := range o.NX {
			if o.Values[j*o.NX+i] < 0.1 { // the floor is a little wider than the margin
				x, y := o.X0+float64(i)*o.H, o.Y0+float64(j)*o.H
				least = math.Min(least, m.Pulp().Distance(c.Table.From(r3.Vec{X: x, Y: y, Z: c.FloorLevel(x, y)})))
			}
		}
	}
	return least
}

// Shares samples the cavity inside the uncut tooth: how much of it there is
// and how much of that is dentin, in mm³ to a few per cent.
func (c *Cavity) Shares(m *anatomy.Model) (removed, dentin float64) {
	const h = 0.2 // mm
	o := c.outline.distance
	for y := o.Y0; y < o.Y0+float64(o.NY)*o.H; y += h {
		for x := o.X0; x < o.X0+float64(o.NX)*o.H; x += h {
			if o.At(x, y) > 0.4 {
				continue
			}
			top, junction := m.TableHeights().At(x, y), m.DentinHeights().At(x, y)
			for z := c.FloorLevel(x, y) - 1; z < top; z += h {
				if c.Distance(c.Table.From(r3.Vec{X: x, Y: y, Z: z})) >= 0 {
					continue
				}
				removed += h * h * h
				if z < junction {
					dentin += h * h * h
				}
			}
		}
	}
	return removed, dentin
}

// Bounds holds everything the cavity can remove.
func (c *Cavity) Bounds() solid.Box { return c.bounds }
