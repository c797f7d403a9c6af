package store

import (
	"context"
	"strings"
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
	for ; page.Number < 3; page.Number++ {
		cases, err := testStore.Cases(ctx, everyones(u), page)
		if err != nil {
			t.Fatalf("page %d: %v", page.Number, err)
		}
		for n, c := range cases {
			if seen[c.ID] || c.Total != many || (n > 0 && c.UpdatedAt.After(cases[n-1].UpdatedAt)) {
				t.Errorf("page %d, entry %d is out of order or place", page.Number, n)
			}
			seen[c.ID] = true
		}
	}
	if len(seen) != many {
		t.Errorf("%d of %d were listed", len(seen), many)
	}
}

// planned starts a case whose plan the day sheet knows.
func planned(t *testing.T, u *User, code, tooth, class, verdict, words string) *Case {
	t.Helper()
	n := newCase(u)
	n.PatientCode, n.Tooth, n.Draft = code, tooth, []byte(`{"tooth":"`+tooth+`","choice":{"school":"house-own"}}`)
	c, err := testStore.CreateCase(context.Background(), n)
	if err != nil {
		t.Fatal(err)
	}
	err = testStore.KeepSummary(context.Background(), PlanSummary{
		CaseID: c.ID, DraftVersion: 1, CoreVersion: "1", Class: class, Verdict: verdict, Material: "amalgam", School: "house-own",
		Surfaces: "MO", Emblem: []byte(`{"x":1}`), Words: words,
	})
	if err != nil {
		t.Fatal(err)
	}
	return c
}

func teethOf(t *testing.T, u *User, p Page) string {
	t.Helper()
	p.Size, p.Core = 20, "1"
	cases, err := testStore.Cases(context.Background(), everyones(u), p)
	if err != nil {
		t.Fatal(err)
	}
	var teeth []string
	for _, c := range cases {
		teeth = append(teeth, c.Tooth)
	}
	return strings.Join(teeth, " ")
}

func TestTheDaySheetIsSearchedAndSorted(t *testing.T) {
	u := clinic(t)
	planned(t, u, "HV-032", "47", "II", "near", "class ii mesial occlusal mo amalgam board near")
	planned(t, u, "HV-031", "36", "III", "missed", "class iii distal composite adhesive missed")
	planned(t, u, "HV-032", "26", "I", "met", "class i occlusal amalgam board met")
	for _, k := range []struct {
		words []Word
		want  string
	}{
		{nil, "26 47 36"},
		{[]Word{{Text: "#31", Teeth: []string{"47"}}}, "47"},
		{[]Word{{Text: "31", Teeth: []string{"31", "47"}}}, "36 47"}, // a tooth, and a patient's code
		{[]Word{{Text: "class"}, {Text: "II"}}, "47"},
		{[]Word{{Text: "ama"}}, ""},
		{[]Word{{Text: "amal"}}, "26 47"},
		{[]Word{{Text: "hv-032"}, {Text: "near"}}, "47"},
		{[]Word{{Text: "draft"}}, "26 47 36"},
		{[]Word{{Text: "%"}}, ""}, {[]Word{{Text: "_v"}}, ""}, {[]Word{{Text: `\'; --`}}, ""},
	} {
		if got := teethOf(t, u, Page{Words: k.words}); got != k.want {
			t.Errorf("%v finds %q, not %q", k.words, got, k.want)
		}
	}
	for order, want := range map[Order]string{Newest: "26 47 36", ByPatient: "36 26 47", ByTooth: "26 36 47", Worst: "36 47 26", "wild": "26 47 36"} {
		if got := teethOf(t, u, Page{Order: order, Verdicts: []string{"missed", "refused", "near", "met"}}); got != want {
			t.Errorf("%s: %s", order, got)
		}
	}
}

func TestAListShowsWhatTheDraftHasComeTo(t *testing.T) {
	ctx, u := context.Background(), clinic(t)
	c := planned(t, u, "HV-031", "47", "II", "near", "class ii")
	page := Page{Size: 5, Core: "1"}
	listed := func() Summary {
		t.Helper()
		cases, err := testStore.Cases(ctx, everyones(u), page)
		if err != nil || len(cases) != 1 {
			t.Fatalf("%v, %v", cases, err)
		}
		return cases[0]
	}
	if s := listed(); !s.Planned || s.Class != "II" || s.Verdict != "near" || string(s.Emblem) != `{"x": 1}` || s.Revisions != 0 || s.By != "Someone" {
		t.Errorf("%+v", s)
	}
	if _, err := testStore.FixRevision(ctx, u.PracticeID, fixed(u, c)); err != nil {
		t.Fatal(err)
	}
	if _, err := testStore.SaveDraft(ctx, u.PracticeID, u.ID, c.ID, 1, []byte(`{"tooth":"47","n":1}`)); err != nil {
		t.Fatal(err)
	}
	if s := listed(); s.Planned || s.Class != "" || s.Revisions != 1 {
		t.Errorf("a draft that has changed still shows %+v", s)
	}
	for _, core := range []string{"1", "2"} { // an older core's plan counts as little
		next, err := testStore.Unsummarised(ctx, core, 0)
		if err != nil || next.DraftVersion == 0 {
			t.Errorf("core %s: %v, %v", core, next, err)
		}
	}
}

func TestHouseRulesThatChangePlanTheirDraftsAnew(t *testing.T) {
	ctx, u := context.Background(), clinic(t)
	planned(t, u, "HV-031", "47", "II", "near", "class ii")
	if _, err := testStore.SavePracticeDocument(ctx, rules(u, "house-own", 1)); err != nil {
		t.Fatal(err)
	}
	cases, err := testStore.Cases(ctx, everyones(u), Page{Size: 5, Core: "1"})
	if err != nil || len(cases) != 1 || cases[0].Planned {
		t.Errorf("%+v, %v", cases, err)
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
	quadrant := []string{"31", "32", "33", "34", "35", "36", "37", "38", "71", "75"}
	found, err := testStore.OnTeeth(ctx, everyones(u), first, quadrant)
	if err != nil || len(found) != 2 || found[0].ID != first.ID || found[1].Tooth != "35" {
		t.Errorf("%v, %v", found, err)
	}
	if found, err := testStore.OnTeeth(ctx, Reach{Practice: u.PracticeID, User: uuid.New()}, first, quadrant); err != nil || len(found) != 0 {
		t.Errorf("who may not see the cases: %v, %v", found, err)
	}
}
