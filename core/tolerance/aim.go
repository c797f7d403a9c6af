package tolerance

import (
	"context"

	"obturon/core/assess"
	"obturon/core/rehearsal"
)

// Aim is another way to go about it, that may lower the risk.
type Aim struct {
	Words  string
	change func(h *Hand)
}

// Aims are what is tried: to aim a little off the drawing, or to hold one thing steadier.
var Aims = []Aim{
	{"Aim 0.1 mm shallower.", func(h *Hand) { h.DepthBias -= 0.1 }},
	{"Aim 0.1 mm deeper.", func(h *Hand) { h.DepthBias += 0.1 }},
	{"Stop the walls 0.05 mm short, and plane them out by hand.", func(h *Hand) { h.Extension -= 0.05 }},
	{"Extend the walls by 0.05 mm.", func(h *Hand) { h.Extension += 0.05 }},
	{"Read the depth after every pass: half the scatter.", func(h *Hand) { h.DepthScatter /= 2 }},
	{"Sight the bur against the tooth's axis from two sides: half the tilt.", func(h *Hand) { h.Tilt /= 2 }},
	{"A finger rest on the same arch: half the wander.", func(h *Hand) { h.Wander /= 2 }},
}

// Gain is what an aim changes.
type Gain struct {
	Aim   Aim
	Risk  float64 // as Risk, with it
	Tooth float64 // mm³ that it costs in tooth; negative where it spares some
}

// Try runs an aim with the same seeds, so that what differs is the aim. Errors are those of
// Run.
func Try(ctx context.Context, r *rehearsal.Rehearsal, drawn []assess.Check, h Hand, a Aim, seeds []uint64, plain []Outcome) (Gain, error) {
	a.change(&h)
	outcomes, err := Run(ctx, r, h, seeds, nil)
	if err != nil {
		return Gain{}, err
	}
	return Gain{a, Risk(Chances(drawn, outcomes)), meanTaken(outcomes) - meanTaken(plain)}, nil
}

func meanTaken(outcomes []Outcome) float64 {
	sum := 0.0
	for _, o := range outcomes {
		sum += o.Taken / float64(len(outcomes))
	}
	return sum
}
