package api

import (
	"context"
	"errors"
	"log/slog"

	"github.com/google/uuid"

	"obturon/core/fill"
	"obturon/core/intake"
	"obturon/core/sitting"
	"obturon/internal/plan"
	"obturon/internal/render"
	"obturon/internal/store"
)

// PlanSitting plans the cervical cavities of a patient's quadrant as one sitting.
func (s *server) PlanSitting(ctx context.Context, r PlanSittingRequestObject) (PlanSittingResponseObject, error) {
	planned, cases, err := s.sitting(ctx, r.Id)
	return PlanSitting200JSONResponse(sittingAnswer(planned, cases)), err
}

// sitting plans what is done in one sitting with a case; nil where that is done alone. Cases
// are by their teeth.
func (s *server) sitting(ctx context.Context, id uuid.UUID) (planned *plan.Sitting, cases map[string]store.Case, err error) {
	drafts, cases, err := s.quadrant(ctx, id)
	if err != nil {
		return nil, nil, err
	}
	products, err := s.products(ctx)
	if err != nil {
		return nil, nil, err
	}
	planned, err = s.Planner.Sitting(
		ctx,
		drafts,
		func(c *intake.Case) (*render.Proof, error) { return s.keptProof(ctx, c) },
		products,
		plan.DefaultGrid,
	)
	return planned, cases, err
}

// quadrant are the drafts of a patient's quadrant, one a tooth, that of a case first, with the
// cases by their teeth.
func (s *server) quadrant(ctx context.Context, id uuid.UUID) ([]*intake.Case, map[string]store.Case, error) {
	first, c, err := s.draftOf(ctx, id)
	if err != nil {
		return nil, nil, err
	}
	cases := map[string]store.Case{c.Tooth.String(): *first}
	drafts := []*intake.Case{c}
	var teeth []string
	for _, t := range c.Tooth.Quadrant() {
		teeth = append(teeth, t.String())
	}
	all, err := s.Store.OnTeeth(ctx, reachOf(currentUser(ctx)), first, teeth)
	if err != nil {
		return nil, nil, err
	}
	for _, other := range all {
		if _, taken := cases[other.Tooth]; taken {
			continue
		}
		draft, err := s.caseOf(ctx, other.Draft)
		var faults intake.Faults
		switch {
		case errors.As(err, &faults):
			slog.Warn("a case that cannot be read is left out of a sitting", "case", other.ID, "error", err)
			continue
		case err != nil:
			return nil, nil, err
		}
		cases[other.Tooth] = other
		drafts = append(drafts, draft)
	}
	return drafts, cases, nil
}

// facing are the boxes of the patient's other cases that open towards a case's tooth.
func (s *server) facing(ctx context.Context, id uuid.UUID, c *intake.Case) ([]fill.Facing, error) {
	drafts, _, err := s.quadrant(ctx, id)
	if err != nil {
		return nil, err
	}
	return sitting.Facing(c, drafts[1:]), nil
}

// sittingAnswer names the case of each tooth.
func sittingAnswer(planned *plan.Sitting, cases map[string]store.Case) Sitting {
	answer := Sitting{Visits: []SittingVisit{}, Steps: []SittingStep{}, Tray: []TrayItem{}}
	if planned == nil {
		return answer
	}
	for _, tooth := range planned.Teeth {
		answer.Visits = append(answer.Visits, SittingVisit{Case: cases[tooth].ID, Tooth: tooth})
	}
	for _, r := range sitting.Rounds(planned.Steps) {
		first := r.Steps[0]
		answer.Steps = append(answer.Steps, SittingStep{
			Step: r.Name, Instrument: first.Tray(), Action: r.Action(), Caution: first.Caution, Why: first.Why, Seconds: r.Seconds, Teeth: r.Teeth, Once: r.Once,
		})
	}
	answer.Tray = render.TrayItems(planned.Tray)
	return answer
}
