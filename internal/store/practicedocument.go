package store

import (
	"context"
	"errors"
	"fmt"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5/pgconn"
	"gorm.io/datatypes"
	"gorm.io/gorm"
	"gorm.io/gorm/clause"
)

// DocumentKind is what a practice keeps as documents of its own.
type DocumentKind string

// The kinds: what it has of the instruments, what it assumes of tissues and loads otherwise than is
// shipped, and what it fills with. House rules are kept under their own names, see HouseRules.
const (
	Kits              DocumentKind = "kit"
	StrengthConstants DocumentKind = "constants"
	FillProducts      DocumentKind = "products"
)

// PracticeDocument is one version of a document of a practice. It is never changed: each follows on
// the last, so that nobody overwrites what another has kept.
type PracticeDocument struct {
	PracticeID uuid.UUID    `gorm:"primaryKey"`
	Kind       DocumentKind `gorm:"primaryKey"`
	Version    int          `gorm:"primaryKey;autoIncrement:false"`
	Document   datatypes.JSON
	Base       *string // of house rules the school that they were copied from; nil of others
	ChangedBy  uuid.UUID
	Author     User      `gorm:"foreignKey:ChangedBy"`
	ChangedAt  time.Time `gorm:"default:now()"`
}

// TableName names the table for GORM.
func (PracticeDocument) TableName() string { return "practice_document" }

// ErrTaken means that a name or a version is in use already.
var ErrTaken = errors.New("it is in use already")

// PracticeDocument is the newest of a practice's documents of a kind; nil where it has none. Errors
// are the database's.
func (s *Store) PracticeDocument(ctx context.Context, kind DocumentKind, practice uuid.UUID) (*PracticeDocument, error) {
	d, err := newest(s.db.WithContext(ctx), kind, practice)
	if err != nil {
		return nil, fmt.Errorf("reading the %s: %w", kind, err)
	}
	return d, nil
}

// DocumentVersion is a version of a practice's documents of a kind, with its author; version 0 is
// the newest. It fails with ErrNotFound where the practice has none.
func (s *Store) DocumentVersion(ctx context.Context, kind DocumentKind, practice uuid.UUID, version int) (*PracticeDocument, error) {
	query := s.db.WithContext(ctx).Preload("Author").Where("practice_id = ? and kind = ?", practice, kind)
	if version > 0 {
		query = query.Where("version = ?", version)
	}
	var d PracticeDocument
	if err := query.Order("version desc").First(&d).Error; err != nil {
		return nil, orNotFound(err)
	}
	return &d, nil
}

// MadeWith are the newest versions of a practice's documents by kind. Errors are the database's.
func (s *Store) MadeWith(ctx context.Context, practice uuid.UUID) (map[DocumentKind]int, error) {
	var all []PracticeDocument
	found := s.db.WithContext(ctx).Select("kind", "max(version) as version").
		Where("practice_id = ?", practice).Group("kind").Find(&all)
	if found.Error != nil {
		return nil, fmt.Errorf("reading the versions of a practice's documents: %w", found.Error)
	}
	versions := map[DocumentKind]int{}
	for _, d := range all {
		versions[d.Kind] = d.Version
	}
	return versions, nil
}

// SavePracticeDocument keeps a version, which must follow on the newest. It fails with ErrTaken
// where somebody else's is newer.
func (s *Store) SavePracticeDocument(ctx context.Context, d PracticeDocument) (*PracticeDocument, error) {
	err := s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error { return keepDocument(tx, &d, "save "+d.Kind.name()) })
	if err != nil {
		return nil, fmt.Errorf("keeping the %s: %w", d.Kind.name(), err)
	}
	return &d, nil
}

// name is what a kind is called in the audit.
func (k DocumentKind) name() string {
	switch {
	case k.houseRules():
		return "house rules"
	case k == StrengthConstants:
		return "strength constants"
	}
	return string(k)
}

// newest is a practice's newest document of a kind; nil where it has none. Errors are the
// database's.
func newest(tx *gorm.DB, kind DocumentKind, practice uuid.UUID) (*PracticeDocument, error) {
	var d PracticeDocument
	found := tx.Where("practice_id = ? and kind = ?", practice, kind).Order("version desc").Limit(1).Find(&d)
	if found.Error != nil || found.RowsAffected == 0 {
		return nil, found.Error
	}
	return &d, nil
}

// keepDocument writes a version that follows on the newest, or fails with ErrTaken.
func keepDocument(tx *gorm.DB, d *PracticeDocument, action string) error {
	last, err := newest(tx, d.Kind, d.PracticeID)
	if err != nil {
		return err
	}
	follows, subject := 1, fmt.Sprint(d.Version)
	if last != nil {
		follows = last.Version + 1
	}
	if d.Version != follows {
		return ErrTaken
	}
	if err := tx.Omit(clause.Associations).Create(d).Error; err != nil {
		const uniqueViolation = "23505"
		var refused *pgconn.PgError
		if errors.As(err, &refused) && refused.Code == uniqueViolation {
			return ErrTaken
		}
		return err
	}
	if d.Kind.houseRules() {
		subject = fmt.Sprintf("%s.%d", d.Kind, d.Version)
		// Drafts under these rules are planned anew for the day sheet.
		if err := tx.Exec("delete from case_summary where school = ? and case_id in (select id from dental_case where practice_id = ?)", d.Kind, d.PracticeID).Error; err != nil {
			return err
		}
	}
	return audit(tx, &d.PracticeID, &d.ChangedBy, action, subject)
}
