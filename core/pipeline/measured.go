package pipeline

import (
	"context"
	"slices"

	"obturon/core/anatomy"
	"obturon/core/assess"
	"obturon/core/cavity"
	"obturon/core/intake"
	"obturon/core/lesion"
	"obturon/core/measure"
	"obturon/core/procedure"
	"obturon/core/sequence"
	"obturon/core/solid"
)

// Measured is a designed case whose cavities are cut, measured on the cut solid, and judged.
type Measured struct {
	*Designed
	Prepared *measure.Prepared // with every cavity cut
	Subjects []*measure.Subject
	Checks   []assess.Check
	Steps    []procedure.Step // as the design asks for them, before a proof
}

// Measure cuts, measures and judges the cavities. The error is the context's.
func (d *Designed) Measure(ctx context.Context) (*Measured, error) {
	return d.measured(ctx, func(*measure.Prepared, int, *measure.Subject) func() { return func() {} })
}

// measured is Measure with work beside the judging of each cavity: beside begins it, and what it
// gives waits for its end.
func (d *Designed) measured(
	ctx context.Context,
	beside func(whole *measure.Prepared, n int, s *measure.Subject) (wait func()),
) (*Measured, error) {
	m := &Measured{Designed: d, Prepared: Carve(d.Model, d.Cut.Tool)}
	several := len(d.Cut.Cavities) > 1
	for n, one := range d.Cut.Cavities {
		if err := ctx.Err(); err != nil {
			return nil, err
		}
		alone := m.Prepared
		if several {
			alone = Carve(d.Model, one.Tool())
		}
		s := measure.NewSubject(alone, one)
		wait := beside(m.Prepared, n, s)
		checks, err := assess.Cavity(ctx, s)
		wait()
		if err != nil {
			return nil, err
		}
		d.explain(n, checks)
		if several {
			nameChecks(one, checks)
		}
		m.Subjects, m.Checks = append(m.Subjects, s), append(m.Checks, checks...)
	}
	m.Steps = sequence.Of(d.Cut.Cavities, nil, d.Case.Kit, d.sealsStaying())
	return m, ctx.Err()
}

// Carve is a tooth with a tool's solid cut away.
func Carve(m *anatomy.Model, tool solid.Tool) *measure.Prepared {
	return measure.NewPrepared(m, m.Surface.Uncut().Carve(tool))
}

// sealsStaying reports an old filling whose open margin is sealed with the new one, where the field
// can be kept dry for it.
func (d *Designed) sealsStaying() bool {
	return d.Case.Patient.Isolation != intake.None &&
		slices.ContainsFunc(d.Case.Staying(), func(f lesion.Finding) bool { return f.Fault == lesion.OpenMargin })
}

// Worst is the worst verdict of the checks.
func (m *Measured) Worst() string { return WorstOf(m.Decided, m.Checks) }

// nameChecks puts a cavity's name behind the labels of its checks, to tell them from those of the
// other cavities of its tooth.
func nameChecks(c *cavity.Cavity, checks []assess.Check) {
	for n := range checks {
		checks[n].Label = withName(checks[n].Label, c)
	}
}

func withName(text string, c *cavity.Cavity) string {
	if c.Name == "" {
		return text
	}
	return text + ", " + c.Name
}
