package store

import (
	"context"
	"database/sql/driver"
	"encoding/json"
	"errors"
	"fmt"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5/stdlib"
)

// Change is what has changed in a practice, whoever changed it.
type Change struct {
	Practice uuid.UUID  `json:"practice"`
	What     string     `json:"what"` // see the triggers: a job's kind, "case", "run", "kit" and others
	ID       *uuid.UUID `json:"id,omitempty"`
	Case     *uuid.UUID `json:"case,omitempty"`
	Version  int        `json:"version,omitempty"` // of a draft
}

// Listen tells of all changes until the context ends, or the database is lost: then some have not
// been told, and the error says why. ready is called once nothing escapes it any more.
func (s *Store) Listen(ctx context.Context, ready func(), told func(Change)) error {
	conn, err := s.sql.Conn(ctx)
	if err != nil {
		return fmt.Errorf("connecting to hear of changes: %w", err)
	}
	defer conn.Close()
	err = conn.Raw(func(raw any) error {
		own := raw.(*stdlib.Conn).Conn()
		if _, err := own.Exec(ctx, "listen obturon_changes"); err != nil {
			return err
		}
		ready()
		for {
			n, err := own.WaitForNotification(ctx)
			if err != nil {
				return errors.Join(driver.ErrBadConn, err) // nobody else is to hear of them
			}
			var c Change
			if err := json.Unmarshal([]byte(n.Payload), &c); err != nil {
				return errors.Join(driver.ErrBadConn, fmt.Errorf("reading %q: %w", n.Payload, err))
			}
			told(c)
		}
	})
	return fmt.Errorf("hearing of changes: %w", err)
}
