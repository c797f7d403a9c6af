package api

import (
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"net/http"

	"github.com/google/uuid"

	"obturon/core/advice"
	"obturon/core/tolerance"
	"obturon/internal/document"
	"obturon/internal/plan"
	"obturon/internal/store"
)

// StartTolerance begins to cut the draft again and again.
func (s *server) StartTolerance(ctx context.Context, r StartToleranceRequestObject) (StartToleranceResponseObject, error) {
	u := currentUser(ctx)
	kept, c, err := s.draftOf(ctx, r.Id)
	if err != nil {
		return nil, err
	}
	if why := advice.Decide(c).Refused; why != "" {
		return nil, &problem{status: http.StatusConflict, title: "Nothing is cut in this case", detail: why}
	}
	hand, err := json.Marshal(handOf(r.Body.Hand))
	if err != nil {
		return nil, err
	}
	j := store.ToleranceJob{CaseID: r.Id, UserID: u.ID, RequestKey: r.Params.IdempotencyKey, CaseDocument: kept.Draft, Hand: hand, Runs: r.Body.Runs}
	if c.Rules != nil {
		if j.Rules, err = json.Marshal(c.Rules); err != nil {
			return nil, err
		}
	}
	if _, j.Kit, err = s.kitOf(ctx); err != nil {
		return nil, err
	}
	for n, p := range plan.Parts(1, r.Body.Runs) {
		j.Chunks = append(j.Chunks, store.ToleranceChunk{Number: n, Aim: p.Aim, FirstSeed: int64(p.Seed), Runs: p.Runs})
	}
	id, err := s.Store.StartTolerance(ctx, u.PracticeID, j)
	if err != nil {
		return nil, err
	}
	answer, err := s.toleranceRun(ctx, kept, id)
	return StartTolerance201JSONResponse(answer), err
}

// LastTolerance answers the newest run of a case.
func (s *server) LastTolerance(ctx context.Context, r LastToleranceRequestObject) (LastToleranceResponseObject, error) {
	kept, err := s.Store.Case(ctx, currentUser(ctx).PracticeID, r.Id)
	if err != nil {
		return nil, err
	}
	answer := LastTolerance200JSONResponse{Usual: handAnswer(tolerance.Usual)}
	j, err := s.Store.LastTolerance(ctx, r.Id)
	if err != nil || j == nil {
		return answer, err
	}
	run, err := toleranceAnswer(kept, j)
	answer.Run = &run
	return answer, err
}

// CancelTolerance ends a run.
func (s *server) CancelTolerance(ctx context.Context, r CancelToleranceRequestObject) (CancelToleranceResponseObject, error) {
	kept, err := s.Store.Case(ctx, currentUser(ctx).PracticeID, r.Id)
	if err != nil {
		return nil, err
	}
	if err := s.Store.CancelTolerance(ctx, r.Id, r.Run); err != nil {
		return nil, err
	}
	answer, err := s.toleranceRun(ctx, kept, r.Run)
	return CancelTolerance200JSONResponse(answer), err
}

func (s *server) toleranceRun(ctx context.Context, kept *store.Case, id uuid.UUID) (ToleranceRun, error) {
	j, err := s.Store.Tolerance(ctx, kept.ID, id)
	if err != nil {
		return ToleranceRun{}, err
	}
	return toleranceAnswer(kept, j)
}

func handOf(h Hand) tolerance.Hand {
	return tolerance.Hand{DepthBias: h.DepthBiasMm, DepthScatter: h.DepthScatterMm, Tilt: h.TiltDegrees, Wander: h.WanderMm, Extension: h.ExtensionMm}
}

func handAnswer(h tolerance.Hand) Hand {
	return Hand{DepthBiasMm: h.DepthBias, DepthScatterMm: h.DepthScatter, TiltDegrees: h.Tilt, WanderMm: h.Wander, ExtensionMm: h.Extension}
}

func toleranceAnswer(kept *store.Case, j *store.ToleranceJob) (ToleranceRun, error) {
	var h tolerance.Hand
	if err := json.Unmarshal(j.Hand, &h); err != nil {
		return ToleranceRun{}, fmt.Errorf("reading the hand of a tolerance run: %w", err)
	}
	a := ToleranceRun{
		Id: j.ID, Runs: j.Runs, State: document.Finished, Cavities: []CavityTolerance{}, Current: bytes.Equal(j.CaseDocument, kept.Draft),
		Hand: handAnswer(h),
	}
	var parts []plan.Part
	var outcomes [][][]tolerance.Outcome
	for _, c := range j.Chunks {
		a.Of += c.Runs
		parts = append(parts, plan.Part{Aim: c.Aim, Seed: uint64(c.FirstSeed), Runs: c.Runs})
		if c.DoneAt == nil {
			outcomes, a.State = append(outcomes, nil), document.Runs
			continue
		}
		a.Done += c.Runs
		own, err := plan.DecodeOutcomes(c.Outcomes)
		if err != nil {
			return a, err
		}
		outcomes = append(outcomes, own)
	}
	switch {
	case j.Failed != nil:
		a.State, a.Failed = document.Failed, *j.Failed
	case j.CancelledAt != nil && a.State == document.Runs:
		a.State = document.Cancelled
	}
	if a.Done == 0 {
		return a, nil
	}
	drawn, err := plan.DecodeDrawn(j.Drawn)
	if err != nil {
		return a, err
	}
	for _, t := range plan.Tolerances(drawn, parts, outcomes) {
		a.Cavities = append(a.Cavities, cavityTolerance(t))
	}
	return a, nil
}

func cavityTolerance(t plan.Tolerance) CavityTolerance {
	a := CavityTolerance{Name: t.Cavity, Runs: t.Runs, Risk: document.Thousandth(t.Risk), Chances: []Chance{}, Weakest: []string{}, Gains: []AimGain{}}
	for _, c := range t.Chances {
		a.Chances = append(a.Chances, Chance{
			Id: c.Check.ID, Side: c.Check.Side, Label: c.Check.Label, Unit: c.Check.Unit, Severity: c.Check.Severity,
			Met: document.Thousandth(c.Met), Low: document.Thousandth(c.Low), High: document.Thousandth(c.High), Missed: document.Thousandth(c.Missed), Mean: document.Thousandth(c.Mean), Deviates: document.Thousandth(c.Deviates),
		})
	}
	for _, c := range t.Weakest {
		a.Weakest = append(a.Weakest, c.Check.Label)
	}
	for _, g := range t.Gains {
		a.Gains = append(a.Gains, AimGain{Aim: g.Aim.Words, Before: document.Thousandth(g.Before), Risk: document.Thousandth(g.Risk), ToothMm3: document.Thousandth(g.Tooth)})
	}
	return a
}
