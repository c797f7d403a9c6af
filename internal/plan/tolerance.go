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

// Plain is the aim of a part that is cut as the hand is.
const Plain = -1

// Part is some of the cuts of a tolerance run: with the hand as it is, or with one of
// tolerance.Aims.
type Part struct {
	Aim  int
	Seed uint64 // the first
	Runs int
}

// Parts are those of a run, in the order in which they are done: first the hand as it is,
// then a few cuts with each aim, by the same seeds.
func Parts(seed uint64, runs int) []Part {
	const together, tried = 10, 20
	var parts []Part
	for n := 0; n < runs; n += together {
		parts = append(parts, Part{Plain, seed + uint64(n), min(together, runs-n)})
	}
	for a := range tolerance.Aims {
		for n := 0; n < min(tried, runs); n += together {
			parts = append(parts, Part{a, seed + uint64(n), min(together, min(tried, runs)-n)})
		}
	}
	return parts
}

// CutPart cuts all cavities of a rehearsed case as a part of a tolerance run asks for, and
// gives the outcomes by cavity. progress is told the share that is done. Errors are the context's.
func (r *Rehearsed) CutPart(ctx context.Context, h tolerance.Hand, p Part, progress func(share float64)) ([][]tolerance.Outcome, error) {
	if p.Aim != Plain {
		h = tolerance.Aims[p.Aim].Of(h)
	}
	all := make([][]tolerance.Outcome, len(r.Rehearsals))
	for n, one := range r.Rehearsals {
		outcomes, err := tolerance.Run(ctx, one, h, tolerance.Seeds(p.Seed, p.Runs), func(done int) {
			progress((float64(n) + float64(done)/float64(p.Runs)) / float64(len(r.Rehearsals)))
		})
		if err != nil {
			return nil, err
		}
		all[n] = outcomes
	}
	return all, nil
}

// Drawn is a cavity as it was drawn, by name, with its checks.
type Drawn struct {
	Cavity string
	Checks []assess.Check
}

// Drawn are the cavities that a tolerance run compares with. Errors are the context's.
func (r *Rehearsed) Drawn(ctx context.Context) ([]Drawn, error) {
	var all []Drawn
	for n, one := range r.Rehearsals {
		checks, err := assess.Cavity(ctx, r.Subjects[n])
		if err != nil {
			return nil, err
		}
		all = append(all, Drawn{one.Cavity.Name, checks})
	}
	return all, nil
}

// Tolerances sum up the parts that are done: outcomes by part and cavity, nil for a part
// that is not. They are one a cavity; none without a cut.
func Tolerances(drawn []Drawn, parts []Part, outcomes [][][]tolerance.Outcome) []Tolerance {
	const weakest, gains = 3, 3
	var all []Tolerance
	for n, d := range drawn {
		of := func(aim int) (some []tolerance.Outcome) {
			for k, p := range parts {
				if p.Aim == aim && outcomes[k] != nil {
					some = append(some, outcomes[k][n]...)
				}
			}
			return some
		}
		plain := of(Plain)
		if len(plain) == 0 {
			continue
		}
		t := Tolerance{Cavity: d.Cavity, Runs: len(plain), Chances: tolerance.Chances(d.Checks, plain)}
		t.Risk, t.Weakest = tolerance.Risk(t.Chances), tolerance.Weakest(t.Chances, weakest)
		for a, aim := range tolerance.Aims {
			with := of(a)
			if few := alike(plain, with); len(few) > 0 && len(few) == len(with) {
				if g := tolerance.Compare(d.Checks, few, with); g.Risk < g.Before {
					g.Aim = aim
					t.Gains = append(t.Gains, g)
				}
			}
		}
		slices.SortStableFunc(t.Gains, func(a, b tolerance.Gain) int { return cmp.Compare(a.Risk-a.Before, b.Risk-b.Before) })
		t.Gains = t.Gains[:min(gains, len(t.Gains))]
		all = append(all, t)
	}
	return all
}

// alike are the outcomes by the seeds of others.
func alike(of, others []tolerance.Outcome) []tolerance.Outcome {
	var some []tolerance.Outcome
	for _, o := range of {
		if slices.ContainsFunc(others, func(other tolerance.Outcome) bool { return other.Seed == o.Seed }) {
			some = append(some, o)
		}
	}
	return some
}
