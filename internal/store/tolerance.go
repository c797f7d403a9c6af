package store

import (
	"context"
	"fmt"
	"time"

	"github.com/google/uuid"
	"github.com/riverqueue/river"
	"gorm.io/datatypes"
	"gorm.io/gorm"
	"gorm.io/gorm/clause"
)

// ToleranceJob is a case that is cut again and again with a hand that errs.
type ToleranceJob struct {
	ID           uuid.UUID `gorm:"default:gen_random_uuid()"`
	CaseID       uuid.UUID
	UserID       uuid.UUID
	RequestKey   *uuid.UUID
	CaseDocument datatypes.JSON
	Rules        datatypes.JSON // house rules as they were; null where a school's own are meant
	Kit          datatypes.JSON // as it was; null where all instruments lay ready
	Hand         datatypes.JSON
	Runs         int
	Drawn        datatypes.JSON // once a worker has made it
	StartedAt    time.Time      `gorm:"default:now()"`
	CancelledAt  *time.Time
	Failed       *string
	Chunks       []ToleranceChunk `gorm:"foreignKey:JobID"`
}

// TableName names the table for GORM.
func (ToleranceJob) TableName() string { return "tolerance_job" }

// ToleranceChunk is a part of a job that one worker does at a time.
type ToleranceChunk struct {
	JobID     uuid.UUID `gorm:"primaryKey"`
	Number    int       `gorm:"primaryKey;autoIncrement:false"`
	Aim       int       // -1 as the hand is
	FirstSeed int64
	Runs      int
	Outcomes  datatypes.JSON // once it is done
	DoneAt    *time.Time
}

// TableName names the table for GORM.
func (ToleranceChunk) TableName() string { return "tolerance_chunk" }

// StartTolerance keeps a job with its chunks, to be done by whoever works. Sent again under
// the same request key it gives the job that was started first. Errors are those of StartRun.
func (s *Store) StartTolerance(ctx context.Context, practice uuid.UUID, j ToleranceJob) (uuid.UUID, error) {
	err := s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		if _, err := lockCase(tx, practice, j.CaseID); err != nil {
			return err
		}
		if known, err := startedBefore(tx, &ToleranceJob{}, j.CaseID, j.UserID, j.RequestKey); err != nil || known != uuid.Nil {
			j.ID = known
			return err
		}
		chunks := j.Chunks
		if err := tx.Omit(clause.Associations).Create(&j).Error; err != nil {
			return err
		}
		for n := range chunks {
			chunks[n].JobID = j.ID
		}
		if err := tx.Create(&chunks).Error; err != nil {
			return err
		}
		var parts []river.InsertManyParams
		for _, c := range chunks {
			parts = append(parts, river.InsertManyParams{Args: TolerancePart{j.ID, c.Number}, InsertOpts: options(patient)})
		}
		if err := s.enqueue(ctx, tx, parts); err != nil {
			return err
		}
		return audit(tx, &practice, &j.UserID, "start tolerance run", j.ID.String())
	})
	if err != nil {
		return uuid.Nil, fmt.Errorf("starting the tolerance run: %w", err)
	}
	return j.ID, nil
}

// OpenChunk is a chunk with its job; nil where it is done or not to be done any more. Errors
// are the database's.
func (s *Store) OpenChunk(ctx context.Context, part TolerancePart) (*ToleranceChunk, *ToleranceJob, error) {
	var c ToleranceChunk
	var j ToleranceJob
	db := s.db.WithContext(ctx)
	open := db.Where("job_id = ? and number = ? and outcomes is null", part.Job, part.Number).Limit(1).Find(&c)
	if open.Error != nil || open.RowsAffected == 0 {
		return nil, nil, open.Error
	}
	wanted := db.Where("id = ? and cancelled_at is null and failed is null", part.Job).Limit(1).Find(&j)
	if wanted.Error != nil || wanted.RowsAffected == 0 {
		return nil, nil, wanted.Error
	}
	return &c, &j, nil
}

// KeepOutcomes keeps what a chunk came to; the first answer stays. drawn are the checks of
// the drawn cavities. Errors are the database's.
func (s *Store) KeepOutcomes(ctx context.Context, c *ToleranceChunk, outcomes, drawn []byte) error {
	err := s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		done := map[string]any{"outcomes": datatypes.JSON(outcomes), "done_at": time.Now()}
		if err := tx.Model(&ToleranceChunk{}).Where("job_id = ? and number = ? and outcomes is null", c.JobID, c.Number).Updates(done).Error; err != nil {
			return err
		}
		return tx.Model(&ToleranceJob{}).Where("id = ? and drawn is null", c.JobID).Update("drawn", datatypes.JSON(drawn)).Error
	})
	if err != nil {
		return fmt.Errorf("keeping a tolerance run's part: %w", err)
	}
	return nil
}

// FailTolerance ends a job that cannot be done, with the reason. Errors are the database's.
func (s *Store) FailTolerance(ctx context.Context, job uuid.UUID, why string) error {
	return s.db.WithContext(ctx).Model(&ToleranceJob{}).Where("id = ?", job).Update("failed", why).Error
}

// CancelTolerance ends a job of a case; what is done stays. It fails with ErrNotFound where
// the case has no such job.
func (s *Store) CancelTolerance(ctx context.Context, caseID, id uuid.UUID) error {
	done := s.db.WithContext(ctx).Model(&ToleranceJob{}).Where("case_id = ? and id = ?", caseID, id).Update("cancelled_at", gorm.Expr("coalesce(cancelled_at, now())"))
	if done.Error != nil {
		return done.Error
	}
	if done.RowsAffected == 0 {
		return ErrNotFound
	}
	return nil
}

// Tolerance finds a job of a case with its chunks. It fails with ErrNotFound where the case
// has no such job.
func (s *Store) Tolerance(ctx context.Context, caseID, id uuid.UUID) (*ToleranceJob, error) {
	var j ToleranceJob
	err := s.db.WithContext(ctx).Preload("Chunks", inOrder).First(&j, "case_id = ? and id = ?", caseID, id).Error
	if err != nil {
		return nil, orNotFound(err)
	}
	return &j, nil
}

// LastTolerance is the newest job of a case; nil where it has none. Errors are the
// database's.
func (s *Store) LastTolerance(ctx context.Context, caseID uuid.UUID) (*ToleranceJob, error) {
	var j ToleranceJob
	found := s.db.WithContext(ctx).Preload("Chunks", inOrder).Where("case_id = ?", caseID).Order("started_at desc").Limit(1).Find(&j)
	if found.Error != nil || found.RowsAffected == 0 {
		return nil, found.Error
	}
	return &j, nil
}
