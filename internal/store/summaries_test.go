package store

import (
	"context"
	"testing"

	"github.com/google/uuid"
)

// colleague adds someone to a practice.
func colleague(t *testing.T, u *User, role string) *User {
	t.Helper()
	c, err := testStore.AddUser(context.Background(), User{PracticeID: u.PracticeID, SignIn: role + uuid.NewString(), Name: "Someone else", Role: role, PasswordHash: "x"})
	if err != nil {
		t.Fatal(err)
	}
	return c
}

func TestTheDaySheetComesInPages(t *testing.T) {
	ctx, u := context.Background(), clinic(t)
	const many = 7
	for range many {
		mustCase(t, u)
	}
	seen := map[uuid.UUID]bool{}
	page := Page{Size: 3}
	for pages := 0; ; pages++ {
		cases, err := testStore.Cases(ctx, everyones(u), page)
		if err != nil || pages > many {
			t.Fatalf("page %d: %v", pages, err)
		}
		for n, c := range cases {
			if seen[c.ID] || (n > 0 && c.UpdatedAt.After(cases[n-1].UpdatedAt)) {
				t.Errorf("page %d, entry %d is out of order", pages, n)
			}
			seen[c.ID] = true
		}
		if len(cases) < page.Size {
			break
		}
		last := cases[len(cases)-1]
		page.AfterTime, page.AfterID = last.At(), last.ID
	}
	if len(seen) != many {
		t.Errorf("%d of %d were listed", len(seen), many)
	}
}

func TestAListShowsTheNewestRevision(t *testing.T) {
	ctx, u := context.Background(), clinic(t)
	c := mustCase(t, u)
	for _, verdict := range []string{"missed", "met"} {
		f := fixed(u, c)
		f.Verdict = verdict
		if _, err := testStore.FixRevision(ctx, u.PracticeID, f); err != nil {
			t.Fatal(err)
		}
	}
	cases, err := testStore.Cases(ctx, everyones(u), firstPage)
	if err != nil || len(cases) != 1 {
		t.Fatalf("%v, %v", cases, err)
	}
	if s := cases[0]; s.Revisions != 2 || s.Verdict != "met" || s.Class != "I" || s.School != "board" || s.Patient != "HV-031" || s.By != "Someone" {
		t.Errorf("%+v", s)
	}
}

func TestReachDecidesWhatIsListed(t *testing.T) {
	ctx, dentist := context.Background(), clinic(t)
	learner, another, teacher := colleague(t, dentist, "learner"), colleague(t, dentist, "learner"), colleague(t, dentist, "teacher")
	for _, u := range []*User{dentist, learner, another, teacher} {
		mustCase(t, u)
	}
	mustCase(t, clinic(t))
	for _, k := range []struct {
		name  string
		reach Reach
		want  int
	}{
		{"all", Reach{All: true, User: dentist.ID}, 4},
		{"own", Reach{User: learner.ID}, 1},
		{"own and learners'", Reach{User: teacher.ID, Roles: []string{"learner"}}, 3},
		{"nobody's", Reach{User: uuid.New()}, 0},
	} {
		k.reach.Practice = dentist.PracticeID
		cases, err := testStore.Cases(ctx, k.reach, firstPage)
		if err != nil || len(cases) != k.want {
			t.Errorf("%s: %d cases, %v", k.name, len(cases), err)
		}
	}
}

func TestASittingIsLookedForInThePatientsQuadrant(t *testing.T) {
	ctx, u := context.Background(), clinic(t)
	start := func(code, tooth string) *Case {
		n := newCase(u)
		n.PatientCode, n.Tooth, n.Draft = code, tooth, []byte(`{"tooth":"`+tooth+`"}`)
		c, err := testStore.CreateCase(ctx, n)
		if err != nil {
			t.Fatal(err)
		}
		return c
	}
	first := start("HV-031", "34")
	start("HV-031", "35")
	start("HV-031", "44")
	start("HV-032", "35")
	if err := testStore.ArchiveCase(ctx, u.PracticeID, u.ID, start("HV-031", "33").ID); err != nil {
		t.Fatal(err)
	}
	found, err := testStore.InQuadrant(ctx, everyones(u), first)
	if err != nil || len(found) != 2 || found[0].ID != first.ID || found[1].Tooth != "35" {
		t.Errorf("%v, %v", found, err)
	}
	if found, err := testStore.InQuadrant(ctx, Reach{Practice: u.PracticeID, User: uuid.New()}, first); err != nil || len(found) != 0 {
		t.Errorf("who may not see the cases: %v, %v", found, err)
	}
}
