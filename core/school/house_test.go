package school

import (
	"encoding/json"
	"testing"
)

func TestHouseNames(t *testing.T) {
	for name, want := range map[string]string{
		"Halvarra bench": "house-halvarra-bench", "  Ö 3!": "house-3", "...": "", "Our rules, 2nd": "house-our-rules-2nd",
	} {
		if got := HouseID(name); got != want || (got != "" && !IsHouse(got)) {
			t.Errorf("%q becomes %q, want %q", name, got, want)
		}
	}
	for id, want := range map[string]bool{"house-a": true, "house-a.3": true, "house-a.0": false, "house-": false, "board": false, "house-A": false, "house-a.b": false} {
		if IsHouse(id) != want {
			t.Errorf("%q: %v", id, !want)
		}
	}
	if slug, version := SplitHouse("house-our-bench.12"); slug != "house-our-bench" || version != 12 {
		t.Errorf("split into %q %d", slug, version)
	}
}

func TestACopyIsItsOwnAndReadsBack(t *testing.T) {
	board, err := Get("board")
	if err != nil {
		t.Fatal(err)
	}
	own := board.Copy("house-bench", "Bench")
	own.Criteria[0].Aim = 1.25
	if board.Criteria[0].Aim == 1.25 {
		t.Error("changing the copy changed the school")
	}
	data, err := json.Marshal(own)
	if err != nil {
		t.Fatal(err)
	}
	if read, err := Read(data); err != nil || read.Criteria[0].Aim != 1.25 || len(read.Criteria) != len(board.Criteria) {
		t.Errorf("read back: %v", err)
	}
}
