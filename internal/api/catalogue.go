package api

import (
	"context"
	"net/http"

	"obturon/core/anatomy"
	"obturon/core/assess"
	"obturon/core/instrument"
	"obturon/core/lesion"
	"obturon/core/notation"
	"obturon/core/school"
	"obturon/internal/plan"
)

// GetHealth answers whether the database does.
func (s *server) GetHealth(ctx context.Context, _ GetHealthRequestObject) (GetHealthResponseObject, error) {
	if err := s.Store.Ping(ctx); err != nil {
		return nil, &problem{status: http.StatusServiceUnavailable, title: "The database does not answer", detail: "See the server's log; start it again."}
	}
	return GetHealth200JSONResponse{Status: "ok", Core: plan.CoreVersion}, nil
}

// ListTeeth lists the 52 teeth.
func (s *server) ListTeeth(context.Context, ListTeethRequestObject) (ListTeethResponseObject, error) {
	answer := ListTeeth200JSONResponse{}
	for _, t := range notation.All() {
		answer = append(answer, toothAnswer(t))
	}
	return answer, nil
}

// ReadTooth reads a typed tooth name.
func (s *server) ReadTooth(_ context.Context, r ReadToothRequestObject) (ReadToothResponseObject, error) {
	t, err := notation.Parse(r.Text)
	if err != nil {
		return nil, unprocessable("No tooth has this name", plan.Faults{{Path: "text", Message: err.Error()}})
	}
	return ReadTooth200JSONResponse(toothAnswer(t)), nil
}

// ChartTooth draws the tooth for intake, with the places of findings.
func (s *server) ChartTooth(_ context.Context, r ChartToothRequestObject) (ChartToothResponseObject, error) {
	t, err := notation.Parse(r.Text)
	if err != nil {
		return nil, unprocessable("No tooth has this name", plan.Faults{{Path: "text", Message: err.Error()}})
	}
	age := 35.0
	if r.Params.Age != nil {
		age = float64(*r.Params.Age)
	}
	c, err := s.Planner.Chart(t, age)
	if err != nil {
		return nil, err
	}
	answer := ToothChart{Views: []ChartView{}, Sizes: []DefaultSize{}}
	for _, v := range c.Views {
		side := ChartView{View: viewAnswer(v.View), Sites: []ChartSite{}}
		for _, p := range v.Sites {
			at := v.Plane.Project(p.At)
			site := ChartSite{Site: string(p.Site), X: thousandth(at.X), Y: thousandth(at.Y)}
			for _, k := range p.Kinds {
				site.Kinds = append(site.Kinds, string(k))
			}
			side.Sites = append(side.Sites, site)
		}
		answer.Views = append(answer.Views, side)
	}
	for _, d := range c.Sizes {
		answer.Sizes = append(answer.Sizes, DefaultSize{
			Kind: string(d.Kind), Depth: string(d.Depth), HeightMm: given(d.Height), WidthMm: given(d.Width), LengthMm: given(d.Length),
		})
	}
	return ChartTooth200JSONResponse(answer), nil
}

// given is a size, or nothing where the kind has none.
func given(mm float64) *float32 {
	if mm == 0 {
		return nil
	}
	v := thousandth(mm)
	return &v
}

func toothAnswer(t notation.Tooth) Tooth {
	outline := anatomy.Describe(t)
	grooves := []string{}
	for _, s := range lesion.GrooveSites(t) {
		grooves = append(grooves, string(s))
	}
	cusps := []string{}
	for _, s := range lesion.CuspSites(t) {
		cusps = append(cusps, string(s))
	}
	return Tooth{
		Iso: t.String(), Universal: t.Universal(), Letters: t.QuadrantLetters(), Symbol: t.QuadrantSymbol(), Name: t.Name(), Group: school.ToothGroup(t),
		Anterior: t.Anterior(), Pits: append(append([]string{}, outline.Pits...), outline.FacePits...), Grooves: grooves, Cusps: cusps,
	}
}

func criterionAnswer(c school.Criterion) Criterion {
	a := Criterion{Id: c.ID, Label: assess.Label(c.ID), Required: c.Required(), Unit: c.Unit, Basis: string(c.Basis), Min: float32(c.Target.Min), Max: float32(c.Target.Max), Why: c.Why}
	if len(c.When.Tooth) > 0 {
		a.Teeth = &c.When.Tooth
	}
	if len(c.When.Material) > 0 {
		a.Materials = &c.When.Material
	}
	return a
}

// ListInstruments lists the burs with their profiles.
func (s *server) ListInstruments(context.Context, ListInstrumentsRequestObject) (ListInstrumentsResponseObject, error) {
	answer := ListInstruments200JSONResponse{}
	for _, r := range instrument.Rotaries {
		a := Instrument{Id: r.ID, Name: r.Name, Use: r.Use, Length: float32(r.Length), Profile: []float32{}}
		for _, p := range r.Profile() {
			a.Profile = append(a.Profile, float32(p[0]), float32(p[1]))
		}
		answer = append(answer, a)
	}
	return answer, nil
}
