package api

import (
	"context"

	"obturon/core/fill"
	"obturon/core/procedure"
	"obturon/internal/plan"
)

// EvaluateFilling answers how the cavities of a case are filled.
func (s *server) EvaluateFilling(ctx context.Context, r EvaluateFillingRequestObject) (EvaluateFillingResponseObject, error) {
	c, err := s.caseOf(ctx, *r.Body)
	if err != nil {
		return nil, err
	}
	products, err := s.products(ctx)
	if err != nil {
		return nil, err
	}
	var open []fill.Facing
	if r.Params.Case != nil {
		if open, err = s.facing(ctx, *r.Params.Case, c); err != nil {
			return nil, err
		}
	}
	proof, err := s.keptProof(ctx, c)
	if err != nil {
		return nil, err
	}
	filled, err := s.Planner.FillOf(ctx, c, proof, products, open, plan.DefaultGrid, plan.Sections{Across: r.Params.Across, Along: r.Params.Along})
	if err != nil {
		return nil, err
	}
	answer := EvaluateFilling200JSONResponse{Fill: plan.FillDocument(filled.Fillings), Views: []View{}, Before: plan.Steps(filled.Before), BeforeSeconds: procedure.Seconds(filled.Before), Tray: plan.TrayItems(filled.Tray)}
	for _, v := range filled.Views {
		answer.Views = append(answer.Views, viewAnswer(v))
	}
	return answer, nil
}
