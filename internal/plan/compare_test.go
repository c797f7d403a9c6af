package plan

import (
	"context"
	"errors"
	"testing"

	"obturon/core/intake"
	"obturon/core/lesion"
	"obturon/core/school"
)

func named(t *testing.T, ids ...string) []*school.School {
	t.Helper()
	var schools []*school.School
	for _, id := range ids {
		s, err := school.Get(id)
		if err != nil {
			t.Fatal(err)
		}
		schools = append(schools, s)
	}
	return schools
}

func TestHouseRulesJudge(t *testing.T) {
	board, err := school.Get("board")
	if err != nil {
		t.Fatal(err)
	}
	own := board.Copy("house-bench", "Bench")
	for n := range own.Criteria {
		if own.Criteria[n].ID == "outline.isthmus_width" {
			own.Criteria[n].Target, own.Criteria[n].Limits, own.Criteria[n].Aim = school.Range{Min: 1.5, Max: 1.9}, school.Range{Min: 1.4, Max: 2}, 1.7
		}
	}
	c := molarCase()
	c.Choice = intake.Choice{Material: "amalgam", School: "house-bench"}
	var faults intake.Faults
	if _, err := planner.Evaluate(context.Background(), c, DefaultGrid); !errors.As(err, &faults) || faults[0].Path != "$.choice.school" {
		t.Errorf("without the rules: %v", err)
	}
	c.Rules = own
	r := evaluate(t, c)
	if got := *checkOf(t, r, "outline.isthmus_width").Value; got < 1.5 || r.Document().School != "house-bench" || r.Document().SchoolVersion != "1" {
		t.Errorf("isthmus %.2f under %s %s", got, r.Document().School, r.Document().SchoolVersion)
	}
	// A newer version of the same id must not be answered from what is remembered.
	newer := own.Copy("house-bench", "Bench")
	newer.Version = "2"
	for n := range newer.Criteria {
		if newer.Criteria[n].ID == "outline.isthmus_width" {
			newer.Criteria[n].Target, newer.Criteria[n].Limits, newer.Criteria[n].Aim = school.Range{Min: 0.9, Max: 1.3}, school.Range{Min: 0.8, Max: 1.5}, 1.1
		}
	}
	c.Rules = newer
	if got := *checkOf(t, evaluate(t, c), "outline.isthmus_width").Value; got > 1.4 {
		t.Errorf("isthmus %.2f under the newer version", got)
	}
}

func TestSchoolsSideBySide(t *testing.T) {
	c := molarCase()
	c.Findings = []lesion.Finding{{Kind: "proximal_caries", Site: "distal", Depth: "outer_dentin"}}
	c.Overrides = map[string]float64{"isthmus_width": 2.2}
	schools := []string{"board", "traditional", "adhesive"}
	results, err := planner.Compare(context.Background(), c, named(t, schools...), DefaultGrid)
	if err != nil {
		t.Fatal(err)
	}
	for n, r := range results {
		if r.Document().School != schools[n] || r.Document().Material != "amalgam" {
			t.Errorf("%d: %s, %s", n, r.Document().School, r.Document().Material)
		}
		if r.Document().Dimensions["isthmus_width"] == 2.2 {
			t.Errorf("%s: a value set by hand is compared", r.Document().School)
		}
	}
	board, traditional, adhesive := results[0].Document(), results[1].Document(), results[2].Document()
	if traditional.Dimensions["isthmus_width"] <= board.Dimensions["isthmus_width"] {
		t.Error("the traditional isthmus is no wider than the board's")
	}
	if spent := adhesive.Volumes.Cavity; spent >= board.Volumes.Cavity || board.Volumes.Cavity >= traditional.Volumes.Cavity {
		t.Errorf("tooth spent: adhesive %.1f, board %.1f, traditional %.1f", spent, board.Volumes.Cavity, traditional.Volumes.Cavity)
	}
}

func TestComparisonsThatMakeNoSense(t *testing.T) {
	for _, schools := range [][]string{nil, {"board"}, {"board", "board"}, {"board", "traditional", "adhesive", "primary", "board"}} {
		_, err := planner.Compare(context.Background(), molarCase(), named(t, schools...), DefaultGrid)
		var faults intake.Faults
		if !errors.As(err, &faults) {
			t.Errorf("%v: %v", schools, err)
		}
	}
}
