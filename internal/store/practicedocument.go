package store

import (
	"context"
	"fmt"
	"time"

	"github.com/google/uuid"
	"gorm.io/datatypes"
	"gorm.io/gorm"
	"gorm.io/gorm/clause"
)

// PracticeDocument is one document of a practice that is changed as a whole: each version
// follows on the last, so that nobody overwrites what another has kept.
type PracticeDocument struct {
	PracticeID uuid.UUID `gorm:"primaryKey"`
	Version    int
	Document   datatypes.JSON
	ChangedBy  uuid.UUID
	ChangedAt  time.Time `gorm:"default:now()"`
}

// DocumentKind is what a practice keeps as one document.
type DocumentKind struct{ table, action string }

// The kinds: what it has of the instruments, what it assumes of tissues and loads otherwise
// than is shipped, and what it fills with.
var (
	Kits              = DocumentKind{"practice_kit", "save kit"}
	StrengthConstants = DocumentKind{"practice_constants", "save strength constants"}
	FillProducts      = DocumentKind{"practice_products", "save products"}
)

// PracticeDocument is a practice's document of a kind; nil where it has none. Errors are the
// database's.
func (s *Store) PracticeDocument(ctx context.Context, kind DocumentKind, practice uuid.UUID) (*PracticeDocument, error) {
	d, err := documentIn(s.db.WithContext(ctx), kind.table, practice)
	if err != nil {
		return nil, fmt.Errorf("reading %s: %w", kind.table, err)
	}
	return d, nil
}

// SavePracticeDocument keeps a document whose version must follow on the newest. It fails
// with ErrTaken where somebody else's is newer.
func (s *Store) SavePracticeDocument(ctx context.Context, kind DocumentKind, d PracticeDocument) error {
	err := s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		return keepDocument(tx, kind.table, d, kind.action)
	})
	if err != nil {
		return fmt.Errorf("keeping %s: %w", kind.table, err)
	}
	return nil
}

// documentIn reads a practice's document from its table; nil where it has none. Errors are the
// database's.
func documentIn(tx *gorm.DB, table string, practice uuid.UUID) (*PracticeDocument, error) {
	var d PracticeDocument
	found := tx.Table(table).Where("practice_id = ?", practice).Limit(1).Find(&d)
	if found.Error != nil || found.RowsAffected == 0 {
		return nil, found.Error
	}
	return &d, nil
}

// keepDocument writes a version that follows on the newest, or fails with ErrTaken.
func keepDocument(tx *gorm.DB, table string, d PracticeDocument, action string) error {
	d.ChangedAt = time.Now()
	var done *gorm.DB
	if d.Version == 1 {
		done = tx.Table(table).Clauses(clause.OnConflict{DoNothing: true}).Create(&d)
	} else {
		done = tx.Table(table).Where("practice_id = ? and version = ?", d.PracticeID, d.Version-1).
			Updates(map[string]any{"version": d.Version, "document": d.Document, "changed_by": d.ChangedBy, "changed_at": d.ChangedAt})
	}
	if done.Error != nil {
		return done.Error
	}
	if done.RowsAffected == 0 {
		return ErrTaken
	}
	return audit(tx, &d.PracticeID, &d.ChangedBy, action, fmt.Sprint(d.Version))
}
