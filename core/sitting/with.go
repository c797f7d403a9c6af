package sitting

import (
	"obturon/core/advice"
	"obturon/core/intake"
	"obturon/core/lesion"
)

// Fewest is how many teeth make a sitting of several.
const Fewest = 2

// MayJoin reports a case that may be treated in one sitting with others.
func MayJoin(decided advice.Decision) bool { return decided.Class == lesion.ClassV }

// With are those of a patient's cases that are treated in one sitting with the first, which
// stays first: cavities at the cervical line of its quadrant, in its material. They have no
// contacts to lose by it. None where the first is none, or alone.
func With(cases []*intake.Case) []*intake.Case {
	var with []*intake.Case
	var first advice.Decision
	for n, c := range cases {
		decided := advice.Decide(c)
		if n == 0 {
			first = decided
		}
		if MayJoin(decided) && decided.Choice.Material == first.Choice.Material && c.Tooth.SameQuadrant(cases[0].Tooth) {
			with = append(with, c)
		} else if n == 0 {
			return nil
		}
	}
	if len(with) < Fewest {
		return nil
	}
	return with
}
