package api

import (
	"context"
	"errors"
	"net/http"

	"obturon/internal/store"
)

// keep writes the practice's document of a kind that was changed from a version; overtaken is
// what is said where somebody else kept a newer one.
func (s *server) keep(
	ctx context.Context,
	kind store.DocumentKind,
	version int,
	text []byte,
	overtaken problem,
) (*store.PracticeDocument, error) {
	u := currentUser(ctx)
	changed, err := s.Store.SavePracticeDocument(
		ctx,
		store.PracticeDocument{PracticeID: u.PracticeID, Kind: kind, Version: version + 1, Document: text, ChangedBy: u.ID},
	)
	if errors.Is(err, store.ErrTaken) {
		overtaken.status = http.StatusConflict
		return nil, &overtaken
	}
	return changed, err
}
