package work

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"time"

	"github.com/riverqueue/river"

	"obturon/internal/plan"
	"obturon/internal/store"
)

// fineWorker loads teeth on fine cells.
type fineWorker struct {
	river.WorkerDefaults[store.FineParting]
	store   *store.Store
	planner *plan.Planner
}

// Work does a run. Errors are the database's, and that the worker is stopped: the run is done
// again. What cannot be done ends with the reason; what somebody ended is left.
func (w *fineWorker) Work(ctx context.Context, job *river.Job[store.FineParting]) error {
	r, err := w.store.FineRun(ctx, job.Args.Run)
	if errors.Is(err, store.ErrNotFound) {
		return nil
	}
	if err != nil || !r.Open() {
		return err
	}
	wanted, stop := context.WithCancelCause(ctx)
	defer stop(nil)
	result, err := w.part(wanted, r, keepingShares(wanted, stop, errEnded, func(share float64) (bool, error) { return w.store.KeepShare(wanted, r.ID, share) }))
	switch {
	case stopped(ctx) != nil:
		return stopped(ctx)
	case errors.Is(context.Cause(wanted), errEnded):
		return nil
	case wanted.Err() != nil && ctx.Err() == nil: // the database's
		return context.Cause(wanted)
	case err != nil:
		err = tooLong(err)
		return errors.Join(river.JobCancel(err), w.store.FailFineRun(context.WithoutCancel(ctx), r.ID, err.Error()))
	}
	return w.store.KeepFineResult(ctx, r.ID, result)
}

// NextRetry has a run done again at once.
func (w *fineWorker) NextRetry(*river.Job[store.FineParting]) time.Time { return soon() }

var errEnded = errors.New("the run was ended")

func (w *fineWorker) part(ctx context.Context, r *store.FineRun, progress func(share float64)) (result []byte, err error) {
	defer defect("loading a tooth on fine cells", &err)
	c, err := caseOf(r.CaseDocument, r.Rules)
	if err != nil {
		return nil, err
	}
	var with plan.Loading
	if err := json.Unmarshal(r.Loading, &with); err != nil {
		return nil, fmt.Errorf("reading the load: %w", err)
	}
	parted, without, err := w.planner.PartingOf(ctx, c, nil, with, plan.DefaultGrid, true, progress)
	if err != nil {
		return nil, err
	}
	return json.Marshal(plan.PartingDocument(parted, without, with))
}
