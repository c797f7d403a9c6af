package work

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"os"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/google/uuid"

	"obturon/core/instrument"
	"obturon/core/resist"
	"obturon/core/tolerance"
	"obturon/internal/document"
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

// aCase is a case of a practice of its own.
func aCase(t *testing.T, tooth, document string) *store.Case {
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
		PatientCode: "HV-909", BirthYear: 1970, Flags: []byte(`{}`), Tooth: tooth, Draft: []byte(document), ConfirmationMethod: "count", ConfirmationAnswer: "counted", PracticeID: p.ID, Creator: u.ID,
	})
	if err != nil {
		t.Fatal(err)
	}
	return c
}

// started is a tolerance run of a case.
func started(t *testing.T, document string, runs int) *store.ToleranceJob {
	t.Helper()
	c := aCase(t, "33", document)
	hand, err := json.Marshal(tolerance.Usual)
	if err != nil {
		t.Fatal(err)
	}
	j := store.ToleranceJob{CaseID: c.ID, UserID: c.CreatedBy, CaseDocument: []byte(document), Hand: hand, Runs: runs, Kit: []byte(`{"schema":"obturon.kit/1","items":[{"instrument":"football diamond","pieces":0}]}`)}
	const few = 4 // parts that show it all
	for n, part := range plan.Parts(1, runs)[:few] {
		j.Chunks = append(j.Chunks, store.ToleranceChunk{Number: n, Aim: part.Aim, FirstSeed: int64(part.Seed), Runs: part.Runs})
	}
	id, err := testStore.StartTolerance(t.Context(), c.PracticeID, j)
	if err != nil {
		t.Fatal(err)
	}
	return reread(t, c.ID, id)
}

// working has a worker of its own at work until stop.
func working(t *testing.T, planner *plan.Planner) (stop func()) {
	t.Helper()
	ctx, end := context.WithCancel(context.Background())
	var worker sync.WaitGroup
	worker.Go(func() {
		if err := Run(ctx, testStore, planner); err != nil {
			t.Error(err)
		}
	})
	stop = sync.OnceFunc(func() { end(); worker.Wait() })
	t.Cleanup(stop)
	return stop
}

// until waits for what workers do.
func until(t *testing.T, what string, is func() bool) {
	t.Helper()
	const patience = 15 * time.Minute // other packages are tested on the same processors
	for began := time.Now(); !is(); time.Sleep(20 * time.Millisecond) {
		if time.Since(began) > patience || t.Failed() {
			t.Fatal("waited too long for " + what)
		}
	}
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
	for range 2 {
		working(t, planner)
	}
	until(t, "the parts", func() bool { return finished(reread(t, j.CaseID, j.ID)) == len(j.Chunks) })
	j = reread(t, j.CaseID, j.ID)
	if done := finished(j); done != len(j.Chunks) || j.Failed != nil {
		t.Fatalf("%d of %d parts are done: %v", done, len(j.Chunks), j.Failed)
	}
	c, err := withKit(j)
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
	stop := working(t, plan.NewPlanner())
	time.Sleep(100 * time.Millisecond) // somewhere in the first part
	stop()
	if done := finished(reread(t, j.CaseID, j.ID)); done == len(j.Chunks) {
		t.Fatal("all parts were done before the worker was stopped")
	}
	working(t, plan.NewPlanner())
	until(t, "the parts that were left", func() bool { return finished(reread(t, j.CaseID, j.ID)) == len(j.Chunks) })

	ended := started(t, cervical, 10)
	if err := testStore.CancelTolerance(t.Context(), ended.CaseID, ended.ID); err != nil {
		t.Fatal(err)
	}
	next := started(t, cervical, 10)
	until(t, "the run after the cancelled one", func() bool { return finished(reread(t, next.CaseID, next.ID)) == len(next.Chunks) })
	if done := finished(reread(t, ended.CaseID, ended.ID)); done == len(ended.Chunks) {
		t.Error("a cancelled run was done all the same")
	}
}

// What was begun by an earlier program, or whose job was given up, is queued again.
func TestWhatIsNotQueuedIsQueuedAgain(t *testing.T) {
	j := started(t, cervical, 10)
	if _, err := testStore.SQL().Exec("delete from river_job"); err != nil {
		t.Fatal(err)
	}
	for range 2 { // twice is once
		if err := testStore.Requeue(t.Context()); err != nil {
			t.Fatal(err)
		}
	}
	var jobs int
	if err := testStore.SQL().QueryRow("select count(*) from river_job where args->>'job' = $1", j.ID.String()).Scan(&jobs); err != nil || jobs != len(j.Chunks) {
		t.Errorf("%d jobs for %d parts: %v", jobs, len(j.Chunks), err)
	}
	if err := testStore.CancelTolerance(t.Context(), j.CaseID, j.ID); err != nil {
		t.Fatal(err)
	}
}

