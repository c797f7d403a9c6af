package api

import (
	"context"
	"errors"
	"net/http"

	"obturon/internal/store"
)

// keep writes the practice's document of a kind that was changed from a version; overtaken is
// what is said where somebody else kept a newer one.
func (s *server) keep(ctx context.Context, kind store.DocumentKind, version int, text []byte, overtaken problem) (*store.PracticeDocument, error) {
	u := currentUser(ctx)
	changed := store.PracticeDocument{PracticeID: u.PracticeID, Version: version + 1, Document: text, ChangedBy: u.ID}
	err := s.Store.SavePracticeDocument(ctx, kind, changed)
	if errors.Is(err, store.ErrTaken) {
		overtaken.status = http.StatusConflict
		return nil, &overtaken
	}
	if err != nil {
		return nil, err
	}
	return &changed, nil
}
