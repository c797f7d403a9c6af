package pipeline

import (
	"obturon/core/assess"
	"obturon/core/cavity"
	"obturon/core/intake"
	"obturon/core/school"
)

// Under is a case as it is designed, every figure set, to be judged by another school's criteria.
func (m *Measured) Under(other *school.School) *intake.Case {
	own := By(m.Case, m.Decision.Choice, other)
	own.Overrides = map[string]float64{}
	for _, one := range m.Cut.Cavities { // as it is designed, not as the other would
		for _, d := range one.Dimensions {
			own.Overrides[d.ID] = d.Value
		}
		if layout := one.Layout(); layout != cavity.AnyLayout && m.Case.Choice.Layout == cavity.AnyLayout {
			own.Choice.Layout = layout
		}
	}
	return own
}

// Differ lists the checks of a case whose verdict is another in a second judgement.
func Differ(before, after []assess.Check) (changes []VerdictChange) {
	type key struct {
		id   school.CriterionID
		side string
	}
	was := map[key]assess.Verdict{}
	for _, k := range before {
		was[key{k.ID, k.Side}] = k.Verdict
	}
	for _, k := range after {
		if v, known := was[key{k.ID, k.Side}]; known && v != k.Verdict {
			changes = append(changes, VerdictChange{k.Label, v, k.Verdict})
		}
	}
	return changes
}
