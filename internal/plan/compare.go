package plan

import (
	"context"
	"fmt"
	"slices"

	"obturon/core/advice"
	"obturon/core/cavity"
	"obturon/core/design"
	"obturon/core/drawing"
	"obturon/core/intake"
	"obturon/core/measure"
	"obturon/core/school"
)

// Compare plans the same case as each of the schools proposes it. What the
// dentist set by hand is left out: it would level the schools. Errors are those
// of Evaluate, with the school.
func (p *Planner) Compare(ctx context.Context, c *intake.Case, schools []*school.School, grid float64) ([]*Result, error) {
	const fewest, most = 2, 4
	if len(schools) < fewest || len(schools) > most {
		return nil, intake.Faults{{Path: "schools", Message: fmt.Sprintf("%d schools cannot be laid side by side: name %d to %d", len(schools), fewest, most)}}
	}
	decided := advice.Decide(c).Choice
	results := make([]*Result, 0, len(schools))
	var at Sections // all schools are shown in the section of the first
	for n, s := range schools {
		if slices.ContainsFunc(schools[:n], func(o *school.School) bool { return o.ID == s.ID }) {
			return nil, intake.Faults{{Path: fmt.Sprintf("schools[%d]", n), Message: fmt.Sprintf("%s is named twice: name each school once", s.ID)}}
		}
		r, err := p.evaluate(ctx, by(c, decided, s), grid, at, solved)
		if err != nil {
			return nil, fmt.Errorf("planning by the %s school: %w", s.ID, err)
		}
		for _, v := range r.Views {
			if v.Section == drawing.Along && at.Along == nil {
				at.Along = &v.At
			}
		}
		results = append(results, r)
	}
	return results, nil
}

// by is a case as a school proposes it, what was decided of it for another one staying.
func by(c *intake.Case, decided intake.Choice, s *school.School) *intake.Case {
	own := *c
	own.Choice, own.Overrides = decided, nil
	own.Under(s)
	return &own
}

// CompareFinishes measures every cavity of a case that has a choice of finish
// under each of its styles; none where no cavity has. Bevels set by hand are
// left out, so that each style shows its own. Errors are those of Evaluate.
func (p *Planner) CompareFinishes(ctx context.Context, c *intake.Case, grid float64) ([]NamedFinish, error) {
	finishes := []NamedFinish{}
	decided := advice.Decide(c)
	if !decided.Choice.Material.Bonds() {
		return finishes, nil
	}
	for _, style := range design.Styles(c) {
		own := *c
		own.Choice = decided.Choice
		own.Choice.Style = style
		own.Overrides = design.WithoutBevels(c.Overrides)
		r, _, err := p.cut(ctx, &own, grid, solved)
		if err != nil || r.Refused() != "" {
			return finishes, err
		}
		for _, one := range r.Cut.Cavities {
			if one.Style == style && style != cavity.AnyStyle && slices.Contains(cavity.StylesOf(one.Class), style) {
				s := measure.NewSubject(carve(r.Model, one.Tool()), one)
				finishes = append(finishes, NamedFinish{one, s.Finish(r.Neighbours)})
			}
		}
	}
	return finishes, ctx.Err()
}

// NamedFinish is a finish with the cavity it belongs to.
type NamedFinish struct {
	Cavity *cavity.Cavity
	measure.Finish
}

// Styles lists the finishes that the cavities of a plan offer in its material.
func (r *Result) Styles() []cavity.Style {
	styles := []cavity.Style{}
	if r.Refused() == "" && r.Decision.Choice.Material.Bonds() {
		styles = append(styles, design.Styles(r.Case)...)
	}
	return styles
}
