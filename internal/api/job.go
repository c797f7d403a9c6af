package api

import (
	"context"
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"fmt"
	"net/http"

	"github.com/google/uuid"

	"obturon/core/advice"
	"obturon/core/pipeline"
	"obturon/internal/store"
)

// cutDraft is a case with its draft, which has to be one that is cut.
func (s *server) cutDraft(ctx context.Context, id uuid.UUID) (*store.Case, provable, error) {
	kept, err := s.Store.Case(ctx, currentUser(ctx).PracticeID, id)
	if err != nil {
		return nil, provable{}, err
	}
	p, err := s.provableBody(ctx, kept.Draft)
	if err != nil {
		return nil, p, err
	}
	if why := advice.Decide(p.Case).Refused; why != "" {
		return nil, p, &problem{status: http.StatusConflict, title: "Nothing is cut in this case", detail: why}
	}
	return kept, p, nil
}

// startJob begins a job of a case, or goes on with the same one: nothing is computed twice. Its
// input is what it is known by.
func (s *server) startJob(
	ctx context.Context,
	kept *store.Case,
	kind store.JobKind,
	priority store.Priority,
	input any,
	parts []store.JobPart,
) (*store.Job, error) {
	key, err := jobKey(kept, input)
	if err != nil {
		return nil, err
	}
	text, err := json.Marshal(input)
	if err != nil {
		return nil, err
	}
	u := currentUser(ctx)
	asked := store.Job{
		PracticeID: u.PracticeID,
		UserID:     u.ID,
		CaseID:     &kept.ID,
		Kind:       kind,
		Key:        key,
		Priority:   priority,
		Input:      text,
		Parts:      parts,
	}
	return s.Store.Ask(ctx, asked, store.Asking{ForGood: true, Start: true, Action: "start " + string(kind)})
}

// jobKey is what a job of a case is known by: all that it depends on.
func jobKey(kept *store.Case, input any) (string, error) {
	text, err := json.Marshal(input)
	if err != nil {
		return "", err
	}
	sum := sha256.Sum256(append([]byte(pipeline.CoreVersion+"\n"), text...))
	return fmt.Sprintf("%s/%s", kept.ID, hex.EncodeToString(sum[:])), nil
}
