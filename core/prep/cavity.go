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
	Excavation    // caries followed past floor or wall
	// Of a proximal box.
	BoxBuccal
	BoxLingual
	AxialWall
	GingivalFloor
	AxiopulpalEdge
	RetentionGroove
	CuspReduction
	// Of cavities on faces and edges.
	IncisalWall
	OcclusalWall
	GingivalWall
	FacialWall // what a bur sunk from lingual stops at, and the other way round
	LingualWall
	BrokenFace
	LingualLock
)

// BevelFlag marks a feature's bevel: the chamfer between wall and margin.
const BevelFlag uint16 = 0x100

// WallOf is the wall that a bevel belongs to; other features are their own.
func WallOf(feature uint16) uint16 { return feature &^ BevelFlag }

// FeatureName names a feature in the dentist's words.
func FeatureName(feature uint16) string {
	if feature&BevelFlag != 0 {
		return "bevel over the " + FeatureName(WallOf(feature))
	}
	names := map[uint16]string{
		Floor: "pulpal floor", WallBuccal: "buccal wall", WallLingual: "lingual wall", WallMesial: "mesial wall",
		WallDistal: "distal wall", WallExtension: "groove extension wall", Excavation: "excavation",
		BoxBuccal: "buccal wall of the box", BoxLingual: "lingual wall of the box", AxialWall: "axial wall", GingivalFloor: "gingival floor",
		AxiopulpalEdge: "axiopulpal line angle", RetentionGroove: "retention groove",
		CuspReduction: "reduced cusp",
		IncisalWall:   "incisal wall", OcclusalWall: "occlusal wall", GingivalWall: "gingival wall",
		FacialWall: "facial wall", LingualWall: "lingual wall", BrokenFace: "broken face", LingualLock: "lingual lock",
	}
	return names[feature]
}

// Cavity is a preparation as a solid that cuts the tooth. It is open towards
// the bur, and at boxes towards the neighbour.
type Cavity struct {
	Table    anatomy.Frame
	parts    []*part
	caries   []bounded
	fillings []bounded
	dentin   *solid.Dense
	reduced  []reduction
	bevel    *bevel // nil where margins are left as the walls make them
	bounds   solid.Box
}

const (
	excavationMargin = 0.1 // mm cut beyond the lesion's modelled border
	freshened        = 0.1 // mm taken off the walls of an old filling's room
	excavationStep   = 0.2 // mm before floor or wall from which caries is followed
)

// Distance is the signed distance (mm) to the cavity's surface near it.
func (c *Cavity) Distance(p r3.Vec) float64 {
	q := c.Table.To(p)
	d := math.Inf(1)
	for _, part := range c.parts {
		d = min(d, part.distance(q))
	}
	if d > -excavationStep {
		d = c.emptied(p, c.excavated(p, q, d))
	}
	d = min(d, c.overCusps(q))
	if c.bevel != nil {
		d = min(d, c.bevel.distance(p, q, c.lateral))
	}
	return d
}

// overCusps is the distance (mm) to what is taken off cusps.
func (c *Cavity) overCusps(q r3.Vec) float64 {
	d := math.Inf(1)
	for n := range c.reduced {
		d = min(d, c.reduced[n].distance(q))
	}
	return d
}

// OverCusps is the distance (mm) of a place of the tooth to what is taken off
// cusps; infinite where none is covered.
func (c *Cavity) OverCusps(p r3.Vec) float64 { return c.overCusps(c.Table.To(p)) }

// lateral is the distance (mm) from the walls alone, as if they had no floor.
func (c *Cavity) lateral(q r3.Vec) float64 {
	d := math.Inf(1)
	for _, part := range c.parts {
		d = min(d, part.lateral(q))
	}
	return d
}

// bounded is a lesion with the room around it in which it is looked at.
type bounded struct {
	lesion.Lesion
	room solid.Box
}

// keepWhatGoes tells caries, which is followed, from old fillings, which leave the
// whole of their room.
func (c *Cavity) keepWhatGoes(all []lesion.Lesion) {
	const around = 0.6 // mm, more than a surface's field must reach
	room := r3.Vec{X: around, Y: around, Z: around}
	for _, l := range all {
		b := l.Bounds()
		kept := bounded{l, solid.Box{Min: r3.Sub(b.Min, room), Max: r3.Add(b.Max, room)}}
		switch l.Is() {
		case lesion.OldRestoration:
			c.fillings = append(c.fillings, kept)
		case lesion.Fracture: // the cusp's cover takes it in
		default:
			c.caries = append(c.caries, kept)
		}
	}
}

// emptied is the least of d and the distance to the room of old fillings, whose
// walls are freshened: in enamel and dentin alike.
func (c *Cavity) emptied(p r3.Vec, d float64) float64 {
	for _, f := range c.fillings {
		if f.room.Contains(p) {
			d = min(d, f.Distance(p)-freshened)
		}
	}
	return d
}

// excavated is the least of d and the distance to what is cut where caries is
// followed: within the walls, and past floors and axial walls in dentin. Enamel
// outside the walls is left, however carious: there the walls themselves are
// too narrow.
func (c *Cavity) excavated(p, q r3.Vec, d float64) float64 {
	const intoEnamel, matters = 0.2, 0.5 // mm past the junction that a round bur takes with it; mm
	lesion := c.excavation(p)
	if lesion >= d {
		return d
	}
	if lesion > matters {
		return lesion
	}
	within, beyond := math.Inf(1), math.Inf(1)
	for _, part := range c.parts {
		w, b := part.past(q)
		within, beyond = min(within, w), min(beyond, b)
	}
	if within > 0 && beyond < within { // outside the walls: in dentin only
		within = min(within, max(beyond, c.dentin.Distance(p)-intoEnamel))
	}
	return min(d, max(lesion, within))
}

// excavation is the distance to the lesions, a little past their borders.
func (c *Cavity) excavation(p r3.Vec) float64 {
	d := math.Inf(1)
	for _, l := range c.caries {
		if l.room.Contains(p) {
			d = min(d, l.Distance(p)-excavationMargin)
		}
	}
	if d > 0 { // lesions know their depth along one direction only
		d *= 0.6
	}
	return d
}

// Feature names the part of the surface nearest p.
func (c *Cavity) Feature(p r3.Vec) uint16 {
	q := c.Table.To(p)
	var nearest *part
	d := math.Inf(1)
	for _, part := range c.parts {
		if here := part.distance(q); here < d {
			d, nearest = here, part
		}
	}
	dug := c.emptied(p, c.excavated(p, q, d))
	if c.overCusps(q) < dug-1e-6 {
		return CuspReduction
	}
	if c.bevel != nil && c.bevel.distance(p, q, c.lateral) < dug-1e-6 {
		return c.wallFeature(q) | BevelFlag
	}
	if dug < d-1e-6 {
		return Excavation
	}
	return nearest.feature(q)
}

// wallFeature names the wall nearest q.
func (c *Cavity) wallFeature(q r3.Vec) uint16 {
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
func (c *Cavity) toPulp(m *anatomy.Model) (mm float64, atBox *box) {
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
func (c *Cavity) Bounds() solid.Box { return c.bounds }

// Floors are the heights of the pulpal floors in the table's frame at (x, y),
// mesial first.
func (c *Cavity) Floors(x, y float64) []float64 {
	var levels []float64
	for _, part := range c.parts {
		if part.outline != nil {
			levels = append(levels, part.floorLevel(x, y))
		}
	}
	return levels
}
