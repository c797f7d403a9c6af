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
	deep, done := uuid.New(), uuid.New()
	events := []ChairEvent{{ID: deep, Kind: "too_deep", Step: 1, AtSeconds: 10, MM: 0.3}, {ID: done, Kind: "done", Step: 1, AtSeconds: 20.5}}
	for range 2 {
		if err := testStore.KeepEvents(ctx, u.PracticeID, run, events, false, unused); err != nil {
			t.Fatal(err)
		}
	}
	if err := testStore.KeepEvents(ctx, u.PracticeID, run, []ChairEvent{{ID: done, Kind: "done", Step: 1, AtSeconds: 20.5}, {ID: uuid.New(), Kind: "finished", Step: 2, AtSeconds: 30}}, true, unused); err != nil {
		t.Fatal(err)
	}
	var differs EventDiffers
	other := []ChairEvent{{ID: uuid.New(), Kind: "reading", Step: 1, AtSeconds: 31}, {ID: done, Kind: "skipped", Step: 9, AtSeconds: 99}}
	if err := testStore.KeepEvents(ctx, u.PracticeID, run, other, false, unused); !errors.As(err, &differs) || differs.ID != done {
		t.Errorf("an event of the same id with other content: %v", err)
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

// Two windows of one run note at once: nothing of either is dropped, and each event has a
// number of its own.
func TestTwoWindowsOfARunLoseNothing(t *testing.T) {
	ctx := context.Background()
	u := clinic(t)
	c, err := testStore.CreateCase(ctx, newCase(u))
	if err != nil {
		t.Fatal(err)
	}
	id, err := testStore.StartRun(ctx, u.PracticeID, ChairRun{CaseID: c.ID, UserID: u.ID, CaseDocument: []byte(`{}`), Sequence: []byte(`{"steps":[]}`)})
	if err != nil {
		t.Fatal(err)
	}
	const windows, notes = 4, 8
	done := make(chan error)
	for range windows {
		go func() {
			for n := range notes {
				note := []ChairEvent{{ID: uuid.New(), Kind: "pulp_seen", AtSeconds: float64(n)}}
				if err := testStore.KeepEvents(ctx, u.PracticeID, &ChairRun{ID: id, UserID: u.ID}, note, false, nil); err != nil {
					done <- err
					return
				}
			}
			done <- nil
		}()
	}
	for range windows {
		if err := <-done; err != nil {
			t.Error(err)
		}
	}
	run, err := testStore.Run(ctx, c.ID, id)
	if err != nil {
		t.Fatal(err)
	}
	if len(run.Events) != windows*notes {
		t.Errorf("%d of %d notes are kept", len(run.Events), windows*notes)
	}
	for n, e := range run.Events {
		if e.Number != n+1 {
			t.Errorf("event %d has number %d", n, e.Number)
		}
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
