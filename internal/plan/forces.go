package plan

import (
	"context"
	"fmt"
	"maps"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/forces"
	"obturon/core/intake"
	"obturon/core/measure"
	"obturon/core/resist"
	"obturon/core/solid"
)

// Hold is how the fillings of a case are held.
type Hold struct {
	Fillings []forces.Filling
	Changes  []forces.Change
}

// HoldOf asks every cavity of a case how its fillings are held, and what one change would
// buy. Nothing is held of a case that is not cut. Errors are those of Evaluate.
func (p *Planner) HoldOf(ctx context.Context, c *intake.Case, grid float64) (Hold, error) {
	var h Hold
	r, basis, err := p.judged(ctx, c, grid, atOnce)
	if err != nil || r.Refused() != "" {
		return h, err
	}
	for n, s := range r.Subjects {
		h.Fillings = append(h.Fillings, forces.Of(s)...)
		changes, err := forces.Changes(ctx, s, func(_ context.Context, figures map[string]float64) (*measure.Subject, error) {
			set := maps.Clone(c.Overrides)
			if set == nil {
				set = map[string]float64{}
			}
			maps.Copy(set, figures)
			one, err := basis.Proposals[n].Cut(set)
			if err != nil {
				return nil, fmt.Errorf("cutting with a change: %w", err)
			}
			return measure.NewSubject(carve(r.Model, one.Tool()), one), nil
		})
		if err != nil {
			return h, err
		}
		h.Changes = append(h.Changes, changes...)
	}
	return h, nil
}

// Bite is the load that a case is asked about; a figure that is left out is the patient's
// usual one.
func Bite(c *intake.Case, newtons, down *float64) resist.Bite {
	b := resist.UsualBite(c.Patient.Parafunction)
	if newtons != nil {
		b.Newtons, b.Doubled = *newtons, false
	}
	if down != nil {
		b.DownTheIncline = *down
	}
	return b
}

// StrainOf is the picture of a buccolingual section of a case, so far (mm) towards mesial
// from the middle; without is why there is nothing to load, "" where there is. Errors are
// those of Evaluate and of resist.Slice.
func (p *Planner) StrainOf(ctx context.Context, c *intake.Case, at float64, as forces.As, bite resist.Bite, grid float64) (section forces.Section, without string, err error) {
	const side = 0.1 // mm: answers while one waits
	r, _, err := p.judged(ctx, c, grid, atOnce)
	if err != nil {
		return section, "", err
	}
	if r.Refused() != "" {
		return section, r.Refused(), nil
	}
	cut, filling, stiffness := r.Prepared.Workpiece, 0.0, resist.Usual()
	switch as {
	case forces.AsSound:
		cut = r.Model.Surface.Uncut()
	case forces.AsFilled:
		filling = stiffness.Composite
	}
	plane := solid.Plane{Origin: r3.Vec{X: at}, U: r3.Vec{Y: 1}, V: r3.Vec{Z: 1}}
	picture, err := resist.Slice(ctx, r.Model, cut, plane, bite, stiffness, filling, side)
	if without := forces.NoParting(err); without != "" {
		return section, without, nil
	}
	if err != nil {
		return section, "", err
	}
	return forces.Pictured(picture, r.Subjects[0], bite, as), "", nil
}

// PartingOf loads the tooth of a case with all its cavities cut; without is why there is
// nothing to load, "" where there is. Errors are those of Evaluate and of resist.Part.
func (p *Planner) PartingOf(ctx context.Context, c *intake.Case, bite resist.Bite, grid float64) (parted forces.Parting, without string, err error) {
	const side = 0.4 // mm: answers while one waits
	r, _, err := p.judged(ctx, c, grid, atOnce)
	if err != nil {
		return parted, "", err
	}
	if r.Refused() != "" {
		return parted, r.Refused(), nil
	}
	stiffness := resist.Usual()
	compared, err := resist.Part(ctx, r.Model, r.Prepared.Workpiece, bite, stiffness, side)
	if without := forces.NoParting(err); without != "" {
		return parted, without, nil
	}
	if err != nil {
		return parted, "", err
	}
	return forces.Parted(compared, r.Prepared, bite, stiffness, forces.Bonds(r.Cut.Cavities)), "", nil
}
