package store

import (
	"context"
	"testing"
	"time"

	"github.com/google/uuid"
)

// Whoever listens hears what changes in a practice, with what it takes to look it up.
func TestChangesAreTold(t *testing.T) {
	ctx, stop := context.WithCancel(t.Context())
	told, ready, over := make(chan Change, 100), make(chan struct{}), make(chan error, 1)
	go func() {
		over <- testStore.Listen(ctx, func() { close(ready) }, func(c Change) { told <- c })
	}()
	<-ready
	u := clinic(t)
	next := func(what string) Change {
		t.Helper()
		for {
			select {
			case c := <-told:
				if c.Practice == u.PracticeID && c.What == what {
					return c
				}
			case err := <-over:
				t.Fatal(err)
			case <-time.After(time.Minute):
				t.Fatal("nothing is told of: " + what)
			}
		}
	}
	kept := mustCase(t, u)
	if c := next("case"); *c.Case != kept.ID || c.Version != 1 {
		t.Errorf("a case: %+v", c)
	}
	if _, err := testStore.SaveDraft(ctx, u.PracticeID, u.ID, kept.ID, 1, []byte(`{"tooth": "46", "note": "changed"}`)); err != nil {
		t.Fatal(err)
	}
	if c := next("case"); *c.Case != kept.ID || c.Version != 2 {
		t.Errorf("its draft: %+v", c)
	}
	kept, err := testStore.Case(ctx, u.PracticeID, kept.ID)
	if err != nil {
		t.Fatal(err)
	}
	if _, err := testStore.FixRevision(ctx, u.PracticeID, fixed(u, kept)); err != nil {
		t.Fatal(err)
	}
	next("revision")
	run, err := testStore.StartRun(ctx, u.PracticeID, ChairRun{CaseID: kept.ID, UserID: u.ID, CaseDocument: []byte(`{}`), Sequence: []byte(`{}`)})
	if err != nil {
		t.Fatal(err)
	}
	if c := next("run"); *c.ID != run || *c.Case != kept.ID {
		t.Errorf("a run: %+v", c)
	}
	event := []ChairEvent{{ID: uuid.New(), Kind: "paused"}}
	if err := testStore.KeepEvents(ctx, u.PracticeID, &ChairRun{ID: run, UserID: u.ID}, event, false, nil); err != nil {
		t.Fatal(err)
	}
	if c := next("run"); *c.ID != run {
		t.Errorf("an event: %+v", c)
	}
	if _, err := testStore.SavePracticeDocument(ctx, PracticeDocument{PracticeID: u.PracticeID, Kind: Kits, Version: 1, Document: []byte(`{}`), ChangedBy: u.ID}); err != nil {
		t.Fatal(err)
	}
	next("kit")
	if _, err := testStore.SavePracticeDocument(ctx, rules(u, "house-told", 1)); err != nil {
		t.Fatal(err)
	}
	next("schools")
	for _, change := range []func(context.Context, uuid.UUID, uuid.UUID, string) error{testStore.ArchiveHouseSchool, testStore.RestoreHouseSchool} {
		if err := change(ctx, u.PracticeID, u.ID, "house-told"); err != nil {
			t.Fatal(err)
		}
		next("schools")
	}
	kind := testKind()
	j := begun(t, u, kind, "told", Batch, 1)
	next(string(kind))
	claimed, err := testStore.Claim(ctx, []JobKind{kind})
	if err != nil {
		t.Fatal(err)
	}
	if _, err := testStore.Renew(ctx, claimed, 0.5); err != nil {
		t.Fatal(err)
	}
	if c := next(string(kind)); *c.ID != j.ID {
		t.Errorf("how far a job is: %+v", c)
	}
	stop()
	if err := <-over; err == nil {
		t.Error("who stops listening is not told why")
	}
}
