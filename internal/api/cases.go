package api

import (
	"context"
	"encoding/json"
	"time"

	"github.com/google/uuid"

	"obturon/core/intake"
	"obturon/core/notation"
	"obturon/internal/store"
)

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
	thisYear := time.Now().Year()
	if trouble := intake.CheckBirthYear(r.Body.Patient.BirthYear, thisYear); trouble != "" {
		return nil, intake.Faults{{Path: "$.patient.birth_year", Message: trouble}}
	}
	if faults := c.CheckPatient(r.Body.Patient.Code, r.Body.Patient.BirthYear, thisYear, thisYear); len(faults) > 0 {
		return nil, unprocessable("The patient does not match", faults)
	}
	flags, err := json.Marshal(map[string]any{"pregnant_or_nursing": c.Patient.PregnantOrNursing, "caries_risk": c.Patient.CariesRisk})
	if err != nil {
		return nil, err
	}
	made, err := s.Store.CreateCase(ctx, store.NewCase{
		PatientCode: r.Body.Patient.Code, BirthYear: r.Body.Patient.BirthYear, Flags: flags, Tooth: c.Tooth.String(), Draft: r.Body.Document,
		ConfirmationMethod: string(r.Body.Confirmation.Method), ConfirmationAnswer: r.Body.Confirmation.Answer,
		PracticeID: u.PracticeID, Creator: u.ID, RequestKey: r.Params.IdempotencyKey,
	})
	if err != nil {
		return nil, err
	}
	s.noteDraft()
	answer, err := caseAnswer(u, made)
	return CreateCase201JSONResponse(answer), err
}

// GetCase reads one case, archived or not.
func (s *server) GetCase(ctx context.Context, r GetCaseRequestObject) (GetCaseResponseObject, error) {
	answer, err := s.readCase(ctx, r.Id)
	return GetCase200JSONResponse(answer), err
}

func (s *server) readCase(ctx context.Context, id uuid.UUID) (Case, error) {
	u := currentUser(ctx)
	c, err := s.Store.Case(ctx, u.PracticeID, id)
	if err != nil {
		return Case{}, err
	}
	return caseAnswer(u, c)
}

func caseAnswer(u *store.User, c *store.Case) (Case, error) {
	t, err := notation.ParseISO(c.Tooth)
	if err != nil {
		return Case{}, err
	}
	a := Case{
		Id: c.ID, Patient: c.Patient.Code, BirthYear: c.Patient.BirthYear, Tooth: toothAnswer(t),
		Document: CaseDocument(c.Draft), Version: c.DraftVersion, Archived: c.ArchivedAt != nil,
		By: c.Creator.Name, May: permissionsWith(u, c.CreatedBy, c.Creator.Role), Revisions: []RevisionSummary{}, UpdatedAt: c.UpdatedAt,
	}
	for _, r := range c.Revisions {
		a.Revisions = append(a.Revisions, RevisionSummary{Number: r.Number, By: r.Author.Name, At: r.CreatedAt, Core: r.CoreVersion})
	}
	return a, nil
}

// ArchiveCase takes a case off the day sheet.
func (s *server) ArchiveCase(ctx context.Context, r ArchiveCaseRequestObject) (ArchiveCaseResponseObject, error) {
	u := currentUser(ctx)
	if err := s.Store.ArchiveCase(ctx, u.PracticeID, u.ID, r.Id); err != nil {
		return nil, err
	}
	return ArchiveCase204Response{}, nil
}

// UnarchiveCase brings it back.
func (s *server) UnarchiveCase(ctx context.Context, r UnarchiveCaseRequestObject) (UnarchiveCaseResponseObject, error) {
	u := currentUser(ctx)
	if err := s.Store.RestoreCase(ctx, u.PracticeID, u.ID, r.Id); err != nil {
		return nil, err
	}
	return UnarchiveCase204Response{}, nil
}

// CorrectBirthYear mends a mistyped birth year.
func (s *server) CorrectBirthYear(ctx context.Context, r CorrectBirthYearRequestObject) (CorrectBirthYearResponseObject, error) {
	u := currentUser(ctx)
	if trouble := intake.CheckBirthYear(r.Body.BirthYear, time.Now().Year()); trouble != "" {
		return nil, intake.Faults{{Path: "$.birth_year", Message: trouble}}
	}
	if err := s.Store.CorrectBirthYear(ctx, u.PracticeID, u.ID, r.Id, r.Body.BirthYear); err != nil {
		return nil, err
	}
	s.noteDraft()
	answer, err := s.readCase(ctx, r.Id)
	return CorrectBirthYear200JSONResponse(answer), err
}
