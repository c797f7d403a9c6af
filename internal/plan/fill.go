package plan

import (
	"context"

	"obturon/core/drawing"
	"obturon/core/fill"
	"obturon/core/intake"
	"obturon/core/pipeline"
	"obturon/core/procedure"
	"obturon/core/sitting"
	"obturon/internal/render"
)

// FilledCase is how a case is filled, with all that is done before it. Of a case that is not cut
// it is empty.
type FilledCase struct {
	Fillings []pipeline.Filling
	Views    []drawing.View   // the sections of its sheet, with the filling in them
	Before   []procedure.Step // of its course, all that comes before the bur
	Tray     []sitting.Item   // that has to lie ready for it
}

// FillOf plans the fillings of a case's cavities. Its course is that of its proof, or what the
// design asks for where that is nil. Errors are those of Evaluate.
func (p *Planner) FillOf(
	ctx context.Context, c *intake.Case, proof *render.Proof, products fill.Products, open []fill.Facing, grid float64, at pipeline.Sections,
) (FilledCase, error) {
	judged, err := p.Judged(ctx, c, grid)
	if err != nil || judged.Measured == nil {
		return FilledCase{}, err
	}
	filled := judged.Fill(products, open...)
	course := sitting.Together([]sitting.Visit{{Steps: filled.Course(stepsOf(judged, proof))}})
	all := FilledCase{Fillings: filled.Fillings, Before: sitting.Before(course), Tray: sitting.Tray(course, filled.LaidOut(), c.Kit)}
	for n := range filled.Fillings {
		all.Views = append(all.Views, filled.Views(n, at)...)
		if err := ctx.Err(); err != nil {
			return FilledCase{}, err
		}
	}
	return all, nil
}

// stepsOf are those that a proof has, else those that the design asks for.
func stepsOf(j *Judged, proof *render.Proof) []procedure.Step {
	if proof != nil {
		return proof.Steps
	}
	return j.Steps
}
