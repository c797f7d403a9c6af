package api

import (
	"context"
	"fmt"

	"obturon/core/advice"
	"obturon/core/assess"
	"obturon/core/cavity"
	"obturon/core/drawing"
	"obturon/core/intake"
	"obturon/core/pipeline"
	"obturon/core/school"
	"obturon/core/sitting"
	"obturon/core/solid"
	"obturon/internal/document"
	"obturon/internal/export"
	"obturon/internal/plan"
	"obturon/internal/render"
)

// Advise says what a case speaks for before anything is cut.
func (s *server) Advise(ctx context.Context, r AdviseRequestObject) (AdviseResponseObject, error) {
	c, err := s.caseOf(ctx, *r.Body)
	if err != nil {
		return nil, err
	}
	var assumed float64
	if r.Params.Age != nil {
		assumed = advice.UsualAge(c.Tooth)
		c.Patient.AgeYears = assumed
	}
	d := advice.Decide(c)
	return Advise200JSONResponse{
		Class: d.Class, Material: d.Choice.Material, School: d.Choice.School, Reason: d.Reason, AssumedAgeYears: assumed, Advice: render.Advice(d), Refused: d.Refused,
	}, nil
}

// Evaluate plans a case without keeping anything. A request that is closed,
// as by a newer drag, stops the work at its next stage.
func (s *server) Evaluate(ctx context.Context, r EvaluateRequestObject) (EvaluateResponseObject, error) {
	c, err := s.caseOf(ctx, *r.Body)
	if err != nil {
		return nil, err
	}
	sections := pipeline.Sections{Across: r.Params.Across, Along: r.Params.Along}
	result, err := s.Planner.AtOnce(ctx, c, plan.DefaultGrid, sections)
	if err != nil {
		return nil, err
	}
	answer := evaluationAnswer(result)
	if r.Params.Relief != nil && !*r.Params.Relief {
		leaveOutRelief(answer.Views)
	}
	return Evaluate200JSONResponse(answer), nil
}

// SolveProposal has the proposals of a case solved and tells what that changed.
func (s *server) SolveProposal(ctx context.Context, r SolveProposalRequestObject) (SolveProposalResponseObject, error) {
	c, err := s.caseOf(ctx, *r.Body)
	if err != nil {
		return nil, err
	}
	result, err := s.Planner.Solved(ctx, c, plan.DefaultGrid)
	if err != nil {
		return nil, err
	}
	return SolveProposal200JSONResponse(solutionAnswer(result)), nil
}

// solutionAnswer writes what solving came to; nothing of a case that is refused.
func solutionAnswer(d *pipeline.Designed) Solution {
	answer := Solution{Moved: []FigureMoved{}, Gained: []CheckGained{}}
	if d == nil {
		return answer
	}
	moved, gained := d.Solution()
	for _, m := range moved {
		answer.Moved = append(
			answer.Moved,
			FigureMoved{Id: m.ID, Label: m.Label, Unit: m.Unit, From: document.Thousandth(m.Value), To: document.Thousandth(m.To)},
		)
	}
	for _, g := range gained {
		answer.Gained = append(answer.Gained, CheckGained{Label: g.Label, Before: g.Before, After: g.After})
	}
	return answer
}

// EvaluateSolid answers the cut tooth as finely as the screen shows it.
func (s *server) EvaluateSolid(ctx context.Context, r EvaluateSolidRequestObject) (EvaluateSolidResponseObject, error) {
	c, err := s.caseOf(ctx, *r.Body)
	if err != nil {
		return nil, err
	}
	result, mesh, err := s.Planner.Screen(ctx, c, plan.DefaultGrid, r.Params.Filled)
	if err != nil {
		return nil, err
	}
	if mesh == nil {
		return nil, intake.Faults{{Path: "$.findings", Message: "this case is not cut, so there is no cut tooth: see the plan's refusal"}}
	}
	if r.Params.Filled {
		return EvaluateSolid200JSONResponse(packed(export.NewFilledMesh(result, mesh))), nil
	}
	return EvaluateSolid200JSONResponse(*meshAnswer(result, mesh)), nil
}

// CompareFinishes measures the cavities of a case under each style of finish.
func (s *server) CompareFinishes(ctx context.Context, r CompareFinishesRequestObject) (CompareFinishesResponseObject, error) {
	c, err := s.caseOf(ctx, *r.Body)
	if err != nil {
		return nil, err
	}
	finishes, err := s.Planner.CompareFinishes(ctx, c, plan.DefaultGrid)
	if err != nil {
		return nil, err
	}
	answer := CompareFinishes200JSONResponse{}
	for _, f := range finishes {
		answer = append(answer, render.Finish(f.Cavity, f.Finish))
	}
	return answer, nil
}

