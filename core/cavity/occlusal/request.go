package occlusal

import (
	"obturon/core/cavity"
	"obturon/core/instrument"
	"obturon/core/lesion"
	"obturon/core/notation"
)

// request is a cavity's request with its lesions told apart.
type request struct {
	cavity.Request
	fissures []*lesion.Occlusal // of pits and fissures
	proximal []*lesion.Proximal
	cover    covers // of the proposal
}

func newRequest(r cavity.Request) request {
	own := request{Request: r, cover: covers{}}
	for _, l := range r.Lesions {
		switch l := l.(type) {
		case *lesion.Occlusal:
			own.fissures = append(own.fissures, l)
		case *lesion.Proximal:
			own.proximal = append(own.proximal, l)
		}
	}
	return own
}

// burRadius (mm) is that of the pear that cuts outlines: nothing is cut narrower.
var burRadius = instrument.MustFind(instrument.Pear).Head.Radius()

const (
	extensionRadius = 0.58 // mm, the rounded end of a groove extension
	pitCover        = 0.5  // mm of outline past the centre of a pit
	courseSmoothing = 0.45 // mm
)

// LeastBridge (mm) is the least tooth between two cavities that stands: under it
// they are joined (operative dentistry texts: half a millimetre of sound enamel
// between two preparations is undermined by both).
const LeastBridge = 0.5

// slots reports that boxes are cut without an occlusal step.
func (r request) slots() bool {
	return r.Layout == cavity.SlotOnly || (r.Layout == cavity.AnyLayout && r.LesionLed())
}

// proximalOn lists the lesions of a side.
func (r request) proximalOn(side notation.Side) []*lesion.Proximal {
	var on []*lesion.Proximal
	for _, l := range r.proximal {
		if (l.Finding.Site == lesion.Mesial) == (side == notation.Mesial) {
			on = append(on, l)
		}
	}
	return on
}

// allLesions lists the lesions of pits and fissures, then the proximal ones, then
// the cusps that have broken off.
func (r request) allLesions() []lesion.Lesion {
	var all []lesion.Lesion
	for _, l := range r.fissures {
		all = append(all, l)
	}
	for _, l := range r.proximal {
		all = append(all, l)
	}
	for _, cusp := range r.Model.CuspTips {
		if r.Lost[cusp.Name] > 0 {
			all = append(all, newLostCusp(r, cusp))
		}
	}
	return all
}
