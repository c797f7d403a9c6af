package work

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"

	"obturon/internal/document"
	"obturon/internal/plan"
	"obturon/internal/store"
)

// ProofKind is the kind of job that has a kit cut a case.
const ProofKind = "proof"

// ProofInput is what a proof is made from.
type ProofInput struct {
	Case  json.RawMessage `json:"case"`
	Rules json.RawMessage `json:"rules,omitempty"` // house rules as they are; left out where a school's own are meant
	Kit   json.RawMessage `json:"kit,omitempty"`   // left out where all instruments lie ready
}

var errOtherCore = errors.New("it was asked for by another version of the program: reload the page")

// prove has a kit cut a case.
func prove(planner *plan.Planner) does {
	return func(ctx context.Context, j *store.Job, progress func(share float64)) ([]byte, error) {
		var in ProofInput
		if err := json.Unmarshal(j.Input, &in); err != nil {
			return nil, fmt.Errorf("reading what is to be proven: %w", err)
		}
		c, err := caseOf(in.Case, in.Rules)
		if err != nil {
			return nil, err
		}
		if given(in.Kit) {
			stock, err := document.ReadKit(in.Kit)
			if err != nil {
				return nil, err
			}
			c.Kit = stock.Kit()
		}
		if plan.ProofKey(c, plan.DefaultGrid) != j.Key {
			return nil, errOtherCore
		}
		r, err := planner.RehearseTold(ctx, c, plan.DefaultGrid, progress)
		if err != nil {
			return nil, err
		}
		return json.Marshal(r.Proof())
	}
}
