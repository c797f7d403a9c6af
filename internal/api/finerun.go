package api

import (
	"context"
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"fmt"
	"net/http"

	"gorm.io/datatypes"

	"obturon/core/advice"
	"obturon/core/intake"
	"obturon/internal/document"
	"obturon/internal/plan"
	"obturon/internal/store"
)

// StartFineRun begins to load the draft's tooth on fine cells.
func (s *server) StartFineRun(ctx context.Context, r StartFineRunRequestObject) (StartFineRunResponseObject, error) {
	kept, c, err := s.draftOf(ctx, r.Id)
	if err != nil {
		return nil, err
	}
	if why := advice.Decide(c).Refused; why != "" {
		return nil, &problem{status: http.StatusConflict, title: "Nothing is cut in this case", detail: why}
	}
	with, err := s.loading(ctx, c, *r.Body)
	if err != nil {
		return nil, err
	}
	asked, err := fineRunOf(kept, c, with)
	if err != nil {
		return nil, err
	}
	u := currentUser(ctx)
	asked.UserID = u.ID
	run, err := s.Store.StartFineRun(ctx, u.PracticeID, asked)
	if err != nil {
		return nil, err
	}
	answer, err := s.fineRunAnswer(ctx, kept, c, run)
	return StartFineRun201JSONResponse(answer), err
}

// LastFineRun answers the newest run of a case.
func (s *server) LastFineRun(ctx context.Context, r LastFineRunRequestObject) (LastFineRunResponseObject, error) {
	kept, c, err := s.draftOf(ctx, r.Id)
	if err != nil {
		return nil, err
	}
	run, err := s.Store.LastFineRun(ctx, r.Id)
	if err != nil || run == nil {
		return LastFineRun200JSONResponse{}, err
	}
	answer, err := s.fineRunAnswer(ctx, kept, c, run)
	return LastFineRun200JSONResponse{Run: &answer}, err
}

// CancelFineRun ends a run.
func (s *server) CancelFineRun(ctx context.Context, r CancelFineRunRequestObject) (CancelFineRunResponseObject, error) {
	kept, c, err := s.draftOf(ctx, r.Id)
	if err != nil {
		return nil, err
	}
	run, err := s.Store.CancelFineRun(ctx, r.Id, r.Run)
	if err != nil {
		return nil, err
	}
	answer, err := s.fineRunAnswer(ctx, kept, c, run)
	return CancelFineRun200JSONResponse(answer), err
}

// fineRunOf is a run of a draft with a load, known by all that it depends on.
func fineRunOf(kept *store.Case, c *intake.Case, with plan.Loading) (run store.FineRun, err error) {
	run = store.FineRun{CaseID: kept.ID, CaseDocument: kept.Draft}
	if c.Rules != nil {
		if run.Rules, err = json.Marshal(c.Rules); err != nil {
			return run, err
		}
	}
	if run.Loading, err = json.Marshal(with); err != nil {
		return run, err
	}
	sum := sha256.New()
	for _, part := range []datatypes.JSON{datatypes.JSON(plan.CoreVersion), run.CaseDocument, run.Rules, run.Loading} {
		fmt.Fprintf(sum, "%d:%s", len(part), part)
	}
	run.Digest = hex.EncodeToString(sum.Sum(nil))
	return run, nil
}

// fineRunAnswer writes a run; it is current where the draft under the same load would be the
// same run.
func (s *server) fineRunAnswer(ctx context.Context, kept *store.Case, c *intake.Case, run *store.FineRun) (FineRun, error) {
	answer := FineRun{Id: run.ID, Share: document.Thousandth(run.Share), State: document.FineRuns}
	var with plan.Loading
	if err := json.Unmarshal(run.Loading, &with); err != nil {
		return answer, fmt.Errorf("reading the load of a fine run: %w", err)
	}
	assumed, err := s.assumed(ctx)
	if err != nil {
		return answer, err
	}
	with.Assumed, with.Bite.Marked, with.Bite.Bearing = assumed, c.Contacts, assumed.Bearing
	now, err := fineRunOf(kept, c, with)
	if err != nil {
		return answer, err
	}
	answer.Current = now.Digest == run.Digest
	switch {
	case run.Failed != nil:
		answer.State, answer.Failed = document.FineFailed, *run.Failed
	case run.CancelledAt != nil:
		answer.State = document.FineCancelled
	case run.Result != nil:
		answer.State = document.FineFinished
		var parted Parting
		if err := json.Unmarshal(run.Result, &parted); err != nil {
			return answer, fmt.Errorf("reading what a fine run came to: %w", err)
		}
		answer.Parting = &parted
	}
	return answer, nil
}
