package store

import (
	"context"
	"fmt"
	"time"

	"github.com/google/uuid"
	"gorm.io/gorm"
)

// AuditEntry says who did what when.
type AuditEntry struct {
	ID         int64
	PracticeID *uuid.UUID // nil where nobody was signed in
	UserID     *uuid.UUID
	Action     string
	Subject    string
	At         time.Time `gorm:"default:now()"`
}

// TableName names the table for GORM.
func (AuditEntry) TableName() string { return "audit_entry" }

// Audit notes what a user did. Errors are the database's.
func (s *Store) Audit(ctx context.Context, u *User, action, subject string) error {
	if err := audit(s.db.WithContext(ctx), &u.PracticeID, &u.ID, action, subject); err != nil {
		return fmt.Errorf("writing the audit entry: %w", err)
	}
	return nil
}

// AuditStranger notes what somebody did who is not signed in. Errors are the
// database's.
func (s *Store) AuditStranger(ctx context.Context, action, subject string) error {
	if err := audit(s.db.WithContext(ctx), nil, nil, action, subject); err != nil {
		return fmt.Errorf("writing the audit entry: %w", err)
	}
	return nil
}

func audit(tx *gorm.DB, practice, user *uuid.UUID, action, subject string) error {
	return tx.Create(&AuditEntry{PracticeID: practice, UserID: user, Action: action, Subject: subject, At: time.Now()}).Error
}

// auditDraft notes that somebody works on a draft, once in a while: a drag saves
// many times.
func auditDraft(tx *gorm.DB, practice, user uuid.UUID, subject string) error {
	return tx.Exec(`
		insert into audit_entry (practice_id, user_id, action, subject)
		select @practice, @user, 'change draft', @subject
		where not exists (select from audit_entry where subject = @subject and action = 'change draft' and user_id = @user and at > now() - interval '10 minutes')`,
		map[string]any{"practice": practice, "user": user, "subject": subject}).Error
}