// A run that cannot be done ends with its reason, and holds up no other.
func TestARunThatCannotBeDoneSaysWhy(t *testing.T) {
	j := started(t, strings.Replace(cervical, `"school":"adhesive"`, `"school":"house-gone/1"`, 1), 10)
	next := started(t, cervical, 10)
	working(t, plan.NewPlanner())
	until(t, "the run after it", func() bool { return finished(reread(t, next.CaseID, next.ID)) == len(next.Chunks) })
	if j = reread(t, j.CaseID, j.ID); j.Failed == nil || *j.Failed == "" {
		t.Error("the run does not say that it failed")
	}
}

const molar = `{"schema":"obturon.case/1","tooth":"46","patient":{"age_years":34},
 "findings":[{"kind":"fissure_caries","site":"central","depth":"outer_dentin"}],"choice":{"material":"amalgam","school":"board"}}`

// fine starts to load a case's tooth, by a wrong load where newtons are none.
func fine(t *testing.T, c *store.Case, newtons float64) *store.FineRun {
	t.Helper()
	with := plan.Loading{Bite: resist.Usual().Bite(false, nil), Assumed: resist.Usual()}
	with.Bite.Newtons = newtons
	loading, err := json.Marshal(with)
	if err != nil {
		t.Fatal(err)
	}
	r, err := testStore.StartFineRun(t.Context(), c.PracticeID, store.FineRun{CaseID: c.ID, UserID: c.CreatedBy, Digest: fmt.Sprint(newtons), CaseDocument: []byte(molar), Loading: loading})
	if err != nil {
		t.Fatal(err)
	}
	return r
}

func again(t *testing.T, r *store.FineRun) *store.FineRun {
	t.Helper()
	r, err := testStore.FineRun(t.Context(), r.ID)
	if err != nil {
		t.Fatal(err)
	}
	return r
}

// A run in which its worker is stopped is finished by the next one; asked for again it is
// not computed twice. One that is ended stops where it is, and one that cannot be done says
// why.
func TestAToothIsLoadedOnFineCells(t *testing.T) {
	c := aCase(t, "46", molar)
	r := fine(t, c, 200)
	stop := working(t, plan.NewPlanner())
	until(t, "the first of its progress", func() bool { return again(t, r).Share > 0 })
	stop()
	if left := again(t, r); left.Result != nil || left.Share >= 1 || !left.Open() {
		t.Fatalf("before its worker was stopped it came to %.2f", left.Share)
	}
	working(t, plan.NewPlanner())
	until(t, "the result", func() bool { return again(t, r).Result != nil })
	var parted document.Parting
	if err := json.Unmarshal(again(t, r).Result, &parted); err != nil || parted.Cells != 0.25 || parted.Cut <= parted.Sound || len(parted.Cusps) != 5 {
		t.Errorf("it came to %+v: %v", parted, err)
	}
	if twice := fine(t, c, 200); twice.ID != r.ID {
		t.Error("the same was begun twice")
	}

	ended := fine(t, c, 300)
	until(t, "the first of its progress", func() bool { return again(t, ended).Share > 0 })
	if _, err := testStore.CancelFineRun(t.Context(), c.ID, ended.ID); err != nil {
		t.Fatal(err)
	}
	wrong := fine(t, c, 5000)
	until(t, "the run after it", func() bool { return again(t, wrong).Failed != nil })
	if why := *again(t, wrong).Failed; !strings.Contains(why, "1 to 1000") {
		t.Errorf("it failed: %s", why)
	}
	if left := again(t, ended); left.Result != nil || left.CancelledAt == nil {
		t.Error("a run that was ended was done all the same")
	}
	if last, err := testStore.LastFineRun(t.Context(), c.ID); err != nil || last.ID != wrong.ID {
		t.Errorf("the newest is %+v: %v", last, err)
	}
	if _, err := testStore.CancelFineRun(t.Context(), uuid.New(), ended.ID); !errors.Is(err, store.ErrNotFound) {
		t.Errorf("another case's run is ended: %v", err)
	}
}
