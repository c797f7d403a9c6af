package api

import (
	"context"
	"errors"
	"log/slog"

	"github.com/google/uuid"

	"obturon/core/intake"
	"obturon/internal/plan"
)

// PlanSitting plans the cervical cavities of a patient's quadrant as one sitting.
func (s *server) PlanSitting(ctx context.Context, r PlanSittingRequestObject) (PlanSittingResponseObject, error) {
	first, c, err := s.draftOf(ctx, r.Id)
	if err != nil {
		return nil, err
	}
	ids := map[string]uuid.UUID{c.Tooth.String(): first.ID}
	drafts := []*intake.Case{c}
	all, err := s.Store.InQuadrant(ctx, reachOf(currentUser(ctx)), first)
	if err != nil {
		return nil, err
	}
	for _, other := range all {
		if _, taken := ids[other.Tooth]; taken {
			continue
		}
		draft, err := s.caseOf(ctx, other.Draft)
		var faults intake.Faults
		switch {
		case errors.As(err, &faults):
			slog.Warn("a case that cannot be read is left out of a sitting", "case", other.ID, "error", err)
			continue
		case err != nil:
			return nil, err
		}
		ids[other.Tooth] = other.ID
		drafts = append(drafts, draft)
	}
	sitting, err := s.Planner.Sitting(ctx, drafts, plan.DefaultGrid)
	if err != nil {
		return nil, err
	}
	return PlanSitting200JSONResponse(sittingAnswer(sitting, ids)), nil
}

// sittingAnswer names the case of each tooth.
func sittingAnswer(sitting *plan.Sitting, ids map[string]uuid.UUID) Sitting {
	answer := Sitting{Visits: []SittingVisit{}, Steps: []SittingStep{}}
	if sitting == nil {
		return answer
	}
	for _, tooth := range sitting.Teeth {
		answer.Visits = append(answer.Visits, SittingVisit{Case: ids[tooth], Tooth: tooth})
	}
	for _, step := range sitting.Steps {
		answer.Steps = append(answer.Steps, SittingStep{
			Step: step.Name, Instrument: step.Tray(), Instruments: step.Instruments, Action: step.Action, Caution: step.Caution, Seconds: step.Seconds,
			Teeth: step.Teeth, Once: step.Once,
		})
	}
	return answer
}
