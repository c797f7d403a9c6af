package store

import (
	"context"
	"errors"
	"fmt"
	"time"

	"github.com/google/uuid"
	"gorm.io/datatypes"
	"gorm.io/gorm"
	"gorm.io/gorm/clause"
)

// ErrPatientDiffers means that a patient's code is known with another birth year.
var ErrPatientDiffers = errors.New("this code is already a patient with another birth year")

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
}

// CreateCase starts a case, and the patient with it when the code is new. It
// fails with ErrPatientDiffers where the code is known with another birth year.
func (s *Store) CreateCase(ctx context.Context, n NewCase) (*Case, error) {
	c := &Case{
		PracticeID: n.PracticeID, Tooth: n.Tooth, Draft: datatypes.JSON(n.Draft),
		ConfirmedByMethod: n.ConfirmationMethod, ConfirmedAnswer: n.ConfirmationAnswer, CreatedBy: n.Creator,
	}
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
		c.PatientID, c.Patient = p.ID, p
		if err := tx.Omit(clause.Associations).Create(c).Error; err != nil {
			return err
		}
		return audit(tx, n.PracticeID, n.Creator, "start case", c.ID.String())
	})
	if err != nil {
		return nil, fmt.Errorf("starting the case: %w", err)
	}
	return c, nil
}

// Cases lists a practice's live cases, newest change first, with revisions.
// Errors are the database's.
func (s *Store) Cases(ctx context.Context, practice uuid.UUID) ([]Case, error) {
	var cases []Case
	err := s.inPractice(ctx, practice).Preload("Patient").
		Preload("Revisions", func(tx *gorm.DB) *gorm.DB { return tx.Order("number") }).
		Order("updated_at desc").Limit(500).Find(&cases).Error
	if err != nil {
		return nil, fmt.Errorf("listing the cases: %w", err)
	}
	return cases, nil
}

// Case finds one live case. It fails with ErrNotFound where the practice has
// none.
func (s *Store) Case(ctx context.Context, practice, id uuid.UUID) (*Case, error) {
	var c Case
	err := s.inPractice(ctx, practice).Preload("Patient").
		Preload("Revisions", func(tx *gorm.DB) *gorm.DB { return tx.Order("number") }).
		Preload("Revisions.Author").First(&c, "id = ?", id).Error
	if err != nil {
		return nil, orNotFound(err)
	}
	return &c, nil
}

// SaveDraft replaces a case's draft. It fails with ErrNotFound for a case that
// is archived or another practice's.
func (s *Store) SaveDraft(ctx context.Context, practice, id uuid.UUID, draft []byte) error {
	done := s.inPractice(ctx, practice).Model(&Case{}).Where("id = ?", id).
		Updates(map[string]any{"draft": datatypes.JSON(draft), "updated_at": time.Now()})
	if done.Error != nil {
		return fmt.Errorf("keeping the draft: %w", done.Error)
	}
	if done.RowsAffected == 0 {
		return ErrNotFound
	}
	return nil
}

// FixRevision adds the next revision of a case. It fails with ErrNotFound as
// SaveDraft does.
func (s *Store) FixRevision(ctx context.Context, practice, author, caseID uuid.UUID, caseDocument, planDocument []byte, core string) (*Revision, error) {
	r := &Revision{CaseID: caseID, CaseDocument: caseDocument, PlanDocument: planDocument, CoreVersion: core, CreatedBy: author}
	err := s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		// The row lock orders two who fix at once.
		var c Case
		if err := tx.Clauses(clause.Locking{Strength: "UPDATE"}).Where("practice_id = ? and archived_at is null", practice).First(&c, "id = ?", caseID).Error; err != nil {
			return orNotFound(err)
		}
		var last int
		if err := tx.Model(&Revision{}).Where("case_id = ?", caseID).Select("coalesce(max(number), 0)").Scan(&last).Error; err != nil {
			return err
		}
		r.Number = last + 1
		if err := tx.Omit(clause.Associations).Create(r).Error; err != nil {
			return err
		}
		if err := tx.Model(&c).Update("updated_at", time.Now()).Error; err != nil {
			return err
		}
		return audit(tx, practice, author, "fix revision", fmt.Sprintf("%s/%d", caseID, r.Number))
	})
	if err != nil {
		return nil, fmt.Errorf("fixing the revision: %w", err)
	}
	return r, nil
}

// Revision finds one revision of a case. It fails with ErrNotFound where there
// is none.
func (s *Store) Revision(ctx context.Context, practice, caseID uuid.UUID, number int) (*Revision, error) {
	if _, err := s.Case(ctx, practice, caseID); err != nil {
		return nil, err
	}
	var r Revision
	if err := s.db.WithContext(ctx).Preload("Author").First(&r, "case_id = ? and number = ?", caseID, number).Error; err != nil {
		return nil, orNotFound(err)
	}
	return &r, nil
}

// ArchiveCase takes a case off the day sheet; it stays in the database. It fails
// with ErrNotFound where the practice has none.
func (s *Store) ArchiveCase(ctx context.Context, practice, user, id uuid.UUID) error {
	return s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		done := tx.Model(&Case{}).Where("practice_id = ? and id = ? and archived_at is null", practice, id).Update("archived_at", time.Now())
		if done.Error != nil {
			return fmt.Errorf("archiving the case: %w", done.Error)
		}
		if done.RowsAffected == 0 {
			return ErrNotFound
		}
		return audit(tx, practice, user, "archive case", id.String())
	})
}

func audit(tx *gorm.DB, practice, user uuid.UUID, action, subject string) error {
	return tx.Create(&AuditEntry{PracticeID: practice, UserID: &user, Action: action, Subject: subject, At: time.Now()}).Error
}

// HasCases reports whether a practice ever had a case, archived or not. Errors
// are the database's.
func (s *Store) HasCases(ctx context.Context, practice uuid.UUID) (bool, error) {
	var n int64
	if err := s.db.WithContext(ctx).Model(&Case{}).Where("practice_id = ?", practice).Limit(1).Count(&n).Error; err != nil {
		return false, fmt.Errorf("looking for cases: %w", err)
	}
	return n > 0, nil
}
