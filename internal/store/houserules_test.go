package store

import (
	"context"
	"errors"
	"fmt"
	"sync"
	"testing"
)

func rules(u *User, slug string, version int) HouseSchool {
	return HouseSchool{
		PracticeID: u.PracticeID, Slug: slug, Version: version, Base: "board", CreatedBy: u.ID,
		Document: []byte(fmt.Sprintf(`{"id":%q,"version":"%d"}`, slug, version)),
	}
}

func TestHouseRulesKeepEveryVersion(t *testing.T) {
	ctx := context.Background()
	u, other := clinic(t), clinic(t)
	for version := 1; version <= 3; version++ {
		if _, err := testStore.SaveHouseSchool(ctx, rules(u, "house-bench", version)); err != nil {
			t.Fatal(err)
		}
	}
	for asked, want := range map[int]int{0: 3, 1: 1, 2: 2} {
		if h, err := testStore.HouseSchool(ctx, u.PracticeID, "house-bench", asked); err != nil || h.Version != want || h.Author.ID != u.ID {
			t.Errorf("version %d: %+v %v", asked, h, err)
		}
	}
	if _, err := testStore.HouseSchool(ctx, other.PracticeID, "house-bench", 0); !errors.Is(err, ErrNotFound) {
		t.Errorf("another practice reads them: %v", err)
	}
	if _, err := testStore.SaveHouseSchool(ctx, rules(u, "house-second", 1)); err != nil {
		t.Fatal(err)
	}
	all, err := testStore.HouseSchools(ctx, u.PracticeID)
	if err != nil || len(all) != 2 || all[0].Version != 3 || all[1].Slug != "house-second" {
		t.Errorf("listed %+v %v", all, err)
	}
}

func TestTwoWhoChangeTheSameRules(t *testing.T) {
	ctx := context.Background()
	u := clinic(t)
	if _, err := testStore.SaveHouseSchool(ctx, rules(u, "house-bench", 1)); err != nil {
		t.Fatal(err)
	}
	const many = 6
	var together sync.WaitGroup
	kept := make(chan error, many)
	for range many {
		together.Go(func() {
			_, err := testStore.SaveHouseSchool(ctx, rules(u, "house-bench", 2))
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
	if _, err := testStore.SaveHouseSchool(ctx, rules(u, "house-bench", 4)); !errors.Is(err, ErrTaken) {
		t.Errorf("a version was skipped: %v", err)
	}
}
