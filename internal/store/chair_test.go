package store

import (
	"context"
	"errors"
	"testing"

	"github.com/google/uuid"
)

// What happens at the chair is kept once, in its order, however often it is sent.
func TestARunIsKept(t *testing.T) {
	ctx := context.Background()
	u := clinic(t)
	c, err := testStore.CreateCase(ctx, newCase(u))
	if err != nil {
		t.Fatal(err)
	}
	key := uuid.New()
	begin := ChairRun{CaseID: c.ID, UserID: u.ID, RequestKey: &key, CaseDocument: []byte(`{}`), Sequence: []byte(`{"steps":[]}`), Examination: true, LimitMinutes: 60}
	id, err := testStore.StartRun(ctx, u.PracticeID, begin)
	if err != nil {
		t.Fatal(err)
	}
	if again, err := testStore.StartRun(ctx, u.PracticeID, begin); err != nil || again != id {
		t.Errorf("the same request begins %v, %v", again, err)
	}
	run := &ChairRun{ID: id, UserID: u.ID}
	unused := func([]byte) ([]byte, error) { return nil, errors.New("no kit is written down") }
	events := []ChairEvent{{Number: 2, Kind: "done", Step: 1, AtSeconds: 20.5}, {Number: 1, Kind: "too_deep", Step: 1, AtSeconds: 10, MM: 0.3}}
	for range 2 {
		if err := testStore.KeepEvents(ctx, u.PracticeID, run, events, false, unused); err != nil {
			t.Fatal(err)
		}
	}
	if err := testStore.KeepEvents(ctx, u.PracticeID, run, []ChairEvent{{Number: 2, Kind: "skipped", Step: 9, AtSeconds: 99}, {Number: 3, Kind: "finished", Step: 2, AtSeconds: 30}}, true, unused); err != nil {
		t.Fatal(err)
	}
	run, err = testStore.Run(ctx, c.ID, id)
	if err != nil {
		t.Fatal(err)
	}
	if len(run.Events) != 3 || run.Events[0].MM != 0.3 || run.Events[1].Kind != "done" || run.Events[1].AtSeconds != 20.5 || run.FinishedAt == nil || !run.Examination || run.LimitMinutes != 60 || run.User.ID != u.ID {
		t.Errorf("kept is %+v", run)
	}
	if all, err := testStore.Runs(ctx, c.ID); err != nil || len(all) != 1 || len(all[0].Events) != 3 {
		t.Errorf("listed are %+v, %v", all, err)
	}
	if past, err := testStore.PastRuns(ctx, u.ID, uuid.New()); err != nil || len(past) != 1 || len(past[0].Events) != 3 {
		t.Errorf("past runs are %+v, %v", past, err)
	}
	if past, err := testStore.PastRuns(ctx, u.ID, id); err != nil || len(past) != 0 {
		t.Errorf("the run itself is past: %+v, %v", past, err)
	}
}

func TestARunNeedsItsCase(t *testing.T) {
	ctx := context.Background()
	u, other := clinic(t), clinic(t)
	c, err := testStore.CreateCase(ctx, newCase(u))
	if err != nil {
		t.Fatal(err)
	}
	begin := ChairRun{CaseID: c.ID, UserID: other.ID, CaseDocument: []byte(`{}`), Sequence: []byte(`{}`)}
	if _, err := testStore.StartRun(ctx, other.PracticeID, begin); !errors.Is(err, ErrNotFound) {
		t.Errorf("another practice's case: %v", err)
	}
	if err := testStore.ArchiveCase(ctx, u.PracticeID, u.ID, c.ID); err != nil {
		t.Fatal(err)
	}
	begin.UserID = u.ID
	if _, err := testStore.StartRun(ctx, u.PracticeID, begin); !errors.Is(err, ErrArchived) {
		t.Errorf("an archived case: %v", err)
	}
	if _, err := testStore.Run(ctx, c.ID, uuid.New()); !errors.Is(err, ErrNotFound) {
		t.Errorf("a run that there is not: %v", err)
	}
}
