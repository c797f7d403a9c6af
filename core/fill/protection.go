package fill

import (
	"fmt"
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/cavity"
	"obturon/core/instrument"
	"obturon/core/lesion"
	"obturon/core/measure"
	"obturon/core/procedure"
	"obturon/core/school"
	"obturon/core/solid"
)

// Cement is a practice's product that protects the pulp under a filling.
type Cement struct {
	Name string
	Kind Kind
	// SetSeconds is how long it takes to set, by light or by itself.
	SetSeconds float64
}

// Layer protects the pulp under a filling: the deepest part of the cavity, filled up to a surface
// that keeps its distance from the pulp.
type Layer struct {
	Product Cement
	Thick   float64 // mm over the deepest place
	Why     string
	Mesh    *solid.Mesh
	Volume  float64 // mm³
	Area    float64 // mm² of floor that it covers
	tool    solid.Tool
}

// Figures of pulp protection, mm (operative dentistry and consensus on deep caries).
const (
	insulates  = 1.5 // of dentin do without a lining under amalgam
	capsUnder  = 0.5 // of dentin over the pulp are capped
	capsSoft   = 1.0 // of sound dentin under soft dentin that stays
	capThick   = 0.5
	lineThick  = 0.5
	leastLaid  = 0.3 // thinner is not laid
	offMargin  = 0.5 // of dentin at the junction that it stays off: the seal is the filling's
	amalgamTop = 1.5 // of amalgam stay over it, where something bites on it
	bondedTop  = 1.0 // of composite
)

// Protect lists what is laid over the pulp of a cavity before it is filled, in order; none where
// dentin enough is left, or where there is no room.
func Protect(s *measure.Subject, products Products) []Layer {
	deepest, ok := s.PulpDistance()
	if !ok {
		return nil
	}
	var all []Layer
	soft := s.Leaves() && soundOver(s) < capsSoft
	room := roomOver(s, deepest.Where.At)
	level := deepest.Value
	lay := func(product Cement, thick float64, why string) {
		if thick = math.Min(thick, room); thick < leastLaid {
			return
		}
		if l, ok := layer(s, product, level, thick, why); ok {
			all, level, room = append(all, l), level+thick, room-thick
		}
	}
	switch {
	case soft || deepest.Value < capsUnder:
		why := fmt.Sprintf("%.1f mm of dentin is left there.", deepest.Value)
		if soft {
			why = "Soft dentin stays there."
		}
		if room < 2*leastLaid { // glass ionomer alone, thin as it is
			lay(products.cement(Lining), lineThick, why)
			break
		}
		lay(products.cement(Capping), math.Min(capThick, room-leastLaid), why)
		lay(products.cement(Lining), lineThick, "It covers the capping, so that neither acid nor packing moves it.")
	case s.Cavity.Material == school.Amalgam && deepest.Value < insulates:
		lay(products.cement(Lining), lineThick, fmt.Sprintf("%.1f mm of dentin is left there, and amalgam conducts heat and cold.", deepest.Value))
	}
	return all
}

// soundOver is the dentin (mm) between a cavity's caries and the pulp.
func soundOver(s *measure.Subject) float64 {
	least := math.Inf(1)
	for _, l := range s.Cavity.Lesions {
		if lesion.ContentOf(l) == lesion.Caries {
			least = math.Min(least, lesion.ToPulp(s.Model, l))
		}
	}
	return least
}

// Distance is the signed distance (mm) to it.
func (l Layer) Distance(p r3.Vec) float64 { return l.tool.Distance(p) }

// roomOver is how thick (mm) protection at a place may be, for enough of the filling to stay over it.
func roomOver(s *measure.Subject, at r3.Vec) float64 {
	least := bondedTop
	if s.Cavity.Material == school.Amalgam {
		least = amalgamTop
	}
	const step, deepest = 0.1, 12.0 // mm
	over := s.Model.OuterSurface().Depth(at)
	if up, hit := s.Model.Surface.RootAlong(at, axisOf(s.Cavity), step, deepest, step); hit && up < over {
		over = up
	}
	if len(s.Cavity.Boxes) > 0 && over < least+leastLaid { // beside a box's axial wall nothing bites on it
		least = bondedTop
	}
	return over - least
}

