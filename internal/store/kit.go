package store

import (
	"github.com/google/uuid"
	"gorm.io/gorm"
	"gorm.io/gorm/clause"
)

// useKit counts in a practice's kit what was used, as use says: it gives nil for a kit that
// stays as it is. A practice without a kit counts nothing.
func useKit(tx *gorm.DB, practice, user uuid.UUID, use func(kit []byte) ([]byte, error)) error {
	// Two runs that end at once count one after the other.
	if err := tx.Clauses(clause.Locking{Strength: "UPDATE"}).Select("id").First(&Practice{}, "id = ?", practice).Error; err != nil {
		return orNotFound(err)
	}
	k, err := newest(tx, Kits, practice)
	if err != nil || k == nil {
		return err
	}
	left, err := use(k.Document)
	if err != nil || left == nil {
		return err
	}
	return keepDocument(
		tx,
		&PracticeDocument{PracticeID: practice, Kind: Kits, Version: k.Version + 1, Document: left, ChangedBy: user},
		"use kit",
	)
}
