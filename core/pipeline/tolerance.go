package pipeline

import (
	"context"

	"obturon/core/assess"
	"obturon/core/tolerance"
)

// CutPart cuts all cavities of a rehearsed case as a part of a tolerance run asks for, and
// gives the outcomes by cavity. progress is told the share that is done. Errors are the context's.
func (p *Proven) CutPart(
	ctx context.Context,
	h tolerance.Hand,
	part tolerance.Part,
	progress func(share float64),
) ([][]tolerance.Outcome, error) {
	if part.Aim != tolerance.Plain {
		h = tolerance.Aims[part.Aim].Of(h)
	}
	all := make([][]tolerance.Outcome, len(p.Rehearsals))
	for n, one := range p.Rehearsals {
		outcomes, err := tolerance.Run(ctx, one, h, tolerance.Seeds(part.Seed, part.Runs), func(done int) {
			progress((float64(n) + float64(done)/float64(part.Runs)) / float64(len(p.Rehearsals)))
		})
		if err != nil {
			return nil, err
		}
		all[n] = outcomes
	}
	return all, nil
}

// DrawnCavities are the cavities that a tolerance run compares with. Errors are the context's.
func (p *Proven) DrawnCavities(ctx context.Context) ([]tolerance.Drawn, error) {
	var all []tolerance.Drawn
	for n, one := range p.Rehearsals {
		checks, err := assess.Cavity(ctx, p.Subjects[n])
		if err != nil {
			return nil, err
		}
		all = append(all, tolerance.Drawn{Cavity: one.Cavity.Name, Checks: checks})
	}
	return all, nil
}
