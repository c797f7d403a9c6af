package store

import (
	"context"
	"errors"
	"fmt"
	"os"
	"strings"
	"sync"
	"testing"

	"github.com/google/uuid"

	"obturon/internal/pg/pgtest"
)

var (
	testStore *Store
	testURL   string
)

func TestMain(m *testing.M) {
	var stop func()
	var err error
	if testURL, stop, err = pgtest.Start(); err != nil {
		fmt.Fprintln(os.Stderr, err)
		os.Exit(1)
	}
	if testStore, err = Open(context.Background(), testURL); err != nil {
		fmt.Fprintln(os.Stderr, err)
		stop()
		os.Exit(1)
	}
	code := m.Run()
	testStore.Close()
	stop()
	os.Exit(code)
}

// clinic makes a practice of its own for a test.
func clinic(t testing.TB) *User {
	t.Helper()
	ctx := context.Background()
	p, err := testStore.EnsurePractice(ctx, "Clinic "+uuid.NewString())
	if err != nil {
		t.Fatal(err)
	}
	u, err := testStore.AddUser(ctx, User{PracticeID: p.ID, SignIn: "u" + uuid.NewString(), Name: "Someone", Role: "dentist", PasswordHash: "x"})
	if err != nil {
		t.Fatal(err)
	}
	return u
}

func newCase(u *User) NewCase {
	return NewCase{
		PatientCode: "HV-031", BirthYear: 1992, Flags: []byte(`{}`), Tooth: "46", Draft: []byte(`{"schema":"obturon.case/1","tooth":"46"}`),
		ConfirmationMethod: "count", ConfirmationAnswer: "lower right 6", PracticeID: u.PracticeID, Creator: u.ID,
	}
}

func mustCase(t *testing.T, u *User) *Case {
	t.Helper()
	c, err := testStore.CreateCase(context.Background(), newCase(u))
	if err != nil {
		t.Fatal(err)
	}
	return c
}

func fixed(u *User, c *Case) Fixed {
	return Fixed{CaseID: c.ID, Author: u.ID, DraftVersion: c.DraftVersion, CaseDocument: c.Draft, PlanDocument: []byte(`{"schema":"obturon.plan/1"}`), Core: "v1", Class: "I", Material: "amalgam", School: "board", Verdict: "near"}
}

func everyones(u *User) Reach { return Reach{Practice: u.PracticeID, User: u.ID, All: true} }

var firstPage = Page{Size: 100}

func TestRevisionsAreNumberedAndImmutable(t *testing.T) {
	ctx, u := context.Background(), clinic(t)
	c := mustCase(t, u)
	for want := 1; want <= 2; want++ {
		r, err := testStore.FixRevision(ctx, u.PracticeID, fixed(u, c))
		if err != nil || r.Number != want {
			t.Fatalf("revision %v, %v; want %d", r, err, want)
		}
	}
	for _, change := range []string{"update plan_revision set core_version='other'", "delete from plan_revision"} {
		if _, err := testStore.SQL().ExecContext(ctx, change); err == nil || !strings.Contains(err.Error(), "never changed or deleted") {
			t.Errorf("%s: %v", change, err)
		}
	}
}

func TestTwoWhoFixAtOnceGetDifferentNumbers(t *testing.T) {
	ctx, u := context.Background(), clinic(t)
	c := mustCase(t, u)
	var wg sync.WaitGroup
	for range 8 {
		wg.Go(func() {
			if _, err := testStore.FixRevision(ctx, u.PracticeID, fixed(u, c)); err != nil {
				t.Error(err)
			}
		})
	}
	wg.Wait()
	again, err := testStore.Case(ctx, u.PracticeID, c.ID)
	if err != nil || len(again.Revisions) != 8 || again.Revisions[7].Number != 8 {
		t.Errorf("revisions %v, %v", again, err)
	}
}

