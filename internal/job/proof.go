package job

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"

	"obturon/internal/plan"
	"obturon/internal/store"
)

var errOtherCore = errors.New("it was asked for by another version of the program: reload the page")

// prove has a kit cut a case.
func prove(planner *plan.Planner) does {
	return func(ctx context.Context, claimed *store.Claimed, progress func(share float64)) (result, shared []byte, err error) {
		var in Posed
		if err := json.Unmarshal(claimed.Of.Input, &in); err != nil {
			return nil, nil, fmt.Errorf("reading what is to be proven: %w", err)
		}
		c, err := in.read()
		if err != nil {
			return nil, nil, err
		}
		if plan.ProofKey(c, plan.DefaultGrid) != claimed.Of.Key {
			return nil, nil, errOtherCore
		}
		r, err := planner.RehearseTold(ctx, c, plan.DefaultGrid, progress)
		if err != nil {
			return nil, nil, err
		}
		result, err = json.Marshal(r.Proof())
		return result, nil, err
	}
}