// CompareSchools plans a case by several schools.
func (s *server) CompareSchools(ctx context.Context, r CompareSchoolsRequestObject) (CompareSchoolsResponseObject, error) {
	c, err := s.caseOf(ctx, *r.Body)
	if err != nil {
		return nil, err
	}
	var schools []*school.School
	for n, id := range r.Params.Schools {
		named, err := s.schoolByID(ctx, currentUser(ctx).PracticeID, id)
		if err != nil {
			return nil, intake.Faults{{Path: fmt.Sprintf("schools[%d]", n), Message: fmt.Sprintf("%q is unknown: name schools that are listed", id)}}
		}
		schools = append(schools, named)
	}
	results, err := s.Planner.Compare(ctx, c, schools, plan.DefaultGrid)
	if err != nil {
		return nil, err
	}
	answer := CompareSchools200JSONResponse{}
	for _, result := range results {
		a := evaluationAnswer(result)
		a.Mesh = nil
		answer = append(answer, a)
	}
	return answer, nil
}

func evaluationAnswer(r *plan.Result) Evaluation {
	a := Evaluation{Plan: r.Document(), Dimensions: []Dimension{}, Views: []View{}, Choices: []OfferedChoice{}}
	if r.Drawn == nil {
		nothing := solutionAnswer(nil)
		a.Solution = &nothing
		return a
	}
	a.MayJoin = sitting.MayJoin(r.Decision)
	for _, c := range r.Choices() {
		offered := OfferedChoice{Field: document.OfferedChoiceField(c.Field), Label: c.Label, Options: []OfferedOption{}}
		for _, o := range c.Options {
			offered.Options = append(offered.Options, OfferedOption{Value: o.Value, Label: o.Label})
		}
		a.Choices = append(a.Choices, offered)
	}
	for _, d := range r.Dimensions() {
		a.Dimensions = append(a.Dimensions, dimensionAnswer(d, assess.Apart(d, r.Checks)))
	}
	for _, v := range r.Views {
		a.Views = append(a.Views, viewAnswer(v))
	}
	if r.Solutions != nil {
		own := solutionAnswer(r.Designed)
		a.Solution = &own
	}
	a.Mesh = meshAnswer(r.Designed, r.Turning)
	return a
}

// leaveOutRelief empties the layers that a drag does not change; they keep their
// places.
func leaveOutRelief(views []View) {
	for _, v := range views {
		for n := range v.Layers {
			switch v.Layers[n].Kind {
			case drawing.Relief, drawing.Crest, drawing.Groove:
				v.Layers[n].Lines = []Line{}
			}
		}
	}
}

func meshAnswer(d *pipeline.Designed, m *solid.Mesh) *MeshData {
	mesh := packed(export.NewWebMesh(d, m))
	return &mesh
}

func dimensionAnswer(d cavity.Dimension, apart string) Dimension {
	return Dimension{
		Id: d.ID, Label: d.Label, Unit: d.Unit, Value: document.Thousandth(d.Value), Proposed: document.Thousandth(d.Proposed),
		Min: d.Min, Max: d.Max, Apart: apart,
	}
}

func viewAnswer(v drawing.View) View {
	a := View{
		Id: v.ID, Title: v.Title, Left: v.Left, Right: v.Right, Up: v.Up, At: document.Thousandth(v.At), Section: document.ViewSection(v.Section), From: document.ViewFrom(v.From),
		Bounds: []float64{
			document.Thousandth(v.Bounds.MinX),
			document.Thousandth(v.Bounds.MinY),
			document.Thousandth(v.Bounds.MaxX),
			document.Thousandth(v.Bounds.MaxY),
		},
		Origin: document.Triple(v.Plane.Origin), U: document.Triple(v.Plane.U), V: document.Triple(v.Plane.V),
		Layers: []Layer{}, Tags: []Tag{},
	}
	if v.Section != "" {
		a.SectionRange = []float64{v.Least, v.Most}
	}
	for _, l := range v.Layers {
		layer := Layer{Kind: l.Kind, Lines: []Line{}}
		for _, line := range l.Lines {
			layer.Lines = append(layer.Lines, lineAnswer(line.Points, line.Closed))
		}
		a.Layers = append(a.Layers, layer)
	}
	for _, m := range v.Marks {
		a.Marks = append(a.Marks, Mark{At: pair(m.At), Text: m.Text})
	}
	for _, t := range v.Tags {
		a.Tags = append(a.Tags, Tag{
			Check: t.CheckID, Side: t.Side, Verdict: assess.Verdict(t.Verdict), Dimension: t.Dimension, Label: t.Label, Value: document.Thousandth(t.Value), Unit: t.Unit, From: pair(t.From), To: pair(t.To),
			Handle: pair(t.Handle), Pull: pair(t.Pull), Gain: t.Gain, LabelAt: pair(t.LabelAt), LabelRight: t.LabelRight,
		})
	}
	return a
}

func pair(p solid.Point2) []float64 {
	return []float64{document.Thousandth(p.X), document.Thousandth(p.Y)}
}
