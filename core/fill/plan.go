package fill

import (
	"fmt"
	"math"
	"slices"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/cavity"
	"obturon/core/measure"
	"obturon/core/school"
	"obturon/core/solid"
)

// Plan is how one part of a cavity's filling is laid.
type Plan struct {
	*Part
	// Why the composite is cut as it is.
	Why        string
	Increments []Laid  // of composite, in order
	Charge     *Charge // of amalgam; nil of composite
	Loads      []Load  // of amalgam, in order
}

// Laid is an increment with the product and the light that it takes.
type Laid struct {
	Increment
	Product Composite
	Most    float64 // the limit (mm) that it was cut by
	Light   Light
}

// Plans are those of all parts of a cavity over what protects its pulp, the largest first. Products must have been
// checked.
func Plans(s *measure.Subject, under []Layer, products Products) []Plan {
	f := New(sampled(s), filledOver(s.Cavity.Tool(), under), axisOf(s.Cavity))
	var all []Plan
	for _, part := range f.Parts {
		p := Plan{Part: part}
		if s.Cavity.Material == school.Amalgam {
			a := products.Amalgams[0]
			charge := a.Charge(part.Volume)
			p.Charge, p.Loads = &charge, part.loads(s, a.Carrier, charge.Loads)
		} else {
			p.lay(s, products)
		}
		all = append(all, p)
	}
	return all
}

// sampled is the tooth that is filled up to: as it is modelled, and coarser about a wide occlusal
// cavity, whose surface is so large that it is known as well by half the places.
func sampled(s *measure.Subject) *solid.Blank {
	const coarse = 0.15 // mm
	const wide = 40.0   // mm² of the box about it, seen along the tooth
	size := s.Cavity.Tool().Bounds()
	across := r3.Sub(size.Max, size.Min)
	if s.Cavity.Kind == cavity.Occlusal && across.X*across.Y > wide && s.Model.Surface.H < coarse {
		return sampledAnew(s, coarse)
	}
	return s.Model.Surface
}

// sampledAnew is the tooth only about the cavity, by samples of its own so far apart, mm.
func sampledAnew(s *measure.Subject, apart float64) *solid.Blank {
	const around = 0.3 // mm
	b := s.Cavity.Tool().Bounds()
	tooth := s.Model.Surface.Room()
	beyond := r3.Vec{X: around, Y: around, Z: around}
	low, high := r3.Sub(b.Min, beyond), r3.Add(b.Max, beyond)
	room := solid.Box{
		Min: r3.Vec{X: max(low.X, tooth.Min.X), Y: max(low.Y, tooth.Min.Y), Z: max(low.Z, tooth.Min.Z)},
		Max: r3.Vec{X: min(high.X, tooth.Max.X), Y: min(high.Y, tooth.Max.Y), Z: min(high.Z, tooth.Max.Z)},
	}
	return solid.NewBlank(solid.NewGrid(room, apart), func(p r3.Vec) float64 {
		within := max(
			room.Min.X+apart-p.X,
			p.X-room.Max.X+apart,
			room.Min.Y+apart-p.Y,
			p.Y-room.Max.Y+apart,
			room.Min.Z+apart-p.Z,
			p.Z-room.Max.Z+apart,
		)
		return max(s.Model.Surface.Distance(p), within)
	})
}

// axisOf is where a cavity is filled and cured from. A lost corner is entered from nowhere:
// its masses are cured from facial.
func axisOf(c *cavity.Cavity) r3.Vec {
	if c.Kind == cavity.IncisalAngle {
		return r3.Vec{Y: 1}
	}
	return c.Frame.W
}

