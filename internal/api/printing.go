package api

import (
	"context"
	"errors"
	"log/slog"
	"time"

	"github.com/google/uuid"

	"obturon/core/pipeline"
	"obturon/internal/store"
)

// printed are the documents of a revision that are made as soon as it is fixed, so that no
// later version of the core is asked for them.
var printed = []string{"plan.json", "card.pdf", "card-letter.pdf", "tray.pdf", "drawing.svg", "drawing.png", "steps.csv", "steps.json"}

// printRevisions makes the documents of revisions that have none yet, the newest first and
// while nobody waits for an answer, until the context ends. One that cannot be made is left to
// whoever asks for it, who then reads why.
func (s *server) printRevisions(ctx context.Context) {
	var left []uuid.UUID
	for {
		practice, fixed, err := s.Store.Unprinted(ctx, pipeline.CoreVersion, printed, left)
		if err == nil {
			if err = s.print(ctx, practice, fixed); err != nil {
				left = append(left, fixed.ID)
				slog.Warn("printing a revision", "case", fixed.CaseID, "revision", fixed.Number, "error", err)
			}
			if ctx.Err() == nil {
				continue
			}
		}
		if ctx.Err() != nil {
			return
		}
		if !errors.Is(err, store.ErrNotFound) {
			slog.Warn("looking for revisions to be printed", "error", err)
		}
		wait := time.NewTimer(lookAgain)
		select {
		case <-ctx.Done():
		case <-wait.C:
		case <-s.revisionFixed:
		}
		wait.Stop()
	}
}

// print makes the documents of a revision, each in a turn of its own. A defect must not end the
// server.
func (s *server) print(ctx context.Context, practice uuid.UUID, fixed *store.Revision) (err error) {
	defer contained(&err)
	ctx = context.WithValue(ctx, userKey{}, &store.User{ID: fixed.CreatedBy, PracticeID: practice})
	one, err := fixedOn(fixed)
	if err != nil {
		return err
	}
	if _, err := s.proven(ctx, one.provable()); err != nil {
		return err
	}
	for _, file := range printed {
		done, err := s.Turns.TakeQuiet(ctx, othersRest)
		if err != nil {
			return err
		}
		_, err = s.revisionFile(ctx, fixed, file)
		done()
		if err != nil {
			return err
		}
	}
	return nil
}

// noteRevision tells that a revision has been fixed.
func (s *server) noteRevision() {
	select {
	case s.revisionFixed <- struct{}{}:
	default: // it knows already
	}
}
