package api

import (
	"context"
	"encoding/json"
	"net/http"

	"github.com/google/uuid"

	"obturon/core/assess"
	"obturon/core/intake"
	"obturon/core/notation"
	"obturon/internal/document"
	"obturon/internal/plan"
	"obturon/internal/store"
)

// ListCases is the day sheet.
func (s *server) ListCases(ctx context.Context, _ ListCasesRequestObject) (ListCasesResponseObject, error) {
	cases, err := s.Store.Cases(ctx, currentUser(ctx).PracticeID)
	if err != nil {
		return nil, err
	}
	answer := ListCases200JSONResponse{}
	for _, c := range cases {
		summary, err := caseSummary(c)
		if err != nil {
			return nil, err
		}
		answer = append(answer, summary)
	}
	return answer, nil
}

func caseSummary(c store.Case) (CaseSummary, error) {
	t, err := notation.ParseISO(c.Tooth)
	if err != nil {
		return CaseSummary{}, err
	}
	a := CaseSummary{Id: c.ID, Patient: c.Patient.Code, Tooth: c.Tooth, ToothName: t.Name(), Revisions: len(c.Revisions), UpdatedAt: c.UpdatedAt, Verdict: "draft"}
	var draft document.CaseContent
	if err := json.Unmarshal(c.Draft, &draft); err == nil && draft.Choice != nil {
		a.Material, a.School = string(draft.Choice.Material), draft.Choice.School
	}
	if n := len(c.Revisions); n > 0 {
		var d document.Plan
		if err := json.Unmarshal(c.Revisions[n-1].PlanDocument, &d); err == nil {
			a.Class, a.Material, a.School, a.Verdict = string(d.Class), string(d.Material), d.School, worst(d)
		}
	}
	return a, nil
}

// worst is the worst verdict of a kept plan.
func worst(d document.Plan) string {
	checks := make([]assess.Check, len(d.Checks))
	for n, c := range d.Checks {
		checks[n].Verdict = c.Verdict
	}
	return string(assess.Worst(checks))
}

// CreateCase starts a case once the tooth is confirmed a second way.
func (s *server) CreateCase(ctx context.Context, r CreateCaseRequestObject) (CreateCaseResponseObject, error) {
	u := currentUser(ctx)
	c, err := s.caseOf(ctx, r.Body.Document)
	if err != nil {
		return nil, err
	}
	if err := notation.Confirm(c.Tooth, notation.Confirmation{Method: string(r.Body.Confirmation.Method), Answer: r.Body.Confirmation.Answer}); err != nil {
		return nil, unprocessable("The tooth is not confirmed", intake.Faults{{Path: "$.confirmation.answer", Message: err.Error()}})
	}
	flags, err := json.Marshal(map[string]any{"pregnant_or_nursing": c.Patient.PregnantOrNursing, "caries_risk": c.Patient.CariesRisk})
	if err != nil {
		return nil, err
	}
	made, err := s.Store.CreateCase(ctx, store.NewCase{
		PatientCode: r.Body.Patient.Code, BirthYear: r.Body.Patient.BirthYear, Flags: flags, Tooth: c.Tooth.String(), Draft: r.Body.Document,
		ConfirmationMethod: string(r.Body.Confirmation.Method), ConfirmationAnswer: r.Body.Confirmation.Answer,
		PracticeID: u.PracticeID, Creator: u.ID,
	})
	if err != nil {
		return nil, err
	}
	answer, err := caseAnswer(made)
	return CreateCase201JSONResponse(answer), err
}

// GetCase reads one case.
func (s *server) GetCase(ctx context.Context, r GetCaseRequestObject) (GetCaseResponseObject, error) {
	answer, err := s.readCase(ctx, r.Id)
	return GetCase200JSONResponse(answer), err
}

func (s *server) readCase(ctx context.Context, id uuid.UUID) (Case, error) {
	c, err := s.Store.Case(ctx, currentUser(ctx).PracticeID, id)
	if err != nil {
		return Case{}, err
	}
	return caseAnswer(c)
}

