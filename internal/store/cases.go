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

var (
	// ErrPatientDiffers means that a patient's code is known with another birth year.
	ErrPatientDiffers = errors.New("this code is already a patient with another birth year")
	// ErrStale means that a draft has changed since the version that was named.
	ErrStale = errors.New("the draft has changed meanwhile")
	// ErrArchived means that an archived case was to be changed.
	ErrArchived = errors.New("the case is archived")
)

// NewCase is what a case is started from. The confirmation has been checked.
type NewCase struct {
	PatientCode         string
	BirthYear           int
	Flags               []byte // JSON object
	Tooth               string
	Draft               []byte // case document
	ConfirmationMethod  string
	ConfirmationAnswer  string
	PracticeID, Creator uuid.UUID
	// RequestKey tells a request that is sent again from a new one; nil for one
	// that is never repeated.
	RequestKey *uuid.UUID
}

// CreateCase starts a case, and the patient with it when the code is new. Sent
// again under the same request key it gives the case that was started first. It
// fails with ErrPatientDiffers where the code is known with another birth year, and
// with ErrTaken where the key is another user's.
func (s *Store) CreateCase(ctx context.Context, n NewCase) (*Case, error) {
	c := &Case{
		PracticeID: n.PracticeID, Tooth: n.Tooth, Draft: datatypes.JSON(n.Draft), DraftVersion: 1, RequestKey: n.RequestKey,
		ConfirmedByMethod: n.ConfirmationMethod, ConfirmedAnswer: n.ConfirmationAnswer, CreatedBy: n.Creator,
	}
	var first uuid.UUID
	err := s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		p := Patient{PracticeID: n.PracticeID, Code: n.PatientCode, BirthYear: n.BirthYear, Flags: datatypes.JSON(n.Flags)}
		err := tx.Clauses(clause.OnConflict{Columns: []clause.Column{{Name: "practice_id"}, {Name: "code"}}, DoNothing: true}).Create(&p).Error
		if err != nil {
			return err
		}
		if err := tx.Where("practice_id = ? and code = ?", n.PracticeID, n.PatientCode).First(&p).Error; err != nil {
			return err
		}
		if p.BirthYear != n.BirthYear {
			return ErrPatientDiffers
		}
		c.PatientID = p.ID
		once := clause.OnConflict{Columns: []clause.Column{{Name: "practice_id"}, {Name: "request_key"}}, DoNothing: true}
		made := tx.Omit(clause.Associations).Clauses(once).Create(c)
		if made.Error != nil {
			return made.Error
		}
		if made.RowsAffected == 0 {
			err := tx.Model(&Case{}).
				Where("practice_id = ? and request_key = ? and created_by = ?", n.PracticeID, n.RequestKey, n.Creator).
				Select("id").
				Row().
				Scan(&first)
			if errors.Is(err, sql.ErrNoRows) {
				return ErrTaken // by somebody else
			}
			return err
		}
		first = c.ID
		return audit(tx, &n.PracticeID, &n.Creator, "start case", c.ID.String())
	})
	if err != nil {
		return nil, fmt.Errorf("starting the case: %w", err)
	}
	return s.Case(ctx, n.PracticeID, first)
}

// Case finds a case, archived or not. It fails with ErrNotFound where the practice
// has none.
func (s *Store) Case(ctx context.Context, practice, id uuid.UUID) (*Case, error) {
	var c Case
	err := s.db.WithContext(ctx).Preload("Patient").Preload("Creator").
		Preload("Revisions", func(tx *gorm.DB) *gorm.DB {
			return tx.Omit("case_document", "plan_document", "basis").Order("number")
		}).
		Preload("Revisions.Author").First(&c, "practice_id = ? and id = ?", practice, id).Error
	if err != nil {
		return nil, orNotFound(err)
	}
	return &c, nil
}

// SaveDraft replaces the draft of a case that was read at some version, and gives
// the version it has then. The same draft sent again is kept once. It fails with
// ErrStale where the draft has changed meanwhile, with ErrArchived, and with
// ErrNotFound for a case of another practice.
func (s *Store) SaveDraft(ctx context.Context, practice, user, id uuid.UUID, version int, draft []byte) (int, error) {
	err := s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		c, err := lockCase(tx, practice, id)
		if err != nil {
			return err
		}
		if c.DraftVersion != version {
			return sameDraft(tx, c, draft, &version)
		}
		version++
		if err := tx.Model(c).Updates(map[string]any{"draft": datatypes.JSON(draft), "draft_version": version, "updated_at": time.Now()}).Error; err != nil {
			return err
		}
		return auditDraft(tx, practice, user, id.String())
	})
	if err != nil {
		return 0, fmt.Errorf("keeping the draft: %w", err)
	}
	return version, nil
}

// sameDraft finds out whether a stale draft is what is kept already: an answer may
// have been lost on its way.
func sameDraft(tx *gorm.DB, c *Case, draft []byte, version *int) error {
	var same bool
	if err := tx.Raw("select draft = ?::jsonb from dental_case where id = ?", string(draft), c.ID).Scan(&same).Error; err != nil {
		return err
	}
	if !same {
		return ErrStale
	}
	*version = c.DraftVersion
	return nil
}

// lockCase reads a live case and keeps others from changing it meanwhile.
func lockCase(tx *gorm.DB, practice, id uuid.UUID) (*Case, error) {
	var c Case
	if err := tx.Clauses(clause.Locking{Strength: "UPDATE"}).First(&c, "practice_id = ? and id = ?", practice, id).Error; err != nil {
		return nil, orNotFound(err)
	}
	if c.ArchivedAt != nil {
		return nil, ErrArchived
	}
	return &c, nil
}

// ArchiveCase takes a case off the day sheet; it stays in the database. One that is
// archived already stays so. It fails with ErrNotFound where the practice has none.
func (s *Store) ArchiveCase(ctx context.Context, practice, user, id uuid.UUID) error {
	return s.setArchived(ctx, practice, user, id, "archive case", gorm.Expr("coalesce(archived_at, now())"))
}

// RestoreCase brings an archived case back. Errors are those of ArchiveCase.
func (s *Store) RestoreCase(ctx context.Context, practice, user, id uuid.UUID) error {
	return s.setArchived(ctx, practice, user, id, "restore case", nil)
}

func (s *Store) setArchived(ctx context.Context, practice, user, id uuid.UUID, action string, at any) error {
	err := s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		done := tx.Model(&Case{}).Where("practice_id = ? and id = ?", practice, id).UpdateColumn("archived_at", at)
		if done.Error != nil {
			return done.Error
		}
		if done.RowsAffected == 0 {
			return ErrNotFound
		}
		return audit(tx, &practice, &user, action, id.String())
	})
	if err != nil {
		return fmt.Errorf("archiving or restoring the case: %w", err)
	}
	return nil
}

// ChangedSince lists the live cases of all practices whose drafts have changed since some time,
// the newest first. Errors are the database's.
func (s *Store) ChangedSince(ctx context.Context, since time.Time) ([]Case, error) {
	var all []Case
	err := s.db.WithContext(ctx).Where("archived_at is null and updated_at > ?", since).Order("updated_at desc").Find(&all).Error
	if err != nil {
		return nil, fmt.Errorf("listing drafts: %w", err)
	}
	return all, nil
}
