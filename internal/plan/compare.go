package plan

import (
	"context"
	"fmt"
	"slices"

	"obturon/core/school"
)

// Compare plans the same case as each of the schools proposes it. What the
// dentist set by hand is left out: it would level the schools.
func (p *Planner) Compare(ctx context.Context, c *Case, schools []string, grid float64) ([]*Result, error) {
	const fewest, most = 2, 4
	if len(schools) < fewest || len(schools) > most {
		return nil, Faults{{"schools", fmt.Sprintf("%d schools cannot be laid side by side: name %d to %d", len(schools), fewest, most)}}
	}
	material, _ := choose(c)
	results := make([]*Result, 0, len(schools))
	var at Sections // all schools are shown in the section of the first
	for n, id := range schools {
		if _, err := school.Get(id); err != nil {
			return nil, Faults{{fmt.Sprintf("schools[%d]", n), err.Error()}}
		}
		if slices.Contains(schools[:n], id) {
			return nil, Faults{{fmt.Sprintf("schools[%d]", n), fmt.Sprintf("%s is named twice: name each school once", id)}}
		}
		own := *c
		choice := material
		choice.School = id
		own.Choice, own.Overrides = &choice, nil
		r, err := p.EvaluateWith(ctx, &own, grid, at)
		if err != nil {
			return nil, fmt.Errorf("planning by the %s school: %w", id, err)
		}
		for _, v := range r.Views {
			if v.ID == "mesiodistal" && at.Along == nil {
				at.Along = &v.At
			}
		}
		results = append(results, r)
	}
	return results, nil
}
