package plan

import (
	"context"
	"fmt"

	"obturon/core/lesion"
	"obturon/core/sequence"
)

// Sitting is several cavities at the neck of one quadrant, prepared, filled and
// finished together.
type Sitting struct {
	Teeth    []string     `json:"teeth"`
	Material string       `json:"material"`
	Steps    []SharedStep `json:"steps"`
}

// SharedStep is a step of a sitting.
type SharedStep struct {
	Step
	Teeth []string `json:"teeth"`
	Once  bool     `json:"once"` // for all teeth at a time
}

// Sitting plans the cases of one patient's quadrant as one sitting: those of a
// Class V in the material of the first, which is named first. Others are left
// out; fewer than two teeth make no sitting, and nil.
func (p *Planner) Sitting(ctx context.Context, cases []*Case, grid float64) (*Sitting, error) {
	if len(cases) == 0 {
		return nil, nil
	}
	decided, _ := choose(cases[0])
	s := &Sitting{Material: decided.Material}
	var visits []sequence.Visit
	for n, c := range cases {
		class, _ := lesion.Classify(c.coreFindings(), c.Tooth)
		own, _ := choose(c)
		if class != lesion.ClassV || own.Material != s.Material || !c.Tooth.SameQuadrant(cases[0].Tooth) {
			if n == 0 {
				return nil, nil
			}
			continue
		}
		made, err := p.shape(ctx, c, grid)
		if err != nil {
			return nil, fmt.Errorf("planning tooth %s: %w", c.Tooth, err)
		}
		if made.Cavity == nil {
			continue
		}
		visits = append(visits, sequence.Visit{Tooth: c.Tooth.String(), Steps: made.steps(made, false)})
		s.Teeth = append(s.Teeth, c.Tooth.String())
	}
	const fewest = 2
	if len(visits) < fewest {
		return nil, nil
	}
	for _, step := range sequence.Sitting(visits, s.Material) {
		s.Steps = append(s.Steps, SharedStep{documentStep(step.Step), step.Teeth, step.Once})
	}
	return s, nil
}
