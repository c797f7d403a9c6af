// Package solve moves the figures of a proposed cavity until its own gauges are content,
// or until they cannot be: each figure that a check names is moved once, what every gauge
// then reads gives the figure's column, and the cheapest step of all figures together is
// cut, measured and judged in its turn. What stays off its target is laid to the criterion
// that would be lost for it.
package solve

import (
	"cmp"
	"context"
	"math"
	"slices"

	"obturon/core/assess"
	"obturon/core/cavity"
	"obturon/core/parallel"
)

// Judged is what a cavity with certain figures comes to.
type Judged struct {
	Checks []assess.Check
	Tooth  float64 // mm³ that is cut
}

// Judge cuts a cavity with these figures, measures and judges it. An error that
// cavity.Refusal knows means that it cannot be built so; any other ends the solving.
type Judge func(ctx context.Context, values map[string]float64) (Judged, error)

// Solution is what solving came to.
type Solution struct {
	// Proposed are the figures as they were proposed, Values those that were moved, by id.
	Proposed []cavity.Dimension
	Values   map[string]float64
	// Before and After are the checks of the proposal and of the solution.
	Before, After []assess.Check
	// Conflicts are those checks of After that stay off their targets.
	Conflicts []Conflict
	Cuts      int // cavities cut and judged
}

// Gain is a check that is better for a solution.
type Gain struct {
	Label         string
	Before, After assess.Verdict
}

// Gained lists the checks that were off their targets and now meet them, or are near them
// where they were missed.
func (s Solution) Gained() []Gain {
	var gained []Gain
	rank := map[assess.Verdict]int{assess.Met: 0, assess.Near: 1, assess.Missed: 2}
	for _, before := range s.Before {
		n := slices.IndexFunc(s.After, func(c assess.Check) bool { return same(c, before) })
		if n >= 0 && before.Measured() && s.After[n].Measured() && rank[s.After[n].Verdict] < rank[before.Verdict] {
			gained = append(gained, Gain{before.Label, before.Verdict, s.After[n].Verdict})
		}
	}
	return gained
}

// Effort says how many cavities are cut and judged at most, beside the proposal.
type Effort struct {
	Moves     int // to find better figures
	Conflicts int // to find what cannot be met together
}

// trial is one cavity that was cut and judged.
type trial struct {
	at     point
	checks []assess.Check
	tooth  float64
	loss   float64
}

// of is the trial's check of the same criterion and side, nil where it has none.
func (t *trial) of(c assess.Check) *assess.Check {
	for n := range t.checks {
		if same(t.checks[n], c) {
			return &t.checks[n]
		}
	}
	return nil
}

func same(a, b assess.Check) bool { return a.ID == b.ID && a.Side == b.Side }

type solver struct {
	judge   Judge
	figures []figure
	start   *trial
	best    *trial
	model   *model
	tried   []*trial // in their order; those that cannot be built have no checks
	effort  Effort
	budget  int // of cuts left
}

// Solve improves a proposal whose dimensions these are. Errors are those of judge, and
// the context's.
func Solve(ctx context.Context, dimensions []cavity.Dimension, effort Effort, judge Judge) (Solution, error) {
	s := &solver{judge: judge, figures: figuresOf(dimensions), effort: effort, budget: 1 + effort.Moves}
	started, err := s.cut(ctx, []point{make(point, len(dimensions))})
	if err != nil {
		return Solution{}, err
	}
	s.start, s.best = started[0], started[0]
	if s.start.checks == nil {
		return Solution{}, nil
	}
	for range 2 { // a second pass from where the first one ended
		before := s.best
		if err := s.pass(ctx); err != nil {
			return Solution{}, err
		}
		if s.best == before {
			break
		}
	}
	s.budget = effort.Conflicts
	var conflicts []Conflict
	for ended := (*trial)(nil); ended != s.best; { // what is forced may come for nothing
		ended = s.best
		s.model.rebase(s.best)
		if conflicts, err = s.conflicts(ctx); err != nil {
			return Solution{}, err
		}
	}
	return Solution{
		Proposed: dimensions, Values: s.values(s.best.at), Before: s.start.checks, After: s.best.checks,
		Conflicts: conflicts, Cuts: len(s.tried),
	}, nil
}

// pass learns the columns of the figures that the checks off their targets name, and takes
// joint steps until one gains nothing.
func (s *solver) pass(ctx context.Context) error {
	older := s.model
	s.model = &model{base: s.best}
	order := s.movers(s.best)
	if err := s.learn(ctx, order); err != nil {
		return err
	}
	if older != nil {
		s.model.adopt(older)
	}
	s.model.rebase(s.best)
	for reach := widestReach; reach >= 1 && s.budget > 0; {
		const least = 0.01 // of loss that is worth a cut
		prices := s.model.pricing(evenly)
		at, foretold := s.model.best(s.figures, order, reach, prices)
		if foretold > s.model.loss(s.best.at, prices)-least {
			return nil
		}
		t, err := s.at(ctx, at)
		if err != nil {
			return err
		}
		if t.checks != nil {
			s.model.correct(t)
		}
		if t == s.best {
			s.model.rebase(t)
		} else {
			reach /= 2
		}
	}
	return nil
}

const widestReach = 8 // steps of a figure in one joint step

