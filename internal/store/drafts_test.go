package store

import (
	"context"
	"errors"
	"fmt"
	"sync"
	"testing"

	"github.com/google/uuid"
)

func draft(n int) []byte {
	return fmt.Appendf(nil, `{"schema":"obturon.case/1","tooth":"46","n":%d}`, n)
}

func TestADraftIsSavedFromTheVersionItWasReadAt(t *testing.T) {
	ctx, u := context.Background(), clinic(t)
	c := mustCase(t, u)
	save := func(version, n int) (int, error) {
		return testStore.SaveDraft(ctx, u.PracticeID, u.ID, c.ID, version, draft(n))
	}
	for _, k := range []struct {
		name           string
		version, n     int
		want           int
		wantErr        error
		wantKept       int
		wantKeptPrefix string
	}{
		{name: "the first", version: 1, n: 1, want: 2, wantKept: 1},
		{name: "the next", version: 2, n: 2, want: 3, wantKept: 2},
		{name: "another's, from before", version: 2, n: 9, wantErr: ErrStale, wantKept: 2},
		{name: "sent again, its answer lost", version: 2, n: 2, want: 3, wantKept: 2},
		{name: "from a version to come", version: 7, n: 3, wantErr: ErrStale, wantKept: 2},
		{name: "on it goes", version: 3, n: 3, want: 4, wantKept: 3},
	} {
		got, err := save(k.version, k.n)
		if !errors.Is(err, k.wantErr) || got != k.want {
			t.Errorf("%s: version %d, %v", k.name, got, err)
		}
		kept, err := testStore.Case(ctx, u.PracticeID, c.ID)
		if err != nil {
			t.Fatal(err)
		}
		var same bool
		if err := testStore.SQL().QueryRow("select $1::jsonb = $2::jsonb", string(kept.Draft), string(draft(k.wantKept))).Scan(&same); err != nil || !same {
			t.Errorf("%s: kept %s", k.name, kept.Draft)
		}
	}
}

func TestOfManyWhoSaveAtOnceOneWins(t *testing.T) {
	ctx, u := context.Background(), clinic(t)
	c := mustCase(t, u)
	const many = 8
	outcomes := make(chan error, many)
	var together sync.WaitGroup
	for n := range many {
		together.Go(func() {
			_, err := testStore.SaveDraft(ctx, u.PracticeID, u.ID, c.ID, 1, draft(n))
			outcomes <- err
		})
	}
	together.Wait()
	close(outcomes)
	saved := 0
	for err := range outcomes {
		if err == nil {
			saved++
		} else if !errors.Is(err, ErrStale) {
			t.Error(err)
		}
	}
	if saved != 1 {
		t.Errorf("%d of %d were saved over each other", saved, many)
	}
}

func TestOnlyTheDraftThatWasPlannedIsFixed(t *testing.T) {
	ctx, u := context.Background(), clinic(t)
	c := mustCase(t, u)
	if _, err := testStore.SaveDraft(ctx, u.PracticeID, u.ID, c.ID, 1, draft(1)); err != nil {
		t.Fatal(err)
	}
	if _, err := testStore.FixRevision(ctx, u.PracticeID, fixed(u, c)); !errors.Is(err, ErrStale) {
		t.Errorf("a plan of the draft before was fixed: %v", err)
	}
}

func TestARequestSentAgainIsDoneOnce(t *testing.T) {
	ctx, u := context.Background(), clinic(t)
	key := uuid.New()
	n := newCase(u)
	n.RequestKey = &key
	ids, numbers := map[uuid.UUID]bool{}, map[int]bool{}
	var mu sync.Mutex
	var together sync.WaitGroup
	for range 6 {
		together.Go(func() {
			c, err := testStore.CreateCase(ctx, n)
			if err != nil {
				t.Error(err)
				return
			}
			f := fixed(u, c)
			f.RequestKey = &key
			r, err := testStore.FixRevision(ctx, u.PracticeID, f)
			if err != nil {
				t.Error(err)
				return
			}
			mu.Lock()
			ids[c.ID], numbers[r.Number] = true, true
			mu.Unlock()
		})
	}
	together.Wait()
	if len(ids) != 1 || len(numbers) != 1 {
		t.Errorf("%d cases, %d revisions", len(ids), len(numbers))
	}
	n.Creator = colleague(t, u, "learner").ID
	if _, err := testStore.CreateCase(ctx, n); !errors.Is(err, ErrTaken) {
		t.Errorf("another's key opens a case: %v", err)
	}
	n.RequestKey = nil
	if c, err := testStore.CreateCase(ctx, n); err != nil || ids[c.ID] {
		t.Errorf("another case is taken for the first: %v", err)
	}
}

func TestABirthYearIsCorrectedInTheDraftsToo(t *testing.T) {
	ctx, u := context.Background(), clinic(t)
	n := newCase(u)
	n.Draft = []byte(`{"schema":"obturon.case/1","tooth":"46","patient":{"age_years":34}}`)
	var cases []*Case
	for range 2 {
		c, err := testStore.CreateCase(ctx, n)
		if err != nil {
			t.Fatal(err)
		}
		cases = append(cases, c)
	}
	for range 2 { // the second time there is nothing to correct
		if err := testStore.CorrectBirthYear(ctx, u.PracticeID, u.ID, cases[0].ID, n.BirthYear-3); err != nil {
			t.Fatal(err)
		}
	}
	for _, c := range cases {
		got, err := testStore.Case(ctx, u.PracticeID, c.ID)
		if err != nil || got.Patient.BirthYear != n.BirthYear-3 || got.DraftVersion != 2 {
			t.Errorf("born %d, draft %d, %v", got.Patient.BirthYear, got.DraftVersion, err)
		}
		var age float64
		if err := testStore.SQL().QueryRow("select (draft #>> '{patient,age_years}')::float from dental_case where id = $1", c.ID).Scan(&age); err != nil || age != 37 {
			t.Errorf("aged %v, %v", age, err)
		}
	}
	var noted int
	if err := testStore.SQL().QueryRow("select count(*) from audit_entry where practice_id = $1 and action = 'correct birth year'", u.PracticeID).Scan(&noted); err != nil || noted != 1 {
		t.Errorf("noted %d times, %v", noted, err)
	}
	if err := testStore.CorrectBirthYear(ctx, clinic(t).PracticeID, u.ID, cases[0].ID, 1990); !errors.Is(err, ErrNotFound) {
		t.Errorf("another practice corrects it: %v", err)
	}
}
