package store

import (
	"context"
	"fmt"

	"github.com/google/uuid"
	"gorm.io/gorm"
	"gorm.io/gorm/clause"
)

const kitTable = "practice_kit"

// Kit is what a practice has of the instruments; nil where it has written none down. Errors
// are the database's.
func (s *Store) Kit(ctx context.Context, practice uuid.UUID) (*PracticeDocument, error) {
	k, err := documentIn(s.db.WithContext(ctx), kitTable, practice)
	if err != nil {
		return nil, fmt.Errorf("reading the kit: %w", err)
	}
	return k, nil
}

// SaveKit keeps a kit whose version must follow on the newest. It fails with ErrTaken where
// somebody else's is newer.
func (s *Store) SaveKit(ctx context.Context, k PracticeDocument) error {
	err := s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error { return keepDocument(tx, kitTable, k, "save kit") })
	if err != nil {
		return fmt.Errorf("keeping the kit: %w", err)
	}
	return nil
}

// useKit counts in a practice's kit what was used, as use says: it gives nil for a kit that
// stays as it is. A practice without a kit counts nothing.
func useKit(tx *gorm.DB, practice, user uuid.UUID, use func(kit []byte) ([]byte, error)) error {
	k, err := documentIn(tx.Clauses(clause.Locking{Strength: "UPDATE"}), kitTable, practice)
	if err != nil || k == nil {
		return err
	}
	left, err := use(k.Document)
	if err != nil || left == nil {
		return err
	}
	return keepDocument(tx, kitTable, PracticeDocument{PracticeID: practice, Version: k.Version + 1, Document: left, ChangedBy: user}, "use kit")
}
