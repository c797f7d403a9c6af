package store

import (
	"bytes"
	"context"
	"errors"
	"testing"

	"github.com/google/uuid"
)

// Two who change a kit do not overwrite each other, and a run counts its uses once.
func TestAKitIsKept(t *testing.T) {
	ctx := context.Background()
	u := clinic(t)
	if k, err := testStore.PracticeDocument(ctx, Kits, u.PracticeID); err != nil || k != nil {
		t.Fatalf("nobody wrote %+v, %v", k, err)
	}
	save := func(version int, text string) error {
		_, err := testStore.SavePracticeDocument(ctx, PracticeDocument{PracticeID: u.PracticeID, Kind: Kits, Version: version, Document: []byte(text), ChangedBy: u.ID})
		return err
	}
	for _, c := range []struct {
		version int
		want    error
	}{{1, nil}, {1, ErrTaken}, {3, ErrTaken}, {2, nil}, {2, ErrTaken}} {
		if err := save(c.version, `{"items": []}`); !errors.Is(err, c.want) {
			t.Errorf("version %d: %v, want %v", c.version, err, c.want)
		}
	}
	c, err := testStore.CreateCase(ctx, newCase(u))
	if err != nil {
		t.Fatal(err)
	}
	id, err := testStore.StartRun(ctx, u.PracticeID, ChairRun{CaseID: c.ID, UserID: u.ID, CaseDocument: []byte(`{}`), Sequence: []byte(`{}`)})
	if err != nil {
		t.Fatal(err)
	}
	run, asked := &ChairRun{ID: id, UserID: u.ID}, 0
	used := func(kit []byte) ([]byte, error) {
		if asked++; !bytes.Contains(kit, []byte("items")) {
			t.Errorf("counted in %s", kit)
		}
		return []byte(`{"items": [1]}`), nil
	}
	over := func(used func([]byte) ([]byte, error)) error {
		return testStore.KeepEvents(ctx, u.PracticeID, run, []ChairEvent{{ID: uuid.New(), Kind: "finished"}}, true, used)
	}
	broken := errors.New("the kit cannot be read")
	if err := over(func([]byte) ([]byte, error) { return nil, broken }); !errors.Is(err, broken) {
		t.Errorf("a kit that cannot be read: %v", err)
	}
	if kept, err := testStore.Run(ctx, c.ID, id); err != nil || kept.FinishedAt != nil || len(kept.Events) > 0 {
		t.Errorf("half of it is kept: %+v, %v", kept, err)
	}
	for range 2 {
		if err := over(used); err != nil {
			t.Fatal(err)
		}
	}
	if k, err := testStore.PracticeDocument(ctx, Kits, u.PracticeID); err != nil || asked != 1 || k.Version != 3 || !bytes.Contains(k.Document, []byte("1")) {
		t.Errorf("counted %d times: %+v, %v", asked, k, err)
	}
	if k, err := testStore.PracticeDocument(ctx, Kits, uuid.New()); err != nil || k != nil {
		t.Errorf("another practice has %+v, %v", k, err)
	}
}
