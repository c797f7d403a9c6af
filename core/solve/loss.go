package solve

import (
	"math"

	"obturon/core/assess"
	"obturon/core/school"
)

// What a miss and a near cost by their severity. Each grows with the distance past its
// range, so that half a way counts, but no near ever comes to what the least miss costs:
// none is bought with a miss.
var (
	missCost = map[school.Severity]float64{school.Critical: 100, school.Major: 10, school.Minor: 3}
	nearCost = map[school.Severity]float64{school.Critical: 2, school.Major: 1, school.Minor: 0.3}
)

const (
	missShare = 0.9   // of a miss's cost just past the limits
	nearShare = 0.7   // of a near's just past the target
	toothCost = 0.02  // of a mm³ of tooth
	pull      = 0.003 // of a step away from what the school aims at
)

// halfway is the distance past a range, by unit, at which half of the growth is reached.
func halfway(unit string) float64 {
	if unit == "deg" {
		return 8
	}
	return 0.3
}

// cost is what a check costs at a value, within a target narrowed by a reserve at the ends
// that it may come from.
func cost(c assess.Check, value, reserve float64) float64 {
	entry, _ := school.Find(c.ID)
	target, limits := c.Target.Within(-reserve), c.Limits.Within(-reserve)
	grown := func(least, off float64) float64 { return least + (1-least)*off/(off+halfway(c.Unit)) }
	switch verdict := assess.Judge(value, target, limits); {
	case verdict == assess.Missed && entry.FailsUnder > 0 && value < entry.FailsUnder && limits.Min > 0:
		return missCost[school.Critical] * grown(missShare, limits.Off(value))
	case verdict == assess.Missed:
		return missCost[c.Severity] * grown(missShare, limits.Off(value))
	case entry.BetweenStates(value):
		return missCost[c.Severity] * missShare
	case verdict == assess.Near:
		return nearCost[c.Severity] * grown(nearShare, target.Off(value))
	}
	return 0
}

// reserve is how far inside its target a check is aimed at, so that the cut's own noise
// does not turn met into near: a twentieth of the target, little at the most.
func reserve(c assess.Check) float64 {
	most := 0.02
	if c.Unit == "deg" {
		most = 0.3
	}
	if width := c.Target.Max - c.Target.Min; !math.IsInf(width, 1) {
		return math.Min(most, width/20)
	}
	return most
}

// lost is what a check costs that could be measured before, and no longer can: else the
// cheapest way to a bevel of the right width would be none.
func lost(c assess.Check) float64 { return missCost[c.Severity] }
