package plan

import (
	"context"

	"obturon/core/intake"
	"obturon/core/pipeline"
	"obturon/core/school"
)

// Rejudgement is what two schools say to the same design.
type Rejudgement struct {
	Before, After string // worst verdicts, or "refused"
	Changes       []pipeline.VerdictChange
}

// JudgeUnder judges a case's design, with the dimensions it has under its own
// school, by another school's criteria. Errors are those of Evaluate.
func (p *Planner) JudgeUnder(ctx context.Context, c *intake.Case, other *school.School, grid float64) (Rejudgement, error) {
	own, err := p.Judged(ctx, c, grid)
	if err != nil {
		return Rejudgement{}, err
	}
	under := pipeline.By(c, own.Decision.Choice, other)
	if own.Measured != nil {
		under = own.Under(other)
	}
	again, err := p.judge(ctx, under, grid, atOnce) // every figure is set
	if err != nil {
		return Rejudgement{}, err
	}
	j := Rejudgement{Before: own.Worst(), After: again.Worst()}
	if own.Measured != nil && again.Measured != nil {
		j.Changes = pipeline.Differ(own.Checks, again.Checks)
	}
	return j, nil
}
