package api

import (
	"context"
	"fmt"
	"math"

	"obturon/core/forces"
	"obturon/core/intake"
	"obturon/core/resist"
	"obturon/core/school"
	"obturon/core/solid"
	"obturon/internal/document"
	"obturon/internal/plan"
	"obturon/internal/render"
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
	answer.Bounds = HandleBounds{TiltDegrees: forces.MostTilt, DownMm: resist.MostDown, SlantDegrees: resist.MostSlant}
	for _, f := range held.Fillings {
		answer.Fillings = append(answer.Fillings, fillingAnswer(f))
	}
	for _, change := range held.Changes {
		answer.Changes = append(answer.Changes, HoldChange{
			Dimension: change.Dimension, Label: change.Label, From: document.Thousandth(change.From), To: document.Thousandth(change.To), Unit: change.Unit, Tooth: document.Thousandth(change.Tooth), Text: change.Text,
		})
	}
	return answer, nil
}

func fillingAnswer(f forces.Filling) HeldFilling {
	answer := HeldFilling{Of: f.Of, Bonded: f.Bonded, Degrees: document.Thousandth(f.Release.Degrees), Text: f.Text, Pulls: []Pull{}}
	for _, p := range f.Pulls {
		answer.Pulls = append(answer.Pulls, pullAnswer(p))
	}
	if b := f.Bond; b != nil {
		answer.Bond = &Bond{
			Enamel:    document.Thousandth(b.Enamel),
			Dentin:    document.Thousandth(b.Dentin),
			Counted:   document.Thousandth(b.Counted),
			EdgeIndex: document.Thousandth(b.EdgeIndex),
			Text:      b.Text,
		}
	}
	return answer
}

func pullAnswer(p forces.Pull) Pull {
	one := Pull{
		Name:   p.Name,
		Side:   p.Side,
		State:  p.State,
		Mm:     document.Thousandth(p.Depth),
		By:     []Holder{},
		From:   document.Triple(p.From),
		Along:  document.Triple(p.Along),
		Turns:  p.Turns,
		Places: [][]float64{},
		Text:   p.Text,
	}
	if !math.IsInf(p.Moves, 1) && !math.IsNaN(p.Moves) {
		moves := document.Thousandth(p.Moves)
		one.MovesMm = &moves
	}
	for _, at := range p.Places {
		one.Places = append(one.Places, append(document.Triple(at.At), document.Thousandth(at.MM)))
	}
	for _, h := range p.By {
		one.By = append(one.By, Holder{Name: h.Name, Mm: document.Thousandth(h.MM)})
	}
	return one
}

// EvaluatePull answers how the fillings of a case are held against a pull of one's own.
func (s *server) EvaluatePull(ctx context.Context, r EvaluatePullRequestObject) (EvaluatePullResponseObject, error) {
	c, err := s.caseOf(ctx, *r.Body)
	if err != nil {
		return nil, err
	}
	tilt := forces.Tilt{Mesial: r.Params.Mesial, Facial: r.Params.Facial}
	if err := tilt.Check(); err != nil {
		return nil, intake.Faults{{Path: "pull", Message: err.Error()}}
	}
	judged, err := s.Planner.Judged(ctx, c, plan.DefaultGrid)
	if err != nil {
		return nil, err
	}
	answer := EvaluatePull200JSONResponse{}
	if judged.Measured == nil { // nothing is held
		return answer, nil
	}
	for _, p := range judged.Pulls(tilt) {
		answer = append(answer, pullAnswer(p))
	}
	return answer, nil
}

// EvaluateDeflection answers how far the cusps of a case part under a load.
func (s *server) EvaluateDeflection(ctx context.Context, r EvaluateDeflectionRequestObject) (EvaluateDeflectionResponseObject, error) {
	q := r.Params
	c, with, err := s.loaded(ctx, *r.Body, AskedLoad{Newtons: q.Newtons, Down: q.Down, Slant: q.Slant, Place: q.Place})
	if err != nil {
		return nil, err
	}
	deflected, without, err := s.Planner.DeflectionOf(ctx, c, with, plan.DefaultGrid, false, nil)
	if err != nil {
		return nil, err
	}
	return EvaluateDeflection200JSONResponse(render.Deflection(deflected, without, with)), nil
}

