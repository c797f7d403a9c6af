package api

import (
	"context"
	"encoding/json"
	"fmt"
	"log/slog"
	"net/http"
	"strconv"
	"strings"
	"time"

	"github.com/google/uuid"

	"obturon/core/assess"
	"obturon/core/intake"
	"obturon/internal/document"
	"obturon/internal/plan"
	"obturon/internal/store"
)

// versionOf reads the version of a draft that a request means.
func versionOf(ifMatch *string) (int, error) {
	if ifMatch == nil || *ifMatch == "" {
		return 0, &problem{
			status: http.StatusPreconditionRequired,
			title:  "Which draft is meant?",
			detail: "Send the version of the draft in If-Match: the case holds it.",
		}
	}
	version, err := strconv.Atoi(strings.Trim(*ifMatch, `"`))
	if err != nil || version < 1 {
		return 0, intake.Faults{{Path: "If-Match", Message: `this names no version of a draft: send the case's, such as "7"`}}
	}
	return version, nil
}

// SaveDraft keeps the case document. The tooth of a case cannot change: it was
// confirmed; nor can the patient.
func (s *server) SaveDraft(ctx context.Context, r SaveDraftRequestObject) (SaveDraftResponseObject, error) {
	u := currentUser(ctx)
	version, err := versionOf(r.Params.IfMatch)
	if err != nil {
		return nil, err
	}
	c, err := s.caseOf(ctx, *r.Body)
	if err != nil {
		return nil, err
	}
	kept, err := s.Store.Case(ctx, u.PracticeID, r.Id)
	if err != nil {
		return nil, err
	}
	if kept.Tooth != c.Tooth.String() {
		return nil, unprocessable(
			"The tooth was confirmed and stays",
			intake.Faults{{Path: "$.tooth", Message: "this case is for tooth " + kept.Tooth + ": start a new case for another tooth"}},
		)
	}
	if faults := c.CheckPatient(kept.Patient.Code, kept.Patient.BirthYear, kept.CreatedAt.Year(), time.Now().Year()); len(faults) > 0 {
		return nil, unprocessable("The patient does not match", faults)
	}
	if _, err := s.Store.SaveDraft(ctx, u.PracticeID, u.ID, r.Id, version, *r.Body); err != nil {
		return nil, err
	}
	s.noteDraft()
	answer, err := s.readCase(ctx, r.Id)
	return SaveDraft200JSONResponse(answer), err
}

// FixRevision plans the draft and keeps it for good.
func (s *server) FixRevision(ctx context.Context, r FixRevisionRequestObject) (FixRevisionResponseObject, error) {
	u := currentUser(ctx)
	version, err := versionOf(r.Params.IfMatch)
	if err != nil {
		return nil, err
	}
	before, err := s.fixedBefore(ctx, r.Id, r.Params.IdempotencyKey)
	if err != nil {
		return nil, err
	}
	if before != nil {
		return FixRevision201JSONResponse(*before), nil
	}
	kept, c, err := s.draftOf(ctx, r.Id)
	if err != nil {
		return nil, err
	}
	if kept.ArchivedAt != nil {
		return nil, store.ErrArchived
	}
	if kept.DraftVersion != version {
		return nil, store.ErrStale
	}
	rests, err := s.basisOf(ctx, kept, c)
	if err != nil {
		return nil, err
	}
	one, err := rests.on(kept.Draft)
	if err != nil {
		return nil, err
	}
	result, err := s.Planner.Evaluate(ctx, one.Case, plan.DefaultGrid)
	if err != nil {
		return nil, err
	}
	if result.Refused() != "" {
		return nil, &problem{status: http.StatusConflict, title: "A refused plan is not fixed", detail: result.Refused()}
	}
	made := result.KeptDocument(one.products)
	planned, err := json.Marshal(made)
	if err != nil {
		return nil, err
	}
	draft, err := pinRules(kept.Draft, c, made)
	if err != nil {
		return nil, err
	}
	basis, err := json.Marshal(rests)
	if err != nil {
		return nil, err
	}
	fixed, err := s.Store.FixRevision(ctx, u.PracticeID, store.Fixed{
		CaseID: r.Id, Author: u.ID, DraftVersion: version, RequestKey: r.Params.IdempotencyKey, CaseDocument: draft, PlanDocument: planned, Basis: basis, Core: made.Core,
		Class: string(made.Class), Material: string(made.Material), School: made.School, Verdict: string(assess.Worst(result.Checks)),
	})
	if err != nil {
		return nil, err
	}
	if _, err := s.askProof(ctx, one.provable(), fixing); err != nil { // nobody waits for it here
		slog.Warn("a revision is not proven", "case", r.Id, "revision", fixed.Number, "error", err)
	}
	s.noteRevision()
	return FixRevision201JSONResponse{Number: fixed.Number, By: u.Name, At: fixed.CreatedAt, Document: CaseDocument(draft), Plan: made}, nil
}

// fixedBefore finds the revision that the same request has made already, nil where
// there is none.
func (s *server) fixedBefore(ctx context.Context, caseID uuid.UUID, key *uuid.UUID) (*Revision, error) {
	if key == nil {
		return nil, nil
	}
	fixed, err := s.Store.RevisionOf(ctx, caseID, *key)
	if fixed == nil || err != nil {
		return nil, err
	}
	answer, err := revisionAnswer(fixed)
	return &answer, err
}

// pinRules names the version of house rules that a plan was made under, so that
// the revision keeps to it when the rules change.
func pinRules(draft []byte, c *intake.Case, made document.Plan) ([]byte, error) {
	if c.House() == "" {
		return draft, nil
	}
	var own document.CaseContent
	if err := json.Unmarshal(draft, &own); err != nil {
		return nil, err
	}
	own.Choice.School = made.School + "." + made.SchoolVersion
	return json.Marshal(own)
}

// GetRevision reads a revision as it was fixed.
func (s *server) GetRevision(ctx context.Context, r GetRevisionRequestObject) (GetRevisionResponseObject, error) {
	fixed, err := s.Store.Revision(ctx, currentUser(ctx).PracticeID, r.Id, r.Number)
	if err != nil {
		return nil, err
	}
	answer, err := revisionAnswer(fixed)
	return GetRevision200JSONResponse(answer), err
}

func revisionAnswer(r *store.Revision) (Revision, error) {
	var d document.Plan
	if err := json.Unmarshal(r.PlanDocument, &d); err != nil {
		return Revision{}, err
	}
	a := Revision{Number: r.Number, By: r.Author.Name, At: r.CreatedAt, Document: CaseDocument(r.CaseDocument), Plan: d, MadeWith: []string{}}
	if r.Basis == nil {
		return a, nil
	}
	var b basis
	if err := json.Unmarshal(r.Basis, &b); err != nil {
		return a, fmt.Errorf("reading what revision %d rests on: %w", r.Number, err)
	}
	a.MadeWith = madeWith(b.Versions)
	return a, nil
}