func (p *Plan) lay(s *measure.Subject, products Products) {
	const usual = 2.0 // mm of an increment (operative dentistry convention)
	packable := products.of(Packable)
	most := math.Min(usual, packable.CureDepth)
	var portions []Portion
	switch {
	case s.Cavity.Kind == cavity.IncisalAngle:
		p.Why = "A lost corner is built from behind in masses of different depth of colour."
		portions = corner(s.Model, p.room())
	case s.Cavity.Kind == cavity.Cervical:
		p.Why = "A neck is filled from its gingival wall, where the bond is weakest."
		from, _ := extent(p.Mesh, s.Cavity.Frame.V)
		portions = neck(s.Model, s.Cavity.Frame, from-r3.Dot(s.Cavity.Frame.Origin, s.Cavity.Frame.V))
	default:
		if bulk, ok := p.atOnce(s, products); ok {
			most = bulk.CureDepth
			p.Why = fmt.Sprintf("%s cures through %.1f mm, and this is nowhere deeper: one increment.", bulk.Name, bulk.CureDepth)
			portions = []Portion{{Name: "One increment", Kind: bulk.Kind}}
			break
		}
		portions = p.layers(s, most)
	}
	increments := p.Part.Increments(portions)
	if thick, over := p.Part.thinner(increments, most); over {
		increments = p.Part.Increments(thick)
	}
	reach := reach{products.Lamps[0], p.filling.Axis, s.Model.Screen().Uncut().Mesh().Vertices}
	for _, i := range increments {
		product := products.of(i.Kind)
		laid := Laid{Increment: i, Product: product, Most: most, Light: reach.light(i, product.Dose)}
		if i.Most > 0 {
			laid.Most = i.Most
		}
		p.Increments = append(p.Increments, laid)
	}
}

// atOnce is what fills a part in one increment: that of a primary tooth or of a slot, where a
// product cures through it.
func (p *Plan) atOnce(s *measure.Subject, products Products) (c Composite, ok bool) {
	slot := p.has(cavity.GingivalFloor) && !p.has(cavity.Floor)
	if !slot && !s.Model.Tooth.Primary() {
		return c, false
	}
	deep := thickest(p.Mesh, p.filling.Axis)
	for _, kind := range []Kind{Packable, Bulk} {
		if c = products.of(kind); c.CureDepth >= deep {
			return c, true
		}
	}
	return c, false
}

// layers are horizontal, or oblique where the school wants it so between opposite walls.
func (p *Plan) layers(s *measure.Subject, most float64) []Portion {
	const firstInBox = 1.0 // mm (operative dentistry convention)
	l := Layering{Most: most}
	if p.has(cavity.GingivalFloor) {
		l.First = math.Min(firstInBox, most)
	} else if thickest(p.Mesh, p.filling.Axis) <= most {
		p.Why = fmt.Sprintf("Nowhere deeper than the %.1f mm that cure at once: one increment.", most)
		return []Portion{{Name: "One increment", Kind: Packable}}
	}
	how := s.Cavity.School.Layering
	if how == nil || s.Cavity.Kind != cavity.Occlusal {
		p.Why = "Layers square to the light, since all of it lies deeper than cures at once."
		return p.Horizontal(l)
	}
	p.Why = how.Why
	if how.Manner == school.Oblique {
		return p.Oblique(l, s.Cavity.Frame)
	}
	return p.Horizontal(l)
}

func (p *Part) has(feature uint16) bool {
	return slices.ContainsFunc(p.Mesh.Labels, func(label uint16) bool { return cavity.WallOf(label) == feature })
}

// thinner are the portions of some increments, those over a limit (mm) cut square to the
// light; over is false where all keep to it.
func (p *Part) thinner(increments []Increment, most float64) (portions []Portion, over bool) {
	for _, i := range increments {
		if i.Thickest <= most {
			portions = append(portions, i.Portion)
			continue
		}
		over = true
		parts := math.Ceil((i.Top - i.Bottom) / most)
		for n := 1.0; n <= parts; n++ {
			layer := i.Portion
			layer.Name = fmt.Sprintf("%s, %.0f of %.0f", i.Name, n, parts)
			if n < parts {
				layer.Borders = append(slices.Clone(i.Borders), solid.PlaneBorder(p.filling.Axis, i.Bottom+(i.Top-i.Bottom)*n/parts))
			}
			portions = append(portions, layer)
		}
	}
	return portions, over
}

// of is the first product of a kind, or the first packable where there is none.
func (p Products) of(kind Kind) Composite {
	for _, k := range []Kind{kind, Packable} {
		if n := slices.IndexFunc(p.Composites, func(c Composite) bool { return c.Kind == k }); n >= 0 {
			return p.Composites[n]
		}
	}
	return p.Composites[0]
}
