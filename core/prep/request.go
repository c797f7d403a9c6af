package prep

import (
	"errors"

	"obturon/core/anatomy"
	"obturon/core/lesion"
	"obturon/core/notation"
	"obturon/core/school"
	"obturon/core/solid"
)

// Request is what a preparation is proposed from.
type Request struct {
	Model    *anatomy.Model
	Lesions  []*lesion.Occlusal // of pits and fissures
	Proximal []*lesion.Proximal
	// Facing is the surface of the tooth beside; nil or absent where there is none.
	Facing   map[notation.Side]*anatomy.Facing
	School   *school.School
	Material string // amalgam or composite
	Form     Form
	// Undermined are the cusps found so, by the model's names.
	Undermined []string
	// Lost are the cusps that have broken off, with how much of their height (mm).
	Lost     map[string]float64
	Contacts []solid.Point2 // occlusal, on the table: mm mesial and facial
}

// Form of a Class II.
type Form string

// The forms. The zero Form leaves the choice to the school: a lesion-led one
// opens the box alone.
const (
	AnyForm      Form = ""
	Conventional Form = "conventional" // box and occlusal step
	SlotOnly     Form = "slot"
)

// Forms lists what may be asked for.
var Forms = []string{string(Conventional), string(SlotOnly)}

const (
	burRadius       = 0.4  // mm, the 0.8 pear: nothing is cut narrower
	extensionRadius = 0.58 // mm, the rounded end of a groove extension
	pitCover        = 0.5  // mm of outline past the centre of a pit
	lesionCover     = 0.10 // mm of outline past a lesion's spread at the junction
	courseSmoothing = 0.45 // mm
	pulpAllowance   = 0.03 // mm of dentin left over what is asked, for the cut's own error
)

// LeastBridge (mm) is the least tooth between two preparations that stands:
// under it they are joined.
const LeastBridge = 0.5

// ErrNothingToOpen means that no finding calls for a cut.
var ErrNothingToOpen = errors.New("no finding of this case is prepared on the occlusal or a proximal surface")

// aim is what a proposal tries for; 0 where the school does not ask.
func (r Request) aim(id string) float64 {
	c, ok := r.School.For(id, r.Model.Tooth, r.Material)
	if !ok || !c.Required() {
		return 0
	}
	if c.Basis == school.IntercuspalFraction {
		return c.Aim * r.Model.Intercuspal
	}
	return c.Aim
}

// CuspBase is the thickness (mm) that the school wants at the base of a cusp.
func (r Request) CuspBase() float64 { return r.aim("resist.cusp_thickness") }

func (r Request) requires(id string) bool {
	c, ok := r.School.For(id, r.Model.Tooth, r.Material)
	return ok && c.Required()
}

// lesionLed reports a school that opens diseased fissures only.
func (r Request) lesionLed() bool { return !r.requires("outline.groove_extension") }

// LeavesToSeal reports a fissure or pit within enamel that the school seals
// instead of opening it.
func (r Request) LeavesToSeal(f lesion.Finding) bool {
	return r.lesionLed() && !f.Depth.InDentin() && (f.Kind == lesion.FissureCaries || f.Kind == lesion.PitCaries)
}

// slots reports that boxes are cut without an occlusal step.
func (r Request) slots() bool {
	return r.Form == SlotOnly || (r.Form == AnyForm && r.lesionLed())
}

// proximalOn lists the lesions of a side.
func (r Request) proximalOn(side notation.Side) []*lesion.Proximal {
	var on []*lesion.Proximal
	for _, l := range r.Proximal {
		if (l.Finding.Site == lesion.Mesial) == (side == notation.Mesial) {
			on = append(on, l)
		}
	}
	return on
}

// AllLesions lists the lesions of pits and fissures, then the proximal ones, then
// the cusps that have broken off.
func (r Request) AllLesions() []lesion.Lesion {
	var all []lesion.Lesion
	for _, l := range r.Lesions {
		all = append(all, l)
	}
	for _, l := range r.Proximal {
		all = append(all, l)
	}
	for _, cusp := range r.Model.CuspTips {
		if r.Lost[cusp.Name] > 0 {
			all = append(all, newLostCusp(r, cusp))
		}
	}
	return all
}
