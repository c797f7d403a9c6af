package store

import (
	"context"
	"fmt"
	"strings"

	"github.com/google/uuid"
	"gorm.io/gorm"
)

// HouseRules is the kind under which a practice keeps a school of its own.
func HouseRules(slug string) DocumentKind { return DocumentKind(slug) }

func (k DocumentKind) houseRules() bool { return strings.HasPrefix(string(k), "house-") }

// HouseSchools lists the newest version of each of a practice's schools by name:
// those that are archived, or those that are not. Errors are the database's.
func (s *Store) HouseSchools(ctx context.Context, practice uuid.UUID, archived bool) ([]PracticeDocument, error) {
	var all []PracticeDocument
	err := s.db.WithContext(ctx).Preload("Author").Where("practice_id = ? and base is not null", practice).
		Where("exists (select from practice_document_archived a where a.practice_id = practice_document.practice_id and a.kind = practice_document.kind) = ?", archived).
		Where("version = (select max(version) from practice_document h where h.practice_id = practice_document.practice_id and h.kind = practice_document.kind)").
		Order("kind").Find(&all).Error
	if err != nil {
		return nil, fmt.Errorf("listing the house rules: %w", err)
	}
	return all, nil
}

// ArchiveHouseSchool takes a practice's own rules off the list; plans made under
// them keep them. It fails with ErrNotFound where the practice has none.
func (s *Store) ArchiveHouseSchool(ctx context.Context, practice, user uuid.UUID, slug string) error {
	err := s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		done := tx.Exec(`insert into practice_document_archived (practice_id, kind, archived_by)
			select distinct practice_id, kind, ?::uuid from practice_document where practice_id = ? and kind = ? and base is not null on conflict do nothing`, user, practice, slug)
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
		done := tx.Exec("delete from practice_document_archived where practice_id = ? and kind = ?", practice, slug)
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
	known, err := newest(tx, HouseRules(slug), practice)
	if err == nil && (known == nil || known.Base == nil) {
		return ErrNotFound
	}
	return err
}

// HouseSchoolArchived reports rules that are archived. Errors are the database's.
func (s *Store) HouseSchoolArchived(ctx context.Context, practice uuid.UUID, slug string) (bool, error) {
	var is bool
	err := s.db.WithContext(ctx).
		Raw("select exists (select from practice_document_archived where practice_id = ? and kind = ?)", practice, slug).
		Scan(&is).
		Error
	if err != nil {
		return false, fmt.Errorf("looking for archived house rules: %w", err)
	}
	return is, nil
}
