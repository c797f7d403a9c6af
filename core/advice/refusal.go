package advice

import (
	"fmt"
	"slices"

	"obturon/core/intake"
	"obturon/core/lesion"
	"obturon/core/school"
)

// refusal says why no plan is made, or "".
func refusal(c *intake.Case, d Decision) string {
	if lesion.HornInTheWay(c.ToCut(), c.Tooth) {
		if d.Treatment != intake.Restore {
			return fmt.Sprintf(
				"Not drilled by default: %s is advised. %s A mesial box is not made in a primary first molar in any case: its mesial horn reaches where the axial wall would stand.",
				d.Treatment,
				d.Because,
			)
		}
		return "A mesial box is not made in a primary first molar: its mesial horn reaches where the axial wall would stand. Consider a full-coverage crown, or review with fluoride where the lesion is small."
	}
	if d.Class == "" && len(c.Staying()) > 0 {
		return "Nothing is replaced: the margin is sealed. " + d.Because
	}
	if d.Class == "" {
		return "A crack alone is recorded, not cut: cracks are never chased. Tell the patient that a full crown may follow."
	}
	if d.Class == lesion.Rebuild &&
		!slices.ContainsFunc(c.ToCut(), func(f lesion.Finding) bool { return lesion.OpensOcclusally(f, c.Tooth) }) {
		return "A cusp alone, lost or undermined, says nothing of what lies beside it: enter the caries or the old filling that weakened it, and its rebuild is planned in the cavity that this opens."
	}
	if d.Class == lesion.ClassIV && d.Choice.Material == school.Amalgam {
		return "Amalgam does not rebuild an incisal angle: it would show and not hold. Choose composite."
	}
	return ""
}
