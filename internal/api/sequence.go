package api

import (
	"context"
	"fmt"

	"obturon/core/intake"
	"obturon/internal/plan"
)

// RehearseSequence has the kit cut a case and answers the steps at the chair.
func (s *server) RehearseSequence(ctx context.Context, r RehearseSequenceRequestObject) (RehearseSequenceResponseObject, error) {
	rehearsed, err := s.rehearsed(ctx, *r.Body)
	if err != nil {
		return nil, err
	}
	return RehearseSequence200JSONResponse(rehearsed.Sequence()), nil
}

// DrawStage answers the tooth as it looks after a step.
func (s *server) DrawStage(ctx context.Context, r DrawStageRequestObject) (DrawStageResponseObject, error) {
	rehearsed, err := s.rehearsed(ctx, *r.Body)
	if err != nil {
		return nil, err
	}
	stage, ok := rehearsed.Stage(r.Params.Step)
	if !ok {
		return nil, intake.Faults{{Path: "step", Message: fmt.Sprintf("there is no step %d: this case has %d, counted from 0", r.Params.Step, len(rehearsed.Chair))}}
	}
	answer := DrawStage200JSONResponse{Step: r.Params.Step, First: stage.First, Views: []View{}, Mesh: *meshAnswer(rehearsed.Result, stage.Mesh)}
	for _, v := range stage.Views {
		answer.Views = append(answer.Views, viewAnswer(v))
	}
	return answer, nil
}

func (s *server) rehearsed(ctx context.Context, body CaseDocument) (*plan.Rehearsed, error) {
	c, err := s.caseOf(ctx, body)
	if err != nil {
		return nil, err
	}
	return s.Planner.Rehearse(ctx, c, plan.DefaultGrid)
}
