package job

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

	"obturon/core/forces"
	"obturon/core/instrument"
	"obturon/core/resist"
	"obturon/core/tolerance"
	"obturon/internal/document"
	"obturon/internal/pg/pgtest"
	"obturon/internal/plan"
	"obturon/internal/render"
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

const noFootball = `{"schema":"obturon.kit/1","items":[{"instrument":"football diamond","pieces":0}]}`

// started is a tolerance run of a case.
func started(t *testing.T, document string, runs int) *store.Job {
	t.Helper()
	c := aCase(t, "33", document)
	return startedBy(t, c, document, runs)
}

func startedBy(t *testing.T, c *store.Case, document string, runs int) *store.Job {
	t.Helper()
	input, err := json.Marshal(ToleranceInput{Posed: Posed{Case: []byte(document), Kit: []byte(noFootball)}, Hand: tolerance.Usual, Runs: runs})
	if err != nil {
		t.Fatal(err)
	}
	parts, err := ToleranceParts(runs)
	if err != nil {
		t.Fatal(err)
	}
	const few = 4 // parts that show it all
	asked := store.Job{PracticeID: c.PracticeID, UserID: c.CreatedBy, CaseID: &c.ID, Kind: store.Tolerance, Key: uuid.NewString(), Priority: store.Batch, Input: input, Parts: parts[:few]}
	j, err := testStore.Ask(t.Context(), asked, store.Asking{ForGood: true, Start: true, Action: "start tolerance"})
	if err != nil {
		t.Fatal(err)
	}
	return reread(t, j)
}

