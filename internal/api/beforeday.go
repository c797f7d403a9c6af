package api

import (
	"context"
	"log/slog"
	"time"

	"obturon/internal/store"
)

// Drafts are proven in these hours of the night, local time, those that were changed so lately
// that they may be treated in the morning.
const (
	nightBegins = 3
	nightEnds   = 6
	mayBeNext   = 30 * 24 * time.Hour
)

// atNight reports an hour in which nobody is expected at the screen.
func atNight(now time.Time) bool { return now.Hour() >= nightBegins && now.Hour() < nightEnds }

// proveAtNight has the drafts proven that are not yet, until the context ends.
func (s *server) proveAtNight(ctx context.Context) {
	const look = 20 * time.Minute
	for tick := time.NewTicker(look); ; {
		if now := time.Now(); atNight(now) {
			if err := s.proveDrafts(ctx, now); err != nil && ctx.Err() == nil {
				slog.Warn("proving drafts before the day", "error", err)
			}
		}
		select {
		case <-ctx.Done():
			tick.Stop()
			return
		case <-tick.C:
		}
	}
}

// proveDrafts proves the live drafts, one after the other, until the night is over. One that
// cannot be proven is passed over. The error is the database's or the context's.
func (s *server) proveDrafts(ctx context.Context, now time.Time) error {
	drafts, err := s.Store.ChangedSince(ctx, now.Add(-mayBeNext))
	if err != nil {
		return err
	}
	for n := range drafts {
		if err := s.proveDraft(ctx, &drafts[n]); err != nil {
			slog.Warn("a draft that is not proven before the day", "case", drafts[n].ID, "error", err)
		}
		if ctx.Err() != nil || !atNight(time.Now()) {
			return ctx.Err()
		}
	}
	return nil
}

// proveDraft waits for the proof of a draft, which is kept like one that was looked at. A defect
// must not end the server.
func (s *server) proveDraft(ctx context.Context, c *store.Case) (err error) {
	defer contained(&err)
	ctx = context.WithValue(ctx, userKey{}, &store.User{ID: c.CreatedBy, PracticeID: c.PracticeID})
	p, err := s.provableBody(ctx, c.Draft)
	if err != nil {
		return err
	}
	_, err = s.awaitProof(ctx, p, ahead, waitedFor)
	return err
}
