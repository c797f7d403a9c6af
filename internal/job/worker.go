// Package job does what takes minutes beside the server, or on another machine with the
// same database: it takes jobs from the queue, one at a time, and keeps what they come to.
package job

import (
	"context"
	"errors"
	"fmt"
	"log/slog"
	"runtime/debug"
	"time"

	"github.com/riverqueue/river"
	"github.com/riverqueue/river/riverdriver/riverdatabasesql"

	"obturon/internal/plan"
	"obturon/internal/store"
)

const (
	// longest is what any part takes at most. After dead the call that a dead worker had taken is
	// forgotten; its part is another's long before.
	longest = 4 * time.Minute
	dead    = longest + 30*time.Second
	// idle is how long a worker waits before it looks again, with nothing to do.
	idle = time.Second
	// keeping is what a worker that is stopped may take to let its job go.
	keeping = 10 * time.Second
)

// Run works until the context ends. yield is called between pieces of work, and may wait where
// others are to come first. Trouble with one job is logged, and ends no more than what it belongs
// to. The error says why there is no work to be had.
func Run(ctx context.Context, st *store.Store, planner *plan.Planner, yield func(context.Context)) error {
	workers := river.NewWorkers()
	river.AddWorker(workers, &worker{store: st, yield: yield, kinds: map[store.JobKind]does{
		store.Proof: prove(planner), store.Tolerance: cutByHand(planner), store.FineDeflection: loadFine(planner),
	}})
	client, err := river.NewClient(riverdatabasesql.New(st.SQL()), &river.Config{
		// One of each at a time: it keeps all processors busy.
		Queues:  map[string]river.QueueConfig{river.QueueDefault: {MaxWorkers: 1}, store.Brief: {MaxWorkers: 1}},
		Workers: workers, JobTimeout: longest, RescueStuckJobsAfter: dead, FetchPollInterval: idle,
		Logger: slog.New(discard{slog.Default().Handler()}),
	})
	if err != nil {
		return fmt.Errorf("opening the queue: %w", err)
	}
	if err := errors.Join(st.ForgetOldJobs(ctx), st.Requeue(ctx)); err != nil {
		return fmt.Errorf("queueing what was left: %w", err)
	}
	// What is to be kept of a job is kept although the program is being stopped.
	if err := client.Start(context.WithoutCancel(ctx)); err != nil {
		return fmt.Errorf("starting to work: %w", err)
	}
	reclaim(ctx, st)
	stopping, done := context.WithTimeout(context.WithoutCancel(ctx), keeping)
	defer done()
	if err := client.StopAndCancel(stopping); err != nil {
		return fmt.Errorf("letting a job go: %w", err)
	}
	return nil
}

// reclaim has parts done whose workers have died, until the context ends.
func reclaim(ctx context.Context, st *store.Store) {
	const often = 10 * time.Second
	for tick := time.NewTicker(often); ; {
		select {
		case <-ctx.Done():
			tick.Stop()
			return
		case <-tick.C:
		}
		if err := st.Reclaim(ctx); err != nil && ctx.Err() == nil {
			slog.Warn("looking for work whose worker has died", "error", err)
		}
	}
}

// discard leaves out of the log what the queue tells of itself, up to its warnings.
type discard struct{ slog.Handler }

func (d discard) Enabled(ctx context.Context, level slog.Level) bool {
	return level >= slog.LevelWarn && d.Handler.Enabled(ctx, level)
}

func (d discard) WithAttrs(attrs []slog.Attr) slog.Handler {
	return discard{d.Handler.WithAttrs(attrs)}
}
func (d discard) WithGroup(name string) slog.Handler { return discard{d.Handler.WithGroup(name)} }

// defect turns a panic into an error, so that a job with a defect is not taken again and
// again.
func defect(doing string, err *error) {
	if value := recover(); value != nil {
		slog.Error(doing, "panic", value, "stack", string(debug.Stack()))
		*err = errors.New("it met a defect of this program, which is in the server's log")
	}
}

// stopped is why a job is to be left for another worker: its own is being stopped. One that
// takes too long would take the next as long: it fails, like any other that cannot be done.
func stopped(ctx context.Context) error {
	if errors.Is(ctx.Err(), context.DeadlineExceeded) {
		return nil
	}
	return ctx.Err()
}

// tooLong puts a reason that says something in the place of a deadline's.
func tooLong(err error) error {
	if errors.Is(err, context.DeadlineExceeded) {
		return fmt.Errorf("it took longer than %.0f minutes: try it on a machine that has less to do", longest.Minutes())
	}
	return err
}
