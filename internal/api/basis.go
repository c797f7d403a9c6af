package api

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"

	"github.com/google/uuid"

	"obturon/core/fill"
	"obturon/core/intake"
	"obturon/core/notation"
	"obturon/core/resist"
	"obturon/core/school"
	"obturon/internal/document"
	"obturon/internal/job"
	"obturon/internal/store"
)

// basis is what a case's documents are made from beside the case document, as it is kept
// with a revision. What a practice has not written down is left out.
type basis struct {
	Practice  string          `json:"practice"`
	Patient   string          `json:"patient"` // code
	Rules     json.RawMessage `json:"rules,omitempty"`
	Kit       json.RawMessage `json:"kit,omitempty"`
	Products  []Product       `json:"products,omitempty"`
	Constants []resist.Figure `json:"constants,omitempty"`
	Facing    []facingBox     `json:"facing,omitempty"`
	// Versions are those of the practice's documents; empty before they were kept.
	Versions map[store.DocumentKind]int `json:"versions,omitempty"`
}

// madeWith names versions of a practice's documents, in the order in which a menu has their pages.
func madeWith(versions map[store.DocumentKind]int) []string {
	named := []string{}
	for _, d := range []struct {
		kind store.DocumentKind
		name string
	}{{store.Kits, "kit"}, {store.FillProducts, "materials"}, {store.StrengthConstants, "constants of strength"}} {
		if v := versions[d.kind]; v > 0 {
			named = append(named, fmt.Sprintf("%s version %d", d.name, v))
		}
	}
	return named
}

// facingBox is an adjacent tooth whose box is open towards it.
type facingBox struct {
	Tooth notation.Tooth `json:"tooth"`
	Side  notation.Side  `json:"side"`
}

// based is a case ready to be planned, with what its documents rest on.
type based struct {
	*intake.Case
	input             job.Posed
	practice, patient string
	products          fill.Products
	assumed           resist.Assumed
	facing            []fill.Facing
}

// provable is the case with what its proof is made from.
func (b *based) provable() provable { return provable{b.Case, b.input} }

// basisOf is what the documents of a kept case rest on today, c its case document as it was read.
func (s *server) basisOf(ctx context.Context, kept *store.Case, c *intake.Case) (b basis, err error) {
	u := currentUser(ctx)
	b = basis{Practice: u.Practice.Name, Patient: kept.Patient.Code}
	if b.Versions, err = s.Store.MadeWith(ctx, u.PracticeID); err != nil {
		return b, err
	}
	if c.Rules != nil {
		if b.Rules, err = json.Marshal(c.Rules); err != nil {
			return b, err
		}
	}
	_, kit, err := s.kitOf(ctx)
	if err != nil {
		return b, err
	}
	b.Kit = json.RawMessage(kit)
	own, _, err := s.ownProducts(ctx)
	if err != nil {
		return b, err
	}
	b.Products = document.WrittenProducts(own)
	if b.Constants, _, err = s.ownConstants(ctx); err != nil {
		return b, err
	}
	open, err := s.facing(ctx, kept.ID, c)
	for _, f := range open {
		b.Facing = append(b.Facing, facingBox{f.Tooth, f.Side})
	}
	return b, err
}

// on puts a case document on a basis.
func (b basis) on(text []byte) (*based, error) {
	c, err := document.ReadCase(text)
	if err != nil {
		return nil, err
	}
	if b.Rules != nil {
		rules, err := school.Read(b.Rules)
		if err != nil {
			return nil, fmt.Errorf("reading its house rules: %w", err)
		}
		c.Under(rules)
	}
	if b.Kit != nil {
		kit, err := kitDocument(b.Kit)
		if err != nil {
			return nil, err
		}
		c.Kit = kit.Stock().Kit()
	}
	one := &based{
		Case:     c,
		input:    job.Posed{Case: text, Rules: b.Rules, Kit: b.Kit},
		practice: b.Practice,
		patient:  b.Patient,
		products: fill.With(document.ProductsOf(b.Products)),
	}
	if one.assumed, err = resist.Assume(b.Constants); err != nil {
		return nil, err
	}
	for _, f := range b.Facing {
		one.facing = append(one.facing, fill.Facing{Tooth: f.Tooth, Side: f.Side})
	}
	return one, nil
}

// today is a kept case's document on what the practice has now.
func (s *server) today(ctx context.Context, kept *store.Case, text []byte) (*based, error) {
	c, err := s.caseOf(ctx, text)
	if err != nil {
		return nil, err
	}
	b, err := s.basisOf(ctx, kept, c)
	if err != nil {
		return nil, err
	}
	return b.on(text)
}

// fixedOn is a revision on what was fixed with it.
func fixedOn(r *store.Revision) (*based, error) {
	if r.Basis == nil {
		return nil, notMade("It was fixed before its kit, materials and rules were kept with it, so nobody knows what it would be made from.")
	}
	var b basis
	if err := json.Unmarshal(r.Basis, &b); err != nil {
		return nil, fmt.Errorf("reading what revision %d rests on: %w", r.Number, err)
	}
	one, err := b.on(r.CaseDocument)
	var faults intake.Faults
	if errors.As(err, &faults) {
		return nil, notMade("This version of the program reads its case otherwise than the one that fixed it: " + err.Error())
	}
	return one, err
}

// draftOrRevision reads a case, and its revision where one is asked for.
func (s *server) draftOrRevision(ctx context.Context, id uuid.UUID, number *int) (kept *store.Case, fixed *store.Revision, err error) {
	u := currentUser(ctx)
	if kept, err = s.Store.Case(ctx, u.PracticeID, id); err != nil || number == nil {
		return kept, nil, err
	}
	fixed, err = s.Store.Revision(ctx, u.PracticeID, id, *number)
	return kept, fixed, err
}
