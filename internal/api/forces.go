package api

import (
	"context"
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/forces"
	"obturon/core/intake"
	"obturon/core/resist"
	"obturon/internal/plan"
)

// EvaluateHold answers how the fillings of a case are held.
func (s *server) EvaluateHold(ctx context.Context, r EvaluateHoldRequestObject) (EvaluateHoldResponseObject, error) {
	c, err := s.caseOf(ctx, *r.Body)
	if err != nil {
		return nil, err
	}
	held, err := s.Planner.HoldOf(ctx, c, plan.DefaultGrid)
	if err != nil {
		return nil, err
	}
	answer := EvaluateHold200JSONResponse{Fillings: []HeldFilling{}, Changes: []HoldChange{}, Assumption: forces.RigidBody}
	for _, f := range held.Fillings {
		answer.Fillings = append(answer.Fillings, fillingAnswer(f))
	}
	for _, change := range held.Changes {
		answer.Changes = append(answer.Changes, HoldChange{
			Dimension: change.Dimension, Label: change.Label, From: thousandth(change.From), To: thousandth(change.To), Unit: change.Unit, Tooth: thousandth(change.Tooth), Text: change.Text,
		})
	}
	return answer, nil
}

func fillingAnswer(f forces.Filling) HeldFilling {
	answer := HeldFilling{Of: f.Of, Bonded: f.Bonded, Degrees: thousandth(f.Release.Degrees), Text: f.Text, Pulls: []Pull{}}
	for _, p := range f.Pulls {
		one := Pull{Name: p.Name, Side: p.Side, State: p.State, Mm: thousandth(p.Depth), By: []Holder{}, From: triple(p.From), Along: triple(p.Along), Turns: p.Turns, Places: [][]float64{}, Text: p.Text}
		if !math.IsInf(p.Moves, 1) && !math.IsNaN(p.Moves) {
			moves := thousandth(p.Moves)
			one.MovesMm = &moves
		}
		for _, at := range p.Places {
			one.Places = append(one.Places, append(triple(at.At), thousandth(at.MM)))
		}
		for _, h := range p.By {
			one.By = append(one.By, Holder{Name: h.Name, Mm: thousandth(h.MM)})
		}
		answer.Pulls = append(answer.Pulls, one)
	}
	if b := f.Bond; b != nil {
		answer.Bond = &Bond{Enamel: thousandth(b.Enamel), Dentin: thousandth(b.Dentin), Counted: thousandth(b.Counted), EdgeIndex: thousandth(b.EdgeIndex), Text: b.Text}
	}
	return answer
}

// EvaluateParting answers how far the cusps of a case part under a load.
func (s *server) EvaluateParting(ctx context.Context, r EvaluatePartingRequestObject) (EvaluatePartingResponseObject, error) {
	c, bite, err := s.loaded(ctx, *r.Body, r.Params.Newtons, r.Params.Down)
	if err != nil {
		return nil, err
	}
	parted, without, err := s.Planner.PartingOf(ctx, c, bite, plan.DefaultGrid)
	if err != nil {
		return nil, err
	}
	answer := EvaluateParting200JSONResponse{Cusps: []CuspParting{}, Text: parted.Text, Assumptions: parted.Assumptions, Newtons: bite.Newtons, Down: bite.DownTheIncline}
	if without != "" {
		answer.Text, answer.Assumptions = without, []string{}
		return answer, nil
	}
	answer.Sound, answer.Cut, answer.Filled = thousandth(parted.Sound.Opening), thousandth(parted.Empty.Opening), thousandth(parted.Filled.Opening)
	for _, c := range parted.Cusps {
		answer.Cusps = append(answer.Cusps, CuspParting{
			Cusp: c.Cusp.Name, Sound: thousandth(c.Sound), Cut: thousandth(c.Empty), Filled: thousandth(c.Filled), Newtons: thousandth(r3.Norm(c.Force)), At: triple(c.At), Along: triple(r3.Unit(c.Force)), Base: thousandth(c.Base), Over: thousandth(c.Over),
		})
	}
	return answer, nil
}

// EvaluateStrain answers the picture of a section under load.
func (s *server) EvaluateStrain(ctx context.Context, r EvaluateStrainRequestObject) (EvaluateStrainResponseObject, error) {
	c, bite, err := s.loaded(ctx, *r.Body, r.Params.Newtons, r.Params.Down)
	if err != nil {
		return nil, err
	}
	section, without, err := s.Planner.StrainOf(ctx, c, r.Params.At, r.Params.As, bite, plan.DefaultGrid)
	if err != nil {
		return nil, err
	}
	answer := EvaluateStrain200JSONResponse{Levels: []StrainLevel{}, Loads: []SliceLoad{}, Text: section.Text, Assumptions: section.Assumptions}
	if without != "" {
		answer.Text, answer.Assumptions = without, []string{}
		return answer, nil
	}
	for _, level := range section.Lines {
		one := StrainLevel{Mpa: level.MPa, Lines: []Line{}}
		for _, line := range level.Lines {
			one.Lines = append(one.Lines, lineAnswer(line.Points, line.Closed))
		}
		answer.Levels = append(answer.Levels, one)
	}
	for _, l := range section.Loads {
		answer.Loads = append(answer.Loads, SliceLoad{At: pair(l.At), Along: pair(l.Along), NewtonsMm: thousandth(l.NewtonsMM), Tip: pair(l.Tip)})
	}
	return answer, nil
}

// loaded reads a case with the load that is asked about; what is left out is the usual one.
func (s *server) loaded(ctx context.Context, body CaseDocument, newtons, down *float64) (*intake.Case, resist.Bite, error) {
	c, err := s.caseOf(ctx, body)
	if err != nil {
		return nil, resist.Bite{}, err
	}
	bite := plan.Bite(c, newtons, down)
	if err := bite.Check(); err != nil {
		return nil, bite, intake.Faults{{Path: "load", Message: err.Error()}}
	}
	return c, bite, nil
}
