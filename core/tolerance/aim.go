package tolerance

import "obturon/core/assess"

// Aim is another way to go about it, that may lower the risk.
type Aim struct {
	Words  string
	change func(h *Hand)
}

// Of is a hand that goes about it so.
func (a Aim) Of(h Hand) Hand {
	a.change(&h)
	return h
}

// Aims are what is tried: to aim a little off the drawing, or to hold one thing steadier.
var Aims = []Aim{
	{"Aim 0.1 mm shallower.", func(h *Hand) { h.DepthBias -= 0.1 }},
	{"Aim 0.1 mm deeper.", func(h *Hand) { h.DepthBias += 0.1 }},
	{"Stop the walls 0.05 mm short.", func(h *Hand) { h.Extension -= 0.05 }},
	{"Extend the walls by 0.05 mm.", func(h *Hand) { h.Extension += 0.05 }},
	{"Read the depth after every pass: half the scatter.", func(h *Hand) { h.DepthScatter /= 2 }},
	{"Sight the bur against the tooth's axis from two sides: half the tilt.", func(h *Hand) { h.Tilt /= 2 }},
	{"A finger rest on the same arch: half the wander.", func(h *Hand) { h.Wander /= 2 }},
}

// Gain is what an aim changes.
type Gain struct {
	Aim          Aim
	Before, Risk float64 // as Risk, without it and with it, by the same seeds
	Tooth        float64 // mm³ that it costs in tooth; negative where it spares some
}

// Compare tells what an aim changes: outcomes with it and without, by the same seeds, so
// that what differs is the aim.
func Compare(drawn []assess.Check, without, with []Outcome) Gain {
	return Gain{Before: Risk(Chances(drawn, without)), Risk: Risk(Chances(drawn, with)), Tooth: meanTaken(with) - meanTaken(without)}
}

func meanTaken(outcomes []Outcome) float64 {
	sum := 0.0
	for _, o := range outcomes {
		sum += o.Taken / float64(len(outcomes))
	}
	return sum
}
