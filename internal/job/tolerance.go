package job

import (
	"context"
	"encoding/json"
	"fmt"

	"obturon/core/tolerance"
	"obturon/internal/plan"
	"obturon/internal/render"
	"obturon/internal/store"
)

// ToleranceInput is what a tolerance run cuts, and how.
type ToleranceInput struct {
	Posed
	Hand tolerance.Hand `json:"hand"`
	Runs int            `json:"runs"`
}

// TolerancePart is the input of one of a tolerance run's parts.
type TolerancePart struct {
	Aim       int   `json:"aim"` // tolerance.Plain as the hand is
	FirstSeed int64 `json:"first_seed"`
	Runs      int   `json:"runs"`
}

// Part is what the planner cuts of it.
func (p TolerancePart) Part() tolerance.Part {
	return tolerance.Part{Aim: p.Aim, Seed: uint64(p.FirstSeed), Runs: p.Runs}
}

// ToleranceParts are those of a run, as they are kept with its job.
func ToleranceParts(runs int) ([]store.JobPart, error) {
	var parts []store.JobPart
	for _, p := range tolerance.Parts(1, runs) {
		input, err := json.Marshal(TolerancePart{Aim: p.Aim, FirstSeed: int64(p.Seed), Runs: p.Runs})
		if err != nil {
			return nil, err
		}
		parts = append(parts, store.JobPart{Input: input})
	}
	return parts, nil
}

// cutByHand cuts a part of a tolerance run. What its parts have in common is what was drawn.
func cutByHand(planner *plan.Planner) does {
	return func(ctx context.Context, claimed *store.Claimed, progress func(share float64)) (result, shared []byte, err error) {
		var of ToleranceInput
		if err := json.Unmarshal(claimed.Of.Input, &of); err != nil {
			return nil, nil, fmt.Errorf("reading what is to be cut: %w", err)
		}
		var part TolerancePart
		if err := json.Unmarshal(claimed.Input, &part); err != nil {
			return nil, nil, fmt.Errorf("reading which part is to be cut: %w", err)
		}
		c, err := of.read()
		if err != nil {
			return nil, nil, err
		}
		r, err := planner.Rehearse(ctx, c, plan.DefaultGrid)
		if err != nil {
			return nil, nil, err
		}
		all, err := r.CutPart(ctx, of.Hand, part.Part(), progress)
		if err != nil {
			return nil, nil, err
		}
		if result, err = render.EncodeOutcomes(all); err != nil || claimed.Of.Shared != nil {
			return result, nil, err
		}
		drawn, err := r.DrawnCavities(ctx)
		if err != nil {
			return nil, nil, err
		}
		shared, err = render.EncodeDrawn(drawn)
		return result, shared, err
	}
}
