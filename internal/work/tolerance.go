package work

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"time"

	"github.com/riverqueue/river"

	"obturon/core/intake"
	"obturon/core/tolerance"
	"obturon/internal/document"
	"obturon/internal/plan"
	"obturon/internal/store"
)

// toleranceWorker cuts parts of tolerance runs.
type toleranceWorker struct {
	river.WorkerDefaults[store.TolerancePart]
	store   *store.Store
	planner *plan.Planner
}

// Work does a part. Errors are the database's, and that the worker is stopped: the part is
// done again. What cannot be done ends its run, with the reason.
func (w *toleranceWorker) Work(ctx context.Context, job *river.Job[store.TolerancePart]) error {
	chunk, of, err := w.store.OpenChunk(ctx, job.Args)
	if err != nil || chunk == nil {
		return err
	}
	outcomes, drawn, err := w.cut(ctx, chunk, of)
	if err := stopped(ctx); err != nil {
		return err
	}
	if err = tooLong(err); err != nil {
		keeping := context.WithoutCancel(ctx)
		return errors.Join(river.JobCancel(err), w.store.FailTolerance(keeping, of.ID, err.Error()))
	}
	return w.store.KeepOutcomes(ctx, chunk, outcomes, drawn)
}

// NextRetry has a part done again at once.
func (w *toleranceWorker) NextRetry(*river.Job[store.TolerancePart]) time.Time { return soon() }

func soon() time.Time { return time.Now().Add(idle) }

func (w *toleranceWorker) cut(ctx context.Context, chunk *store.ToleranceChunk, job *store.ToleranceJob) (outcomes, drawn []byte, err error) {
	defer defect("cutting a part of a tolerance run", &err)
	c, err := withKit(job)
	if err != nil {
		return nil, nil, err
	}
	var h tolerance.Hand
	if err := json.Unmarshal(job.Hand, &h); err != nil {
		return nil, nil, fmt.Errorf("reading the hand: %w", err)
	}
	r, err := w.planner.Rehearse(ctx, c, plan.DefaultGrid)
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

// withKit is a run's case, to be cut with the kit as it was.
func withKit(job *store.ToleranceJob) (*intake.Case, error) {
	c, err := caseOf(job.CaseDocument, job.Rules)
	if err != nil || !given(job.Kit) {
		return c, err
	}
	stock, err := document.ReadKit(job.Kit)
	if err != nil {
		return nil, err
	}
	c.Kit = stock.Kit()
	return c, nil
}
