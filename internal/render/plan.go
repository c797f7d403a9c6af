package render

import (
	"strings"

	"obturon/core/advice"
	"obturon/core/assess"
	"obturon/core/cavity"
	"obturon/core/fill"
	"obturon/core/lesion"
	"obturon/core/measure"
	"obturon/core/notation"
	"obturon/core/pipeline"
	"obturon/internal/document"
)

// Plan writes a drawn case as a plan document. Figures are rounded to a
// thousandth, far below what is measurable.
func Plan(r *pipeline.Drawn) document.Plan {
	d := head(r.Decided, r.Surfaces)
	d.Sequence, d.Cautions = Steps(r.Steps), append([]string{}, r.Cautions...)
	d.Volumes = document.Volumes{
		Enamel: document.Thousandth(
			r.Removed.Enamel,
		), Dentin: document.Thousandth(r.Removed.Dentin), Lesion: document.Thousandth(r.Removed.Lesion), OldFilling: document.Thousandth(r.Removed.OldFilling),
		Lost: document.Thousandth(r.Removed.Lost), Cavity: document.Thousandth(r.Removed.Cavity),
	}
	for _, one := range r.Cut.Cavities {
		for _, dimension := range one.Dimensions {
			d.Dimensions[dimension.ID] = document.Thousandth(dimension.Value)
		}
		if one.Kind == cavity.Cervical {
			d.Gingiva = &document.Gingiva{
				FacialMm:  document.Thousandth(one.Gingiva.Facial),
				LingualMm: document.Thousandth(one.Gingiva.Lingual),
				PapillaMm: document.Thousandth(one.Gingiva.Papilla),
			}
		}
	}
	for _, c := range r.Checks {
		d.Checks = append(d.Checks, check(c))
	}
	d.Volumes.LesionLeft = document.Thousandth(assess.LesionLeft(r.Checks))
	for _, one := range r.Subjects {
		if one.Leaves() {
			left := one.Left()
			d.Volumes.KeptOverPulp = document.Thousandth(d.Volumes.KeptOverPulp + left.Kept)
			d.Kept = append(d.Kept, document.KeptDentin{
				Cavity: one.Cavity.Name, VolumeMm3: document.Thousandth(left.Kept), AreaMm2: document.Thousandth(left.Area),
				OverPulpMm: document.Thousandth(left.OverPulp), SealMm: document.Thousandth(left.Seal.Value),
			})
		}
	}
	next := 0
	for _, one := range r.Cut.Cavities {
		if one.Kind != cavity.Occlusal {
			d.Finishes = append(d.Finishes, Finish(one, r.Finishes[next]))
			next++
		}
	}
	return d
}

// Refusal writes the plan document of a case that is refused.
func Refusal(r *pipeline.Decided) document.Plan {
	d := head(r, r.Decision.Surfaces)
	d.Sequence, d.Cautions, d.Refused = []document.Step{}, append([]string{}, r.Decision.Cautions...), r.Refused()
	return d
}

// head is what the plan document of any decided case says.
func head(r *pipeline.Decided, surfaces []string) document.Plan {
	choice := r.Decision.Choice
	d := document.Plan{
		Schema: document.ObturonPlan1, Core: pipeline.CoreVersion, Tooth: r.Case.Tooth.String(), Frame: frameOf(r.Case.Tooth), Class: r.Decision.Class,
		Surfaces: append([]string{}, surfaces...), SurfaceLetters: lesion.Letters(surfaces, r.Case.Tooth),
		Material: choice.Material, School: choice.School, ChoiceReason: r.Decision.Reason, DecisionReason: choice.Reason,
		Advice: Advice(r.Decision), Dimensions: map[string]float64{}, Checks: []document.Check{},
	}
	if r.School != nil {
		d.SchoolVersion = r.School.Version
	}
	return d
}

// frameOf is the frame that all points of a tooth's documents are in.
func frameOf(t notation.Tooth) *document.ToothFrame {
	return &document.ToothFrame{X: document.ToothFrameXMesial, Y: document.ToothFrameYFacial, Z: document.Occlusal, Hand: t.FrameHand()}
}

// KeptPlan is Plan for a file or a revision, with what takes too long while a
// figure is dragged: what the cavity's solid leaves out, and how it is filled with a
// practice's products.
func KeptPlan(r *pipeline.Drawn, products fill.Products) document.Plan {
	d := Plan(r)
	_, crumbs := r.CavitySolid()
	d.Volumes.Crumbs = document.Thousandth(crumbs)
	d.Fill = Fill(r.Fill(products).Fillings)
	d.Hold = strings.Join(r.HoldLines(), " ")
	return d
}

// Advice writes what speaks for each treatment and material.
func Advice(d advice.Decision) document.Advice {
	a := document.Advice{
		Treatment: d.Treatment, Reason: d.Because, Followed: d.Followed, Questions: d.Questions, Materials: []document.MaterialAdvice{},
	}
	for _, w := range d.Ways {
		a.Ways = append(a.Ways, document.Way{
			Treatment: w.Treatment, Label: w.Treatment.Label(), Cuts: w.Treatment.Cuts(), Does: w.Does, For: w.For, Against: w.Against, Recall: w.Recall,
		})
	}
	for _, q := range d.Assumed {
		own := document.Assumption{Field: q.Field, Says: q.Says}
		if q.Finding >= 0 {
			own.Finding = &q.Finding
		}
		a.Assumed = append(a.Assumed, own)
	}
	for _, m := range d.Materials {
		a.Materials = append(a.Materials, document.MaterialAdvice{Material: m.Material, Barred: m.Barred, For: m.For, Against: m.Against})
	}
	return a
}

func check(c assess.Check) document.Check {
	low, high := c.Target.Ends()
	d := document.Check{
		Id: c.ID, Label: c.Label, Form: c.Form, Side: c.Side, Uncertainty: document.Thousandth(c.Uncertainty), Unit: c.Unit,
		Target: document.Range{Min: rounded(low), Max: rounded(high)}, Verdict: c.Verdict, Severity: c.Severity,
		Why: c.Why, Fix: c.Fix, Chair: c.Chair, Dimension: c.Dimension(),
	}
	if c.Chair == c.Fix {
		d.Chair = "" // said already
	}
	if c.Measured() {
		value := document.Thousandth(c.Value)
		d.Value = &value
		at := c.Where.At
		d.Where = &document.Place{
			Name:  c.Where.Name,
			Point: []float64{document.Thousandth(at.X), document.Thousandth(at.Y), document.Thousandth(at.Z)},
		}
	}
	return d
}

// Finish writes what the margins of a cavity gain and cost.
func Finish(c *cavity.Cavity, f measure.Finish) document.Finish {
	return document.Finish{
		Site: c.Site, Name: c.Name, Class: c.Class, Style: c.Style, BondedEnamel: document.Thousandth(f.BondedEnamel), BondedDentin: document.Thousandth(f.BondedDentin),
		EnamelSpent: document.Thousandth(
			f.EnamelSpent,
		), Margin: document.Thousandth(f.Margin), MarginSeen: document.Thousandth(f.MarginSeen), Contact: f.Contact, EdgeIndex: document.Thousandth(f.EdgeIndex),
	}
}

func rounded(v *float64) *float64 {
	if v == nil {
		return nil
	}
	own := document.Thousandth(*v)
	return &own
}
