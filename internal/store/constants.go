package store

import (
	"context"
	"fmt"

	"github.com/google/uuid"
	"gorm.io/gorm"
)

const constantsTable = "practice_constants"

// Constants are what a practice assumes of tissues and loads otherwise than is shipped; nil
// where it has set none. Errors are the database's.
func (s *Store) Constants(ctx context.Context, practice uuid.UUID) (*PracticeDocument, error) {
	c, err := documentIn(s.db.WithContext(ctx), constantsTable, practice)
	if err != nil {
		return nil, fmt.Errorf("reading the constants: %w", err)
	}
	return c, nil
}

// SaveConstants keeps constants whose version must follow on the newest. It fails with
// ErrTaken where somebody else's is newer.
func (s *Store) SaveConstants(ctx context.Context, c PracticeDocument) error {
	err := s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		return keepDocument(tx, constantsTable, c, "save strength constants")
	})
	if err != nil {
		return fmt.Errorf("keeping the constants: %w", err)
	}
	return nil
}
