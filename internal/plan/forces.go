package plan

import (
	"context"

	"obturon/core/advice"
	"obturon/core/forces"
	"obturon/core/intake"
	"obturon/core/pipeline"
	"obturon/core/school"
)

// HoldOf asks every cavity of a case how its fillings are held, and what one change would
// buy. Nothing is held of a case that is not cut. Errors are those of Evaluate.
func (p *Planner) HoldOf(ctx context.Context, c *intake.Case, grid float64) (pipeline.Hold, error) {
	j, err := p.Judged(ctx, c, grid)
	if err != nil || j.Measured == nil {
		return pipeline.Hold{}, err
	}
	return j.Hold(ctx)
}

// loaded judges a case as it is to be loaded: by another school's proposal where one is given,
// solved, as it stands on the sheet in the end.
func (p *Planner) loaded(ctx context.Context, c *intake.Case, other *school.School, grid float64) (*Judged, error) {
	if other != nil {
		c = pipeline.By(c, advice.Decide(c).Choice, other)
	}
	return p.Judged(ctx, c, grid)
}

// StrainOf is the picture of a buccolingual section of a case, so far (mm) towards mesial
// from the middle; without is why there is nothing to load, "" where there is. Errors are
// those of Evaluate and of resist.Slice.
func (p *Planner) StrainOf(ctx context.Context, c *intake.Case, at float64, as forces.As, with forces.Loading, grid float64) (
	section forces.Section, without string, err error,
) {
	const cells = 0.1 // mm: answers while one waits
	j, err := p.loaded(ctx, c, nil, grid)
	if err != nil {
		return section, "", err
	}
	if j.Measured == nil {
		return section, j.Refused(), nil
	}
	return j.Strained(ctx, at, as, with, cells)
}

// SectionsOf are Measured.SectionsBeside of a case; nothing of one that is refused. Errors are
// those of StrainOf.
func (p *Planner) SectionsOf(
	ctx context.Context, c *intake.Case, at float64, other *school.School, with forces.Loading, grid float64,
) ([]pipeline.SectionBeside, error) {
	own, err := p.Judged(ctx, c, grid)
	if err != nil || own.Measured == nil {
		return nil, err
	}
	return own.SectionsBeside(ctx, at, other, with, func(c *intake.Case) (*pipeline.Measured, string, error) {
		j, err := p.Judged(ctx, c, grid)
		if err != nil {
			return nil, "", err
		}
		return j.Measured, j.Refused(), nil
	})
}

// DeflectionOf loads the tooth of a case with all its cavities cut; without is why there is
// nothing to load, "" where there is. fine takes finer cells. progress, if given, is told which share is done. Errors are those of
// Evaluate and of resist.Deflect.
func (p *Planner) DeflectionOf(
	ctx context.Context, c *intake.Case, with forces.Loading, grid float64, fine bool, progress func(share float64),
) (deflected forces.Deflection, without string, err error) {
	j, err := p.loaded(ctx, c, nil, grid)
	if err != nil {
		return deflected, "", err
	}
	if j.Measured == nil {
		return deflected, j.Refused(), nil
	}
	return j.Deflected(ctx, with, fine, progress)
}

// HoldLines says how the fillings of a case are held, for print; nothing of a case that is not
// cut. Errors are those of Evaluate.
func (p *Planner) HoldLines(ctx context.Context, c *intake.Case, grid float64) ([]string, error) {
	j, err := p.Judged(ctx, c, grid)
	if err != nil || j.Measured == nil {
		return nil, err
	}
	return j.HoldLines(), nil
}
