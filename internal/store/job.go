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

// Job is long work that whoever asks the same question shares. Who does it is up to the
// workers.
type Job struct {
	ID         uuid.UUID `gorm:"default:gen_random_uuid()"`
	PracticeID uuid.UUID
	UserID     uuid.UUID // who asked first
	Kind       string
	Key        string // of all that it depends on
	Input      datatypes.JSON
	Share      float64        // of the work that is done, 0 to 1
	Result     datatypes.JSON // once it is done
	Failed     *string        // why it cannot be done
	// WantedUntil is when nobody looks any more who has not asked again; nil where it is wanted
	// for good.
	WantedUntil *time.Time
	StartedAt   time.Time `gorm:"default:now()"`
	DoneAt      *time.Time
}

// TableName names the table for GORM.
func (Job) TableName() string { return "job" }

// Open reports a job that is still to be done.
func (j *Job) Open() bool { return j.Result == nil && j.Failed == nil }

// Brief is the queue of jobs that take seconds: they do not wait behind those of minutes.
const Brief = "brief"

// options of a job in the queue: what somebody looks at comes first.
func (j *Job) options() *river.InsertOpts {
	priority := patient
	if j.WantedUntil != nil {
		priority = watched
	}
	o := options(priority)
	o.Queue = Brief
	return o
}

// Task is the job of doing a Job, as the queue knows it.
type Task struct {
	Job uuid.UUID `json:"job" river:"unique"`
}

// Kind names the job in the queue.
func (Task) Kind() string { return "job" }

// lookedAt is how long a job is wanted after somebody who looks has asked for it.
const lookedAt = 15 * time.Second

// triedAgain is how long a job that failed is let be.
const triedAgain = time.Minute

// Ask finds the job of a practice's kind and key, or starts it. One that somebody looks at is
// wanted for as long as it is asked for; with forGood it is done whoever looks. One that failed a
// while ago is tried again. Errors are the database's.
func (s *Store) Ask(ctx context.Context, asked Job, forGood bool) (*Job, error) {
	until := time.Now().Add(lookedAt)
	if !forGood {
		asked.WantedUntil = &until
	}
	var j Job
	err := s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		made := tx.Clauses(clause.OnConflict{DoNothing: true}).Create(&asked)
		if made.Error != nil {
			return made.Error
		}
		known := tx.Clauses(clause.Locking{Strength: "UPDATE"}).First(&j, "practice_id = ? and kind = ? and key = ?", asked.PracticeID, asked.Kind, asked.Key)
		if known.Error != nil {
			return known.Error
		}
		if j.WantedUntil != nil && (j.Open() || forGood) {
			if err := tx.Model(&j).Update("wanted_until", asked.WantedUntil).Error; err != nil {
				return err
			}
		}
		fresh := made.RowsAffected > 0
		if j.Failed != nil && time.Since(j.StartedAt) > triedAgain {
			fresh = true
			if err := tx.Model(&j).Updates(map[string]any{"failed": nil, "share": 0, "started_at": time.Now()}).Error; err != nil {
				return err
			}
		}
		if !fresh {
			return nil
		}
		return s.enqueue(ctx, tx, []river.InsertManyParams{{Args: Task{j.ID}, InsertOpts: j.options()}})
	})
	if err != nil {
		return nil, fmt.Errorf("asking for a job: %w", err)
	}
	return &j, nil
}

// JobResult is what a job of a practice's kind and key came to; nil where it is not done.
// Errors are the database's.
func (s *Store) JobResult(ctx context.Context, practice uuid.UUID, kind, key string) ([]byte, error) {
	var j Job
	found := s.db.WithContext(ctx).Where("practice_id = ? and kind = ? and key = ? and result is not null", practice, kind, key).Limit(1).Find(&j)
	return j.Result, found.Error
}

// Job finds a job. It fails with ErrNotFound where there is none of that id.
func (s *Store) Job(ctx context.Context, id uuid.UUID) (*Job, error) {
	var j Job
	if err := s.db.WithContext(ctx).First(&j, "id = ?", id).Error; err != nil {
		return nil, orNotFound(err)
	}
	return &j, nil
}

// KeepJobShare keeps how far a job is; wanted is false of one that nobody looks at any more.
// Errors are the database's.
func (s *Store) KeepJobShare(ctx context.Context, id uuid.UUID, share float64) (wanted bool, err error) {
	kept := s.db.WithContext(ctx).Model(&Job{}).Where("id = ? and result is null and (wanted_until is null or wanted_until > now())", id).Update("share", share)
	return kept.RowsAffected > 0, kept.Error
}

// KeepJobResult keeps what a job came to; the first answer stays. Errors are the database's.
func (s *Store) KeepJobResult(ctx context.Context, id uuid.UUID, result []byte) error {
	done := map[string]any{"result": datatypes.JSON(result), "share": 1, "done_at": gorm.Expr("now()")}
	return s.db.WithContext(ctx).Model(&Job{}).Where("id = ? and result is null", id).Updates(done).Error
}

// FailJob ends a job that cannot be done, with the reason. Errors are the database's.
func (s *Store) FailJob(ctx context.Context, id uuid.UUID, why string) error {
	return s.db.WithContext(ctx).Model(&Job{}).Where("id = ? and result is null", id).Update("failed", why).Error
}

// DropJob forgets a job that nobody looks at: asked for again it starts anew. Errors are the
// database's.
func (s *Store) DropJob(ctx context.Context, id uuid.UUID) error {
	return s.db.WithContext(ctx).Where("id = ? and result is null and wanted_until < now()", id).Delete(&Job{}).Error
}

// forgotten is after how long the result of a job is dropped that was only looked at.
const forgotten = 30 * 24 * time.Hour

// openJobs are those still to be done, once results that nobody needs are dropped.
func openJobs(tx *gorm.DB) (open []Job, err error) {
	old := tx.Where("wanted_until is not null and (done_at < ? or failed is not null and started_at < ?)", time.Now().Add(-forgotten), time.Now().Add(-forgotten)).Delete(&Job{})
	if old.Error != nil {
		return nil, old.Error
	}
	err = tx.Select("id", "wanted_until").Where("result is null and failed is null").Order("started_at").Find(&open).Error
	return open, err
}
