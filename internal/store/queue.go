package store

import (
	"context"
	"database/sql"
	"fmt"

	"github.com/google/uuid"
	"github.com/pressly/goose/v3/lock"
	"github.com/riverqueue/river"
	"github.com/riverqueue/river/riverdriver/riverdatabasesql"
	"github.com/riverqueue/river/rivermigrate"
	"github.com/riverqueue/river/rivertype"
	"gorm.io/gorm"
)

// TolerancePart is the job of cutting one chunk of a tolerance run.
type TolerancePart struct {
	Job    uuid.UUID `json:"job" river:"unique"`
	Number int       `json:"number" river:"unique"`
}

// Kind names the job in the queue.
func (TolerancePart) Kind() string { return "tolerance_part" }

// FineParting is the job of loading a tooth on fine cells.
type FineParting struct {
	Run uuid.UUID `json:"run" river:"unique"`
}

// Kind names the job in the queue.
func (FineParting) Kind() string { return "fine_parting" }

// Somebody watches a fine parting, while a tolerance run takes minutes anyway: it goes first.
const (
	watched = 1
	patient = 2
)

// options are those of a job that is to be done once: one that waits or runs already is not
// queued again.
func options(priority int) *river.InsertOpts {
	return &river.InsertOpts{Priority: priority, UniqueOpts: river.UniqueOpts{ByArgs: true, ByState: []rivertype.JobState{
		rivertype.JobStateAvailable, rivertype.JobStatePending, rivertype.JobStateRunning, rivertype.JobStateRetryable, rivertype.JobStateScheduled,
	}}}
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

// Requeue queues again what was begun and is neither done nor queued: of a run from before
// the queue, or of a job that was given up. Errors are the database's.
func (s *Store) Requeue(ctx context.Context) error {
	return s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		var parts []TolerancePart
		unfinished := tx.Raw(`select c.job_id as job, c.number from tolerance_chunk c join tolerance_job j on j.id = c.job_id
			where c.outcomes is null and j.cancelled_at is null and j.failed is null order by j.started_at, c.number`).Scan(&parts)
		if unfinished.Error != nil {
			return unfinished.Error
		}
		var runs []uuid.UUID
		if err := tx.Model(&FineRun{}).Where("result is null and cancelled_at is null and failed is null").Order("started_at").Pluck("id", &runs).Error; err != nil {
			return err
		}
		var jobs []river.InsertManyParams
		for _, p := range parts {
			jobs = append(jobs, river.InsertManyParams{Args: p, InsertOpts: options(patient)})
		}
		open, err := openJobs(tx)
		if err != nil {
			return err
		}
		for _, j := range open {
			jobs = append(jobs, river.InsertManyParams{Args: Task{j.ID}, InsertOpts: j.options()})
		}
		for _, id := range runs {
			jobs = append(jobs, river.InsertManyParams{Args: FineParting{id}, InsertOpts: options(watched)})
		}
		return s.enqueue(ctx, tx, jobs)
	})
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
