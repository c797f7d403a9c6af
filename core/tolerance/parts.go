package tolerance

import (
	"cmp"
	"slices"

	"obturon/core/assess"
)

// Tolerance is what becomes of one cavity in a hand that errs.
type Tolerance struct {
	Cavity  string
	Runs    int
	Chances []Chance
	Risk    float64
	Weakest []Chance
	Gains   []Gain // what lowers the risk, the most first
}

// Plain is the aim of a part that is cut as the hand is.
const Plain = -1

// Part is some of the cuts of a tolerance run: with the hand as it is, or with one of
// Aims.
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
	for a := range Aims {
		for n := 0; n < min(tried, runs); n += together {
			parts = append(parts, Part{a, seed + uint64(n), min(together, min(tried, runs)-n)})
		}
	}
	return parts
}

// Drawn is a cavity as it was drawn, by name, with its checks.
type Drawn struct {
	Cavity string
	Checks []assess.Check
}

// Tolerances sum up the parts that are done: outcomes by part and cavity, nil for a part
// that is not. They are one a cavity; none without a cut.
func Tolerances(drawn []Drawn, parts []Part, outcomes [][][]Outcome) []Tolerance {
	const weakest, gains = 3, 3
	var all []Tolerance
	for n, d := range drawn {
		of := func(aim int) (some []Outcome) {
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
		t := Tolerance{Cavity: d.Cavity, Runs: len(plain), Chances: Chances(d.Checks, plain)}
		t.Risk, t.Weakest = Risk(t.Chances), Weakest(t.Chances, weakest)
		for a, aim := range Aims {
			with := of(a)
			if few := alike(plain, with); len(few) > 0 && len(few) == len(with) {
				if g := Compare(d.Checks, few, with); g.Risk < g.Before {
					g.Aim = aim
					t.Gains = append(t.Gains, g)
				}
			}
		}
		slices.SortStableFunc(t.Gains, func(a, b Gain) int { return cmp.Compare(a.Risk-a.Before, b.Risk-b.Before) })
		t.Gains = t.Gains[:min(gains, len(t.Gains))]
		all = append(all, t)
	}
	return all
}

// alike are the outcomes by the seeds of others.
func alike(of, others []Outcome) []Outcome {
	var some []Outcome
	for _, o := range of {
		if slices.ContainsFunc(others, func(other Outcome) bool { return other.Seed == o.Seed }) {
			some = append(some, o)
		}
	}
	return some
}
