package cavity

import (
	"slices"

	"obturon/core/anatomy"
	"obturon/core/lesion"
	"obturon/core/notation"
	"obturon/core/school"
	"obturon/core/solid"
)

// Request is what a cavity is proposed from. Forms read it and never change it.
type Request struct {
	Model  *anatomy.Model
	School *school.School
	Choice
	// Site of a cavity on a smooth surface: mesial or distal (Class III), an
	// incisal angle (IV), buccal or lingual (V), or a pit of such a surface (I);
	// "" of the one that opens on the occlusal surface.
	Site    lesion.Site
	Lesions []lesion.Lesion // of this cavity
	// Adjacent is the surface of the adjacent tooth; absent where there is none.
	Adjacent map[notation.Side]*anatomy.AdjacentSurface
	// Undermined are the cusps found so, by the model's names, with how much (mm) is gone
	// of their base from within; Lost those that
	// have broken off, with how much of their height (mm).
	Undermined map[string]float64
	Lost       map[string]float64
	Contacts   []solid.Point2 // occlusal, on the table: mm mesial and facial
	Gingiva    anatomy.Gingiva
	// Grinds tells of a patient who grinds or clenches; KeepsCusps that weak cusps are kept,
	// against the advice.
	Grinds, KeepsCusps bool
	// Translucent tells that its enamel lets much light through.
	Translucent bool
}

// Choice is what the dentist decided of a cavity's form.
type Choice struct {
	Material school.Material
	Layout   Layout
	Style    Style
	Lock     bool // a lingual lock at a lost incisal angle
	Upper    UpperEdge
	CariesRemoval
	HidesMargin bool // of a Class V, just under the free gingiva
}

// UpperEdge is where the edge of a Class V towards the biting side lies.
type UpperEdge string

// The upper edges: just past the lesion, which spares tooth, or along the height of
// contour, where the surface cleans itself (extension for prevention).
const (
	PastLesion      UpperEdge = "lesion" // the zero UpperEdge too
	HeightOfContour UpperEdge = "contour"
)

// UpperEdges lists what may be asked for.
var UpperEdges = []UpperEdge{PastLesion, HeightOfContour}

// Layout of a Class II.
type Layout string

// The layouts. The zero Layout leaves the choice to the school: a lesion-led one
// opens the box alone.
const (
	AnyLayout    Layout = ""
	Conventional Layout = "conventional" // box and occlusal step
	SlotOnly     Layout = "slot"
)

// Layouts lists what may be asked for.
var Layouts = []Layout{Conventional, SlotOnly}

// Style is how the enamel margin of a bonded filling is finished.
type Style string

// The styles, as operative dentistry texts on bonded anterior fillings tell them
// apart. Short is a narrow bevel, on the facial side of a lost incisal angle a
// slant; Long thins out to nothing; Translucency follows how much light the
// enamel lets through; Scalloped breaks the line of light.
const (
	AnyStyle     Style = ""
	Short        Style = "short"
	Long         Style = "long"
	Translucency Style = "translucency"
	Scalloped    Style = "scalloped"
)

// Styles lists what may be asked for.
var Styles = []Style{Short, Long, Translucency, Scalloped}

// Name is what a style is called.
func (s Style) Name() string {
	return map[Style]string{Short: "Short", Long: "Long", Translucency: "By light", Scalloped: "Scalloped"}[s]
}

// StylesOf lists the styles that cavities of a class offer.
func StylesOf(c lesion.Class) []Style {
	switch c {
	case lesion.ClassIII:
		return []Style{Short, Long}
	case lesion.ClassIV:
		return slices.Clone(Styles)
	default:
		return nil
	}
}

// Bonded reports a filling that bonds to its margins.
func (c Choice) Bonded() bool { return c.Material.Bonds() }

// Criterion is what the school asks for under an id; the zero one where it does
// not ask. Fractions have become millimetres of this tooth, as far as they are of
// the whole tooth.
func (r Request) Criterion(id school.CriterionID) school.Criterion {
	c, ok := r.School.For(id, r.Model.Tooth, r.Material)
	if !ok || !c.Required() {
		return school.Criterion{}
	}
	return r.there(c).On(r.Model.Intercuspal)
}

// there is a criterion of the school as it is asked where the cavity lies; what a house has changed
// is asked as the house has it.
func (r Request) there(c school.Criterion) school.Criterion {
	entry, _ := school.Find(c.ID)
	switch {
	case entry.Root == nil && entry.Enamel == nil, !c.Required(), !school.Shipped(c):
	case entry.Root != nil && r.OnRoot():
		return entry.As(*entry.Root)
	case entry.Enamel != nil && r.Bonded() && r.LesionLed() && r.EnamelOnly():
		return entry.As(*entry.Enamel)
	}
	return c
}

// EnamelOnly reports a cavity of fissures whose caries ends in enamel: where the lesion leads they
// are opened no deeper, and what opens them weakens no cusp that was thin before.
func (r Request) EnamelOnly() bool {
	return len(r.Lesions) > 0 && !slices.ContainsFunc(r.Lesions, func(l lesion.Lesion) bool {
		o, ok := l.(*lesion.Occlusal)
		return !ok || o.IntoDentin() > 0 || o.Finding.Kind == lesion.OldRestoration
	})
}

// OnRoot reports a cervical lesion whose middle lies under the cervical line.
func (r Request) OnRoot() bool {
	return slices.ContainsFunc(r.Lesions, func(l lesion.Lesion) bool {
		s, ok := l.(*lesion.SmoothSurface)
		return ok && s.Finding.OverCervicalLine != nil && *s.Finding.OverCervicalLine < 0
	})
}

// Aim is what a proposal tries for; 0 where the school does not ask.
func (r Request) Aim(id school.CriterionID) float64 { return r.Criterion(id).Aim }

// Requires reports a criterion that the school asks for.
func (r Request) Requires(id school.CriterionID) bool { return r.Criterion(id).ID != "" }

// LesionLed reports a school that opens diseased fissures only.
func (r Request) LesionLed() bool { return !r.Requires(school.OutlineGrooveExtension) }

// LeavesToSeal reports a fissure or pit within enamel that the school seals
// instead of opening it.
func (r Request) LeavesToSeal(f lesion.Finding) bool {
	return r.LesionLed() && !f.Depth.InDentin() && f.Kind.OfFissures()
}
