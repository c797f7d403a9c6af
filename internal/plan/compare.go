package plan

import (
	"context"
	"fmt"
	"slices"

	"obturon/core/advice"
	"obturon/core/drawing"
	"obturon/core/intake"
	"obturon/core/pipeline"
	"obturon/core/school"
)

// Compare plans the same case as each of the schools proposes it. What the
// dentist set by hand is left out: it would level the schools. Errors are those
// of Evaluate, with the school.
func (p *Planner) Compare(ctx context.Context, c *intake.Case, schools []*school.School, grid float64) ([]*Result, error) {
	if err := pipeline.CanBeCompared(schools); err != nil {
		return nil, err
	}
	decided := advice.Decide(c).Choice
	results := make([]*Result, 0, len(schools))
	var at pipeline.Sections // all schools are shown in the section of the first
	for _, s := range schools {
		r, err := p.draw(ctx, pipeline.By(c, decided, s), grid, at, solved)
		if err != nil {
			return nil, fmt.Errorf("planning by the %s school: %w", s.ID, err)
		}
		if r.Drawn != nil && at.Along == nil {
			if n := slices.IndexFunc(r.Views, func(v drawing.View) bool { return v.Section == drawing.Along }); n >= 0 {
				at.Along = &r.Views[n].At
			}
		}
		results = append(results, r)
	}
	return results, nil
}

// CompareFinishes measures every cavity of a case that has a choice of finish
// under each of its styles; none where no cavity has. Bevels set by hand are
// left out, so that each style shows its own. Errors are those of Evaluate.
func (p *Planner) CompareFinishes(ctx context.Context, c *intake.Case, grid float64) ([]pipeline.NamedFinish, error) {
	finishes := []pipeline.NamedFinish{}
	for _, own := range pipeline.InEachStyle(c) {
		_, designed, err := p.design(ctx, own, grid, solved)
		if err != nil || designed == nil {
			return finishes, err
		}
		finishes = append(finishes, designed.FinishesAs(own.Choice.Style)...)
	}
	return finishes, ctx.Err()
}
