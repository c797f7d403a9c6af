package api

import (
	"context"

	"obturon/core/pipeline"
	"obturon/core/procedure"
	"obturon/internal/plan"
	"obturon/internal/render"
)

// EvaluateFilling answers how the cavities of a case are filled.
func (s *server) EvaluateFilling(ctx context.Context, r EvaluateFillingRequestObject) (EvaluateFillingResponseObject, error) {
	one, err := s.posed(ctx, *r.Body, r.Params.Case, r.Params.Revision)
	if err != nil {
		return nil, err
	}
	proof, err := s.keptProof(ctx, one.Case)
	if err != nil {
		return nil, err
	}
	filled, err := s.Planner.FillOf(
		ctx,
		one.Case,
		proof,
		one.products,
		one.facing,
		plan.DefaultGrid,
		pipeline.Sections{Across: r.Params.Across, Along: r.Params.Along},
	)
	if err != nil {
		return nil, err
	}
	answer := EvaluateFilling200JSONResponse{
		Fill:          render.Fill(filled.Fillings),
		Views:         []View{},
		Before:        render.Steps(filled.Before),
		BeforeSeconds: procedure.Seconds(filled.Before),
		Tray:          render.TrayItems(filled.Tray),
	}
	for _, v := range filled.Views {
		answer.Views = append(answer.Views, viewAnswer(v))
	}
	return answer, nil
}