func evenly(assess.Check) float64 { return 1 }

// movers lists the figures that checks off their targets name, the heaviest check first.
func (s *solver) movers(t *trial) []int {
	most := min(10, s.effort.Moves*2/3) // leaves cuts for the joint steps
	off := slices.DeleteFunc(slices.Clone(t.checks), func(c assess.Check) bool { return !c.Measured() || c.Verdict == assess.Met })
	slices.SortStableFunc(off, func(a, b assess.Check) int {
		return cmp.Compare(cost(b), cost(a))
	})
	var order []int
	for _, c := range off {
		for _, move := range c.Moves {
			n := slices.IndexFunc(s.figures, func(f figure) bool { return f.id == move.Dimension })
			if n >= 0 && !slices.Contains(order, n) && len(order) < most {
				order = append(order, n)
			}
		}
	}
	return order
}

// learn cuts one cavity for each figure that the model does not know; where that cannot be
// built, one more that moves it as little as can be.
func (s *solver) learn(ctx context.Context, order []int) error {
	var unknown []int
	steps := map[int]int{}
	for _, n := range order {
		if !s.model.knows(n) {
			unknown, steps[n] = append(unknown, n), s.tryout(s.model.base, n)
		}
	}
	for range 2 {
		var points []point
		var of, failed []int
		for _, n := range unknown {
			if steps[n] != 0 && len(points) < s.budget {
				points, of = append(points, s.model.base.at.moved(n, s.model.base.at[n]+steps[n])), append(of, n)
			}
		}
		cut, err := s.cut(ctx, points)
		if err != nil {
			return err
		}
		for k, t := range cut {
			switch n := of[k]; {
			case t.checks != nil:
				s.model.learn(n, t)
			case steps[n] < -1 || steps[n] > 1:
				failed, steps[n] = append(failed, n), steps[n]/max(steps[n], -steps[n])
			}
		}
		unknown = failed
	}
	return nil
}

// tryout is by how many steps a figure is moved to learn its column: the way to the middle
// of what the heaviest check that names it wants, by the slope it is said to have.
func (s *solver) tryout(t *trial, figure int) int {
	const fewest, most = 1, 6
	f := s.figures[figure]
	steps, heaviest := 0, 0.0
	for _, c := range t.checks {
		if !c.Measured() || c.Verdict == assess.Met {
			continue
		}
		n := slices.IndexFunc(c.Moves, func(m assess.Move) bool { return m.Dimension == f.id })
		if n < 0 || cost(c) <= heaviest {
			continue
		}
		heaviest = cost(c)
		way := c.Target.Min + reserve(c) - c.Value
		if c.Value > c.Target.Max {
			way = c.Target.Max - reserve(c) - c.Value
		}
		ideal := way / (c.Moves[n].Slope * f.step)
		steps = int(math.Copysign(math.Max(fewest, math.Min(most, math.Ceil(math.Abs(ideal)))), ideal))
	}
	if at := t.at[figure] + steps; at < f.least || at > f.most {
		steps = -steps
	}
	if at := t.at[figure] + steps; at < f.least || at > f.most {
		return 0
	}
	return steps
}

// cut judges cavities side by side, and keeps the cheapest of all.
func (s *solver) cut(ctx context.Context, points []point) ([]*trial, error) {
	trials := make([]*trial, len(points))
	failed := make([]error, len(points))
	err := parallel.EachUntil(ctx, len(points), func(n int) {
		trials[n] = &trial{at: points[n], loss: math.Inf(1)}
		judged, err := s.judge(ctx, s.values(points[n]))
		if err != nil {
			if cavity.Refusal(err) == "" {
				failed[n] = err
			}
			return
		}
		trials[n].checks, trials[n].tooth = judged.Checks, judged.Tooth
	})
	if err != nil {
		return nil, err
	}
	for _, err := range failed {
		if err != nil {
			return nil, err
		}
	}
	for _, t := range trials {
		s.tried, s.budget = append(s.tried, t), s.budget-1
		if t.checks == nil {
			continue
		}
		t.loss = s.lossOf(t)
		if s.best != nil && t.loss < s.best.loss {
			s.best = t
		}
	}
	return trials, nil
}

// lossOf is what a trial costs against the start.
func (s *solver) lossOf(t *trial) float64 {
	sum := pull*t.at.away() + toothCost*t.tooth
	for _, c := range t.checks {
		if c.Measured() {
			sum += cost(c)
		}
	}
	if s.start != nil {
		for _, c := range s.start.checks {
			if now := t.of(c); c.Measured() && (now == nil || !now.Measured()) {
				sum += lost(c)
			}
		}
	}
	return sum
}

// at is the trial at a point, made where there is none yet.
func (s *solver) at(ctx context.Context, at point) (*trial, error) {
	if n := slices.IndexFunc(s.tried, func(t *trial) bool { return t.at.equals(at) }); n >= 0 {
		return s.tried[n], nil
	}
	cut, err := s.cut(ctx, []point{at})
	if err != nil {
		return nil, err
	}
	return cut[0], nil
}

// values are the figures that a point moves.
func (s *solver) values(at point) map[string]float64 {
	values := map[string]float64{}
	for n, steps := range at {
		if steps != 0 {
			values[s.figures[n].id] = s.figures[n].value(steps)
		}
	}
	return values
}
