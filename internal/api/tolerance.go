package api

import (
	"bytes"
	"context"
	"encoding/json"
	"fmt"

	"obturon/core/intake"
	"obturon/core/tolerance"
	"obturon/internal/document"
	"obturon/internal/job"
	"obturon/internal/render"
	"obturon/internal/store"
)

// StartTolerance begins to cut the draft again and again, or goes on with the same run.
func (s *server) StartTolerance(ctx context.Context, r StartToleranceRequestObject) (StartToleranceResponseObject, error) {
	kept, p, err := s.cutDraft(ctx, r.Id)
	if err != nil {
		return nil, err
	}
	in := job.ToleranceInput{Posed: p.input, Hand: handOf(r.Body.Hand), Runs: r.Body.Runs}
	if figure, why := in.Hand.Check(); why != "" {
		return nil, intake.Faults{{Path: "$.hand." + figure, Message: why}}
	}
	if in.Runs < tolerance.LeastRuns || in.Runs > tolerance.MostRuns {
		return nil, intake.Faults{
			{Path: "$.runs", Message: fmt.Sprintf("%d cuts: give %d to %d", in.Runs, tolerance.LeastRuns, tolerance.MostRuns)},
		}
	}
	parts, err := job.ToleranceParts(in.Runs)
	if err != nil {
		return nil, err
	}
	j, err := s.startJob(ctx, kept, store.Tolerance, store.Batch, in, parts)
	if err != nil {
		return nil, err
	}
	answer, err := toleranceAnswer(kept, j)
	return StartTolerance201JSONResponse(answer), err
}

// LastTolerance answers the newest run of a case.
func (s *server) LastTolerance(ctx context.Context, r LastToleranceRequestObject) (LastToleranceResponseObject, error) {
	kept, err := s.Store.Case(ctx, currentUser(ctx).PracticeID, r.Id)
	if err != nil {
		return nil, err
	}
	answer := LastTolerance200JSONResponse{
		Usual:     handAnswer(tolerance.Usual),
		Figures:   []HandFigure{},
		LeastRuns: tolerance.LeastRuns,
		MostRuns:  tolerance.MostRuns,
	}
	for _, f := range tolerance.Figures {
		answer.Figures = append(answer.Figures, HandFigure{Id: f.ID, Label: f.Label, Unit: f.Unit, Least: f.Least, Most: f.Most})
	}
	j, err := s.Store.LastJob(ctx, r.Id, store.Tolerance)
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
	j, err := s.Store.CancelJob(ctx, r.Id, r.Run, store.Tolerance)
	if err != nil {
		return nil, err
	}
	answer, err := toleranceAnswer(kept, j)
	return CancelTolerance200JSONResponse(answer), err
}

func handOf(h Hand) tolerance.Hand {
	return tolerance.Hand{
		DepthBias:    h.DepthBiasMm,
		DepthScatter: h.DepthScatterMm,
		Tilt:         h.TiltDegrees,
		Wander:       h.WanderMm,
		Extension:    h.ExtensionMm,
	}
}

func handAnswer(h tolerance.Hand) Hand {
	return Hand{DepthBiasMm: h.DepthBias, DepthScatterMm: h.DepthScatter, TiltDegrees: h.Tilt, WanderMm: h.Wander, ExtensionMm: h.Extension}
}

func toleranceAnswer(kept *store.Case, j *store.Job) (ToleranceRun, error) {
	var in job.ToleranceInput
	if err := json.Unmarshal(j.Input, &in); err != nil {
		return ToleranceRun{}, fmt.Errorf("reading what a tolerance run cuts: %w", err)
	}
	a := ToleranceRun{
		Id: j.ID, Runs: in.Runs, State: document.ToleranceRunState(j.State()), Cavities: []CavityTolerance{}, Current: bytes.Equal(in.Case, kept.Draft),
		Hand: handAnswer(in.Hand),
	}
	if j.Failed != nil {
		a.Failed = *j.Failed
	}
	var parts []tolerance.Part
	var outcomes [][][]tolerance.Outcome
	for _, p := range j.Parts {
		var part job.TolerancePart
		if err := json.Unmarshal(p.Input, &part); err != nil {
			return a, fmt.Errorf("reading a part of a tolerance run: %w", err)
		}
		a.Of += part.Runs
		a.Done += int(p.Share * float64(part.Runs))
		parts = append(parts, part.Part())
		if p.Result == nil {
			outcomes = append(outcomes, nil)
			continue
		}
		own, err := render.DecodeOutcomes(p.Result)
		if err != nil {
			return a, err
		}
		outcomes = append(outcomes, own)
	}
	if j.Shared == nil {
		return a, nil
	}
	drawn, err := render.DecodeDrawn(j.Shared)
	if err != nil {
		return a, err
	}
	for _, t := range tolerance.Tolerances(drawn, parts, outcomes) {
		a.Cavities = append(a.Cavities, cavityTolerance(t))
	}
	return a, nil
}

func cavityTolerance(t tolerance.Tolerance) CavityTolerance {
	a := CavityTolerance{
		Name:    t.Cavity,
		Runs:    t.Runs,
		Risk:    document.Thousandth(t.Risk),
		Chances: []Chance{},
		Weakest: []string{},
		Gains:   []AimGain{},
	}
	for _, c := range t.Chances {
		a.Chances = append(a.Chances, Chance{
			Id: c.Check.ID, Side: c.Check.Side, Label: c.Check.Label, Unit: c.Check.Unit, Severity: c.Check.Severity,
			Met: document.Thousandth(
				c.Met,
			), Low: document.Thousandth(c.Low), High: document.Thousandth(c.High), Missed: document.Thousandth(c.Missed), Mean: document.Thousandth(c.Mean), Deviates: document.Thousandth(c.Deviates),
		})
	}
	for _, c := range t.Weakest {
		a.Weakest = append(a.Weakest, c.Check.Label)
	}
	for _, g := range t.Gains {
		a.Gains = append(
			a.Gains,
			AimGain{
				Aim:      g.Aim.Words,
				Before:   document.Thousandth(g.Before),
				Risk:     document.Thousandth(g.Risk),
				ToothMm3: document.Thousandth(g.Tooth),
			},
		)
	}
	return a
}
