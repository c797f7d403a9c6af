package job

import (
	"encoding/json"
	"testing"
	"time"

	"obturon/core/pipeline"
	"obturon/internal/plan"
	"obturon/internal/render"
	"obturon/internal/store"
)

// asked asks for the proof of the cervical case of a practice of its own.
func asked(t *testing.T, key string, forGood bool) *store.Job {
	t.Helper()
	c := aCase(t, "33", cervical)
	input, err := json.Marshal(Posed{Case: []byte(cervical)})
	if err != nil {
		t.Fatal(err)
	}
	j, err := testStore.Ask(t.Context(), store.Job{PracticeID: c.PracticeID, UserID: c.CreatedBy, Kind: store.Proof, Key: key, Priority: store.Interactive, Input: input}, store.Asking{ForGood: forGood})
	if err != nil {
		t.Fatal(err)
	}
	return j
}

func keyOf(t *testing.T) string {
	t.Helper()
	c, err := Posed{Case: []byte(cervical)}.read()
	if err != nil {
		t.Fatal(err)
	}
	return plan.ProofKey(c, plan.DefaultGrid)
}

// A proof is made once by whoever works, and kept.
func TestAProofIsMadeByAWorker(t *testing.T) {
	j := asked(t, keyOf(t), true)
	stop := working(t, plan.NewPlanner())
	until(t, "the proof", func() bool {
		made, err := testStore.Job(t.Context(), j.ID)
		return err == nil && made.State() != store.JobRuns
	})
	stop()
	made, err := testStore.Job(t.Context(), j.ID)
	if err != nil || made.State() != store.JobFinished || made.Share() != 1 {
		t.Fatalf("%+v, %v", made, err)
	}
	var proof render.Proof
	if err := json.Unmarshal(made.Result(), &proof); err != nil || len(proof.Steps) < 4 || len(proof.Cuts) != len(proof.Steps) || proof.Core != pipeline.CoreVersion {
		t.Errorf("the proof is %.200s, %v", made.Result(), err)
	}
}

// What nobody looks at any more is not done, and can be asked for again; what was asked for by
// another version of the program ends with that word.
func TestJobsThatAreNotDone(t *testing.T) {
	left := asked(t, keyOf(t), false)
	if _, err := testStore.SQL().Exec("update job set wanted_until = now() - interval '1 second' where id = $1", left.ID); err != nil {
		t.Fatal(err)
	}
	other := asked(t, "a key of another core", true)
	stop := working(t, plan.NewPlanner())
	until(t, "both jobs to end", func() bool {
		_, gone := testStore.Job(t.Context(), left.ID)
		ended, err := testStore.Job(t.Context(), other.ID)
		return gone != nil && err == nil && ended.State() != store.JobRuns
	})
	stop()
	ended, err := testStore.Job(t.Context(), other.ID)
	if err != nil || ended.Failed == nil || *ended.Failed != errOtherCore.Error() {
		t.Errorf("%+v, %v", ended, err)
	}
	again, err := testStore.Ask(t.Context(), store.Job{PracticeID: left.PracticeID, UserID: left.UserID, Kind: left.Kind, Key: left.Key, Priority: left.Priority, Input: left.Input}, store.Asking{})
	if err != nil || again.ID == left.ID || again.State() != store.JobRuns {
		t.Errorf("asked for again it is %+v, %v", again, err)
	}
}

// Everybody who asks the same shares one job; whoever wants it for good keeps it.
func TestTheSameQuestionIsOneJob(t *testing.T) {
	looked := asked(t, "the same", false)
	ask := func(forGood bool) *store.Job {
		t.Helper()
		j, err := testStore.Ask(t.Context(), store.Job{PracticeID: looked.PracticeID, UserID: looked.UserID, Kind: looked.Kind, Key: looked.Key, Priority: looked.Priority, Input: looked.Input}, store.Asking{ForGood: forGood})
		if err != nil {
			t.Fatal(err)
		}
		return j
	}
	time.Sleep(10 * time.Millisecond)
	if again := ask(false); again.ID != looked.ID || !again.WantedUntil.After(*looked.WantedUntil) {
		t.Errorf("asked again it is wanted until %v, before until %v", again.WantedUntil, looked.WantedUntil)
	}
	if kept := ask(true); kept.ID != looked.ID || kept.WantedUntil != nil {
		t.Errorf("kept for good it is wanted until %v", kept.WantedUntil)
	}
	if again := ask(false); again.WantedUntil != nil {
		t.Error("whoever only looks takes away what is kept for good")
	}
	if err := testStore.FailJob(t.Context(), looked.ID, "no room"); err != nil {
		t.Fatal(err)
	}
	if failed := ask(false); failed.Failed == nil {
		t.Error("it is tried again at once")
	}
	if _, err := testStore.SQL().Exec("update job set started_at = now() - interval '5 minutes' where id = $1", looked.ID); err != nil {
		t.Fatal(err)
	}
	if again := ask(false); again.Failed != nil || again.State() != store.JobRuns {
		t.Errorf("after a while it is not tried again: %+v", again)
	}
}
