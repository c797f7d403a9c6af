package work

import (
	"context"
	"encoding/json"
	"fmt"
	"os"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/google/uuid"

	"obturon/core/instrument"
	"obturon/core/tolerance"
	"obturon/internal/pg/pgtest"
	"obturon/internal/plan"
	"obturon/internal/store"
)

var testStore *store.Store

func TestMain(m *testing.M) {
	url, stop, err := pgtest.Start()
	if err != nil {
		fmt.Fprintln(os.Stderr, err)
		os.Exit(1)
	}
	if testStore, err = store.Open(context.Background(), url); err != nil {
		fmt.Fprintln(os.Stderr, err)
		stop()
		os.Exit(1)
	}
	code := m.Run()
	testStore.Close()
	stop()
	os.Exit(code)
}

const cervical = `{"schema":"obturon.case/1","tooth":"33","patient":{"age_years":50},
 "findings":[{"kind":"cervical_caries","site":"buccal","depth":"outer_dentin"}],"choice":{"material":"composite","school":"adhesive"}}`

// started is a run of a case, by one practice.
func started(t *testing.T, document string, runs int) *store.ToleranceJob {
	t.Helper()
	ctx := t.Context()
	p, err := testStore.EnsurePractice(ctx, "Clinic "+uuid.NewString())
	if err != nil {
		t.Fatal(err)
	}
	u, err := testStore.AddUser(ctx, store.User{PracticeID: p.ID, SignIn: "u" + uuid.NewString(), Name: "Someone", Role: "dentist", PasswordHash: "x"})
	if err != nil {
		t.Fatal(err)
	}
	c, err := testStore.CreateCase(ctx, store.NewCase{
		PatientCode: "HV-909", BirthYear: 1970, Flags: []byte(`{}`), Tooth: "33", Draft: []byte(document), ConfirmationMethod: "count", ConfirmationAnswer: "lower left 3", PracticeID: p.ID, Creator: u.ID,
	})
	if err != nil {
		t.Fatal(err)
	}
	hand, err := json.Marshal(tolerance.Usual)
	if err != nil {
		t.Fatal(err)
	}
	j := store.ToleranceJob{CaseID: c.ID, UserID: u.ID, CaseDocument: []byte(document), Hand: hand, Runs: runs, Kit: []byte(`{"schema":"obturon.kit/1","items":[{"instrument":"football diamond","pieces":0}]}`)}
	const few = 4 // parts that show it all
	for n, part := range plan.Parts(1, runs)[:few] {
		j.Chunks = append(j.Chunks, store.ToleranceChunk{Number: n, Aim: part.Aim, FirstSeed: int64(part.Seed), Runs: part.Runs})
	}
	id, err := testStore.StartTolerance(ctx, p.ID, j)
	if err != nil {
		t.Fatal(err)
	}
	return reread(t, c.ID, id)
}

func reread(t *testing.T, caseID, id uuid.UUID) *store.ToleranceJob {
	t.Helper()
	j, err := testStore.Tolerance(t.Context(), caseID, id)
	if err != nil {
		t.Fatal(err)
	}
	return j
}

func finished(j *store.ToleranceJob) (n int) {
	for _, c := range j.Chunks {
		if c.DoneAt != nil {
			n++
		}
	}
	return n
}

// Two workers share a run: each part is done once, and what they made of it is what one
// alone would have.
func TestWorkersShareARun(t *testing.T) {
	j := started(t, cervical, 12)
	planner := plan.NewPlanner()
	var group sync.WaitGroup
	for range 2 {
		group.Go(func() {
			for {
				worked, err := Once(t.Context(), testStore, planner)
				if err != nil {
					t.Error(err)
				}
				if !worked || err != nil {
					return
				}
			}
		})
	}
	group.Wait()
	j = reread(t, j.CaseID, j.ID)
	if done := finished(j); done != len(j.Chunks) || j.Failed != nil {
		t.Fatalf("%d of %d parts are done: %v", done, len(j.Chunks), j.Failed)
	}
	c, err := caseOf(j)
	if err != nil {
		t.Fatal(err)
	}
	if c.Kit.Has(instrument.Football) || !c.Kit.Has(instrument.Pear) {
		t.Error("the run is not cut with the kit as it was")
	}
	r, err := planner.Rehearse(t.Context(), c, plan.DefaultGrid)
	if err != nil {
		t.Fatal(err)
	}
	alone, err := r.CutPart(t.Context(), tolerance.Usual, plan.Part{Aim: plan.Plain, Seed: 11, Runs: 2})
	if err != nil {
		t.Fatal(err)
	}
	want, err := plan.EncodeOutcomes(alone)
	if err != nil {
		t.Fatal(err)
	}
	got, err := plan.DecodeOutcomes(j.Chunks[1].Outcomes)
	if err != nil {
		t.Fatal(err)
	}
	if again, err := plan.EncodeOutcomes(got); err != nil || string(again) != string(want) {
		t.Errorf("by workers %.200s, by one %.200s: %v", again, want, err)
	}
	drawn, err := plan.DecodeDrawn(j.Drawn)
	if err != nil || len(drawn) != 1 || drawn[0].Cavity != "facial cervical" || len(drawn[0].Checks) < 5 {
		t.Errorf("drawn are %+v: %v", drawn, err)
	}
}

// A part that a worker was stopped in is done by the next; one that is cancelled by none.
func TestAPartIsNotLost(t *testing.T) {
	j := started(t, cervical, 10)
	stopped, cancel := context.WithCancel(t.Context())
	cancel()
	if _, err := Once(stopped, testStore, plan.NewPlanner()); err == nil {
		t.Log("the claim itself was not stopped")
	}
	chunk, _, err := testStore.ClaimChunk(t.Context(), stale)
	if err != nil || chunk == nil || chunk.JobID != j.ID || chunk.Number != 0 {
		t.Fatalf("claimed is %+v: %v", chunk, err)
	}
	next, _, err := testStore.ClaimChunk(t.Context(), stale)
	if err != nil || next == nil || next.Number == 0 {
		t.Fatalf("claimed twice is %+v: %v", next, err)
	}
	// Its worker is gone for longer than a part takes.
	if again, _, err := testStore.ClaimChunk(t.Context(), -time.Minute); err != nil || again == nil || again.Number != 0 {
		t.Errorf("what a dead worker held is %+v: %v", again, err)
	}
	if err := testStore.CancelTolerance(t.Context(), j.CaseID, j.ID); err != nil {
		t.Fatal(err)
	}
	if none, _, err := testStore.ClaimChunk(t.Context(), -time.Minute); err != nil || none != nil {
		t.Errorf("of a cancelled run %+v is claimed: %v", none, err)
	}
}

// A run that cannot be done ends with its reason, and holds up no other.
func TestARunThatCannotBeDoneSaysWhy(t *testing.T) {
	j := started(t, strings.Replace(cervical, `"school":"adhesive"`, `"school":"house-gone/1"`, 1), 10)
	if worked, err := Once(t.Context(), testStore, plan.NewPlanner()); !worked || err == nil {
		t.Errorf("worked %v: %v", worked, err)
	}
	if j = reread(t, j.CaseID, j.ID); j.Failed == nil || *j.Failed == "" {
		t.Error("the run does not say that it failed")
	}
	if worked, err := Once(t.Context(), testStore, plan.NewPlanner()); worked || err != nil {
		t.Errorf("a failed run is worked on: %v", err)
	}
}
