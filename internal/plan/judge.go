package plan

import (
	"context"

	"obturon/core/school"
)

// Rejudgement is what two schools say to the same design.
type Rejudgement struct {
	Before, After string // worst verdicts, or "refused"
	Changes       []VerdictChange
}

// VerdictChange is a check whose verdict differs.
type VerdictChange struct{ Label, Before, After string }

// JudgeUnder judges a case's design, with the dimensions it has under its own
// school, by another school's criteria.
func (p *Planner) JudgeUnder(ctx context.Context, c *Case, other *school.School, grid float64) (Rejudgement, error) {
	own, err := p.Evaluate(ctx, c, grid)
	if err != nil {
		return Rejudgement{}, err
	}
	choice, _ := choose(c)
	under := *c
	choice.School = other.ID
	under.Choice, under.house = &choice, other
	under.Overrides = map[string]float64{}
	for _, d := range own.Dimensions { // as it is designed, not as the other would
		under.Overrides[d.ID] = d.Value
	}
	if own.Document.Class == "II" && choice.Form == "" {
		choice.Form = "slot"
		if _, opened := own.Document.Dimensions["pulpal_depth"]; opened {
			choice.Form = "conventional"
		}
	}
	again, err := p.Evaluate(ctx, &under, grid)
	if err != nil {
		return Rejudgement{}, err
	}
	j := Rejudgement{Before: own.Document.Worst(), After: again.Document.Worst()}
	before := map[string]Check{}
	for _, k := range own.Document.Checks {
		before[k.ID+" "+k.Side] = k
	}
	for _, k := range again.Document.Checks {
		if was, known := before[k.ID+" "+k.Side]; known && was.Verdict != k.Verdict {
			j.Changes = append(j.Changes, VerdictChange{k.Label, was.Verdict, k.Verdict})
		}
	}
	return j, nil
}

// Worst is the worst verdict of a plan, or "refused".
func (d Document) Worst() string {
	if d.Refused != "" {
		return "refused"
	}
	worst := "met"
	for _, k := range d.Checks {
		switch k.Verdict {
		case "missed":
			return "missed"
		case "near":
			worst = "near"
		}
	}
	return worst
}