// working has a worker of its own at work until stop.
func working(t *testing.T, planner *plan.Planner) (stop func()) {
	t.Helper()
	ctx, end := context.WithCancel(context.Background())
	var worker sync.WaitGroup
	worker.Go(func() {
		if err := Run(ctx, testStore, planner, func(context.Context) {}); err != nil {
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

func reread(t *testing.T, j *store.Job) *store.Job {
	t.Helper()
	j, err := testStore.Job(t.Context(), j.ID)
	if err != nil {
		t.Fatal(err)
	}
	return j
}

func finished(j *store.Job) (n int) {
	for _, p := range j.Parts {
		if p.DoneAt != nil {
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
	until(t, "the parts", func() bool { return finished(reread(t, j)) == len(j.Parts) })
	if j = reread(t, j); j.State() != store.JobFinished || j.Share() != 1 {
		t.Fatalf("it is %s, %.2f done: %v", j.State(), j.Share(), j.Failed)
	}
	var in ToleranceInput
	if err := json.Unmarshal(j.Input, &in); err != nil {
		t.Fatal(err)
	}
	c, err := in.read()
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
	alone, err := r.CutPart(t.Context(), tolerance.Usual, tolerance.Part{Aim: tolerance.Plain, Seed: 11, Runs: 2}, func(float64) {})
	if err != nil {
		t.Fatal(err)
	}
	want, err := render.EncodeOutcomes(alone)
	if err != nil {
		t.Fatal(err)
	}
	got, err := render.DecodeOutcomes(j.Parts[1].Result)
	if err != nil {
		t.Fatal(err)
	}
	if again, err := render.EncodeOutcomes(got); err != nil || string(again) != string(want) {
		t.Errorf("by workers %.200s, by one %.200s: %v", again, want, err)
	}
	drawn, err := render.DecodeDrawn(j.Shared)
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
	if done := finished(reread(t, j)); done == len(j.Parts) {
		t.Fatal("all parts were done before the worker was stopped")
	}
	working(t, plan.NewPlanner())
	until(t, "the parts that were left", func() bool { return finished(reread(t, j)) == len(j.Parts) })

	ended := started(t, cervical, 10)
	if _, err := testStore.CancelJob(t.Context(), *ended.CaseID, ended.ID, store.Tolerance); err != nil {
		t.Fatal(err)
	}
	next := started(t, cervical, 10)
	until(t, "the run after the cancelled one", func() bool { return reread(t, next).State() == store.JobFinished })
	if done := finished(reread(t, ended)); done == len(ended.Parts) {
		t.Error("a cancelled run was done all the same")
	}
}

// What was begun by an earlier program, or whose call was lost, is queued again.
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
	var calls int
	if err := testStore.SQL().QueryRow("select count(*) from river_job where args->>'job' = $1", j.ID.String()).Scan(&calls); err != nil || calls != len(j.Parts) {
		t.Errorf("%d calls for %d parts: %v", calls, len(j.Parts), err)
	}
	if _, err := testStore.CancelJob(t.Context(), *j.CaseID, j.ID, store.Tolerance); err != nil {
		t.Fatal(err)
	}
}

// A part whose worker has died with its whole machine is another's once the lease is over, though
// the queue still believes in the dead one.
func TestAPartOfADeadWorkerIsTakenOver(t *testing.T) {
	j := started(t, cervical, 10)
	for range j.Parts { // by a worker that is never heard of again
		if c, err := testStore.Claim(t.Context(), store.LongKinds); err != nil || c == nil || c.JobID != j.ID {
			t.Fatalf("%+v, %v", c, err)
		}
	}
	if c, err := testStore.Claim(t.Context(), store.LongKinds); err != nil || c != nil {
		t.Fatalf("a part that is at work is given to another: %+v, %v", c, err)
	}
	for _, change := range []string{"update river_job set state = 'running', attempted_at = now() where args->>'job' = '" + j.ID.String() + "'", "update job_part set leased_until = now() - interval '1 second' where job_id = '" + j.ID.String() + "'"} {
		if _, err := testStore.SQL().Exec(change); err != nil {
			t.Fatal(err)
		}
	}
	working(t, plan.NewPlanner())
	until(t, "the parts of the dead worker", func() bool { return reread(t, j).State() == store.JobFinished })
}

// A part that no worker survives ends its job, with the reason.
func TestAJobThatKillsItsWorkersIsGivenUp(t *testing.T) {
	j := started(t, cervical, 10)
	if _, err := testStore.SQL().Exec("update job_part set attempts = 5, leased_until = now() - interval '1 second' where number = 0 and job_id = $1", j.ID); err != nil {
		t.Fatal(err)
	}
	if err := testStore.Reclaim(t.Context()); err != nil {
		t.Fatal(err)
	}
	if j = reread(t, j); j.State() != store.JobFailed || !strings.Contains(*j.Failed, "5 workers ended") {
		t.Errorf("it is %s: %v", j.State(), j.Failed)
	}
}

// A run that cannot be done ends with its reason, and holds up no other.
func TestARunThatCannotBeDoneSaysWhy(t *testing.T) {
	j := started(t, strings.Replace(cervical, `"school":"adhesive"`, `"school":"house-gone/1"`, 1), 10)
	next := started(t, cervical, 10)
	working(t, plan.NewPlanner())
	until(t, "the run after it", func() bool { return reread(t, next).State() == store.JobFinished })
	if j = reread(t, j); j.Failed == nil || *j.Failed == "" {
		t.Error("the run does not say that it failed")
	}
}

const molar = `{"schema":"obturon.case/1","tooth":"46","patient":{"age_years":34},
 "findings":[{"kind":"fissure_caries","site":"central","depth":"outer_dentin"}],"choice":{"material":"amalgam","school":"board"}}`

// fine starts to load a case's tooth, by a wrong load where newtons are none.
func fine(t *testing.T, c *store.Case, newtons float64) *store.Job {
	t.Helper()
	with := forces.Loading{Bite: resist.Usual().Bite(false, nil), Assumed: resist.Usual()}
	with.Bite.Newtons = newtons
	input, err := json.Marshal(FineInput{Posed: Posed{Case: []byte(molar)}, Loading: with})
	if err != nil {
		t.Fatal(err)
	}
	asked := store.Job{PracticeID: c.PracticeID, UserID: c.CreatedBy, CaseID: &c.ID, Kind: store.FineDeflection, Key: fmt.Sprint(c.ID, newtons), Priority: store.Interactive, Input: input}
	j, err := testStore.Ask(t.Context(), asked, store.Asking{ForGood: true, Start: true})
	if err != nil {
		t.Fatal(err)
	}
	return j
}

// A run in which its worker is stopped is finished by the next one; asked for again it is
// not computed twice. One that is ended stops where it is and can be gone on with, and one that
// cannot be done says why.
func TestAToothIsLoadedOnFineCells(t *testing.T) {
	c := aCase(t, "46", molar)
	r := fine(t, c, 200)
	stop := working(t, plan.NewPlanner())
	until(t, "the first of its progress", func() bool { return reread(t, r).Share() > 0 })
	stop()
	if left := reread(t, r); left.State() != store.JobRuns || left.Share() >= 1 {
		t.Fatalf("before its worker was stopped it came to %.2f", left.Share())
	}
	working(t, plan.NewPlanner())
	until(t, "the result", func() bool { return reread(t, r).State() == store.JobFinished })
	var deflected document.Deflection
	if err := json.Unmarshal(reread(t, r).Result(), &deflected); err != nil || deflected.Cells != 0.25 || deflected.Cut <= deflected.Sound || len(deflected.Cusps) != 5 {
		t.Errorf("it came to %+v: %v", deflected, err)
	}
	if twice := fine(t, c, 200); twice.ID != r.ID || twice.State() != store.JobFinished {
		t.Error("the same was begun twice")
	}

	ended := fine(t, c, 300)
	until(t, "the first of its progress", func() bool { return reread(t, ended).Share() > 0 })
	if _, err := testStore.CancelJob(t.Context(), c.ID, ended.ID, store.FineDeflection); err != nil {
		t.Fatal(err)
	}
	wrong := fine(t, c, 5000)
	until(t, "the run after it", func() bool { return reread(t, wrong).Failed != nil })
	if why := *reread(t, wrong).Failed; !strings.Contains(why, "1 to 1000") {
		t.Errorf("it failed: %s", why)
	}
	if left := reread(t, ended); left.State() != store.JobCancelled || left.Result() != nil {
		t.Error("a run that was ended was done all the same")
	}
	if last, err := testStore.LastJob(t.Context(), c.ID, store.FineDeflection); err != nil || last.ID != wrong.ID {
		t.Errorf("the newest is %+v: %v", last, err)
	}
	if anew := fine(t, c, 300); anew.ID != ended.ID || anew.State() != store.JobRuns {
		t.Errorf("begun again it is %s", anew.State())
	}
	for _, other := range []struct {
		of   uuid.UUID
		kind store.JobKind
	}{{uuid.New(), store.FineDeflection}, {c.ID, store.Tolerance}} {
		if _, err := testStore.CancelJob(t.Context(), other.of, ended.ID, other.kind); !errors.Is(err, store.ErrNotFound) {
			t.Errorf("the job of another case or kind is ended: %v", err)
		}
	}
	if _, err := testStore.CancelJob(t.Context(), c.ID, ended.ID, store.FineDeflection); err != nil {
		t.Fatal(err)
	}
}
