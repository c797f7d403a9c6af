package sitting

import (
	"slices"

	"obturon/core/advice"
	"obturon/core/fill"
	"obturon/core/intake"
	"obturon/core/lesion"
	"obturon/core/notation"
)

// Facing are the cavities of a patient's other cases that open towards a tooth: filled in one go
// with its own, each contact is built against the other's band.
func Facing(c *intake.Case, others []*intake.Case) []fill.Facing {
	var all []fill.Facing
	for _, side := range []notation.Side{notation.Mesial, notation.Distal} {
		beside, stands := c.Tooth.Neighbour(side, c.Patient.AgeYears)
		if !stands || slices.Contains(c.Missing, side) {
			continue
		}
		for _, other := range others {
			if other.Tooth == beside && opensTowards(other, c.Tooth) {
				all = append(all, fill.Facing{Tooth: beside, Side: side})
				break
			}
		}
	}
	return all
}

// opensTowards reports a case that is cut on the side of another tooth.
func opensTowards(c *intake.Case, t notation.Tooth) bool {
	decided := advice.Decide(c)
	if decided.Refused != "" ||
		decided.Class != lesion.ClassII && decided.Class != lesion.Rebuild && decided.Class != lesion.ClassIII &&
			decided.Class != lesion.ClassIV {
		return false
	}
	for _, surface := range decided.Surfaces {
		for _, side := range []notation.Side{notation.Mesial, notation.Distal} {
			if beside, ok := c.Tooth.Neighbour(side, c.Patient.AgeYears); ok && beside == t && surface == side.String() {
				return true
			}
		}
	}
	return false
}
