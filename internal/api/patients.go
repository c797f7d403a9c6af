package api

import (
	"context"
	"encoding/json"
	"time"

	"obturon/internal/document"
)

// FindPatient fills in what is known of a patient: of the newest case that the user
// sees, with the age as it is this year.
func (s *server) FindPatient(ctx context.Context, r FindPatientRequestObject) (FindPatientResponseObject, error) {
	birthYear, draft, err := s.Store.FindPatient(ctx, reachOf(currentUser(ctx)), r.Code)
	if err != nil {
		return nil, err
	}
	var kept document.CaseContent
	if err := json.Unmarshal(draft, &kept); err != nil {
		return nil, err
	}
	kept.Patient.AgeYears = float64(time.Now().Year() - birthYear)
	return FindPatient200JSONResponse{BirthYear: birthYear, Patient: kept.Patient}, nil
}
