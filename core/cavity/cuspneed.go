package cavity

import (
	"strings"

	"obturon/core/anatomy"
	"obturon/core/notation"
)

// more (mm) tooth is wanted at the base of a cusp for each reason that loads or weakens it
// (operative dentistry convention, in halves of a millimetre).
const more = 0.5

// CuspNeed is how much more (mm) than a school asks of any cusp is wanted at the base of this
// one, beside an isthmus (mm) and so many boxes, and why; a primary molar's small cusps are asked
// for no more.
func (r Request) CuspNeed(cusp anatomy.Named, isthmus float64, boxes int) (mm float64, why string) {
	const half = 0.5 // of the distance between the cusps
	if r.Model.Tooth.Primary() {
		return 0, ""
	}
	var reasons []string
	for _, reason := range []struct {
		holds bool
		says  string
	}{
		{r.Functional(cusp), "it is a functional cusp"},
		{r.Grinds, "the patient grinds or clenches"},
		{isthmus > half*r.Model.Intercuspal, "the isthmus is wider than half the distance between the cusps"},
		{boxes == len(notation.Sides), "both marginal ridges are gone"},
	} {
		if reason.holds {
			mm += more
			reasons = append(reasons, reason.says)
		}
	}
	return mm, strings.Join(reasons, ", ")
}

// Functional reports a cusp that bites into the opposing fossae: lingual above, buccal below.
func (r Request) Functional(cusp anatomy.Named) bool {
	return (r.Model.Table.To(cusp.At).Y < 0) == r.Model.Tooth.Upper()
}
