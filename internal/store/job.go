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

// JobKind is what long work is about.
type JobKind string

// Job is long work that whoever asks the same question shares. Its parts are done by whoever
// works.
type Job struct {
	ID         uuid.UUID `gorm:"default:gen_random_uuid()"`
	PracticeID uuid.UUID
	UserID     uuid.UUID  // who asked first
	CaseID     *uuid.UUID // nil of what belongs to no case
	Kind       JobKind
	Key        string // of all that it depends on
	Priority   Priority
	Input      datatypes.JSON
	Shared     datatypes.JSON // what its parts have in common, once one of them has made it
	Failed     *string        // why it cannot be done
	// WantedUntil is when nobody looks any more who has not asked again; nil where it is wanted
	// for good.
	WantedUntil *time.Time
	CancelledAt *time.Time
	StartedAt   time.Time `gorm:"default:now()"`
	DoneAt      *time.Time
	Parts       []JobPart `gorm:"foreignKey:JobID"`
}

// TableName names the table for GORM.
func (Job) TableName() string { return "job" }

// JobPart is what one worker does of a job at a time.
type JobPart struct {
	JobID       uuid.UUID      `gorm:"primaryKey"`
	Number      int            `gorm:"primaryKey;autoIncrement:false"`
	Input       datatypes.JSON // null where the job's says it all
	Share       float64        // of the work that is done, 0 to 1
	Result      datatypes.JSON // once it is done
	DoneAt      *time.Time
	Attempts    int // that workers have made at it
	ClaimedAt   *time.Time
	LeasedUntil *time.Time // by the worker that is at it, which renews it
}

// TableName names the table for GORM.
func (JobPart) TableName() string { return "job_part" }

// Priority is whether somebody waits for a job.
type Priority int

// Of two jobs the interactive one is done first; a batch is looked at when it is done.
const (
	Interactive Priority = 1
	Batch       Priority = 2
)

// JobState is how a job stands.
type JobState string

// The states of a job.
const (
	JobRuns      JobState = "runs"
	JobFinished  JobState = "finished"
	JobFailed    JobState = "failed"
	JobCancelled JobState = "cancelled"
)

// State is how a job stands: what is done stays done, whatever happened later.
func (j *Job) State() JobState {
	switch {
	case j.DoneAt != nil:
		return JobFinished
	case j.Failed != nil:
		return JobFailed
	case j.CancelledAt != nil:
		return JobCancelled
	}
	return JobRuns
}

// Share is how much of a job is done, 0 to 1. Its parts have to be there.
func (j *Job) Share() float64 {
	var sum float64
	for _, p := range j.Parts {
		sum += p.Share
	}
	return sum / float64(max(len(j.Parts), 1))
}

// Result is what a job in one part came to; nil before. Its parts have to be there.
func (j *Job) Result() []byte { return j.Parts[0].Result }

// lookedAt is how long a job is wanted after somebody who looks has asked for it.
const lookedAt = 15 * time.Second

// triedAgain is how long a job that failed is let be.
const triedAgain = time.Minute

// Asking is how a job is asked for.
type Asking struct {
	// ForGood has it done whoever looks; else it is wanted for as long as it is asked for.
	ForGood bool
	// Start goes on with one that was cancelled, and begins at once again with one that failed.
	Start bool
	// Action names it in the audit where it is begun or gone on with; "" leaves it out.
	Action string
}

// Ask finds the job of a practice's kind and key with its parts, or begins it with the parts of
// asked. One that failed a while ago is tried again. Errors are the database's, and those of
// StartRun for a job of a case that is begun.
func (s *Store) Ask(ctx context.Context, asked Job, as Asking) (*Job, error) {
	until := time.Now().Add(lookedAt)
	if !as.ForGood {
		asked.WantedUntil = &until
	}
	var j Job
	err := s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		if as.Start && asked.CaseID != nil {
			if _, err := lockCase(tx, asked.PracticeID, *asked.CaseID); err != nil {
				return err
			}
		}
		fresh, err := findOrBegin(tx, asked, &j)
		if err != nil {
			return err
		}
		again := !fresh && (j.Failed != nil && (as.Start || time.Since(j.StartedAt) > triedAgain) || j.CancelledAt != nil && as.Start)
		changed := map[string]any{}
		if again {
			changed = map[string]any{"failed": nil, "cancelled_at": nil, "started_at": time.Now()}
			if err := tx.Model(&JobPart{}).Where("job_id = ? and result is null", j.ID).Updates(map[string]any{"share": 0, "attempts": 0, "leased_until": nil}).Error; err != nil {
				return err
			}
		} else if as.Start && !fresh {
			changed["started_at"] = time.Now() // it is the newest again
		}
		if j.WantedUntil != nil && (j.State() == JobRuns || as.ForGood) {
			changed["wanted_until"] = asked.WantedUntil
		}
		if asked.Priority < j.Priority {
			changed["priority"] = asked.Priority
		}
		if len(changed) > 0 {
			if err := tx.Model(&Job{}).Where("id = ?", j.ID).Updates(changed).Error; err != nil {
				return err
			}
		}
		if fresh || again {
			if err := s.enqueue(ctx, tx, tokens(&j, false)); err != nil {
				return err
			}
			if as.Action != "" {
				if err := audit(tx, &j.PracticeID, &asked.UserID, as.Action, j.ID.String()); err != nil {
					return err
				}
			}
		}
		id := j.ID
		j = Job{} // what is null now must not stay as it was
		return tx.Preload("Parts", inOrder).First(&j, "id = ?", id).Error
	})
	if err != nil {
		return nil, fmt.Errorf("asking for a job: %w", err)
	}
	return &j, nil
}

