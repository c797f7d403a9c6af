package tolerance

import (
	"cmp"
	"math"
	"slices"

	"obturon/core/assess"
	"obturon/core/school"
)

// Chance is how often a criterion is met.
type Chance struct {
	Check          assess.Check // as on the drawn cavity
	Met            float64      // share of the runs in which it is met
	Low, High      float64      // between which that share lies, to 95 in 100
	Missed         float64      // share in which it is outside its limits, or nothing is left to measure
	Mean, Deviates float64      // of the values measured; 0 without any
}

// Chances are those of every check that is measured on the drawn cavity, in its order.
func Chances(drawn []assess.Check, outcomes []Outcome) []Chance {
	var all []Chance
	for n, c := range drawn {
		if !c.Measured() {
			continue
		}
		one := Chance{Check: c}
		met, missed := 0, 0
		var values []float64
		for _, o := range outcomes {
			got := o.Checks[n]
			switch got.Verdict {
			case assess.Met:
				met++
			case assess.Missed, assess.NotMeasurable:
				missed++
			}
			if got.Measured() {
				values = append(values, got.Value)
			}
		}
		one.Met, one.Missed = float64(met)/float64(len(outcomes)), float64(missed)/float64(len(outcomes))
		one.Low, one.High = interval(met, len(outcomes))
		one.Mean, one.Deviates = spread(values)
		all = append(all, one)
	}
	return all
}

// interval is between what a share lies that was seen met times of n, to 95 in 100
// (Wilson's score interval).
func interval(met, n int) (low, high float64) {
	const z = 1.96
	if n == 0 {
		return 0, 1
	}
	share, count := float64(met)/float64(n), float64(n)
	middle := share + z*z/(2*count)
	half := z * math.Sqrt(share*(1-share)/count+z*z/(4*count*count))
	return math.Max((middle-half)/(1+z*z/count), 0), math.Min((middle+half)/(1+z*z/count), 1)
}

func spread(values []float64) (mean, deviation float64) {
	if len(values) == 0 {
		return 0, 0
	}
	for _, v := range values {
		mean += v / float64(len(values))
	}
	for _, v := range values {
		deviation += (v - mean) * (v - mean) / float64(len(values))
	}
	return mean, math.Sqrt(deviation)
}

// weights are what a miss counts for, by how much it matters.
var weights = map[school.Severity]float64{school.Critical: 9, school.Major: 3, school.Minor: 1}

// Risk is what the misses of chances come to; 0 where nothing is ever missed.
func Risk(chances []Chance) float64 {
	sum := 0.0
	for _, c := range chances {
		sum += weights[c.Check.Severity] * (c.Missed + 0.25*math.Max(1-c.Met-c.Missed, 0))
	}
	return sum
}

// Weakest are the chances that come to most of the risk, the worst first.
func Weakest(chances []Chance, n int) []Chance {
	worst := slices.DeleteFunc(slices.Clone(chances), func(c Chance) bool { return Risk([]Chance{c}) == 0 })
	slices.SortStableFunc(worst, func(a, b Chance) int { return cmp.Compare(Risk([]Chance{b}), Risk([]Chance{a})) })
	return worst[:min(n, len(worst))]
}
