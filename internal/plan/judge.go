package plan

import (
	"context"

	"obturon/core/advice"
	"obturon/core/assess"
	"obturon/core/cavity"
	"obturon/core/intake"
	"obturon/core/school"
)

// Rejudgement is what two schools say to the same design.
type Rejudgement struct {
	Before, After string // worst verdicts, or "refused"
	Changes       []VerdictChange
}

// VerdictChange is a check whose verdict differs.
type VerdictChange struct {
	Label         string
	Before, After assess.Verdict
}

// JudgeUnder judges a case's design, with the dimensions it has under its own
// school, by another school's criteria. Errors are those of Evaluate.
func (p *Planner) JudgeUnder(ctx context.Context, c *intake.Case, other *school.School, grid float64) (Rejudgement, error) {
	own, err := p.Judged(ctx, c, grid)
	if err != nil {
		return Rejudgement{}, err
	}
	under := *c
	under.Choice = advice.Decide(c).Choice
	under.Under(other)
	under.Overrides = map[string]float64{}
	for _, one := range own.Cut.Cavities { // as it is designed, not as the other would
		for _, d := range one.Dimensions {
			under.Overrides[d.ID] = d.Value
		}
		if layout := one.Layout(); layout != cavity.AnyLayout && c.Choice.Layout == cavity.AnyLayout {
			under.Choice.Layout = layout
		}
	}
	again, _, err := p.judged(ctx, &under, grid, atOnce) // every figure is set
	if err != nil {
		return Rejudgement{}, err
	}
	j := Rejudgement{Before: own.Worst(), After: again.Worst()}
	type key struct {
		id   school.CriterionID
		side string
	}
	before := map[key]assess.Verdict{}
	for _, k := range own.Checks {
		before[key{k.ID, k.Side}] = k.Verdict
	}
	for _, k := range again.Checks {
		if was, known := before[key{k.ID, k.Side}]; known && was != k.Verdict {
			j.Changes = append(j.Changes, VerdictChange{k.Label, was, k.Verdict})
		}
	}
	return j, nil
}

// Worst is the worst verdict of a plan, or "refused".
func (r *Result) Worst() string {
	if r.Refused() != "" {
		return assess.Refused
	}
	return string(assess.Worst(r.Checks))
}
