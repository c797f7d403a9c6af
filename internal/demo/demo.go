// Package demo loads the demonstration practice: the clinic of Halvarra, an
// invented island, and its teaching bench. Patients exist as codes only.
package demo

import (
	"context"
	"embed"
	"encoding/json"
	"fmt"
	"path"

	"obturon/core/notation"
	"obturon/internal/document"
	"obturon/internal/password"
	"obturon/internal/plan"
	"obturon/internal/store"
)

// Practice is the demonstration's name.
const Practice = "Halvarra Island Clinic"

// SignIn is a sign-in of the demonstration. Its password is no secret.
type SignIn struct{ SignIn, Password, Name, Role string }

// SignIns of the demonstration.
var SignIns = []SignIn{
	{"dentist", "halvarra-demo", "Dentist on duty", "dentist"},
	{"learner", "halvarra-demo", "Bench learner", "learner"},
	{"teacher", "halvarra-demo", "Bench teacher", "teacher"},
	{"administrator", "halvarra-demo", "Clinic office", "administrator"},
}

// entry is one case of the demonstration.
type entry struct {
	BirthYear    int               `json:"birth_year"`
	Confirmation map[string]string `json:"confirmation"`
	Revisions    int               `json:"revisions"` // how many times it has been fixed
	Document     json.RawMessage   `json:"document"`
}

//go:embed cases/*.json
var cases embed.FS

// Load brings the demonstration into an empty database; run again it changes
// nothing that is there. Errors are those of the store and of planning.
func Load(ctx context.Context, st *store.Store, planner *plan.Planner) error {
	practice, err := st.EnsurePractice(ctx, Practice)
	if err != nil {
		return err
	}
	var dentist *store.User
	for _, s := range SignIns {
		hash, err := password.Hash(s.Password)
		if err != nil {
			return err
		}
		u, err := st.EnsureUser(ctx, store.User{PracticeID: practice.ID, SignIn: s.SignIn, Name: s.Name, Role: s.Role, PasswordHash: hash})
		if err != nil {
			return err
		}
		if s.Role == "dentist" {
			dentist = u
		}
	}
	present, err := st.HasCases(ctx, practice.ID)
	if err != nil || present {
		return err
	}
	files, err := cases.ReadDir("cases")
	if err != nil {
		return err
	}
	for _, f := range files {
		if err := loadCase(ctx, st, planner, dentist, f.Name()); err != nil {
			return fmt.Errorf("demonstration case %s: %w", f.Name(), err)
		}
	}
	return nil
}

func loadCase(ctx context.Context, st *store.Store, planner *plan.Planner, author *store.User, name string) error {
	data, err := cases.ReadFile(path.Join("cases", name))
	if err != nil {
		return err
	}
	var e entry
	if err := json.Unmarshal(data, &e); err != nil {
		return err
	}
	c, err := document.ReadCase(e.Document)
	if err != nil {
		return err
	}
	confirmation := notation.Confirmation{Method: e.Confirmation["method"], Answer: e.Confirmation["answer"]}
	if err := notation.Confirm(c.Tooth, confirmation); err != nil {
		return err
	}
	made, err := st.CreateCase(ctx, store.NewCase{
		PatientCode: c.Patient.Code, BirthYear: e.BirthYear, Flags: []byte(`{}`), Tooth: c.Tooth.String(), Draft: e.Document,
		ConfirmationMethod: confirmation.Method, ConfirmationAnswer: confirmation.Answer, PracticeID: author.PracticeID, Creator: author.ID,
	})
	if err != nil {
		return err
	}
	for range e.Revisions {
		r, err := planner.Evaluate(ctx, c, plan.DefaultGrid)
		if err != nil {
			return err
		}
		document := r.Document()
		planned, err := json.Marshal(document)
		if err != nil {
			return err
		}
		if _, err := st.FixRevision(ctx, author.PracticeID, author.ID, made.ID, e.Document, planned, document.Core); err != nil {
			return err
		}
	}
	return nil
}
