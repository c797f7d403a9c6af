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

// PracticeKit is what a practice has of the instruments.
type PracticeKit struct {
	PracticeID uuid.UUID `gorm:"primaryKey"`
	Version    int
	Document   datatypes.JSON
	ChangedBy  uuid.UUID
	ChangedAt  time.Time `gorm:"default:now()"`
}

// TableName names the table for GORM.
func (PracticeKit) TableName() string { return "practice_kit" }

// Kit is a practice's kit; nil where it has written none down. Errors are the database's.
func (s *Store) Kit(ctx context.Context, practice uuid.UUID) (*PracticeKit, error) {
	k, err := kitIn(s.db.WithContext(ctx), practice)
	if err != nil {
		return nil, fmt.Errorf("reading the kit: %w", err)
	}
	return k, nil
}

func kitIn(tx *gorm.DB, practice uuid.UUID) (*PracticeKit, error) {
	var k PracticeKit
	err := tx.First(&k, "practice_id = ?", practice).Error
	if errors.Is(err, gorm.ErrRecordNotFound) {
		return nil, nil
	}
	if err != nil {
		return nil, err
	}
	return &k, nil
}

// SaveKit keeps a kit whose version must follow on the newest. It fails with ErrTaken where
// somebody else's is newer.
func (s *Store) SaveKit(ctx context.Context, k PracticeKit) error {
	err := s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error { return keepKit(tx, k, "save kit") })
	if err != nil {
		return fmt.Errorf("keeping the kit: %w", err)
	}
	return nil
}

// keepKit writes a version that follows on the newest, or fails with ErrTaken.
func keepKit(tx *gorm.DB, k PracticeKit, action string) error {
	k.ChangedAt = time.Now()
	var done *gorm.DB
	if k.Version == 1 {
		done = tx.Clauses(clause.OnConflict{DoNothing: true}).Create(&k)
	} else {
		done = tx.Model(&PracticeKit{}).Where("practice_id = ? and version = ?", k.PracticeID, k.Version-1).
			Updates(map[string]any{"version": k.Version, "document": k.Document, "changed_by": k.ChangedBy, "changed_at": k.ChangedAt})
	}
	if done.Error != nil {
		return done.Error
	}
	if done.RowsAffected == 0 {
		return ErrTaken
	}
	return audit(tx, &k.PracticeID, &k.ChangedBy, action, fmt.Sprint(k.Version))
}

// useKit counts in a practice's kit what was used, as use says: it gives nil for a kit that
// stays as it is. A practice without a kit counts nothing.
func useKit(tx *gorm.DB, practice, user uuid.UUID, use func(kit []byte) ([]byte, error)) error {
	k, err := kitIn(tx.Clauses(clause.Locking{Strength: "UPDATE"}), practice)
	if err != nil || k == nil {
		return err
	}
	left, err := use(k.Document)
	if err != nil || left == nil {
		return err
	}
	return keepKit(tx, PracticeKit{PracticeID: practice, Version: k.Version + 1, Document: left, ChangedBy: user}, "use kit")
}