// EvaluateStrain answers the picture of a section under load.
func (s *server) EvaluateStrain(ctx context.Context, r EvaluateStrainRequestObject) (EvaluateStrainResponseObject, error) {
	q := r.Params
	c, with, err := s.loaded(ctx, *r.Body, AskedLoad{Newtons: q.Newtons, Down: q.Down, Slant: q.Slant, Place: q.Place})
	if err != nil {
		return nil, err
	}
	section, without, err := s.Planner.StrainOf(ctx, c, q.At, q.As, with, plan.DefaultGrid)
	return EvaluateStrain200JSONResponse(strainAnswer(section, without)), err
}

// EvaluateSections answers pictures of a section cut in several ways.
func (s *server) EvaluateSections(ctx context.Context, r EvaluateSectionsRequestObject) (EvaluateSectionsResponseObject, error) {
	q := r.Params
	c, with, err := s.loaded(ctx, *r.Body, AskedLoad{Newtons: q.Newtons, Down: q.Down, Slant: q.Slant, Place: q.Place})
	if err != nil {
		return nil, err
	}
	other, err := s.otherSchool(ctx, q.School)
	if err != nil {
		return nil, err
	}
	all, err := s.Planner.SectionsOf(ctx, c, q.At, other, with, plan.DefaultGrid)
	if err != nil {
		return nil, err
	}
	answer := EvaluateSections200JSONResponse{}
	for _, b := range all {
		answer = append(answer, SectionBeside{Title: b.Title, Way: b.Way, Strain: strainAnswer(b.Section, b.Without)})
	}
	return answer, nil
}

func strainAnswer(section forces.Section, without string) Strain {
	answer := Strain{
		Levels: []StrainLevel{}, Loads: []SliceLoad{}, Corners: []float64{}, Enamel: outlinesAnswer(section.Enamel), Dentin: outlinesAnswer(section.Dentin),
		Pulp: outlinesAnswer(section.Pulp), Filling: outlinesAnswer(section.Filling), Opening: document.Thousandth(section.Opening),
		RadiusText: section.RadiusText, Text: section.Text, Assumptions: section.Assumptions,
	}
	if without != "" {
		answer.Text, answer.Assumptions = without, []string{}
		return answer
	}
	for _, corner := range section.Corners {
		answer.Corners = append(answer.Corners, document.Thousandth(corner.MPa))
	}
	for _, level := range section.Lines {
		answer.Levels = append(answer.Levels, StrainLevel{Mpa: level.MPa, Lines: outlinesAnswer(level.Lines)})
	}
	for _, l := range section.Loads {
		answer.Loads = append(
			answer.Loads,
			SliceLoad{At: pair(l.At), Along: pair(l.Along), NewtonsMm: document.Thousandth(l.NewtonsMM), Tip: pair(l.Tip)},
		)
	}
	return answer
}

func outlinesAnswer(lines []solid.Polyline) []Line {
	all := []Line{}
	for _, line := range lines {
		all = append(all, lineAnswer(line.Points, line.Closed))
	}
	return all
}

// loaded reads a case with the load that is asked about; what is left out is the usual one.
func (s *server) loaded(ctx context.Context, body CaseDocument, asked AskedLoad) (*intake.Case, forces.Loading, error) {
	c, err := s.caseOf(ctx, body)
	if err != nil {
		return nil, forces.Loading{}, err
	}
	with, err := s.loading(ctx, c, asked)
	return c, with, err
}

// loading is what a case is loaded with, under the practice's constants.
func (s *server) loading(ctx context.Context, c *intake.Case, asked AskedLoad) (forces.Loading, error) {
	assumed, err := s.assumed(ctx)
	if err != nil {
		return forces.Loading{}, err
	}
	with := forces.UsualLoading(c, assumed)
	if asked.Newtons != nil {
		with.Bite.Newtons, with.Bite.Grinding = *asked.Newtons, 0
	}
	if asked.Down != nil {
		with.Bite.DownTheIncline = *asked.Down
	}
	if asked.Slant != nil {
		with.Bite.Slant = *asked.Slant
	}
	if asked.Place != nil {
		with.Bite.Place = *asked.Place
	}
	if err := with.Bite.Check(); err != nil {
		return with, intake.Faults{{Path: "load", Message: err.Error()}}
	}
	return with, nil
}

// otherSchool is the one by whose proposal a case is to be cut; nil where none is named.
func (s *server) otherSchool(ctx context.Context, named *string) (*school.School, error) {
	if named == nil {
		return nil, nil
	}
	other, err := s.schoolByID(ctx, currentUser(ctx).PracticeID, *named)
	if err != nil {
		return nil, intake.Faults{{Path: "school", Message: fmt.Sprintf("%q is unknown: name a school that is listed", *named)}}
	}
	return other, nil
}
