package store

import (
	"context"
	"database/sql"
	"errors"
	"fmt"
	"time"

	"github.com/google/uuid"
	"gorm.io/datatypes"
	"gorm.io/gorm"
	"gorm.io/gorm/clause"
)

// ChairRun is a sequence as somebody goes through it at the chair.
type ChairRun struct {
	ID           uuid.UUID `gorm:"default:gen_random_uuid()"`
	CaseID       uuid.UUID
	UserID       uuid.UUID
	RequestKey   *uuid.UUID
	CaseDocument datatypes.JSON
	Sequence     datatypes.JSON // as it was when the run began
	Visits       datatypes.JSON // the teeth of a sitting, with their cases; null of one tooth
	MadeWith     datatypes.JSON // versions of the practice's documents by kind; null before they were kept
	Examination  bool
	LimitMinutes int
	StartedAt    time.Time `gorm:"default:now()"`
	FinishedAt   *time.Time
	User         User
	Events       []ChairEvent `gorm:"foreignKey:RunID"`
}

// TableName names the table for GORM.
func (ChairRun) TableName() string { return "chair_run" }

// ChairEvent is one thing that happened in a run, at AtSeconds since its start. The window
// where it was noted gives its ID; its Number, in the order of arrival, is the store's.
type ChairEvent struct {
	RunID     uuid.UUID `gorm:"primaryKey"`
	Number    int       `gorm:"primaryKey;autoIncrement:false"`
	ID        uuid.UUID
	Kind      string
	Step      int
	AtSeconds float64
	MM        float64
}

// TableName names the table for GORM.
func (ChairEvent) TableName() string { return "chair_event" }

// StartRun keeps a new run of a case. Sent again under the same request key it gives the
// run that was started first. It fails with ErrArchived, and with ErrNotFound for a case of
// another practice.
func (s *Store) StartRun(ctx context.Context, practice uuid.UUID, r ChairRun) (uuid.UUID, error) {
	err := s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		if _, err := lockCase(tx, practice, r.CaseID); err != nil {
			return err
		}
		if known, err := startedBefore(tx, &ChairRun{}, r.CaseID, r.UserID, r.RequestKey); err != nil || known != uuid.Nil {
			r.ID = known
			return err
		}
		if err := tx.Omit(clause.Associations).Create(&r).Error; err != nil {
			return err
		}
		return audit(tx, &practice, &r.UserID, "start run", r.ID.String())
	})
	if err != nil {
		return uuid.Nil, fmt.Errorf("starting the run: %w", err)
	}
	return r.ID, nil
}

// startedBefore is what somebody's request has started of a case already; the zero id where
// that is nothing.
func startedBefore(tx *gorm.DB, what any, caseID, user uuid.UUID, requestKey *uuid.UUID) (id uuid.UUID, err error) {
	if requestKey == nil {
		return id, nil
	}
	err = tx.Model(what).
		Select("id").
		Where("case_id = ? and request_key = ? and user_id = ?", caseID, requestKey, user).
		Limit(1).
		Row().
		Scan(&id)
	if errors.Is(err, sql.ErrNoRows) {
		return uuid.Nil, nil
	}
	return id, err
}

// Run finds one run of a case with its events in their order. It fails with ErrNotFound
// where the case has none.
func (s *Store) Run(ctx context.Context, caseID, id uuid.UUID) (*ChairRun, error) {
	var r ChairRun
	err := s.db.WithContext(ctx).Preload("User").Preload("Events", inOrder).First(&r, "case_id = ? and id = ?", caseID, id).Error
	if err != nil {
		return nil, orNotFound(err)
	}
	return &r, nil
}

func inOrder(tx *gorm.DB) *gorm.DB { return tx.Order("number") }

// Runs lists the runs of a case and the sittings that it was part of, the newest first. Errors are the database's.
func (s *Store) Runs(ctx context.Context, caseID uuid.UUID) ([]ChairRun, error) {
	var all []ChairRun
	err := s.db.WithContext(ctx).Preload("User").Preload("Events", inOrder).
		Where("case_id = ? or visits @> jsonb_build_array(jsonb_build_object('case', ?::text))", caseID, caseID.String()).
		Order("started_at desc").Find(&all).Error
	if err != nil {
		return nil, fmt.Errorf("listing the runs: %w", err)
	}
	return all, nil
}

// PastRuns are somebody's last finished runs of any case, but for one. Errors are the
// database's.
func (s *Store) PastRuns(ctx context.Context, user, but uuid.UUID) ([]ChairRun, error) {
	const enough = 30
	var all []ChairRun
	err := s.db.WithContext(ctx).Preload("Events", inOrder).Where("user_id = ? and id <> ? and finished_at is not null", user, but).
		Order("started_at desc").Limit(enough).Find(&all).Error
	if err != nil {
		return nil, fmt.Errorf("looking up past runs: %w", err)
	}
	return all, nil
}

// EventDiffers means that an event's id is known with other content.
type EventDiffers struct{ ID uuid.UUID }

func (e EventDiffers) Error() string {
	return fmt.Sprintf("event %s is kept already, and says something else", e.ID)
}

// KeepEvents adds to a run what happened in it, behind what is kept; an event that is known
// already is kept once. A run that is finished is over; when it becomes so, used counts in
// the practice's kit what it took, as useKit says. It fails with EventDiffers, and then keeps
// nothing. Other errors are the database's.
func (s *Store) KeepEvents(
	ctx context.Context,
	practice uuid.UUID,
	run *ChairRun,
	events []ChairEvent,
	finished bool,
	used func(kit []byte) ([]byte, error),
) error {
	err := s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		if err := addEvents(tx, run.ID, events); err != nil {
			return err
		}
		if !finished {
			return nil
		}
		over := tx.Model(&ChairRun{}).Where("id = ? and finished_at is null", run.ID).Update("finished_at", time.Now())
		if over.Error != nil || over.RowsAffected == 0 {
			return over.Error
		}
		return useKit(tx, practice, run.UserID, used)
	})
	if err != nil {
		return fmt.Errorf("keeping what happened: %w", err)
	}
	return nil
}

// addEvents numbers those that are new, one window of a run after the other.
func addEvents(tx *gorm.DB, run uuid.UUID, events []ChairEvent) error {
	if err := tx.Clauses(clause.Locking{Strength: "UPDATE"}).Select("id").First(&ChairRun{}, "id = ?", run).Error; err != nil {
		return orNotFound(err)
	}
	var kept []ChairEvent
	if err := tx.Where("run_id = ?", run).Order("number").Find(&kept).Error; err != nil {
		return err
	}
	known, last := map[uuid.UUID]ChairEvent{}, 0
	for _, e := range kept {
		known[e.ID], last = e, e.Number
	}
	var added []ChairEvent
	for _, e := range events {
		before, is := known[e.ID]
		e.RunID, e.Number = run, before.Number
		switch {
		case is && e != before:
			return EventDiffers{e.ID}
		case !is:
			last++
			e.Number = last
			known[e.ID] = e
			added = append(added, e)
		}
	}
	if len(added) == 0 {
		return nil
	}
	return tx.Create(&added).Error
}
