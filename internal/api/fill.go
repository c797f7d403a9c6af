package api

import (
	"context"

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
	fillings, views, err := s.Planner.FillOf(ctx, c, products, plan.DefaultGrid, plan.Sections{Across: r.Params.Across, Along: r.Params.Along})
	if err != nil {
		return nil, err
	}
	answer := EvaluateFilling200JSONResponse{Fill: plan.FillDocument(fillings), Views: []View{}}
	for _, v := range views {
		answer.Views = append(answer.Views, viewAnswer(v))
	}
	return answer, nil
}
