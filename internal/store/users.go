package store

import (
	"context"
	"fmt"
	"strings"

	"github.com/google/uuid"
	"gorm.io/gorm"
	"gorm.io/gorm/clause"
)

// UserBySignIn finds a live user by sign-in name. It fails with ErrNotFound
// where there is none.
func (s *Store) UserBySignIn(ctx context.Context, signIn string) (*User, error) {
	var u User
	err := s.db.WithContext(ctx).Preload("Practice").
		First(&u, "sign_in = ? and archived_at is null", strings.ToLower(strings.TrimSpace(signIn))).Error
	if err != nil {
		return nil, orNotFound(err)
	}
	return &u, nil
}

// User finds a live user. It fails with ErrNotFound where there is none.
func (s *Store) User(ctx context.Context, id uuid.UUID) (*User, error) {
	var u User
	if err := s.db.WithContext(ctx).Preload("Practice").First(&u, "id = ? and archived_at is null", id).Error; err != nil {
		return nil, orNotFound(err)
	}
	return &u, nil
}

// EnsurePractice finds a practice by name or makes it. Errors are the
// database's.
func (s *Store) EnsurePractice(ctx context.Context, name string) (*Practice, error) {
	var p Practice
	err := s.db.WithContext(ctx).Where("name = ?", name).FirstOrCreate(&p, Practice{Name: name}).Error
	if err != nil {
		return nil, fmt.Errorf("making the practice: %w", err)
	}
	return &p, nil
}

// EnsureUser adds a user unless the sign-in exists. Errors are the database's.
func (s *Store) EnsureUser(ctx context.Context, u User) (*User, error) {
	err := s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		return tx.Omit("Practice").Clauses(clause.OnConflict{Columns: []clause.Column{{Name: "sign_in"}}, DoNothing: true}).Create(&u).Error
	})
	if err != nil {
		return nil, fmt.Errorf("adding the user %s: %w", u.SignIn, err)
	}
	return s.UserBySignIn(ctx, u.SignIn)
}

// Audit notes what a user did. Errors are the database's.
func (s *Store) Audit(ctx context.Context, u *User, action, subject string) error {
	if err := audit(s.db.WithContext(ctx), u.PracticeID, u.ID, action, subject); err != nil {
		return fmt.Errorf("writing the audit entry: %w", err)
	}
	return nil
}
