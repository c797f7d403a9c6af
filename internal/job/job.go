package job

import (
	"context"
	"errors"
	"fmt"
	"math"
	"sync/atomic"
	"time"

	"github.com/riverqueue/river"

	"obturon/internal/store"
)

// does is how a part of some kind of job is done: what it comes to, from its input and its job's,
// and what the job's parts have in common, or nil. progress is told the share of the part that is
// done, now and then; it may take a while where others are to come first.
type does func(ctx context.Context, c *store.Claimed, progress func(share float64)) (result, shared []byte, err error)

// worker does parts of jobs of all kinds.
type worker struct {
	river.WorkerDefaults[store.Task]
	store *store.Store
	kinds map[store.JobKind]does
	yield func(context.Context)
}

var errUnwanted = errors.New("nobody wants it any more")

// Work does the part whose turn it is. Errors are the database's, and that the worker is stopped:
// the part is done again. What cannot be done ends its job with the reason; what nobody looks at
// any more is forgotten.
func (w *worker) Work(ctx context.Context, task *river.Job[store.Task]) error {
	c, err := w.store.Claim(ctx, w.of(task.Queue))
	if err != nil || c == nil {
		return err
	}
	wanted, stop := context.WithCancelCause(ctx)
	defer stop(nil)
	renewing := w.renew(wanted, c, stop)
	result, shared, err := w.do(wanted, c, func(share float64) {
		renewing.note(share)
		w.yield(wanted)
	})
	stop(nil)
	<-renewing.over
	keeping := context.WithoutCancel(ctx)
	switch cause := context.Cause(wanted); {
	case stopped(ctx) != nil:
		return errors.Join(stopped(ctx), w.store.Release(keeping, c))
	case errors.Is(cause, errUnwanted):
		return w.store.DropJob(keeping, c.JobID)
	case !errors.Is(cause, context.Canceled) && ctx.Err() == nil: // the database's
		return cause
	case err != nil:
		err = tooLong(err)
		return errors.Join(river.JobCancel(err), w.store.FailJob(keeping, c.JobID, err.Error()))
	}
	return w.store.Keep(keeping, c, result, shared)
}

// NextRetry has a part done again at once.
func (w *worker) NextRetry(*river.Job[store.Task]) time.Time { return time.Now().Add(idle) }

// of are the kinds of a queue.
func (w *worker) of(queue string) []store.JobKind {
	if queue == store.Brief {
		return store.BriefKinds
	}
	return store.LongKinds
}

func (w *worker) do(ctx context.Context, c *store.Claimed, progress func(share float64)) (result, shared []byte, err error) {
	defer defect("doing a job of the kind "+string(c.Of.Kind), &err)
	do, ok := w.kinds[c.Of.Kind]
	if !ok {
		return nil, nil, fmt.Errorf("this version of the program knows no job of the kind %q", c.Of.Kind)
	}
	return do(ctx, c, progress)
}

// renewal tells the store how far a claimed part is, and that its worker is at it.
type renewal struct {
	share atomic.Uint64 // the bits of a float64
	over  chan struct{}
}

func (r *renewal) note(share float64) { r.share.Store(math.Float64bits(share)) }

// renew keeps a part this worker's until the context ends, and stops it when it is wanted no more
// or the database has not answered for as long as the lease holds.
func (w *worker) renew(ctx context.Context, c *store.Claimed, stop context.CancelCauseFunc) *renewal {
	const often, atLeast = 400 * time.Millisecond, 2 * time.Second
	r := &renewal{over: make(chan struct{})}
	go func() {
		defer close(r.over)
		tick := time.NewTicker(often)
		defer tick.Stop()
		kept, last := -1.0, time.Now()
		for {
			share := math.Float64frombits(r.share.Load())
			if share != kept || time.Since(last) >= atLeast {
				wanted, err := w.store.Renew(ctx, c, share)
				switch {
				case ctx.Err() != nil:
				case err == nil && !wanted:
					stop(errUnwanted)
				case err == nil:
					kept, last = share, time.Now()
				case time.Since(last) > store.Lease:
					stop(err)
				}
			}
			select {
			case <-ctx.Done():
				return
			case <-tick.C:
			}
		}
	}()
	return r
}
