package school

import (
	"encoding/json"
	"slices"
	"strings"
	"testing"

	"obturon/core/notation"
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

// Rules kept before a criterion came are read with it, do not ask for it, and can.
func TestOlderRulesKnowWhatCameSince(t *testing.T) {
	board, err := Get("board")
	if err != nil {
		t.Fatal(err)
	}
	older := board.Copy("house-bench", "Bench")
	older.Criteria = slices.DeleteFunc(older.Criteria, func(c Criterion) bool {
		return c.ID == BoxAxialHeight || c.ID == AnteriorBoxHeight && len(c.When.Tooth) > 0 // a condition that came later
	})
	kept := len(older.Criteria)
	own := older.Knowing(board)
	if err := own.Validate(); err != nil || len(own.Silent(board)) > 0 || len(older.Criteria) != kept {
		t.Errorf("%v, silent on %v", err, own.Silent(board))
	}
	before, _ := older.For(AnteriorBoxHeight, notation.MustParse("52"), Composite)
	after, _ := own.For(AnteriorBoxHeight, notation.MustParse("52"), Composite)
	if before.Required() != after.Required() || before.Target != after.Target {
		t.Errorf("a plan is judged otherwise than when the rules were kept: %+v, %+v", before, after)
	}
	n := slices.IndexFunc(own.Criteria, func(c Criterion) bool { return c.ID == BoxAxialHeight })
	if n < 0 || own.Criteria[n].Required() || !strings.HasPrefix(own.Criteria[n].Why, "Not asked for") {
		t.Fatalf("criterion %d of %d", n, len(own.Criteria))
	}
	if own.Criteria[n].Applies = nil; own.Validate() != nil || own.Criteria[n].Target.Min != 0.6 {
		t.Error("it cannot be asked for")
	}
	if again := own.Knowing(board); len(again.Criteria) != len(own.Criteria) {
		t.Error("what is known came twice")
	}
}

// Rules ask for what can be built, and say something of every criterion.
func TestRulesAreBoundedByWhatCanBeBuilt(t *testing.T) {
	board, err := Get("board")
	if err != nil {
		t.Fatal(err)
	}
	for _, k := range []struct {
		name   string
		id     CriterionID
		change func(*Criterion)
		want   string // "" is accepted
	}{
		{"as it was", ResistPulpalDepth, func(*Criterion) {}, ""},
		{"a depth of 15", ResistPulpalDepth, func(c *Criterion) { c.Target, c.Limits, c.Aim = Range{14, 16}, Range{13, 17}, 15 }, "aim 15 cannot be built: use 0.3 to 5 mm"},
		{"limits alone", ResistPulpalDepth, func(c *Criterion) { c.Limits.Max = 9 }, "limits to 9 cannot be built"},
		{"no dentin over the pulp", ResistPulpDistance, func(c *Criterion) { c.Limits.Min = 0 }, "limits from 0 cannot be built"},
		{"an open end", ResistPulpDistance, func(c *Criterion) { c.Target = AtLeast(c.Target.Min) }, ""},
		{"more than the whole", OutlineIsthmusWidth, func(c *Criterion) {
			c.Unit, c.Basis, c.Target, c.Limits, c.Aim = "ratio", IntercuspalFraction, Range{0.2, 1.5}, Range{0.1, 1.5}, 0.3
		}, "target to 1.5 cannot be built: use 0 to 1 of the whole"},
	} {
		own := board.Copy("house-bench", "Bench")
		for n, c := range own.Criteria {
			if c.ID == k.id {
				k.change(&own.Criteria[n])
			}
		}
		data, err := json.Marshal(own)
		if err != nil {
			t.Fatal(err)
		}
		_, err = Read(data)
		if (err == nil) != (k.want == "") || (err != nil && !strings.Contains(err.Error(), k.want)) {
			t.Errorf("%s: %v", k.name, err)
		}
		if kept, err := Decode(data); err != nil || kept.Name != "Bench" {
			t.Errorf("%s: rules that need mending cannot be opened: %v", k.name, err)
		}
	}
	own := board.Copy("house-bench", "Bench")
	if silent := own.Silent(board); len(silent) > 0 {
		t.Errorf("a copy is silent about %v", silent)
	}
	own.Criteria = own.Criteria[1:]
	if silent := own.Silent(board); len(silent) != 1 || silent[0] != board.Criteria[0].ID {
		t.Errorf("without %s it is silent about %v", board.Criteria[0].ID, silent)
	}
}
