package api

import (
	"context"
	"fmt"
	"time"

	"obturon/core/intake"
	"obturon/internal/document"
	"obturon/internal/plan"
)

// RehearseSequence answers the steps at the chair as they are proven, or how far that is.
func (s *server) RehearseSequence(ctx context.Context, r RehearseSequenceRequestObject) (RehearseSequenceResponseObject, error) {
	one, err := s.posed(ctx, *r.Body, r.Params.Case, r.Params.Revision)
	if err != nil {
		return nil, err
	}
	most := waitedFor
	if r.Params.Wait != nil {
		most = time.Duration(*r.Params.Wait) * time.Second
	}
	state, err := s.awaitProof(ctx, one.provable(), looking, most)
	if err != nil {
		return nil, err
	}
	if state.Proof == nil {
		return RehearseSequence202JSONResponse{Share: document.Thousandth(state.Share)}, nil
	}
	return RehearseSequence200JSONResponse(state.Proof.Sequence()), nil
}

// DrawStage answers the tooth as it looks after a step.
func (s *server) DrawStage(ctx context.Context, r DrawStageRequestObject) (DrawStageResponseObject, error) {
	one, err := s.posed(ctx, *r.Body, r.Params.Case, r.Params.Revision)
	if err != nil {
		return nil, err
	}
	if _, err := s.proven(ctx, one.provable()); err != nil { // by whoever works, so that it is done once
		return nil, err
	}
	rehearsed, err := s.Planner.Rehearse(ctx, one.Case, plan.DefaultGrid)
	if err != nil {
		return nil, err
	}
	if rehearsed.Proven == nil {
		return nil, intake.Faults{{Path: "step", Message: "nothing is cut in this case: " + rehearsed.Refused()}}
	}
	stage, ok := rehearsed.Stage(r.Params.Step)
	if !ok {
		return nil, intake.Faults{
			{Path: "step", Message: fmt.Sprintf("there is no step %d: this case has %d, counted from 0", r.Params.Step, len(rehearsed.Chair))},
		}
	}
	answer := DrawStage200JSONResponse{
		Step:  r.Params.Step,
		First: stage.First,
		Views: []View{},
		Mesh:  *meshAnswer(rehearsed.Designed, stage.Mesh),
	}
	for _, v := range stage.Views {
		answer.Views = append(answer.Views, viewAnswer(v))
	}
	return answer, nil
}
