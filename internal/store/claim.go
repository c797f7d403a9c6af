package store

import (
	"context"
	"errors"
	"fmt"
	"time"

	"github.com/google/uuid"
	"github.com/riverqueue/river"
	"gorm.io/datatypes"
	"gorm.io/gorm"
	"gorm.io/gorm/clause"
)

// Lease is how long a part is a worker's that says nothing. One that works renews it; after it
// the part is another's.
const Lease = 30 * time.Second

// enoughAttempts are those after which a part is given up whose workers have all died.
const enoughAttempts = 5

// Claimed is a part that is a worker's, with its job.
type Claimed struct {
	JobPart
	Of Job
}

// next is the part to be done next of some kinds: where somebody waits before a batch, then in
// turn by whoever asked, so that nobody's fifty jobs hold up another's one, then the oldest.
const next = `with served as materialized (select k.user_id, max(o.claimed_at) as at from job_part o join job k on k.id = o.job_id
		where o.claimed_at > now() - interval '1 hour' group by k.user_id)
	select p.job_id, p.number from job_part p join job j on j.id = p.job_id left join served on served.user_id = j.user_id
	where j.kind in ? and j.done_at is null and j.failed is null and j.cancelled_at is null and p.result is null and (p.leased_until is null or p.leased_until < now())
	order by j.priority, served.at nulls first, j.started_at, p.number
	limit 1 for update of p skip locked`

// Claim takes the part of some kinds that is to be done next; nil where there is none. Errors are
// the database's.
func (s *Store) Claim(ctx context.Context, kinds []JobKind) (*Claimed, error) {
	var c Claimed
	err := s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		taken := tx.Raw("update job_part set attempts = attempts + 1, claimed_at = clock_timestamp(), leased_until = now() + ? where (job_id, number) in ("+next+") returning *", interval(Lease), kinds).
			Scan(&c.JobPart)
		if taken.Error != nil || taken.RowsAffected == 0 {
			return taken.Error
		}
		return tx.First(&c.Of, "id = ?", c.JobID).Error
	})
	if err != nil {
		return nil, fmt.Errorf("taking work: %w", err)
	}
	if c.JobID == uuid.Nil {
		return nil, nil
	}
	return &c, nil
}

func interval(d time.Duration) any { return gorm.Expr("make_interval(secs => ?)", d.Seconds()) }

// Renew keeps how far a claimed part is, and that its worker is at it; wanted is false where it
// need not be gone on with: its job was ended, or nobody looks at it any more. Errors are the
// database's.
func (s *Store) Renew(ctx context.Context, c *Claimed, share float64) (wanted bool, err error) {
	kept := s.db.WithContext(ctx).Model(&JobPart{}).Where(`job_id = ? and number = ? and result is null and exists (select 1 from job
		where id = job_id and failed is null and cancelled_at is null and (wanted_until is null or wanted_until > now()))`, c.JobID, c.Number).
		Updates(map[string]any{"share": share, "leased_until": gorm.Expr("now() + ?", interval(Lease))})
	return kept.RowsAffected > 0, kept.Error
}

// Keep keeps what a part came to; the first answer stays. shared is what its job's parts have in
// common; nil where they have nothing. Errors are the database's.
func (s *Store) Keep(ctx context.Context, c *Claimed, result, shared []byte) error {
	err := s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		// The job first: of two last parts one has to see the other.
		if err := tx.Clauses(clause.Locking{Strength: "UPDATE"}).Select("id").First(&Job{}, "id = ?", c.JobID).Error; err != nil {
			return orNotFound(err)
		}
		done := map[string]any{"result": datatypes.JSON(result), "share": 1, "done_at": gorm.Expr("now()"), "leased_until": nil}
		if err := tx.Model(&JobPart{}).Where("job_id = ? and number = ? and result is null", c.JobID, c.Number).Updates(done).Error; err != nil {
			return err
		}
		if shared != nil {
			if err := tx.Model(&Job{}).Where("id = ? and shared is null", c.JobID).Update("shared", datatypes.JSON(shared)).Error; err != nil {
				return err
			}
		}
		return tx.Model(&Job{}).
			Where("id = ? and done_at is null and not exists (select 1 from job_part where job_id = job.id and result is null)", c.JobID).
			Update("done_at", gorm.Expr("now()")).
			Error
	})
	if errors.Is(err, ErrNotFound) { // nobody wanted it any more
		return nil
	}
	if err != nil {
		return fmt.Errorf("keeping what a job came to: %w", err)
	}
	return nil
}

// Release lets a part go that its worker was stopped in: that is no attempt. Errors are the
// database's.
func (s *Store) Release(ctx context.Context, c *Claimed) error {
	return s.db.WithContext(ctx).Model(&JobPart{}).Where("job_id = ? and number = ? and result is null", c.JobID, c.Number).
		Updates(map[string]any{"leased_until": nil, "attempts": gorm.Expr("greatest(attempts - 1, 0)")}).Error
}

// FailJob ends a job that cannot be done, with the reason. Errors are the database's.
func (s *Store) FailJob(ctx context.Context, id uuid.UUID, why string) error {
	return s.db.WithContext(ctx).Model(&Job{}).Where("id = ? and done_at is null", id).Update("failed", why).Error
}

// DropJob forgets a job that nobody looks at any more: asked for again it starts anew. Errors are
// the database's.
func (s *Store) DropJob(ctx context.Context, id uuid.UUID) error {
	return s.db.WithContext(ctx).Where("id = ? and done_at is null and wanted_until < now()", id).Delete(&Job{}).Error
}

// Reclaim calls workers to parts whose own have died, and ends jobs that no worker survives.
// Errors are the database's.
func (s *Store) Reclaim(ctx context.Context) error {
	return s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		given := tx.Exec(
			`update job set failed = ? where done_at is null and failed is null and exists (select 1 from job_part p
			where p.job_id = job.id and p.result is null and p.attempts >= ? and p.leased_until < now())`,
			fmt.Sprintf(
				"%d workers ended while they were at it: look at their log, and at the memory of the machine",
				enoughAttempts,
			),
			enoughAttempts,
		)
		if given.Error != nil {
			return given.Error
		}
		return s.call(ctx, tx, true, "p.leased_until < now()")
	})
}

// Requeue calls workers to all that is neither done nor ended: of an earlier version of the
// program, or whose call has been lost. Errors are the database's.
func (s *Store) Requeue(ctx context.Context) error {
	return s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error { return s.call(ctx, tx, false, "true") })
}

// call calls a worker for each open part that fits.
func (s *Store) call(ctx context.Context, tx *gorm.DB, again bool, fits string) error {
	var left []struct {
		JobPart
		Kind JobKind
	}
	found := tx.Raw(`select p.job_id, p.number, p.attempts, j.kind from job_part p join job j on j.id = p.job_id
		where p.result is null and j.done_at is null and j.failed is null and j.cancelled_at is null and ` + fits + ` order by j.started_at, p.number`).Scan(&left)
	if found.Error != nil {
		return found.Error
	}
	var calls []river.InsertManyParams
	for _, p := range left {
		calls = append(calls, tokens(&Job{ID: p.JobID, Kind: p.Kind, Parts: []JobPart{p.JobPart}}, again)...)
	}
	return s.enqueue(ctx, tx, calls)
}
