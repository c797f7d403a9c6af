package assess

import (
	"testing"

	"obturon/core/school"
)

func TestWhatIsLeftOfDentinAndCaries(t *testing.T) {
	over := func(mm, asked float64, verdict Verdict) Check {
		return Check{ID: school.ResistPulpDistance, Value: mm, Verdict: verdict, Target: school.AtLeast(asked)}
	}
	caries := func(mm3 float64) Check { return Check{ID: school.LesionJunction, Value: mm3, Verdict: Missed} }
	for name, c := range map[string]struct {
		checks              []Check
		left, asked, caries float64
	}{
		"nothing measured":          {nil, 0, 0, 0},
		"the least of two":          {[]Check{over(1.4, 1, Met), over(0.7, 0.5, Met)}, 0.7, 0.5, 0},
		"not measurable":            {[]Check{over(0.2, 1, NotMeasurable), over(1.4, 1, Met)}, 1.4, 1, 0},
		"caries of two cavities":    {[]Check{caries(0.3), caries(0.2)}, 0, 0, 0.5},
		"less than nothing is left": {[]Check{caries(-0.1)}, 0, 0, 0},
	} {
		left, asked := DentinLeft(c.checks)
		if left != c.left || asked != c.asked || LesionLeft(c.checks) != c.caries {
			t.Errorf("%s: %v of %v, %v of caries", name, left, asked, LesionLeft(c.checks))
		}
	}
}
