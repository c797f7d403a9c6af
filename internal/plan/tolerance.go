package plan

import (
	"cmp"
	"context"
	"slices"

	"obturon/core/assess"
	"obturon/core/tolerance"
)

// Tolerance is what becomes of one cavity in a hand that errs.
type Tolerance struct {
	Cavity  string
	Runs    int
	Chances []tolerance.Chance
	Risk    float64
	Weakest []tolerance.Chance
	Gains   []tolerance.Gain // what lowers the risk, the most first
}

// Tolerance cuts one cavity of a rehearsed case once for each seed, with errors; told hears
// how many of all cuts are done, those of other aims included. Errors are the context's.
func (r *Rehearsed) Tolerance(ctx context.Context, cavity int, h tolerance.Hand, seeds []uint64, told func(done, of int)) (Tolerance, error) {
	const tried, weakest, gains = 24, 3, 3 // seeds an aim is tried with; listed
	one := r.Rehearsals[cavity]
	drawn, err := assess.Cavity(ctx, r.Subjects[cavity])
	if err != nil {
		return Tolerance{}, err
	}
	few := seeds[:min(tried, len(seeds))]
	of := len(seeds) + len(few)*len(tolerance.Aims)
	tell := func(done int) {
		if told != nil {
			told(done, of)
		}
	}
	outcomes, err := tolerance.Run(ctx, one, h, seeds, tell)
	if err != nil {
		return Tolerance{}, err
	}
	t := Tolerance{Cavity: one.Cavity.Name, Runs: len(seeds), Chances: tolerance.Chances(drawn, outcomes)}
	t.Risk, t.Weakest = tolerance.Risk(t.Chances), tolerance.Weakest(t.Chances, weakest)
	plain := outcomes[:len(few)]
	before := tolerance.Risk(tolerance.Chances(drawn, plain))
	for n, a := range tolerance.Aims {
		g, err := tolerance.Try(ctx, one, drawn, h, a, few, plain)
		if err != nil {
			return Tolerance{}, err
		}
		tell(len(seeds) + (n+1)*len(few))
		if g.Risk < before {
			g.Risk *= t.Risk / before // of all seeds, not of the few
			t.Gains = append(t.Gains, g)
		}
	}
	slices.SortStableFunc(t.Gains, func(a, b tolerance.Gain) int { return cmp.Compare(a.Risk, b.Risk) })
	t.Gains = t.Gains[:min(gains, len(t.Gains))]
	return t, nil
}
