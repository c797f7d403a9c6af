package plan

import (
	"context"

	"obturon/core/design"
	"obturon/core/drawing"
	"obturon/core/fill"
	"obturon/core/intake"
	"obturon/core/measure"
	"obturon/core/procedure"
	"obturon/core/sitting"
	"obturon/core/solid"
)

// Filling is how one cavity of a case is filled.
type Filling struct {
	*measure.Subject
	Plans  []fill.Plan // a part each, the largest first
	Matrix fill.Matrix
	Steps  []procedure.Step
	Lamp   fill.Lamp
}

// FilledCase is how a case is filled, with all that is done before it.
type FilledCase struct {
	Fillings []Filling
	Views    []drawing.View   // the sections of its sheet, with the filling in them
	Before   []procedure.Step // of its course, all that comes before the bur
	Tray     []sitting.Item   // that has to lie ready for it
}

// FillOf plans the fillings of a case's cavities. Its course is that of its proof, or what the
// design asks for where that is nil. Nothing is filled of a case that is not cut. Errors are
// those of Evaluate.
func (p *Planner) FillOf(ctx context.Context, c *intake.Case, proof *Proof, products fill.Products, open []fill.Facing, grid float64, at Sections) (FilledCase, error) {
	r, basis, err := p.judged(ctx, c, grid, solved)
	if err != nil || r.Refused() != "" {
		return FilledCase{}, err
	}
	fillings := r.Filled(products, open...)
	course := sitting.Together([]sitting.Visit{{Steps: r.course(r.steps(proof), fillings, products)}})
	all := FilledCase{Fillings: fillings, Before: sitting.Before(course)}
	all.Tray = sitting.Tray(course, laidOut(fillings), c.Kit)
	for _, f := range fillings {
		subject := r.subject(f.Subject, basis, at)
		drawn := drawing.FilledSections(drawing.Views(subject), subject, f.Plans, f.Matrix)
		if len(fillings) > 1 {
			nameViews(f.Cavity, drawn)
		}
		all.Views = append(all.Views, drawn...)
		if err := ctx.Err(); err != nil {
			return FilledCase{}, err
		}
	}
	return all, nil
}

// Filled plans the fillings of all cavities; boxes of other teeth that are open at the time
// are filled in one go with those that they face.
func (r *Result) Filled(products fill.Products, facing ...fill.Facing) []Filling {
	all := make([]Filling, len(r.Subjects))
	for n, s := range r.Subjects {
		f := Filling{Subject: s, Plans: fill.Plans(s, products), Lamp: products.Lamps[0]}
		f.Matrix = fill.MatrixOf(s, products).Restores(s, f.Plans, r.Neighbours).Facing(facing)
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
