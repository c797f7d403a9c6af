package api

import (
	"context"
	"encoding/json"
	"fmt"
	"net/http"
	"time"

	"obturon/core/intake"
	"obturon/internal/job"
	"obturon/internal/plan"
	"obturon/internal/render"
	"obturon/internal/store"
)

// provable is a case with all that its proof is made from, as a worker reads it.
type provable struct {
	*intake.Case
	input job.Posed
}

// provableBody is a case document as it was sent, with the practice's rules and kit.
func (s *server) provableBody(ctx context.Context, sent []byte) (provable, error) {
	c, err := s.caseIn(ctx, currentUser(ctx).PracticeID, sent)
	if err != nil {
		return provable{}, err
	}
	kit, text, err := s.kitOf(ctx)
	if err != nil {
		return provable{}, err
	}
	c.Kit = kit
	p := provable{c, job.Posed{Case: sent, Kit: json.RawMessage(text)}}
	if c.Rules != nil {
		p.input.Rules, err = json.Marshal(c.Rules)
	}
	return p, err
}

// proofState is how far a proof is; Proof is nil until it is made.
type proofState struct {
	Proof *render.Proof
	Share float64
}

// errand is what a proof is asked for: how soon it is made, and whether it is wanted for good or
// for as long as it is asked for again.
type errand struct {
	priority store.Priority
	forGood  bool
}

// The errands. Somebody who looks comes before what is fixed or made ready for the morning.
var (
	looking = errand{priority: store.Interactive}
	fixing  = errand{priority: store.Batch, forGood: true}
	ahead   = errand{priority: store.Batch}
)

// askProof finds the proof of a case, or has it made.
func (s *server) askProof(ctx context.Context, p provable, of errand) (proofState, error) {
	key := plan.ProofKey(p.Case, plan.DefaultGrid)
	known, err := s.keptProof(ctx, p.Case)
	if err != nil || known != nil {
		return proofState{Proof: known, Share: 1}, err
	}
	input, err := json.Marshal(p.input)
	if err != nil {
		return proofState{}, err
	}
	u := currentUser(ctx)
	j, err := s.Store.Ask(
		ctx,
		store.Job{PracticeID: u.PracticeID, UserID: u.ID, Kind: store.Proof, Key: key, Priority: of.priority, Input: input},
		store.Asking{ForGood: of.forGood},
	)
	if err != nil {
		return proofState{}, err
	}
	if j.Failed != nil {
		return proofState{}, &problem{status: http.StatusConflict, title: "It could not be proven", detail: *j.Failed}
	}
	return proofState{Share: j.Share()}, nil
}

// keptProof is a case's proof if it has been made; else nil.
func (s *server) keptProof(ctx context.Context, c *intake.Case) (*render.Proof, error) {
	practice := currentUser(ctx).PracticeID
	key := plan.ProofKey(c, plan.DefaultGrid)
	if known, ok := s.proofs.Get(practice.String() + key); ok {
		return known, nil
	}
	result, err := s.Store.JobResult(ctx, practice, store.Proof, key)
	if err != nil || result == nil {
		return nil, err
	}
	var proof render.Proof
	if err := json.Unmarshal(result, &proof); err != nil {
		return nil, fmt.Errorf("reading a proof: %w", err)
	}
	s.proofs.Add(practice.String()+key, &proof)
	return &proof, nil
}

// proofsKept are read proofs, some 100 kB each.
const proofsKept = 64

// waitedFor is how long a proof is waited for by what cannot do without, such as a file.
const waitedFor = 4 * time.Minute

// awaitProof waits for the proof of a case, at most for so long; Proof is nil where it is not
// made by then.
func (s *server) awaitProof(ctx context.Context, p provable, of errand, most time.Duration) (proofState, error) {
	const look = 250 * time.Millisecond
	for started := time.Now(); ; {
		state, err := s.askProof(ctx, p, of)
		if err != nil || state.Proof != nil || time.Since(started) >= most {
			return state, err
		}
		select {
		case <-ctx.Done():
			return state, ctx.Err()
		case <-time.After(look):
		}
	}
}

// proven is the proof of a case, however long that takes.
func (s *server) proven(ctx context.Context, p provable) (*render.Proof, error) {
	if known, err := s.keptProof(ctx, p.Case); err != nil || known != nil {
		return known, err
	}
	var state proofState
	err := withoutTurn(ctx, func() (err error) {
		state, err = s.awaitProof(ctx, p, looking, waitedFor)
		return err
	})
	if err != nil {
		return nil, err
	}
	if state.Proof == nil {
		return nil, &problem{
			status: http.StatusServiceUnavailable, title: "It is still being proven",
			detail: fmt.Sprintf("The kit has cut %.0f %% of it. Ask again in a minute: what is cut goes on meanwhile.", 100*state.Share),
		}
	}
	return state.Proof, nil
}
