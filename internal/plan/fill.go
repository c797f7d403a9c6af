package plan

import (
	"context"

	"obturon/core/design"
	"obturon/core/drawing"
	"obturon/core/fill"
	"obturon/core/intake"
	"obturon/core/measure"
	"obturon/core/solid"
)

// Filling is how one cavity of a case is filled.
type Filling struct {
	*measure.Subject
	Plans  []fill.Plan // a part each, the largest first
	Matrix fill.Matrix
	Steps  []fill.Step
	Lamp   fill.Lamp
}

// FillOf plans the fillings of a case's cavities and draws them in the sections of its sheet.
// Nothing is filled of a case that is not cut. Errors are those of Evaluate.
func (p *Planner) FillOf(ctx context.Context, c *intake.Case, products fill.Products, grid float64, at Sections) ([]Filling, []drawing.View, error) {
	r, basis, err := p.judged(ctx, c, grid, solved)
	if err != nil || r.Refused() != "" {
		return nil, nil, err
	}
	fillings := r.Filled(products)
	var views []drawing.View
	for _, f := range fillings {
		subject := r.subject(f.Subject, basis, at)
		drawn := drawing.FilledSections(drawing.Views(subject), subject, f.Plans, f.Matrix)
		if len(fillings) > 1 {
			name(f.Cavity, drawn, nil)
		}
		views = append(views, drawn...)
		if err := ctx.Err(); err != nil {
			return nil, nil, err
		}
	}
	return fillings, views, nil
}

// Filled plans the fillings of all cavities.
func (r *Result) Filled(products fill.Products) []Filling {
	all := make([]Filling, len(r.Subjects))
	for n, s := range r.Subjects {
		f := Filling{Subject: s, Plans: fill.Plans(s, products), Matrix: fill.MatrixOf(s, products), Lamp: products.Lamps[0]}
		f.Steps = fill.Steps(s, f.Plans, f.Matrix, products)
		all[n] = f
	}
	return all
}

// FillingSolid is all parts of some fillings in one mesh.
func FillingSolid(fillings []Filling) *solid.Mesh {
	var parts []*solid.Mesh
	for _, f := range fillings {
		for _, p := range f.Plans {
			parts = append(parts, p.Mesh)
		}
	}
	return solid.Joined(parts...)
}

// subject is a cavity to be drawn, with what lies about it.
func (r *Result) subject(s *measure.Subject, basis design.Basis, at Sections) drawing.Subject {
	subject := drawing.Subject{Subject: s, Cut: s.Cavity.Tool(), Neighbours: r.Neighbours, AcrossAt: at.Across, AlongAt: at.Along}
	for _, l := range basis.Staying {
		subject.Staying = append(subject.Staying, l)
	}
	return subject
}
