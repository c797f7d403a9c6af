// Package demo loads the demonstration practice: the clinic of Halvarra, an
// invented island, and its teaching bench. Patients exist as codes only.
package demo

import (
	"cmp"
	"context"
	"embed"
	"encoding/json"
	"errors"
	"fmt"
	"path"
	"time"

	"github.com/google/uuid"

	"obturon/core/fill"
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
	// By is the role of who started it; left out, the dentist.
	By           string            `json:"by"`
	Confirmation map[string]string `json:"confirmation"`
	Revisions    int               `json:"revisions"` // how many times it has been fixed
	Document     json.RawMessage   `json:"document"`
}

//go:embed cases/*.json
var cases embed.FS

// Load brings the demonstration into its own practice, once: run again it changes
// nothing there. It fails where a sign-in of the demonstration belongs to another
// practice; other errors are those of the store and of planning.
func Load(ctx context.Context, st *store.Store, planner *plan.Planner) error {
	practice, err := st.EnsurePractice(ctx, Practice)
	if err != nil {
		return err
	}
	if practice.DemonstrationLoadedAt != nil {
		return nil
	}
	users := map[string]*store.User{}
	for _, s := range SignIns {
		if users[s.Role], err = ensureUser(ctx, st, practice, s); err != nil {
			return err
		}
	}
	if err := loadKit(ctx, st, users["dentist"]); err != nil {
		return fmt.Errorf("demonstration kit: %w", err)
	}
	if err := loadProducts(ctx, st, users["dentist"]); err != nil {
		return fmt.Errorf("demonstration products: %w", err)
	}
	files, err := cases.ReadDir("cases")
	if err != nil {
		return err
	}
	for _, f := range files {
		if err := loadCase(ctx, st, planner, users, f.Name()); err != nil {
			return fmt.Errorf("demonstration case %s: %w", f.Name(), err)
		}
	}
	return st.DemonstrationLoaded(ctx, practice.ID)
}

// ensureUser adds a user of the demonstration, or finds the one that an interrupted
// start has added.
func ensureUser(ctx context.Context, st *store.Store, practice *store.Practice, s SignIn) (*store.User, error) {
	hash, err := password.Hash(s.Password)
	if err != nil {
		return nil, err
	}
	u, err := st.AddUser(ctx, store.User{PracticeID: practice.ID, SignIn: s.SignIn, Name: s.Name, Role: s.Role, PasswordHash: hash})
	if !errors.Is(err, store.ErrTaken) {
		return u, err
	}
	if u, err = st.UserBySignIn(ctx, s.SignIn); err == nil && u.PracticeID != practice.ID {
		return nil, fmt.Errorf(
			"the sign-in %q belongs to the practice %q: the demonstration needs a database of its own (see OBTURON_DATA_DIR and OBTURON_DATABASE_URL)",
			s.SignIn,
			u.Practice.Name,
		)
	}
	return u, err
}

// kit is what lies in the clinic's drawers.
//
//go:embed kit.json
var kit []byte

// loadKit keeps the kit, once.
func loadKit(ctx context.Context, st *store.Store, author *store.User) error {
	if _, err := document.ReadKit(kit); err != nil {
		return err
	}
	return keepFirst(ctx, st, store.Kits, author, kit)
}

// products are what the clinic fills with.
//
//go:embed products.json
var products []byte

// loadProducts keeps the products, once.
func loadProducts(ctx context.Context, st *store.Store, author *store.User) error {
	var all []document.Product
	if err := json.Unmarshal(products, &all); err != nil {
		return err
	}
	for _, f := range fill.Check(document.ProductsOf(all)) {
		return fmt.Errorf("product %d, %s: %s", f.Product, f.Field, f.Message)
	}
	return keepFirst(ctx, st, store.FillProducts, author, products)
}

// keepFirst keeps a practice's first document of a kind, unless an interrupted start has.
func keepFirst(ctx context.Context, st *store.Store, kind store.DocumentKind, author *store.User, text []byte) error {
	_, err := st.SavePracticeDocument(
		ctx,
		store.PracticeDocument{PracticeID: author.PracticeID, Kind: kind, Version: 1, Document: text, ChangedBy: author.ID},
	)
	if errors.Is(err, store.ErrTaken) {
		return nil
	}
	return err
}

func loadCase(ctx context.Context, st *store.Store, planner *plan.Planner, users map[string]*store.User, name string) error {
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
	author := users[cmp.Or(e.By, "dentist")]
	confirmation := notation.Confirmation{Method: e.Confirmation["method"], Answer: e.Confirmation["answer"]}
	if err := notation.Confirm(c.Tooth, confirmation); err != nil {
		return err
	}
	key := uuid.NewSHA1(author.PracticeID, []byte(name)) // an interrupted start is taken up again
	made, err := st.CreateCase(ctx, store.NewCase{
		PatientCode: c.Patient.Code, BirthYear: time.Now().Year() - int(c.Patient.AgeYears), RequestKey: &key, Flags: []byte(`{}`), Tooth: c.Tooth.String(), Draft: e.Document,
		ConfirmationMethod: confirmation.Method, ConfirmationAnswer: confirmation.Answer, PracticeID: author.PracticeID, Creator: author.ID,
	})
	if err != nil {
		return err
	}
	for n := len(made.Revisions); n < e.Revisions; n++ {
		r, err := planner.Evaluate(ctx, c, plan.DefaultGrid)
		if err != nil {
			return err
		}
		d := r.Document()
		planned, err := json.Marshal(d)
		if err != nil {
			return err
		}
		if _, err := st.FixRevision(ctx, author.PracticeID, store.Fixed{
			CaseID: made.ID, Author: author.ID, DraftVersion: made.DraftVersion, CaseDocument: e.Document, PlanDocument: planned, Core: d.Core,
			Class: string(d.Class), Material: string(d.Material), School: d.School, Verdict: r.Worst(),
		}); err != nil {
			return err
		}
	}
	return nil
}
