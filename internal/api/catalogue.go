package api

import (
	"context"

	"obturon/core/advice"
	"obturon/core/instrument"
	"obturon/core/intake"
	"obturon/core/lesion"
	"obturon/core/notation"
	"obturon/core/school"
	"obturon/internal/document"
)

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
		return nil, unprocessable("No tooth has this name", intake.Faults{{Path: "text", Message: err.Error()}})
	}
	return ReadTooth200JSONResponse(toothAnswer(t)), nil
}

// ChartTooth draws the tooth for intake, with the places of findings.
func (s *server) ChartTooth(_ context.Context, r ChartToothRequestObject) (ChartToothResponseObject, error) {
	t, err := notation.Parse(r.Text)
	if err != nil {
		return nil, unprocessable("No tooth has this name", intake.Faults{{Path: "text", Message: err.Error()}})
	}
	age := ageOr(r.Params.Age)
	c, err := s.Planner.Chart(t, age)
	if err != nil {
		return nil, err
	}
	start := lesion.StartingFinding(t)
	answer := ToothChart{
		Views: []ChartView{}, Sizes: []DefaultSize{}, Kinds: []KindChoice{}, Contacts: !t.Anterior(),
		Start: document.Finding{Kind: start.Kind, Site: start.Site, Depth: start.Depth},
	}
	for _, v := range c.Views {
		side := ChartView{View: viewAnswer(v.View), Sites: []ChartSite{}}
		for _, p := range v.Sites {
			at := v.Plane.Project(p.At)
			side.Sites = append(
				side.Sites,
				ChartSite{Site: p.Site, Label: p.Site.Label(), X: document.Thousandth(at.X), Y: document.Thousandth(at.Y), Kinds: p.Kinds},
			)
		}
		answer.Views = append(answer.Views, side)
	}
	for _, d := range c.Sizes {
		answer.Sizes = append(
			answer.Sizes,
			DefaultSize{
				Kind:     d.Kind,
				Depth:    d.Depth,
				HeightMm: document.Thousandth(d.Height),
				WidthMm:  document.Thousandth(d.Width),
				LengthMm: document.Thousandth(d.Length),
			},
		)
	}
	for _, k := range lesion.Choices(t) {
		choice := KindChoice{Kind: k.Kind, Label: k.Label, Sites: []SiteChoice{}}
		for _, s := range k.Sites {
			own := SiteChoice{Site: s.Site, Label: s.Label, Fields: append([]lesion.Field{}, s.Fields...)}
			if side, faces := s.Site.Side(); faces {
				own.Side = document.Side(side.String())
			}
			choice.Sites = append(choice.Sites, own)
		}
		answer.Kinds = append(answer.Kinds, choice)
	}
	return ChartTooth200JSONResponse(answer), nil
}

func toothAnswer(t notation.Tooth) Tooth {
	return Tooth{
		Iso: t.String(), Universal: t.Universal(), Letters: t.QuadrantLetters(), Symbol: t.QuadrantSymbol(), Name: t.Name(), Group: school.GroupOf(t),
		Anterior: t.Anterior(), Schools: advice.SchoolsFor(t),
	}
}

func criterionAnswer(c school.Criterion) Criterion {
	entry, _ := school.Find(c.ID)
	low, high := c.Target.Ends()
	return Criterion{
		Id: c.ID, Label: entry.Label, Required: c.Required(), Unit: c.Unit, Basis: c.Basis, Target: document.Range{Min: low, Max: high}, Why: c.Why,
		Teeth: c.When.Tooth, Materials: c.When.Material,
	}
}

// ListInstruments lists the kit: burs with their profiles, hand instruments with
// their blades.
func (s *server) ListInstruments(context.Context, ListInstrumentsRequestObject) (ListInstrumentsResponseObject, error) {
	answer := ListInstruments200JSONResponse{}
	for _, i := range instrument.All {
		a := Instrument{Id: i.ID, Name: i.Name, Use: i.Use, Profile: []float64{}}
		a.Width, a.Length = i.Size()
		if i.Head != nil {
			a.Neck = i.Head.Neck()
			for _, p := range i.Head.Profile() {
				a.Profile = append(a.Profile, p[0], p[1])
			}
		}
		if b := i.Blade; b != nil {
			a.Blade = &document.Blade{Centigrades: b.Centigrades}
			for _, p := range b.Outline() {
				a.Blade.Outline = append(a.Blade.Outline, p[0], p[1])
			}
		}
		answer = append(answer, a)
	}
	return answer, nil
}
