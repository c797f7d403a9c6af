package pipeline

import (
	"context"
	"errors"

	"obturon/core/forces"
	"obturon/core/intake"
	"obturon/core/school"
)

// SectionBeside is a section of a case cut in one of several ways.
type SectionBeside struct {
	Title string
	Way   forces.Way
	forces.Section
	Without string // why there is nothing to show, "" where there is
}

// SectionsBeside are the same section of a case, finely: sound, as cut, with a bonded composite,
// with line angles of another radius where it has some, and as another school proposes it where
// one is given. measured takes a case as far as its checks; it gives why not where it is refused.
// Errors are its own, and those of Strained.
func (m *Measured) SectionsBeside(
	ctx context.Context,
	at float64,
	other *school.School,
	with forces.Loading,
	measured func(c *intake.Case) (*Measured, string, error),
) ([]SectionBeside, error) {
	const cells = 0.05 // mm: a radius shows
	figure, radius := m.lineAngles()
	ways := []struct {
		way    forces.Way
		named  string
		as     forces.As
		radius float64
		cut    *intake.Case // nil as it is
	}{
		{way: forces.WaySound, as: forces.AsSound},
		{way: forces.WayCut, as: forces.AsCut, radius: radius},
		{way: forces.WayFilled, as: forces.AsFilled},
	}
	if radius > 0 {
		rounder := ways[1]
		rounder.way, rounder.radius = forces.WayRadius, forces.OtherRadius(radius)
		rounder.cut = WithFigures(m.Case, map[string]float64{figure: rounder.radius})
		ways = append(ways, rounder)
	}
	if other != nil {
		theirs := ways[1]
		theirs.way, theirs.named, theirs.cut = forces.WaySchool, other.Name, By(m.Case, m.Decision.Choice, other)
		ways = append(ways, theirs)
	}
	all := make([]SectionBeside, len(ways))
	for n, w := range ways {
		all[n] = SectionBeside{Title: w.way.Titled(w.radius, w.named), Way: w.way}
		one, without, err := m, "", error(nil)
		if w.cut != nil {
			one, without, err = measured(w.cut)
		}
		var faults intake.Faults
		if errors.As(err, &faults) { // it cannot be built so
			without, err = faults[0].Message, nil
		}
		if err == nil && without == "" {
			all[n].Section, without, err = one.Strained(ctx, at, w.as, with, cells)
		}
		if err != nil {
			return nil, err
		}
		all[n].Without = without
	}
	return all, nil
}

// lineAngles is the figure of the first cavity that rounds its line angles, with what it
// is (mm); 0 where it has none.
func (m *Measured) lineAngles() (figure string, radius float64) {
	c := m.Subjects[0].Cavity
	radius, _ = c.Value("line_angle_radius")
	return c.Figure("line_angle_radius", ""), radius
}
