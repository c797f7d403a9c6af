package plan

import (
	"context"
	"errors"
	"fmt"
	"maps"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/advice"
	"obturon/core/forces"
	"obturon/core/intake"
	"obturon/core/measure"
	"obturon/core/resist"
	"obturon/core/school"
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
	r, basis, err := p.judged(ctx, c, grid, solved)
	if err != nil || r.Refused() != "" {
		return h, err
	}
	for n, s := range r.Subjects {
		h.Fillings = append(h.Fillings, forces.Of(s)...)
		changes, err := forces.Changes(ctx, s, func(_ context.Context, figures map[string]float64) (*measure.Subject, error) {
			one, err := basis.Proposals[n].Cut(setOver(c, figures))
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

// PullsOf asks every filling of a case how it is held against a pull of one's own. Errors are
// those of Evaluate, and of a pull that cannot be.
func (p *Planner) PullsOf(ctx context.Context, c *intake.Case, tilt forces.Tilt, grid float64) ([]forces.Pull, error) {
	if err := tilt.Check(); err != nil {
		return nil, intake.Faults{{Path: "pull", Message: err.Error()}}
	}
	r, err := p.Judged(ctx, c, grid)
	if err != nil || r.Refused() != "" {
		return nil, err
	}
	var all []forces.Pull
	for _, s := range r.Subjects {
		all = append(all, forces.Tilted(s, tilt)...)
	}
	return all, nil
}

// Loading is what a tooth is loaded with: the usual load of its case unless another is asked
// for, on what is assumed of its tissues.
type Loading struct {
	Bite    resist.Bite
	Assumed resist.Assumed
}

// UsualLoading is what a case is loaded with where nobody asks for another load.
func UsualLoading(c *intake.Case, assumed resist.Assumed) Loading {
	return Loading{assumed.Bite(c.Patient.Parafunction, c.Contacts), assumed}
}

// loaded judges a case as it is to be loaded: by another school's proposal where one is given,
// solved, as it stands on the sheet in the end.
func (p *Planner) loaded(ctx context.Context, c *intake.Case, other *school.School, grid float64) (*Result, error) {
	if other != nil {
		c = by(c, advice.Decide(c).Choice, other)
	}
	return p.Judged(ctx, c, grid)
}

// StrainOf is the picture of a buccolingual section of a case, so far (mm) towards mesial
// from the middle; without is why there is nothing to load, "" where there is. Errors are
// those of Evaluate and of resist.Slice.
func (p *Planner) StrainOf(ctx context.Context, c *intake.Case, at float64, as forces.As, with Loading, grid float64) (section forces.Section, without string, err error) {
	const cells = 0.1 // mm: answers while one waits
	r, err := p.loaded(ctx, c, nil, grid)
	if err != nil {
		return section, "", err
	}
	return r.strained(ctx, at, as, with, cells)
}

func (r *Result) strained(ctx context.Context, at float64, as forces.As, with Loading, cells float64) (section forces.Section, without string, err error) {
	if r.Refused() != "" {
		return section, r.Refused(), nil
	}
	cut, filling := r.Prepared.Workpiece, 0.0
	switch as {
	case forces.AsSound:
		cut = r.Model.Surface.Uncut()
	case forces.AsFilled:
		filling = with.Assumed.Composite
	}
	plane := solid.Plane{Origin: r3.Vec{X: at}, U: r3.Vec{Y: 1}, V: r3.Vec{Z: 1}}
	picture, err := resist.Slice(ctx, r.Model, cut, plane, with.Bite, with.Assumed.Stiffness, filling, cells)
	if without := forces.NoParting(err); without != "" {
		return section, without, nil
	}
	if err != nil {
		return section, "", err
	}
	return forces.Pictured(picture, r.Subjects[0], with.Bite, as), "", nil
}

// Beside is a section of a case cut in one of several ways.
type Beside struct {
	Title string
	Way   forces.Way
	forces.Section
	Without string // why there is nothing to show, "" where there is
}

// SectionsOf are the same section of a case, finer than StrainOf's: sound, as cut, with a
// bonded composite, with line angles of another radius where it has some, and as another
// school proposes it where one is given. Errors are those of StrainOf.
func (p *Planner) SectionsOf(ctx context.Context, c *intake.Case, at float64, other *school.School, with Loading, grid float64) ([]Beside, error) {
	const cells = 0.05 // mm: a radius shows
	own, err := p.loaded(ctx, c, nil, grid)
	if err != nil {
		return nil, err
	}
	figure, radius := own.lineAngles()
	ways := []struct {
		way    forces.Way
		named  string
		as     forces.As
		radius float64
		cut    func() (*Result, error)
	}{
		{way: forces.WaySound, as: forces.AsSound},
		{way: forces.WayCut, as: forces.AsCut, radius: radius},
		{way: forces.WayFilled, as: forces.AsFilled},
	}
	if radius > 0 {
		rounder := *c
		rounder.Overrides = setOver(c, map[string]float64{figure: forces.OtherRadius(radius)})
		ways = append(ways, ways[1])
		last := &ways[len(ways)-1]
		last.way, last.radius = forces.WayRadius, forces.OtherRadius(radius)
		last.cut = func() (*Result, error) { return p.loaded(ctx, &rounder, nil, grid) }
	}
	if other != nil {
		ways = append(ways, ways[1])
		last := &ways[len(ways)-1]
		last.way, last.named = forces.WaySchool, other.Name
		last.cut = func() (*Result, error) { return p.loaded(ctx, c, other, grid) }
	}
	all := make([]Beside, len(ways))
	for n, w := range ways {
		all[n] = Beside{Title: w.way.Titled(w.radius, w.named), Way: w.way}
		r := own
		if w.cut != nil {
			r, err = w.cut()
		}
		var faults intake.Faults
		if errors.As(err, &faults) { // it cannot be built so
			all[n].Without, err = faults[0].Message, nil
			continue
		}
		if err != nil {
			return nil, err
		}
		if all[n].Section, all[n].Without, err = r.strained(ctx, at, w.as, with, cells); err != nil {
			return nil, err
		}
	}
	return all, nil
}

// lineAngles is the figure of a case's first cavity that rounds its line angles, with what it
// is (mm); 0 where it has none.
func (r *Result) lineAngles() (figure string, radius float64) {
	if len(r.Subjects) == 0 {
		return "", 0
	}
	c := r.Subjects[0].Cavity
	radius, _ = c.Value("line_angle_radius")
	return c.Figure("line_angle_radius", ""), radius
}

// setOver are the figures set by hand in a case, with others over them.
func setOver(c *intake.Case, figures map[string]float64) map[string]float64 {
	set := maps.Clone(c.Overrides)
	if set == nil {
		set = map[string]float64{}
	}
	maps.Copy(set, figures)
	return set
}

// PartingOf loads the tooth of a case with all its cavities cut, as another school proposes
// them where one is given; without is why there is nothing to load, "" where there is. fine
// takes finer cells. progress, if given, is told which share is done. Errors are those of
// Evaluate and of resist.Part.
func (p *Planner) PartingOf(ctx context.Context, c *intake.Case, other *school.School, with Loading, grid float64, fine bool, progress func(share float64)) (parted forces.Parting, without string, err error) {
	r, err := p.loaded(ctx, c, other, grid)
	if err != nil {
		return parted, "", err
	}
	if r.Refused() != "" {
		return parted, r.Refused(), nil
	}
	compared, err := resist.Part(ctx, r.Model, r.Prepared.Workpiece, with.Bite, with.Assumed.Stiffness, resist.Cells(c.Tooth, fine), progress)
	if without := forces.NoParting(err); without != "" {
		return parted, without, nil
	}
	if err != nil {
		return parted, "", err
	}
	return forces.Parted(compared, r.Prepared, r.Subjects, with.Bite, with.Assumed), "", nil
}

// ForcesLines says in a line each how the fillings of a case are held and what its cavities
// cost it in stiffness, for print; none of a case that is not cut. Errors are those of
// Evaluate and of resist.Part.
func (p *Planner) ForcesLines(ctx context.Context, c *intake.Case, assumed resist.Assumed, grid float64) ([]string, error) {
	r, err := p.Judged(ctx, c, grid)
	if err != nil || r.Refused() != "" {
		return nil, err
	}
	var fillings []forces.Filling
	for _, s := range r.Subjects {
		fillings = append(fillings, forces.Of(s)...)
	}
	lines := []string{forces.HoldLine(fillings)}
	with := UsualLoading(c, assumed)
	with.Bite = with.Bite.ToCompare()
	parted, without, err := p.PartingOf(ctx, c, nil, with, grid, false, nil)
	if err == nil && without == "" {
		lines = append(lines, parted.Line+" "+parted.Assumptions[0]+" Compare designs by it.")
	}
	return lines, err
}
