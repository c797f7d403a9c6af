package api

import (
	"context"
	"encoding/json"
	"fmt"

	"obturon/core/intake"
	"obturon/core/resist"
	"obturon/internal/store"
)

// GetConstants answers what the figures of strength rest on.
func (s *server) GetConstants(ctx context.Context, _ GetConstantsRequestObject) (GetConstantsResponseObject, error) {
	own, version, err := s.ownConstants(ctx)
	if err != nil {
		return nil, err
	}
	answer, err := constantsAnswer(own, version)
	return GetConstants200JSONResponse(answer), err
}

// SaveConstants keeps what a practice assumes otherwise.
func (s *server) SaveConstants(ctx context.Context, r SaveConstantsRequestObject) (SaveConstantsResponseObject, error) {
	own := make([]resist.Figure, len(r.Body.Own))
	for n, f := range r.Body.Own {
		own[n] = resist.Figure{ID: f.Id, Value: f.Value, Source: f.Source}
	}
	if _, err := resist.Assume(own); err != nil {
		return nil, unprocessable("These constants cannot be kept", intake.Faults{{Path: "$.own", Message: err.Error()}})
	}
	text, err := json.Marshal(own)
	if err != nil {
		return nil, err
	}
	kept, err := s.keep(ctx, store.StrengthConstants, r.Body.Version, text, problem{
		title: "The constants were changed meanwhile", detail: "Someone else kept them: read them anew and change those. Nothing was overwritten.",
	})
	if err != nil {
		return nil, err
	}
	answer, err := constantsAnswer(own, kept.Version)
	return SaveConstants200JSONResponse(answer), err
}

// assumed are the constants under which the practice's teeth are loaded.
func (s *server) assumed(ctx context.Context) (resist.Assumed, error) {
	own, _, err := s.ownConstants(ctx)
	if err != nil {
		return resist.Assumed{}, err
	}
	return resist.Assume(own)
}

func (s *server) ownConstants(ctx context.Context) (own []resist.Figure, version int, err error) {
	kept, err := s.Store.PracticeDocument(ctx, store.StrengthConstants, currentUser(ctx).PracticeID)
	if err != nil || kept == nil {
		return nil, 0, err
	}
	if err := json.Unmarshal(kept.Document, &own); err != nil {
		return nil, 0, fmt.Errorf("reading the constants: %w", err)
	}
	return own, kept.Version, nil
}

func constantsAnswer(own []resist.Figure, version int) (StrengthConstants, error) {
	all, err := resist.WithFigures(own)
	if err != nil {
		return StrengthConstants{}, err
	}
	answer := StrengthConstants{Version: version, Constants: []StrengthConstant{}}
	for n, usual := range resist.Constants() {
		c := all[n]
		answer.Constants = append(answer.Constants, StrengthConstant{
			Id: c.ID, Name: c.Name, Unit: c.Unit, Value: c.Value, Usual: usual.Value, Least: c.Least, Most: c.Most, Source: c.Source, UsualSource: usual.Source,
		})
	}
	return answer, nil
}
