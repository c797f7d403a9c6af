package api

import (
	"context"

	"github.com/google/uuid"

	"obturon/internal/document"
)

// posed is the case that is asked about: the document as it was sent with what the practice has
// now, or a revision on what was fixed with it, where one of a case is named.
func (s *server) posed(ctx context.Context, sent CaseDocument, of *uuid.UUID, revision *int) (*based, error) {
	if of != nil && revision != nil {
		u := currentUser(ctx)
		if err := s.authorise(ctx, u, document.MayReadCase, of.String()); err != nil {
			return nil, err
		}
		fixed, err := s.Store.Revision(ctx, u.PracticeID, *of, *revision)
		if err != nil {
			return nil, err
		}
		return fixedOn(fixed)
	}
	p, err := s.provableBody(ctx, sent)
	if err != nil {
		return nil, err
	}
	one := &based{Case: p.Case, input: p.input}
	if one.products, err = s.products(ctx); err != nil {
		return nil, err
	}
	if of != nil {
		one.facing, err = s.facing(ctx, *of, p.Case)
	}
	return one, err
}
