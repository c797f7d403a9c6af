package fill

import (
	"fmt"

	"obturon/core/school"
)

// counted is a number of things.
func counted(n int, of string) string {
	if n != 1 {
		of += "s"
	}
	return fmt.Sprintf("%d %s", n, of)
}

// Assumptions say what figures of a filling rest on, and what they are not.
func Assumptions(material school.Material) []string {
	if material == school.Amalgam {
		return []string{
			"Mass and loads are reckoned from the volume of the cut cavity, a fifth more than it holds, and from the carrier and the alloy as their makers describe them.",
			"Times run from the end of trituration and change with the alloy and the warmth of the room: the product's own instructions come first.",
			"Mercury: capsules only, no bare hands, suction on while carving, all waste amalgam into its closed container, by local rules.",
		}
	}
	return []string{
		"Thickness is measured on the increments along the light. The C-factor compares bonded with free faces: an index, not a stress.",
		"Exposure is reckoned from the lamp's output at its tip, its distance to the increment's deepest place and the tilt of its floor. Lamps age and are held askew: measure yours, keep to the product's own dose and rather cure longer.",
		"Nobody looks into the light without its filter; keep it off gums and lips, and let the tooth cool between exposures near the pulp.",
	}
}
