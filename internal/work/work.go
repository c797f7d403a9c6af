// Package work does what takes minutes beside the server, or on another machine with the
// same database: it takes parts of tolerance runs, one at a time, and keeps what they come
// to.
package work

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"log/slog"
	"runtime/debug"
	"time"

	"obturon/core/intake"
	"obturon/core/school"
	"obturon/core/tolerance"
	"obturon/internal/document"
	"obturon/internal/plan"
	"obturon/internal/store"
)

const (
	// stale is after what time another worker takes a part over that was never finished:
	// its worker has died.
	stale = 5 * time.Minute
	// idle is how long a worker waits before it looks again, with nothing to do.
	idle = 2 * time.Second
)

// Run works until the context ends. Trouble with one part is logged, and ends no more than
// its run.
func Run(ctx context.Context, st *store.Store, planner *plan.Planner) {
	for ctx.Err() == nil {
		worked, err := Once(ctx, st, planner)
		if err != nil && ctx.Err() == nil {
			slog.Warn("working on a tolerance run", "error", err)
		}
		if worked && err == nil {
			continue
		}
		select {
		case <-ctx.Done():
		case <-time.After(idle):
		}
	}
}

// Once does one part, if there is one to do. Errors are the database's, or say why a run
// has failed.
func Once(ctx context.Context, st *store.Store, planner *plan.Planner) (worked bool, err error) {
	chunk, job, err := st.ClaimChunk(ctx, stale)
	if err != nil || chunk == nil {
		return false, err
	}
	outcomes, drawn, err := cut(ctx, planner, chunk, job)
	// What is to be kept of a part is kept although the program is being stopped.
	keeping, done := context.WithTimeout(context.WithoutCancel(ctx), 10*time.Second)
	defer done()
	switch {
	case ctx.Err() != nil:
		return true, st.LetGo(keeping, chunk)
	case err != nil:
		return true, errors.Join(err, st.FailTolerance(keeping, job.ID, err.Error()))
	}
	return true, st.KeepOutcomes(keeping, chunk, outcomes, drawn)
}

// cut does a part. A defect is answered as an error, so that the part is not taken again and
// again.
func cut(ctx context.Context, planner *plan.Planner, chunk *store.ToleranceChunk, job *store.ToleranceJob) (outcomes, drawn []byte, err error) {
	defer func() {
		if value := recover(); value != nil {
			slog.Error("cutting a part of a tolerance run", "panic", value, "stack", string(debug.Stack()))
			err = errors.New("it met a defect of this program, which is in the server's log")
		}
	}()
	c, err := caseOf(job)
	if err != nil {
		return nil, nil, err
	}
	var h tolerance.Hand
	if err := json.Unmarshal(job.Hand, &h); err != nil {
		return nil, nil, fmt.Errorf("reading the hand: %w", err)
	}
	r, err := planner.Rehearse(ctx, c, plan.DefaultGrid)
	if err != nil {
		return nil, nil, err
	}
	all, err := r.CutPart(ctx, h, plan.Part{Aim: chunk.Aim, Seed: uint64(chunk.FirstSeed), Runs: chunk.Runs})
	if err != nil {
		return nil, nil, err
	}
	if outcomes, err = plan.EncodeOutcomes(all); err != nil {
		return nil, nil, err
	}
	before, err := r.Drawn(ctx)
	if err != nil {
		return nil, nil, err
	}
	drawn, err = plan.EncodeDrawn(before)
	return outcomes, drawn, err
}

func caseOf(job *store.ToleranceJob) (*intake.Case, error) {
	c, err := document.ReadCase(job.CaseDocument)
	if err != nil {
		return nil, err
	}
	if len(job.Rules) > 0 && string(job.Rules) != "null" {
		if c.Rules, err = school.Decode(job.Rules); err != nil {
			return nil, err
		}
	}
	if len(job.Kit) > 0 && string(job.Kit) != "null" {
		stock, err := document.ReadKit(job.Kit)
		if err != nil {
			return nil, err
		}
		c.Kit = stock.Kit()
	}
	return c, nil
}
