package plan

import (
	"context"
	"fmt"

	"obturon/core/advice"
	"obturon/core/intake"
	"obturon/core/lesion"
	"obturon/core/sequence"
)

// Sitting plans the cases of one patient's quadrant as one sitting: those of a
// Class V in the material of the first, which is named first. Others are left
// out; fewer than two teeth make no sitting, and nil. Errors are those of
// Evaluate, with the tooth.
func (p *Planner) Sitting(ctx context.Context, cases []*intake.Case, grid float64) (*Sitting, error) {
	if len(cases) == 0 {
		return nil, nil
	}
	first := advice.Decide(cases[0])
	s := &Sitting{}
	var visits []sequence.Visit
	for n, c := range cases {
		decided := advice.Decide(c)
		if decided.Class != lesion.ClassV || decided.Choice.Material != first.Choice.Material || !c.Tooth.SameQuadrant(cases[0].Tooth) {
			if n == 0 {
				return nil, nil
			}
			continue
		}
		r, basis, err := p.cut(ctx, c, grid, solved)
		if err != nil {
			return nil, fmt.Errorf("planning tooth %s: %w", c.Tooth, err)
		}
		if r.Refused() != "" {
			continue
		}
		visits = append(visits, sequence.Visit{Tooth: c.Tooth.String(), Steps: sequence.Tooth(r.Cut.Cavities, len(basis.Staying) > 0)})
		s.Teeth = append(s.Teeth, c.Tooth.String())
	}
	const fewest = 2
	if len(visits) < fewest {
		return nil, nil
	}
	s.Steps = sequence.Sitting(visits, first.Choice.Material)
	return s, nil
}

// Sitting is several cavities at the cervical line of one quadrant, prepared, filled and
// finished together.
type Sitting struct {
	Teeth []string
	Steps []sequence.Shared
}
