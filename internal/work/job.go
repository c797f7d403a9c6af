package work

import (
	"context"
	"errors"
	"fmt"
	"time"

	"github.com/riverqueue/river"

	"obturon/internal/store"
)

// does is how a kind of job is done: what it comes to, from its input. progress is told the
// share that is done, now and then.
type does func(ctx context.Context, j *store.Job, progress func(share float64)) (result []byte, err error)

// jobWorker does jobs of all kinds.
type jobWorker struct {
	river.WorkerDefaults[store.Task]
	store *store.Store
	kinds map[string]does
}

var errUnwanted = errors.New("nobody looks at it any more")

// Work does a job. Errors are the database's, and that the worker is stopped: the job is done
// again. What cannot be done ends with the reason; what nobody looks at any more is forgotten.
func (w *jobWorker) Work(ctx context.Context, task *river.Job[store.Task]) error {
	j, err := w.store.Job(ctx, task.Args.Job)
	if errors.Is(err, store.ErrNotFound) {
		return nil
	}
	if err != nil || !j.Open() {
		return err
	}
	wanted, stop := context.WithCancelCause(ctx)
	defer stop(nil)
	progress := keepingShares(wanted, stop, errUnwanted, func(share float64) (bool, error) { return w.store.KeepJobShare(wanted, j.ID, share) })
	progress(0) // it may have waited for long
	var result []byte
	if wanted.Err() == nil {
		result, err = w.do(wanted, j, progress)
	}
	switch cause := context.Cause(wanted); {
	case stopped(ctx) != nil:
		return stopped(ctx)
	case errors.Is(cause, errUnwanted):
		return w.store.DropJob(context.WithoutCancel(ctx), j.ID)
	case cause != nil && ctx.Err() == nil: // the database's
		return cause
	case err != nil:
		err = tooLong(err)
		return errors.Join(river.JobCancel(err), w.store.FailJob(context.WithoutCancel(ctx), j.ID, err.Error()))
	}
	return w.store.KeepJobResult(ctx, j.ID, result)
}

// NextRetry has a job done again at once.
func (w *jobWorker) NextRetry(*river.Job[store.Task]) time.Time { return soon() }

func (w *jobWorker) do(ctx context.Context, j *store.Job, progress func(share float64)) (result []byte, err error) {
	defer defect("doing a job of the kind "+j.Kind, &err)
	do, ok := w.kinds[j.Kind]
	if !ok {
		return nil, fmt.Errorf("this version of the program knows no job of the kind %q", j.Kind)
	}
	return do(ctx, j, progress)
}
