package store

import (
	"context"
	"database/sql"
	"fmt"
	"slices"

	"github.com/google/uuid"
	"github.com/pressly/goose/v3/lock"
	"github.com/riverqueue/river"
	"github.com/riverqueue/river/riverdriver/riverdatabasesql"
	"github.com/riverqueue/river/rivermigrate"
	"github.com/riverqueue/river/rivertype"
	"gorm.io/gorm"
)

// Task calls a worker: there is a part to be done. It names one, so that each is called for once,
// but the worker takes the one whose turn it is.
type Task struct {
	Job     uuid.UUID `json:"job" river:"unique"`
	Number  int       `json:"number" river:"unique"`
	Attempt int       `json:"attempt" river:"unique"`
}

// Kind names the task in the queue.
func (Task) Kind() string { return "job" }

// Brief is the queue of kinds that take seconds: they do not wait behind those of minutes.
const Brief = "brief"

// The kinds of jobs by how long a part of them takes: seconds, or up to minutes.
var (
	BriefKinds = []JobKind{Proof}
	LongKinds  = []JobKind{Tolerance, FineDeflection}
)

// The kinds of jobs.
const (
	Proof          JobKind = "proof"           // a kit cuts a case
	Tolerance      JobKind = "tolerance"       // a hand that errs cuts it again and again
	FineDeflection JobKind = "fine_deflection" // its tooth is loaded on fine cells
)

// options of a call that is to be answered once: one that waits or is answered already is not
// queued again.
func options(j *Job) *river.InsertOpts {
	o := &river.InsertOpts{UniqueOpts: river.UniqueOpts{ByArgs: true, ByState: []rivertype.JobState{
		rivertype.JobStateAvailable, rivertype.JobStatePending, rivertype.JobStateRunning, rivertype.JobStateRetryable, rivertype.JobStateScheduled,
	}}}
	if slices.Contains(BriefKinds, j.Kind) {
		o.Queue = Brief
	}
	return o
}

// enqueue queues jobs in a transaction: they are there once it is.
func (s *Store) enqueue(ctx context.Context, tx *gorm.DB, jobs []river.InsertManyParams) error {
	if len(jobs) == 0 {
		return nil
	}
	_, err := s.queue.InsertManyTx(ctx, tx.Statement.ConnPool.(*sql.Tx), jobs)
	if err != nil {
		return fmt.Errorf("queueing jobs: %w", err)
	}
	return nil
}

// migrateQueue brings the queue's own tables up to date; two programs that start at once
// take turns.
func migrateQueue(ctx context.Context, pool *sql.DB) error {
	turn, err := lock.NewPostgresSessionLocker()
	if err != nil {
		return fmt.Errorf("making the lock for the queue's tables: %w", err)
	}
	conn, err := pool.Conn(ctx)
	if err != nil {
		return err
	}
	defer conn.Close()
	if err := turn.SessionLock(ctx, conn); err != nil {
		return fmt.Errorf("waiting to bring the queue's tables up to date: %w", err)
	}
	defer turn.SessionUnlock(context.WithoutCancel(ctx), conn)
	migrator, err := rivermigrate.New(riverdatabasesql.New(pool), nil)
	if err != nil {
		return err
	}
	if _, err := migrator.Migrate(ctx, rivermigrate.DirectionUp, nil); err != nil {
		return fmt.Errorf("bringing the queue's tables up to date: %w", err)
	}
	return nil
}
