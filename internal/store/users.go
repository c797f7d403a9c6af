package store

import (
	"context"
	"fmt"
	"strings"
	"time"

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

// DemonstrationLoaded notes that the demonstration has come into a practice. Errors
// are the database's.
func (s *Store) DemonstrationLoaded(ctx context.Context, practice uuid.UUID) error {
	err := s.db.WithContext(ctx).Model(&Practice{}).Where("id = ?", practice).Update("demonstration_loaded_at", time.Now()).Error
	if err != nil {
		return fmt.Errorf("noting the demonstration: %w", err)
	}
	return nil
}

// AddUser adds a user. It fails with ErrTaken where the sign-in name is in use,
// here or in another practice, archived or not.
func (s *Store) AddUser(ctx context.Context, u User) (*User, error) {
	u.SignIn = strings.ToLower(strings.TrimSpace(u.SignIn))
	err := s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		made := tx.Omit("Practice").Clauses(clause.OnConflict{Columns: []clause.Column{{Name: "sign_in"}}, DoNothing: true}).Create(&u)
		if made.Error != nil {
			return made.Error
		}
		if made.RowsAffected == 0 {
			return ErrTaken
		}
		return audit(tx, &u.PracticeID, nil, "add user", u.SignIn)
	})
	if err != nil {
		return nil, fmt.Errorf("adding the user %s: %w", u.SignIn, err)
	}
	return s.UserBySignIn(ctx, u.SignIn)
}

// Users lists all users with their practices, archived ones too. Errors are the
// database's.
func (s *Store) Users(ctx context.Context) ([]User, error) {
	var all []User
	err := s.db.WithContext(ctx).Joins("Practice").Order(`"Practice".name, sign_in`).Find(&all).Error
	if err != nil {
		return nil, fmt.Errorf("listing the users: %w", err)
	}
	return all, nil
}

// SetPassword gives a user another password; who is signed in with the old one is
// so no longer. It fails with ErrNotFound where there is no such live user.
func (s *Store) SetPassword(ctx context.Context, u *User, hash string) error {
	return s.changeUser(ctx, u, "reset password", map[string]any{"password_hash": hash})
}

// ArchiveUser keeps a user from signing in. Errors are those of SetPassword.
func (s *Store) ArchiveUser(ctx context.Context, u *User) error {
	return s.changeUser(ctx, u, "archive user", map[string]any{"archived_at": time.Now()})
}

func (s *Store) changeUser(ctx context.Context, u *User, action string, change map[string]any) error {
	err := s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		done := tx.Model(&User{}).Where("id = ? and archived_at is null", u.ID).Updates(change)
		if done.Error != nil {
			return done.Error
		}
		if done.RowsAffected == 0 {
			return ErrNotFound
		}
		return audit(tx, &u.PracticeID, nil, action, u.SignIn)
	})
	if err != nil {
		return fmt.Errorf("changing the user %s: %w", u.SignIn, err)
	}
	return nil
}
