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

// price is what a check costs, by what it reads.
type price struct {
	target, limits school.Range // narrowed by a reserve
	entry          school.Entry
	miss, near     float64
	failing        float64 // the value under which a miss is critical
	half           float64 // halfway
}

// priceOf is the price of a check within a target narrowed by a reserve at the ends that
// it may come from.
func priceOf(c assess.Check, reserve float64) price {
	entry, _ := school.Find(c.ID)
	p := price{
		target: c.Target.Within(-reserve), limits: c.Limits.Within(-reserve), entry: entry,
		miss: missCost[c.Severity], near: nearCost[c.Severity], failing: math.Inf(-1), half: halfway(c.Unit),
	}
	if entry.FailsUnder > 0 && c.Limits.Min > 0 {
		p.failing = entry.FailsUnder
	}
	return p
}

// at is what a value costs.
func (p *price) at(value float64) float64 {
	const slack = 1e-4 // as verdicts have it
	off := p.target.Off(value)
	barred := p.entry.Bars(value)
	if off <= slack && !barred {
		return 0
	}
	if past := p.limits.Off(value); past > slack {
		miss := p.miss
		if value < p.failing {
			miss = missCost[school.Critical]
		}
		return miss * (missShare + (1-missShare)*past/(past+p.half))
	}
	if barred {
		return p.miss * missShare
	}
	return p.near * (nearShare + (1-nearShare)*off/(off+p.half))
}

// cost is what a check costs as it stands; nothing within its measuring error.
func cost(c assess.Check) float64 {
	if c.Verdict == assess.Met {
		return 0
	}
	p := priceOf(c, 0)
	return p.at(c.Value)
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
