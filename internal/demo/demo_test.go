package demo

import (
	"context"
	"encoding/json"
	"strings"
	"testing"

	"github.com/google/uuid"

	"obturon/core/intake"
	"obturon/core/notation"
	"obturon/core/pipeline"
	"obturon/internal/document"
	"obturon/internal/pg/pgtest"
	"obturon/internal/plan"
	"obturon/internal/store"
)

// Every demonstration case is sound by itself: it reads, its tooth is
// confirmed, its plan can be made, and nobody in it has a name.
func TestDemonstrationCasesAreSound(t *testing.T) {
	files, err := cases.ReadDir("cases")
	if err != nil || len(files) < 6 {
		t.Fatalf("%d cases, %v", len(files), err)
	}
	planner := plan.NewPlanner()
	teeth := map[string]bool{}
	for _, f := range files {
		data, err := cases.ReadFile("cases/" + f.Name())
		if err != nil {
			t.Fatal(err)
		}
		var e entry
		if err := json.Unmarshal(data, &e); err != nil {
			t.Errorf("%s: %v", f.Name(), err)
			continue
		}
		c, err := document.ReadCase(e.Document)
		if err != nil {
			t.Errorf("%s: %v", f.Name(), err)
			continue
		}
		if err := notation.Confirm(c.Tooth, notation.Confirmation{Method: e.Confirmation["method"], Answer: e.Confirmation["answer"]}); err != nil {
			t.Errorf("%s: %v", f.Name(), err)
		}
		if !strings.HasPrefix(c.Patient.Code, "HV-") && !strings.HasPrefix(c.Patient.Code, "HB-") {
			t.Errorf("%s: patient %q", f.Name(), c.Patient.Code)
		}
		r, err := planner.AtOnce(t.Context(), c, 0.2, pipeline.Sections{})
		// What is better sealed or watched is shown with that advice.
		if err != nil || (r.Document().Refused != "" && r.Document().Advice.Treatment == intake.Restore) {
			t.Errorf("%s: %v %s", f.Name(), err, r.Document().Refused)
		}
		teeth[c.Tooth.String()] = true
	}
	if len(teeth) < 6 {
		t.Errorf("only %d different teeth", len(teeth))
	}
}

// The demonstration comes into its own practice, once, and never into another's.
func TestTheDemonstrationKeepsToItsPractice(t *testing.T) {
	ctx := context.Background()
	url, stop, err := pgtest.Start()
	if err != nil {
		t.Fatal(err)
	}
	defer stop()
	st, err := store.Open(ctx, url)
	if err != nil {
		t.Fatal(err)
	}
	defer st.Close()
	planner := plan.NewPlanner()
	real, err := st.EnsurePractice(ctx, "Quay Street")
	if err != nil {
		t.Fatal(err)
	}
	owner, err := st.AddUser(ctx, store.User{PracticeID: real.ID, SignIn: "teacher", Name: "A real one", Role: "teacher", PasswordHash: "x"})
	if err != nil {
		t.Fatal(err)
	}
	if err := Load(ctx, st, planner); err == nil || !strings.Contains(err.Error(), `"teacher" belongs to the practice "Quay Street"`) {
		t.Errorf("loading over a real practice: %v", err)
	}
	everything := func(practice uuid.UUID) []store.Summary {
		all, err := st.Cases(ctx, store.Reach{Practice: practice, All: true}, store.Page{Size: 500})
		if err != nil {
			t.Fatal(err)
		}
		return all
	}
	if got := everything(real.ID); len(got) > 0 {
		t.Errorf("%d cases came into a real practice", len(got))
	}
	// Where no sign-in collides it is loaded, and not again when cases have gone.
	if _, err := st.SQL().Exec("update app_user set sign_in = 'quay-teacher' where id = $1", owner.ID); err != nil {
		t.Fatal(err)
	}
	if err := Load(ctx, st, planner); err != nil {
		t.Fatal(err)
	}
	own, err := st.EnsurePractice(ctx, Practice)
	if err != nil {
		t.Fatal(err)
	}
	loaded := everything(own.ID)
	if len(loaded) < 20 {
		t.Errorf("%d cases were loaded", len(loaded))
	}
	if err := st.ArchiveCase(ctx, own.ID, owner.ID, loaded[0].ID); err != nil {
		t.Fatal(err)
	}
	if err := Load(ctx, st, planner); err != nil || len(everything(own.ID)) != len(loaded)-1 {
		t.Errorf("loading again: %v, %d cases of %d", err, len(everything(own.ID)), len(loaded)-1)
	}
}
