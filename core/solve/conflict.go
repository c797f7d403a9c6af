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
	forcedReach   = 2 * widestReach
	cutsForACheck = 2
)

// byHand reports a check that is mended at the tooth, whatever the figures: a tight corner is
// rounded.
func byHand(id school.CriterionID) bool { return id == school.OutlineSmoothness }

// conflicts names, for each check that stays off its target, the heaviest first, what gets
// worse where it is met.
func (s *solver) conflicts(ctx context.Context) ([]Conflict, error) {
	var found []Conflict
	unmet := slices.DeleteFunc(slices.Clone(s.best.checks), func(c assess.Check) bool {
		return !c.Measured() || c.Verdict == assess.Met || c.Cause != nil || byHand(c.ID)
	})
	slices.SortStableFunc(unmet, func(a, b assess.Check) int { return cmp.Compare(cost(b), cost(a)) })
	if err := s.learn(ctx, s.unknown(unmet)); err != nil {
		return nil, err
	}
	for _, c := range unmet {
		one, err := s.forcing(ctx, c)
		if err != nil {
			return nil, err
		}
		if one.Says == "" && len(s.named(c)) == len(c.Moves) {
			one.Says = fmt.Sprintf("%s %s %s cannot be reached here: %s.", c.Label, c.Target, school.UnitName(c.Unit), s.nearest(c))
		}
		found = append(found, one)
	}
	return found, nil
}

// unknown lists the figures without a column that checks name.
func (s *solver) unknown(checks []assess.Check) []int {
	var list []int
	for _, c := range checks {
		for n, f := range s.figures {
			named := slices.ContainsFunc(c.Moves, func(m assess.Move) bool { return m.Dimension == f.id })
			if named && !s.model.knows(n) && !slices.Contains(list, n) {
				list = append(list, n)
			}
		}
	}
	return list
}

// forcing meets a check at any price in the model, and cuts that; where there is no time
// to, what the model foretells counts.
func (s *solver) forcing(ctx context.Context, c assess.Check) (Conflict, error) {
	one := Conflict{ID: c.ID, Side: c.Side}
	for range cutsForACheck {
		at, _ := s.model.best(s.figures, s.named(c), forcedReach, s.model.pricing(func(o assess.Check) float64 {
			if same(o, c) {
				return forced
			}
			return 1
		}))
		if at.equals(s.best.at) { // no column leads there
			break
		}
		var t *trial
		if s.budget <= 0 {
			t = s.model.foretold(at)
		} else {
			var err error
			if t, err = s.at(ctx, at); err != nil {
				return one, err
			}
		}
		if t.checks == nil || t == s.best {
			break
		}
		if worst := s.worseOff(t, c); worst != nil {
			one.Against, one.Says = worst.ID, s.says(c, t, *worst)
			break
		}
		if s.budget <= 0 {
			break
		}
		s.model.correct(t)
	}
	return one, nil
}

// nearest says what holds a check where it is, if nothing gets worse for it: the figure that
// moves it best can be set no further, or none was found to help.
func (s *solver) nearest(c assess.Check) string {
	n := slices.IndexFunc(s.figures, func(f figure) bool { return f.id == c.Dimension() })
	if n < 0 {
		return fmt.Sprintf("it is %.2f, and no figure of the plan moves it: redraw there", c.Value)
	}
	up := (c.Moves[0].Slope > 0) == (c.Value < c.Target.Min)
	f, at := s.figures[n], s.best.at[n]
	switch {
	case up && at >= f.most:
		return fmt.Sprintf("%.2f, with %s at the most that can be cut", c.Value, f.name)
	case !up && at <= f.least && f.value(at) > 0:
		return fmt.Sprintf("%.2f, with %s at the least that can be cut", c.Value, f.name)
	}
	return fmt.Sprintf("%.2f is the nearest that any figure of the plan was found to bring", c.Value)
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

// noise is by how much, by unit, a reading changes from cut to cut of itself.
func noise(unit string) float64 {
	if unit == "deg" {
		return 0.3
	}
	return 0.015
}

// worseOff is the check of the best trial that lost most in another, where the forced check
// is met or at least half as near again; nil where none has.
func (s *solver) worseOff(t *trial, c assess.Check) *assess.Check {
	now := t.of(c)
	if now == nil || !now.Measured() || now.Verdict != assess.Met && now.Target.Off(now.Value) > c.Target.Off(c.Value)/2 {
		return nil
	}
	var worst *assess.Check
	most := 0.0
	for n := range s.best.checks {
		was := &s.best.checks[n]
		if same(*was, c) || !was.Measured() {
			continue
		}
		more, o := lost(*was), t.of(*was)
		if o != nil && o.Measured() {
			if o.Target.Off(o.Value)-was.Target.Off(was.Value) < noise(o.Unit) {
				continue
			}
			more = cost(*o)
		}
		if more -= cost(*was); more > most {
			worst, most = was, more
		}
	}
	return worst
}

// says tells a conflict of two checks of the best trial by what another trial came to.
func (s *solver) says(c assess.Check, t *trial, other assess.Check) string {
	now, then, rest := t.of(c), t.of(other), "nothing is left of the second"
	if then != nil && then.Measured() {
		other.Target = then.Target // a need may have moved it
		rest = fmt.Sprintf("the second comes to %.2f, %.2f off", then.Value, then.Target.Off(then.Value))
	}
	return fmt.Sprintf("%s %s %s and %s %s %s cannot both be met here: with %.2f of the first %s. The second comes first in this plan.",
		c.Label, c.Target, school.UnitName(c.Unit), other.Named(), other.Target, school.UnitName(other.Unit), now.Value, rest)
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