func caseAnswer(c *store.Case) (Case, error) {
	t, err := notation.ParseISO(c.Tooth)
	if err != nil {
		return Case{}, err
	}
	a := Case{
		Id: c.ID, Patient: c.Patient.Code, BirthYear: c.Patient.BirthYear, Tooth: toothAnswer(t),
		Document: CaseDocument(c.Draft), Revisions: []RevisionSummary{}, UpdatedAt: c.UpdatedAt,
	}
	for _, r := range c.Revisions {
		a.Revisions = append(a.Revisions, RevisionSummary{Number: r.Number, By: r.Author.Name, At: r.CreatedAt, Core: r.CoreVersion})
	}
	return a, nil
}

// ArchiveCase takes a case off the day sheet. Learners may not.
func (s *server) ArchiveCase(ctx context.Context, r ArchiveCaseRequestObject) (ArchiveCaseResponseObject, error) {
	u := currentUser(ctx)
	if u.Role == "learner" {
		return nil, &problem{status: http.StatusForbidden, title: "Learners do not archive cases", detail: "Ask a teacher or a dentist."}
	}
	if err := s.Store.ArchiveCase(ctx, u.PracticeID, u.ID, r.Id); err != nil {
		return nil, err
	}
	return ArchiveCase204Response{}, nil
}

// SaveDraft keeps the case document. The tooth of a case cannot change: it
// was confirmed.
func (s *server) SaveDraft(ctx context.Context, r SaveDraftRequestObject) (SaveDraftResponseObject, error) {
	u := currentUser(ctx)
	c, err := s.caseOf(ctx, *r.Body)
	if err != nil {
		return nil, err
	}
	kept, err := s.Store.Case(ctx, u.PracticeID, r.Id)
	if err != nil {
		return nil, err
	}
	if kept.Tooth != c.Tooth.String() {
		return nil, unprocessable("The tooth was confirmed and stays", intake.Faults{{Path: "$.tooth", Message: "this case is for tooth " + kept.Tooth + ": start a new case for another tooth"}})
	}
	if err := s.Store.SaveDraft(ctx, u.PracticeID, r.Id, *r.Body); err != nil {
		return nil, err
	}
	answer, err := s.readCase(ctx, r.Id)
	return SaveDraft200JSONResponse(answer), err
}

// FixRevision plans the draft and keeps it for good.
func (s *server) FixRevision(ctx context.Context, r FixRevisionRequestObject) (FixRevisionResponseObject, error) {
	u := currentUser(ctx)
	kept, c, err := s.draftOf(ctx, r.Id)
	if err != nil {
		return nil, err
	}
	result, err := s.Planner.Evaluate(ctx, c, plan.DefaultGrid)
	if err != nil {
		return nil, err
	}
	if result.Refused() != "" {
		return nil, &problem{status: http.StatusConflict, title: "A refused plan is not fixed", detail: result.Refused()}
	}
	made := result.Document()
	planned, err := json.Marshal(made)
	if err != nil {
		return nil, err
	}
	draft, err := pinRules(kept.Draft, c, made)
	if err != nil {
		return nil, err
	}
	fixed, err := s.Store.FixRevision(ctx, u.PracticeID, u.ID, r.Id, draft, planned, made.Core)
	if err != nil {
		return nil, err
	}
	return FixRevision201JSONResponse{Number: fixed.Number, By: u.Name, At: fixed.CreatedAt, Document: CaseDocument(draft), Plan: made}, nil
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
	var d document.Plan
	if err := json.Unmarshal(fixed.PlanDocument, &d); err != nil {
		return nil, err
	}
	return GetRevision200JSONResponse{Number: fixed.Number, By: fixed.Author.Name, At: fixed.CreatedAt, Document: CaseDocument(fixed.CaseDocument), Plan: d}, nil
}
