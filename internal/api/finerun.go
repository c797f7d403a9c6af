package api

import (
	"context"
	"encoding/json"
	"fmt"

	"obturon/core/forces"
	"obturon/core/intake"
	"obturon/internal/document"
	"obturon/internal/job"
	"obturon/internal/store"
)

// StartFineRun begins to load the draft's tooth on fine cells, or answers the same run.
func (s *server) StartFineRun(ctx context.Context, r StartFineRunRequestObject) (StartFineRunResponseObject, error) {
	kept, p, err := s.cutDraft(ctx, r.Id)
	if err != nil {
		return nil, err
	}
	with, err := s.loading(ctx, p.Case, *r.Body)
	if err != nil {
		return nil, err
	}
	in, err := fineInput(kept, p.Case, with)
	if err != nil {
		return nil, err
	}
	j, err := s.startJob(ctx, kept, store.FineDeflection, store.Interactive, in, nil)
	if err != nil {
		return nil, err
	}
	answer, err := s.fineRunAnswer(ctx, kept, p.Case, j)
	return StartFineRun201JSONResponse(answer), err
}

// LastFineRun answers the newest run of a case.
func (s *server) LastFineRun(ctx context.Context, r LastFineRunRequestObject) (LastFineRunResponseObject, error) {
	kept, c, err := s.draftOf(ctx, r.Id)
	if err != nil {
		return nil, err
	}
	j, err := s.Store.LastJob(ctx, r.Id, store.FineDeflection)
	if err != nil || j == nil {
		return LastFineRun200JSONResponse{}, err
	}
	answer, err := s.fineRunAnswer(ctx, kept, c, j)
	return LastFineRun200JSONResponse{Run: &answer}, err
}

// CancelFineRun ends a run.
func (s *server) CancelFineRun(ctx context.Context, r CancelFineRunRequestObject) (CancelFineRunResponseObject, error) {
	kept, c, err := s.draftOf(ctx, r.Id)
	if err != nil {
		return nil, err
	}
	j, err := s.Store.CancelJob(ctx, r.Id, r.Run, store.FineDeflection)
	if err != nil {
		return nil, err
	}
	answer, err := s.fineRunAnswer(ctx, kept, c, j)
	return CancelFineRun200JSONResponse(answer), err
}

// fineInput is what a draft's run under a load is made from: no instrument has to do with it.
func fineInput(kept *store.Case, c *intake.Case, with forces.Loading) (in job.FineInput, err error) {
	in = job.FineInput{Posed: job.Posed{Case: json.RawMessage(kept.Draft)}, Loading: with}
	if c.Rules != nil {
		in.Rules, err = json.Marshal(c.Rules)
	}
	return in, err
}

// fineRunAnswer writes a run; it is current where the draft under the same load would be the
// same run.
func (s *server) fineRunAnswer(ctx context.Context, kept *store.Case, c *intake.Case, j *store.Job) (FineRun, error) {
	answer := FineRun{Id: j.ID, Share: document.Thousandth(j.Share()), State: document.FineRunState(j.State())}
	var made job.FineInput
	if err := json.Unmarshal(j.Input, &made); err != nil {
		return answer, fmt.Errorf("reading the load of a fine run: %w", err)
	}
	assumed, err := s.assumed(ctx)
	if err != nil {
		return answer, err
	}
	with := made.Loading
	with.Assumed, with.Bite.Marked, with.Bite.Bearing = assumed, c.Contacts, assumed.Bearing
	now, err := fineInput(kept, c, with)
	if err != nil {
		return answer, err
	}
	key, err := jobKey(kept, now)
	if err != nil {
		return answer, err
	}
	answer.Current = key == j.Key
	if j.Failed != nil {
		answer.Failed = *j.Failed
	}
	if result := j.Result(); result != nil {
		var deflected Deflection
		if err := json.Unmarshal(result, &deflected); err != nil {
			return answer, fmt.Errorf("reading what a fine run came to: %w", err)
		}
		answer.Deflection = &deflected
	}
	return answer, nil
}
