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

// HouseSchool is one version of a practice's own school. It is never changed.
type HouseSchool struct {
	ID         uuid.UUID `gorm:"type:uuid;default:gen_random_uuid()"`
	PracticeID uuid.UUID
	Slug       string
	Version    int
	Base       string // the school it was copied from
	Document   datatypes.JSON
	CreatedBy  uuid.UUID
	Author     User `gorm:"foreignKey:CreatedBy"`
	CreatedAt  time.Time
}

// TableName names the table for GORM.
func (HouseSchool) TableName() string { return "house_school" }

// ErrTaken means that a name or a version is in use already.
var ErrTaken = errors.New("it is in use already")

// HouseSchools lists the newest version of each of a practice's schools by slug:
// those that are archived, or those that are not. Errors are the database's.
func (s *Store) HouseSchools(ctx context.Context, practice uuid.UUID, archived bool) ([]HouseSchool, error) {
	var all []HouseSchool
	err := s.db.WithContext(ctx).Preload("Author").Where("practice_id = ?", practice).
		Where("exists (select from house_school_archived a where a.practice_id = house_school.practice_id and a.slug = house_school.slug) = ?", archived).
		Where("version = (select max(version) from house_school h where h.practice_id = house_school.practice_id and h.slug = house_school.slug)").
		Order("slug").Find(&all).Error
	if err != nil {
		return nil, fmt.Errorf("listing the house rules: %w", err)
	}
	return all, nil
}

// HouseSchool finds a version of a practice's school; version 0 is the newest.
// It fails with ErrNotFound where the practice has none.
func (s *Store) HouseSchool(ctx context.Context, practice uuid.UUID, slug string, version int) (*HouseSchool, error) {
	query := s.db.WithContext(ctx).Preload("Author").Where("practice_id = ? and slug = ?", practice, slug)
	if version > 0 {
		query = query.Where("version = ?", version)
	}
	var h HouseSchool
	if err := query.Order("version desc").First(&h).Error; err != nil {
		return nil, orNotFound(err)
	}
	return &h, nil
}

// SaveHouseSchool keeps a new version, which must follow on the newest: two who
// change the same rules do not overwrite each other. The loser's error is
// ErrTaken.
func (s *Store) SaveHouseSchool(ctx context.Context, h HouseSchool) (*HouseSchool, error) {
	err := s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		var last int
		newest := tx.Model(&HouseSchool{}).Where("practice_id = ? and slug = ?", h.PracticeID, h.Slug).Select("coalesce(max(version), 0)")
		if err := newest.Scan(&last).Error; err != nil {
			return err
		}
		if h.Version != last+1 {
			return ErrTaken
		}
		if err := tx.Omit(clause.Associations).Create(&h).Error; err != nil {
			const uniqueViolation = "23505"
			var refused *pgconn.PgError
			if errors.As(err, &refused) && refused.Code == uniqueViolation {
				return ErrTaken
			}
			return err
		}
		// Drafts under these rules are planned anew for the day sheet.
		if err := tx.Exec("delete from case_summary where school = ? and case_id in (select id from dental_case where practice_id = ?)", h.Slug, h.PracticeID).Error; err != nil {
			return err
		}
		return audit(tx, &h.PracticeID, &h.CreatedBy, "save house rules", fmt.Sprintf("%s.%d", h.Slug, h.Version))
	})
	if err != nil {
		return nil, fmt.Errorf("keeping the house rules: %w", err)
	}
	return &h, nil
}

// ArchiveHouseSchool takes a practice's own rules off the list; plans made under
// them keep them. It fails with ErrNotFound where the practice has none.
func (s *Store) ArchiveHouseSchool(ctx context.Context, practice, user uuid.UUID, slug string) error {
	err := s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		done := tx.Exec(`insert into house_school_archived (practice_id, slug, archived_by)
			select distinct practice_id, slug, ?::uuid from house_school where practice_id = ? and slug = ? on conflict do nothing`, user, practice, slug)
		return archived(tx, done, practice, user, "archive house rules", slug)
	})
	if err != nil {
		return fmt.Errorf("archiving the house rules: %w", err)
	}
	return nil
}

// RestoreHouseSchool brings archived rules back. Errors are those of
// ArchiveHouseSchool.
func (s *Store) RestoreHouseSchool(ctx context.Context, practice, user uuid.UUID, slug string) error {
	err := s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		done := tx.Exec("delete from house_school_archived where practice_id = ? and slug = ?", practice, slug)
		return archived(tx, done, practice, user, "restore house rules", slug)
	})
	if err != nil {
		return fmt.Errorf("restoring the house rules: %w", err)
	}
	return nil
}

// archived notes a change of the archive; none is fine where the rules exist.
func archived(tx, done *gorm.DB, practice, user uuid.UUID, action, slug string) error {
	if done.Error != nil {
		return done.Error
	}
	if done.RowsAffected > 0 {
		return audit(tx, &practice, &user, action, slug)
	}
	var n int64
	if err := tx.Model(&HouseSchool{}).Where("practice_id = ? and slug = ?", practice, slug).Limit(1).Count(&n).Error; err != nil {
		return err
	}
	if n == 0 {
		return ErrNotFound
	}
	return nil
}

// HouseSchoolArchived reports rules that are archived. Errors are the database's.
func (s *Store) HouseSchoolArchived(ctx context.Context, practice uuid.UUID, slug string) (bool, error) {
	var is bool
	err := s.db.WithContext(ctx).Raw("select exists (select from house_school_archived where practice_id = ? and slug = ?)", practice, slug).Scan(&is).Error
	if err != nil {
		return false, fmt.Errorf("looking for archived house rules: %w", err)
	}
	return is, nil
}