func TestAnotherPracticeSeesNothing(t *testing.T) {
	ctx, owner, stranger := context.Background(), clinic(t), clinic(t)
	c := mustCase(t, owner)
	if _, err := testStore.Case(ctx, stranger.PracticeID, c.ID); !errors.Is(err, ErrNotFound) {
		t.Errorf("read: %v", err)
	}
	if err := func() error {
		_, err := testStore.SaveDraft(ctx, stranger.PracticeID, stranger.ID, c.ID, 1, c.Draft)
		return err
	}(); !errors.Is(err, ErrNotFound) {
		t.Errorf("write: %v", err)
	}
	if err := testStore.ArchiveCase(ctx, stranger.PracticeID, stranger.ID, c.ID); !errors.Is(err, ErrNotFound) {
		t.Errorf("archive: %v", err)
	}
	if _, err := testStore.FixRevision(ctx, stranger.PracticeID, fixed(stranger, c)); !errors.Is(err, ErrNotFound) {
		t.Errorf("fix: %v", err)
	}
}

func TestArchivedCasesLeaveTheDaySheetAndComeBack(t *testing.T) {
	ctx, u := context.Background(), clinic(t)
	c := mustCase(t, u)
	for range 2 { // a second click changes nothing
		if err := testStore.ArchiveCase(ctx, u.PracticeID, u.ID, c.ID); err != nil {
			t.Fatal(err)
		}
	}
	if cases, err := testStore.Cases(ctx, everyones(u), firstPage); err != nil || len(cases) != 0 {
		t.Errorf("%v, %v", cases, err)
	}
	archive := firstPage
	archive.Archived = true
	if cases, err := testStore.Cases(ctx, everyones(u), archive); err != nil || len(cases) != 1 || cases[0].ArchivedAt == nil {
		t.Errorf("%v, %v", cases, err)
	}
	if read, err := testStore.Case(ctx, u.PracticeID, c.ID); err != nil || read.ArchivedAt == nil {
		t.Errorf("an archived case cannot be read: %v", err)
	}
	if _, err := testStore.SaveDraft(ctx, u.PracticeID, u.ID, c.ID, 1, c.Draft); !errors.Is(err, ErrArchived) {
		t.Errorf("a draft in the archive: %v", err)
	}
	if _, err := testStore.FixRevision(ctx, u.PracticeID, fixed(u, c)); !errors.Is(err, ErrArchived) {
		t.Errorf("a revision in the archive: %v", err)
	}
	if err := testStore.RestoreCase(ctx, u.PracticeID, u.ID, c.ID); err != nil {
		t.Fatal(err)
	}
	if cases, err := testStore.Cases(ctx, everyones(u), firstPage); err != nil || len(cases) != 1 {
		t.Errorf("restored: %v, %v", cases, err)
	}
}

func TestTheDatabaseHoldsTheRules(t *testing.T) {
	ctx, u := context.Background(), clinic(t)
	for name, spoil := range map[string]func(*NewCase){
		"tooth and draft differ": func(n *NewCase) { n.Tooth = "36" },
		"unknown tooth":          func(n *NewCase) { n.Tooth, n.Draft = "49", []byte(`{"tooth":"49"}`) },
		"no confirmation":        func(n *NewCase) { n.ConfirmationAnswer = " " },
		"a name for a code":      func(n *NewCase) { n.PatientCode = "Somebody" },
		"birth year":             func(n *NewCase) { n.PatientCode, n.BirthYear = "HV-777", 3 },
	} {
		n := newCase(u)
		spoil(&n)
		if _, err := testStore.CreateCase(ctx, n); err == nil {
			t.Errorf("%s: accepted", name)
		}
	}
	if cases, _ := testStore.Cases(ctx, everyones(u), firstPage); len(cases) != 0 {
		t.Errorf("refused cases left rows: %v", cases)
	}
}

func TestAPatientIsOnePerson(t *testing.T) {
	u := clinic(t)
	mustCase(t, u)
	mustCase(t, u) // the same patient again
	n := newCase(u)
	n.BirthYear = 1950
	if _, err := testStore.CreateCase(context.Background(), n); !errors.Is(err, ErrPatientDiffers) {
		t.Errorf("got %v", err)
	}
}

func TestANewerDatabaseIsNamed(t *testing.T) {
	ctx := context.Background()
	if _, err := testStore.SQL().ExecContext(ctx, "insert into goose_db_version (version_id, is_applied) values (999, true)"); err != nil {
		t.Fatal(err)
	}
	defer func() {
		if _, err := testStore.SQL().ExecContext(ctx, "delete from goose_db_version where version_id=999"); err != nil {
			t.Fatal(err)
		}
	}()
	if _, err := Open(ctx, testURL); err == nil || !strings.Contains(err.Error(), "newer than this program") {
		t.Errorf("got %v", err)
	}
}