// findOrBegin reads the job of a kind and key into j, held for the transaction; one that is not
// known is made first.
func findOrBegin(tx *gorm.DB, asked Job, j *Job) (fresh bool, err error) {
	parts := asked.Parts
	if len(parts) == 0 {
		parts = []JobPart{{}}
	}
	made := tx.Omit(clause.Associations).Clauses(clause.OnConflict{DoNothing: true}).Create(&asked)
	if made.Error != nil {
		return false, made.Error
	}
	known := tx.Clauses(clause.Locking{Strength: "UPDATE"}).
		First(j, "practice_id = ? and kind = ? and key = ?", asked.PracticeID, asked.Kind, asked.Key)
	if known.Error != nil {
		return false, known.Error
	}
	if fresh = made.RowsAffected > 0; fresh {
		for n := range parts {
			parts[n].JobID, parts[n].Number = j.ID, n
		}
		if err := tx.Create(&parts).Error; err != nil {
			return fresh, err
		}
	}
	return fresh, tx.Where("job_id = ?", j.ID).Order("number").Find(&j.Parts).Error
}

// JobResult is what a job in one part came to, of a practice's kind and key; nil where it is not
// done. Errors are the database's.
func (s *Store) JobResult(ctx context.Context, practice uuid.UUID, kind JobKind, key string) ([]byte, error) {
	var p JobPart
	found := s.db.WithContext(ctx).Joins("join job on job.id = job_part.job_id").
		Where("job.practice_id = ? and job.kind = ? and job.key = ? and job_part.result is not null", practice, kind, key).Limit(1).Find(&p)
	return p.Result, found.Error
}

// Job finds a job with its parts. It fails with ErrNotFound where there is none of that id.
func (s *Store) Job(ctx context.Context, id uuid.UUID) (*Job, error) {
	var j Job
	if err := s.db.WithContext(ctx).Preload("Parts", inOrder).First(&j, "id = ?", id).Error; err != nil {
		return nil, orNotFound(err)
	}
	return &j, nil
}

// LastJob is the newest job of a case and kind; nil where it has none. Errors are the database's.
func (s *Store) LastJob(ctx context.Context, caseID uuid.UUID, kind JobKind) (*Job, error) {
	var j Job
	found := s.db.WithContext(ctx).
		Preload("Parts", inOrder).
		Where("case_id = ? and kind = ?", caseID, kind).
		Order("started_at desc").
		Limit(1).
		Find(&j)
	if found.Error != nil || found.RowsAffected == 0 {
		return nil, found.Error
	}
	return &j, nil
}

// CancelJob ends a job of a case and kind, unless it is done; what is done of it stays. It fails
// with ErrNotFound where the case has none of that id.
func (s *Store) CancelJob(ctx context.Context, caseID, id uuid.UUID, kind JobKind) (*Job, error) {
	ended := s.db.WithContext(ctx).Model(&Job{}).Where("case_id = ? and id = ? and kind = ?", caseID, id, kind).
		Update("cancelled_at", gorm.Expr("case when done_at is null then coalesce(cancelled_at, now()) end"))
	if ended.Error != nil {
		return nil, ended.Error
	}
	if ended.RowsAffected == 0 {
		return nil, ErrNotFound
	}
	return s.Job(ctx, id)
}

// forgotten is after how long the result of a job is dropped that was only looked at.
const forgotten = 30 * 24 * time.Hour

// ForgetOldJobs drops what was only looked at, long ago. Errors are the database's.
func (s *Store) ForgetOldJobs(ctx context.Context) error {
	before := time.Now().Add(-forgotten)
	return s.db.WithContext(ctx).
		Where("wanted_until is not null and (done_at < ? or failed is not null and started_at < ?)", before, before).
		Delete(&Job{}).
		Error
}

// tokens call a worker for each part of a job that is not done. again tells those from tokens
// that a worker has taken with it.
func tokens(j *Job, again bool) (all []river.InsertManyParams) {
	for _, p := range j.Parts {
		if p.Result == nil {
			args := Task{Job: j.ID, Number: p.Number}
			if again {
				args.Attempt = p.Attempts
			}
			all = append(all, river.InsertManyParams{Args: args, InsertOpts: options(j)})
		}
	}
	return all
}
