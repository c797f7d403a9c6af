package store

import (
	"context"
	"errors"
	"fmt"
	"strings"
	"sync"
	"testing"
)

func rules(u *User, slug string, version int) PracticeDocument {
	base := "board"
	return PracticeDocument{
		PracticeID: u.PracticeID, Kind: HouseRules(slug), Version: version, Base: &base, ChangedBy: u.ID,
		Document: []byte(fmt.Sprintf(`{"id":%q,"version":"%d"}`, slug, version)),
	}
}

func TestHouseRulesKeepEveryVersion(t *testing.T) {
	ctx := context.Background()
	u, other := clinic(t), clinic(t)
	for version := 1; version <= 3; version++ {
		if _, err := testStore.SavePracticeDocument(ctx, rules(u, "house-bench", version)); err != nil {
			t.Fatal(err)
		}
	}
	for asked, want := range map[int]int{0: 3, 1: 1, 2: 2} {
		if h, err := testStore.DocumentVersion(ctx, HouseRules("house-bench"), u.PracticeID, asked); err != nil || h.Version != want || h.Author.ID != u.ID {
			t.Errorf("version %d: %+v %v", asked, h, err)
		}
	}
	if _, err := testStore.DocumentVersion(ctx, HouseRules("house-bench"), other.PracticeID, 0); !errors.Is(err, ErrNotFound) {
		t.Errorf("another practice reads them: %v", err)
	}
	if _, err := testStore.SavePracticeDocument(ctx, rules(u, "house-second", 1)); err != nil {
		t.Fatal(err)
	}
	all, err := testStore.HouseSchools(ctx, u.PracticeID, false)
	if err != nil || len(all) != 2 || all[0].Version != 3 || all[1].Kind != "house-second" {
		t.Errorf("listed %+v %v", all, err)
	}
}

func TestTwoWhoChangeTheSameRules(t *testing.T) {
	ctx := context.Background()
	u := clinic(t)
	if _, err := testStore.SavePracticeDocument(ctx, rules(u, "house-bench", 1)); err != nil {
		t.Fatal(err)
	}
	const many = 6
	var together sync.WaitGroup
	kept := make(chan error, many)
	for range many {
		together.Go(func() {
			_, err := testStore.SavePracticeDocument(ctx, rules(u, "house-bench", 2))
			kept <- err
		})
	}
	together.Wait()
	close(kept)
	saved := 0
	for err := range kept {
		switch {
		case err == nil:
			saved++
		case !errors.Is(err, ErrTaken):
			t.Errorf("%v", err)
		}
	}
	if saved != 1 {
		t.Errorf("version 2 was kept %d times", saved)
	}
	if _, err := testStore.SavePracticeDocument(ctx, rules(u, "house-bench", 4)); !errors.Is(err, ErrTaken) {
		t.Errorf("a version was skipped: %v", err)
	}
}

func TestHouseRulesAreWrittenOnceAndArchived(t *testing.T) {
	ctx, u := context.Background(), clinic(t)
	if _, err := testStore.SavePracticeDocument(ctx, rules(u, "house-bench", 1)); err != nil {
		t.Fatal(err)
	}
	for _, change := range []string{"update practice_document set base='other'", "delete from practice_document"} {
		if _, err := testStore.SQL().ExecContext(ctx, change); err == nil || !strings.Contains(err.Error(), "never changed or deleted") {
			t.Errorf("%s: %v", change, err)
		}
	}
	if err := testStore.ArchiveHouseSchool(ctx, clinic(t).PracticeID, u.ID, "house-bench"); !errors.Is(err, ErrNotFound) {
		t.Errorf("another practice archives them: %v", err)
	}
	for range 2 {
		if err := testStore.ArchiveHouseSchool(ctx, u.PracticeID, u.ID, "house-bench"); err != nil {
			t.Fatal(err)
		}
	}
	if all, err := testStore.HouseSchools(ctx, u.PracticeID, false); err != nil || len(all) != 0 {
		t.Errorf("archived rules are listed: %v, %v", all, err)
	}
	if all, err := testStore.HouseSchools(ctx, u.PracticeID, true); err != nil || len(all) != 1 {
		t.Errorf("the archive lists %v, %v", all, err)
	}
	if is, err := testStore.HouseSchoolArchived(ctx, u.PracticeID, "house-bench"); err != nil || !is {
		t.Errorf("archived: %v, %v", is, err)
	}
	if _, err := testStore.DocumentVersion(ctx, HouseRules("house-bench"), u.PracticeID, 1); err != nil {
		t.Errorf("plans made under them lost them: %v", err)
	}
	if err := testStore.RestoreHouseSchool(ctx, u.PracticeID, u.ID, "house-bench"); err != nil {
		t.Fatal(err)
	}
	if all, err := testStore.HouseSchools(ctx, u.PracticeID, false); err != nil || len(all) != 1 {
		t.Errorf("restored: %v, %v", all, err)
	}
}
