package store

import (
	"fmt"
	"slices"
	"testing"

	"github.com/google/uuid"
)

// testKind is a kind of its own for each test: no other test's jobs are taken.
func testKind() JobKind {
	id := uuid.New()
	letters := make([]byte, len(id))
	for n, b := range id {
		letters[n] = 'a' + b%26
	}
	return JobKind("test_" + string(letters))
}

// begun is a job of somebody's in so many parts.
func begun(t *testing.T, u *User, kind JobKind, key string, priority Priority, parts int) *Job {
	t.Helper()
	asked := Job{PracticeID: u.PracticeID, UserID: u.ID, Kind: kind, Key: key, Priority: priority, Input: []byte("{}"), Parts: make([]JobPart, parts)}
	j, err := testStore.Ask(t.Context(), asked, Asking{ForGood: true})
	if err != nil {
		t.Fatal(err)
	}
	return j
}

// claims takes all parts of a kind one after the other, and tells whose job each was of.
func claims(t *testing.T, kind JobKind, keep bool) (keys []string) {
	t.Helper()
	for {
		c, err := testStore.Claim(t.Context(), []JobKind{kind})
		if err != nil {
			t.Fatal(err)
		}
		if c == nil {
			return keys
		}
		keys = append(keys, c.Of.Key)
		if keep {
			if err := testStore.Keep(t.Context(), c, []byte(`{"done": true}`), []byte(`"shared"`)); err != nil {
				t.Fatal(err)
			}
		}
	}
}

// Nobody's many jobs hold up another's one, and what somebody waits for goes before a batch.
func TestWorkIsGivenOutFairly(t *testing.T) {
	kind := testKind()
	first, second := clinic(t), clinic(t)
	for n := range 5 {
		begun(t, first, kind, fmt.Sprint("first ", n), Batch, 2)
	}
	begun(t, second, kind, "second", Batch, 1)
	begun(t, first, kind, "first waits", Interactive, 1)
	got := claims(t, kind, true)
	if len(got) != 12 || got[0] != "first waits" || got[1] != "second" {
		t.Errorf("done in the order %q", got)
	}
	if !slices.IsSorted(got[2:]) {
		t.Errorf("of one person's not the oldest first: %q", got)
	}
}

// A job in parts is done when its last one is, and keeps the first answer; what a part of it cannot
// be done is told of the whole.
func TestAJobInParts(t *testing.T) {
	kind := testKind()
	u := clinic(t)
	j := begun(t, u, kind, "parts", Batch, 3)
	c, err := testStore.Claim(t.Context(), []JobKind{kind})
	if err != nil || c.Number != 0 || c.Attempts != 1 {
		t.Fatalf("%+v, %v", c, err)
	}
	if wanted, err := testStore.Renew(t.Context(), c, 0.5); err != nil || !wanted {
		t.Errorf("%v, %v", wanted, err)
	}
	for _, answer := range []string{`"first"`, `"second"`} {
		if err := testStore.Keep(t.Context(), c, []byte(answer), []byte(answer)); err != nil {
			t.Fatal(err)
		}
	}
	if j, err = testStore.Job(t.Context(), j.ID); err != nil || j.State() != JobRuns || string(j.Parts[0].Result) != `"first"` || string(j.Shared) != `"first"` || j.Share() < 0.33 || j.Share() > 0.34 {
		t.Errorf("%+v, %v", j, err)
	}
	if wanted, err := testStore.Renew(t.Context(), c, 0.5); err != nil || wanted {
		t.Errorf("what is done is still wanted: %v, %v", wanted, err)
	}
	if got := claims(t, kind, true); len(got) != 2 {
		t.Errorf("%q were left", got)
	}
	if j, err = testStore.Job(t.Context(), j.ID); err != nil || j.State() != JobFinished || j.Share() != 1 || j.DoneAt == nil {
		t.Errorf("%+v, %v", j, err)
	}
}
