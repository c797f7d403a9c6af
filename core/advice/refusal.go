package advice

import (
	"fmt"
	"slices"
	"strings"

	"obturon/core/intake"
	"obturon/core/lesion"
	"obturon/core/school"
)

// notDry says what is left where the field cannot be kept dry.
const notDry = "The field cannot be kept dry: nothing is bonded or sealed now. Ways: interim glass ionomer, postponing until it can be isolated%s, or care elsewhere."

// refusal says why no plan is made, or "".
func refusal(c *intake.Case, d Decision) string {
	if c.Pulp == intake.Irreversible {
		return d.Because
	}
	if !d.Followed.Cuts() {
		return ""
	}
	switch {
	case d.Class == "" && len(c.Staying()) > 0:
		return "Nothing is replaced. " + d.Because
	case d.Class == "":
		return "Nothing here is cut by itself. " + d.Because
	case d.Class == lesion.Rebuild &&
		!slices.ContainsFunc(c.ToCut(), func(f lesion.Finding) bool { return lesion.OpensOcclusally(f, c.Tooth) }):
		return "A cusp alone, lost or undermined, says nothing of what lies beside it: enter the caries or the old filling that weakened it, and its rebuild is planned in the cavity that this opens."
	case d.Class == lesion.ClassIV && d.Choice.Material == school.Amalgam:
		return "Amalgam does not rebuild an incisal angle: it would show and not hold. Choose composite."
	case c.Patient.Isolation == intake.None && d.Choice.Material.Bonds():
		other := ""
		if !c.Tooth.Anterior() && amalgamBar(c) == "" {
			other = ", amalgam"
		}
		return fmt.Sprintf(notDry, other)
	}
	return ""
}

// notDrilled says what is done instead of a cut; "" where the plan goes on.
func notDrilled(d Decision) string {
	if d.Followed.Cuts() {
		return ""
	}
	if d.Followed != d.Treatment {
		return fmt.Sprintf("Chosen: %s. %s", strings.ToLower(d.Followed.Label()), whatIsDone(d))
	}
	again := ""
	if slices.ContainsFunc(d.Ways, func(w Way) bool { return w.Treatment.Cuts() }) {
		again = " To plan a cavity all the same, choose that way and keep your reason."
	}
	return fmt.Sprintf("Not drilled. Advised: %s. %s%s", strings.ToLower(d.Treatment.Label()), d.Because, again)
}

// whatIsDone is what the followed way does.
func whatIsDone(d Decision) string {
	for _, w := range d.Ways {
		if w.Treatment == d.Followed {
			return w.Does
		}
	}
	return "This way is not open for these findings: " + d.Because
}