// layer fills a cavity from one distance to the pulp up to another, off its margins; ok is false
// where that comes to nothing.
func layer(s *measure.Subject, product Cement, from, thick float64, why string) (l Layer, ok bool) {
	tool := &overPulp{Tool: s.Cavity.Tool(), s: s, from: from, to: from + thick}
	mesh, _, _ := New(sampledAnew(s, fineOver), tool, axisOf(s.Cavity)).solid.Mesh().WithoutCrumbs(crumb, film)
	l = Layer{Product: product, Thick: thick, Why: why, Mesh: mesh, Volume: mesh.Volume(), tool: tool}
	for n, label := range mesh.Labels {
		if label != cavity.Protection && label != 0 {
			l.Area += mesh.Area(n)
		}
	}
	return l, l.Volume > leastLayer
}

const (
	unders     = 0.02 // mm that a layer reaches under its beginning, so that none is left between
	fineOver   = 0.1  // mm between the samples of a layer
	leastLayer = 0.1  // mm³ that are laid
)

// overPulp is what of a cavity lies between two distances from the pulp, off the junction.
type overPulp struct {
	solid.Tool
	s        *measure.Subject
	from, to float64 // mm
}

// Distance is about the signed distance (mm) to it.
func (o *overPulp) Distance(p r3.Vec) float64 {
	d := o.Tool.Distance(p)
	if d > fineOver {
		return d
	}
	return max(d, o.top(p))
}

// top is the distance to its upper surface, and to its lower one where another layer is under it.
func (o *overPulp) top(p r3.Vec) float64 {
	toPulp := o.s.Model.Pulp().Distance(p)
	return max(toPulp-o.to, o.from-toPulp-unders, offMargin-o.s.Model.IntoDentin(p))
}

// Feature is the cavity's own, or its free surface.
func (o *overPulp) Feature(p r3.Vec) uint16 {
	if o.top(p) > o.Tool.Distance(p) {
		return cavity.Protection
	}
	return o.Tool.Feature(p)
}

// without is a tool with layers left in place.
type without struct {
	solid.Tool
	layers []Layer
}

// filledOver is what is left to fill of a cavity over its protection.
func filledOver(tool solid.Tool, layers []Layer) solid.Tool {
	if len(layers) == 0 {
		return tool
	}
	return &without{tool, layers}
}

// Distance is the signed distance (mm) to what is left to fill.
func (w *without) Distance(p r3.Vec) float64 {
	d := w.Tool.Distance(p)
	for _, l := range w.layers {
		d = max(d, -l.tool.Distance(p))
	}
	return d
}

// Feature is the cavity's own, or the protection that it lies on.
func (w *without) Feature(p r3.Vec) uint16 {
	for _, l := range w.layers {
		if -l.tool.Distance(p) > w.Tool.Distance(p) {
			return cavity.Protection
		}
	}
	return w.Tool.Feature(p)
}

// steps lay a layer, and wait until it has set.
func (l Layer) steps() []procedure.Step {
	const waits = 2 // times as long as it takes to set may be waited
	lay := timed(
		procedure.ProtectPulp,
		fmt.Sprintf("%s on the deepest part only, %.1f mm thick, %.1f mm² of floor. %s Nothing of it on the margins.", l.Product.Name, l.Thick, l.Area, l.Why),
		l.Product.SetSeconds, l.Product.Kind.cement(), instrument.Applicator,
	)
	lay.Seconds += secondsLayer
	lay.Clock.Most = waits * lay.Clock.Least
	lay.Caution = "Let it set before anything is laid or packed on it."
	return []procedure.Step{lay}
}

const secondsLayer = 40 // to mix and lay it

// cement is what of the kit a kind of protection is.
func (k Kind) cement() instrument.ID {
	if k == Capping {
		return instrument.CappingCement
	}
	return instrument.LiningCement
}

// cement is the first product of a kind.
func (p Products) cement(kind Kind) Cement {
	for _, c := range p.Cements {
		if c.Kind == kind {
			return c
		}
	}
	return Cement{Name: UsualProduct(kind).Name, Kind: kind}
}
