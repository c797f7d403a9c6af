package job

import (
	"context"
	"encoding/json"
	"fmt"

	"obturon/core/forces"
	"obturon/internal/plan"
	"obturon/internal/render"
	"obturon/internal/store"
)

// FineInput is a tooth that is loaded on fine cells.
type FineInput struct {
	Posed
	Loading forces.Loading `json:"loading"`
}

// loadFine loads a tooth on fine cells.
func loadFine(planner *plan.Planner) does {
	return func(ctx context.Context, claimed *store.Claimed, progress func(share float64)) (result, shared []byte, err error) {
		var in FineInput
		if err := json.Unmarshal(claimed.Of.Input, &in); err != nil {
			return nil, nil, fmt.Errorf("reading the load: %w", err)
		}
		c, err := in.read()
		if err != nil {
			return nil, nil, err
		}
		deflected, without, err := planner.DeflectionOf(ctx, c, in.Loading, plan.DefaultGrid, true, progress)
		if err != nil {
			return nil, nil, err
		}
		result, err = json.Marshal(render.Deflection(deflected, without, in.Loading))
		return result, nil, err
	}
}
