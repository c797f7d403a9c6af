package pipeline

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

// Hold asks every cavity how its fillings are held, and what one change would buy. The error is
// the context's.
func (m *Measured) Hold(ctx context.Context) (Hold, error) {
	h := Hold{Fillings: m.held()}
	for n, s := range m.Subjects {
		changes, err := forces.Changes(ctx, s, func(_ context.Context, figures map[string]float64) (*measure.Subject, error) {
			one, err := m.Basis.Proposals[n].Cut(setOver(m.Case, figures))
			if err != nil {
				return nil, fmt.Errorf("cutting with a change: %w", err)
			}
			return measure.NewSubject(Carve(m.Model, one.Tool()), one), nil
		})
		if err != nil {
			return h, err
		}
		h.Changes = append(h.Changes, changes...)
	}
	return h, nil
}

func (m *Measured) held() (all []forces.Filling) {
	for _, s := range m.Subjects {
		all = append(all, forces.Of(s)...)
	}
	return all
}

// Pulls asks every filling how it is held against a pull of one's own.
func (m *Measured) Pulls(tilt forces.Tilt) (all []forces.Pull) {
	for _, s := range m.Subjects {
		all = append(all, forces.Tilted(s, tilt)...)
	}
	return all
}

// Strained is the picture of a buccolingual section so far (mm) towards mesial from the middle, on
// so large cells (mm); without is why there is nothing to load, "" where there is. Errors are
// those of resist.Slice.
func (m *Measured) Strained(
	ctx context.Context,
	at float64,
	as forces.As,
	with forces.Loading,
	cells float64,
) (section forces.Section, without string, err error) {
	cut, filling := m.Prepared.Workpiece, 0.0
	switch as {
	case forces.AsSound:
		cut = m.Model.Surface.Uncut()
	case forces.AsFilled:
		filling = with.Assumed.Composite
	}
	plane := solid.Plane{Origin: r3.Vec{X: at}, U: r3.Vec{Y: 1}, V: r3.Vec{Z: 1}}
	picture, err := resist.Slice(ctx, m.Model, cut, plane, with.Bite, with.Assumed.Stiffness, filling, cells)
	if without := forces.NoDeflection(err); without != "" {
		return section, without, nil
	}
	if err != nil {
		return section, "", err
	}
	return forces.Pictured(picture, m.Subjects[0], with.Bite, as), "", nil
}

// WithFigures is a case with figures set over those that are set by hand.
func WithFigures(c *intake.Case, figures map[string]float64) *intake.Case {
	own := *c
	own.Overrides = setOver(c, figures)
	return &own
}

func setOver(c *intake.Case, figures map[string]float64) map[string]float64 {
	set := maps.Clone(c.Overrides)
	if set == nil {
		set = map[string]float64{}
	}
	maps.Copy(set, figures)
	return set
}

// Deflected loads the tooth with all its cavities cut; without is why there is nothing to load, ""
// where there is. fine takes finer cells. progress, if given, is told which share is done. Errors
// are those of resist.Deflect.
func (m *Measured) Deflected(
	ctx context.Context,
	with forces.Loading,
	fine bool,
	progress func(share float64),
) (deflected forces.Deflection, without string, err error) {
	compared, err := resist.Deflect(
		ctx,
		m.Model,
		m.Prepared.Workpiece,
		with.Bite,
		with.Assumed.Stiffness,
		resist.Cells(m.Case.Tooth, fine),
		progress,
	)
	if without := forces.NoDeflection(err); without != "" {
		return deflected, without, nil
	}
	if err != nil {
		return deflected, "", err
	}
	return forces.Deflected(compared, m.Prepared, m.Subjects, with.Bite, with.Assumed), "", nil
}

// HoldLines says in a line how the fillings are held, for print. How far cusps deflect is not
// printed: it compares designs, and says nothing that a tooth could be judged by.
func (m *Measured) HoldLines() []string { return []string{forces.HoldLine(m.held())} }
