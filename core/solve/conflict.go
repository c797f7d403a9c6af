package solve

import (
	"cmp"
	"context"
	"fmt"
	"slices"

	"obturon/core/assess"
	"obturon/core/school"
)

// Conflict is a check that stays off its target, and what would be lost for it.
type Conflict struct {
	ID   school.CriterionID
	Side string
	// Against is the criterion that is worse off where this one is met; "" where no
	// figure of the plan was found to meet it.
	Against school.CriterionID
	// Says tells both, by how much, and which of them comes first, or that no figure helps;
	// "" where too little was tried to say so.
	Says string
}

const (
	forced        = 20_000 // times its weight: a check that is to be met at any price
	cutsForACheck = 2
)

// conflicts forces each check that stays off its target, the heaviest first, and names what
// got worse.
func (s *solver) conflicts(ctx context.Context) ([]Conflict, error) {
	if s.model == nil || s.model.base != s.best {
		return nil, nil
	}
	var found []Conflict
	unmet := slices.DeleteFunc(slices.Clone(s.best.checks), func(c assess.Check) bool {
		return !c.Measured() || c.Verdict == assess.Met || c.Cause != nil
	})
	slices.SortStableFunc(unmet, func(a, b assess.Check) int { return cmp.Compare(cost(b), cost(a)) })
	for _, c := range unmet {
		one := Conflict{ID: c.ID, Side: c.Side}
		tried := false
		for range cutsForACheck {
			order := s.named(c)
			at, _ := s.model.best(s.figures, order, widestReach, s.model.pricing(func(o assess.Check) float64 {
				if same(o, c) {
					return forced
				}
				return 1
			}))
			if at.equals(s.best.at) { // no column leads there
				tried = tried || len(order) > 0 && len(order) == len(c.Moves)
				break
			}
			if s.budget <= 0 {
				break
			}
			t, err := s.at(ctx, at)
			if err != nil {
				return nil, err
			}
			if t.checks == nil {
				break
			}
			tried = true
			if worst := s.worseOff(t, c); worst != nil {
				one.Against, one.Says = worst.ID, s.says(c, t, *worst)
				break
			}
			s.model.correct(t)
		}
		if one.Says == "" && tried {
			one.Says = fmt.Sprintf("%s %s %s is not to be had here: %.2f is the nearest that any figure of the plan was found to bring.", c.Label, c.Target, school.UnitName(c.Unit), c.Value)
		}
		found = append(found, one)
	}
	return found, nil
}

// named lists the figures with a column that a check names.
func (s *solver) named(c assess.Check) []int {
	var order []int
	for n, f := range s.figures {
		for _, m := range c.Moves {
			if m.Dimension == f.id && s.model.knows(n) {
				order = append(order, n)
			}
		}
	}
	return order
}

// worseOff is the check of a trial that lost most against the best one, where the forced
// check has come nearer to its target; nil where none has.
func (s *solver) worseOff(t *trial, c assess.Check) *assess.Check {
	now := t.of(c)
	if now == nil || !now.Measured() || cost(*now) >= cost(c) {
		return nil
	}
	var worst *assess.Check
	most := 0.0
	for n := range t.checks {
		o := &t.checks[n]
		was := s.best.of(*o)
		if same(*o, c) || !o.Measured() || was == nil || !was.Measured() {
			continue
		}
		if more := cost(*o) - cost(*was); more > most {
			worst, most = o, more
		}
	}
	return worst
}

func (s *solver) says(c assess.Check, t *trial, other assess.Check) string {
	now := t.of(c)
	return fmt.Sprintf("%s %s %s and %s %s %s cannot both hold here: with %.2f of the first the second comes to %.2f, %.2f off. The second comes first in this plan.",
		c.Label, c.Target, school.UnitName(c.Unit), other.Named(), other.Target, school.UnitName(other.Unit), now.Value, other.Value, other.Target.Off(other.Value))
}

// Explain lays the checks that stay off their targets, of a cavity cut as it was solved, to
// what would be lost for them.
func (s Solution) Explain(checks []assess.Check) {
	for n := range checks {
		c := &checks[n]
		if !c.Measured() || c.Verdict == assess.Met || c.Cause != nil || c.Against != "" {
			continue
		}
		for _, known := range s.Conflicts {
			if known.ID == c.ID && known.Side == c.Side && known.Says != "" {
				c.Against, c.Fix = known.Against, known.Says
			}
		}
	}
}
