package plan

import (
	"context"
	"fmt"

	"obturon/core/fill"
	"obturon/core/intake"
	"obturon/core/procedure"
	"obturon/core/sitting"
	"obturon/internal/render"
)

// Sitting is several cavities at the cervical line of one quadrant, prepared, filled and
// finished together.
type Sitting struct {
	Teeth []string
	Steps []procedure.Step
	Tray  []sitting.Item // that has to lie ready for it
}

// Sitting plans what of the cases of one patient's quadrant is treated with the first, and is
// cut, as one sitting with the kit of the first; nil where that is done alone. proven finds the
// proof of a case, nil where it has none. Errors are those of Evaluate, with the tooth, and of
// proven.
func (p *Planner) Sitting(
	ctx context.Context, cases []*intake.Case, proven func(c *intake.Case) (*render.Proof, error), products fill.Products, grid float64,
) (*Sitting, error) {
	s := &Sitting{}
	var visits []sitting.Visit
	var filled []sitting.Filled
	for _, c := range sitting.With(cases) {
		judged, err := p.Judged(ctx, c, grid)
		if err != nil {
			return nil, fmt.Errorf("planning tooth %s: %w", c.Tooth, err)
		}
		if judged.Measured == nil {
			continue
		}
		proof, err := proven(c)
		if err != nil {
			return nil, err
		}
		own := judged.Fill(products)
		visits = append(visits, sitting.Visit{Tooth: c.Tooth.String(), Steps: own.Course(stepsOf(judged, proof))})
		s.Teeth = append(s.Teeth, c.Tooth.String())
		filled = append(filled, own.LaidOut()...)
	}
	if len(visits) < sitting.Fewest {
		return nil, nil
	}
	s.Steps = sitting.Together(visits)
	s.Tray = sitting.Tray(s.Steps, filled, cases[0].Kit)
	return s, nil
}
