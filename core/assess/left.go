package assess

import (
	"math"

	"obturon/core/school"
)

// DentinLeft is the least dentin over the pulp (mm) that any of some checks has measured, and
// how much the school asks for there; 0 where none has, or asks for none.
func DentinLeft(checks []Check) (left, asked float64) {
	for _, c := range checks {
		if c.ID == school.ResistPulpDistance && c.Measured() && (left == 0 || c.Value < left) {
			left = c.Value
			if low, _ := c.Target.Ends(); low != nil {
				asked = *low
			}
		}
	}
	return left, asked
}

// LesionLeft is the caries (mm³) that some checks have found left.
func LesionLeft(checks []Check) float64 {
	sum := 0.0
	for _, c := range checks {
		if c.ID == school.LesionJunction {
			sum += math.Max(c.Value, 0)
		}
	}
	return sum
}

// Refused stands for the verdict of a case that no plan is made of.
const Refused = "refused"

// WorstFirst are what a case may come to, those that need a second look first.
var WorstFirst = []string{string(Missed), Refused, string(Near), string(Met)}
