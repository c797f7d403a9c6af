package plan

import (
	"context"
	"errors"
	"testing"
)

func TestSchoolsSideBySide(t *testing.T) {
	c := molarCase()
	c.Findings = []Finding{{Kind: "proximal_caries", Site: "distal", Depth: "outer_dentin"}}
	c.Overrides = map[string]float64{"isthmus_width": 2.2}
	schools := []string{"board", "traditional", "adhesive"}
	results, err := planner.Compare(context.Background(), c, schools, DefaultGrid)
	if err != nil {
		t.Fatal(err)
	}
	for n, r := range results {
		if r.Document.School != schools[n] || r.Document.Material != "amalgam" {
			t.Errorf("%d: %s, %s", n, r.Document.School, r.Document.Material)
		}
		if r.Document.Dimensions["isthmus_width"] == 2.2 {
			t.Errorf("%s: a value set by hand is compared", r.Document.School)
		}
	}
	board, traditional, adhesive := results[0].Document, results[1].Document, results[2].Document
	if traditional.Dimensions["isthmus_width"] <= board.Dimensions["isthmus_width"] {
		t.Error("the traditional isthmus is no wider than the board's")
	}
	if spent := adhesive.Volumes.Cavity; spent >= board.Volumes.Cavity || board.Volumes.Cavity >= traditional.Volumes.Cavity {
		t.Errorf("tooth spent: adhesive %.1f, board %.1f, traditional %.1f", spent, board.Volumes.Cavity, traditional.Volumes.Cavity)
	}
}

func TestComparisonsThatMakeNoSense(t *testing.T) {
	for _, schools := range [][]string{nil, {"board"}, {"board", "board"}, {"board", "bored"}, {"board", "traditional", "adhesive", "primary", "board"}} {
		_, err := planner.Compare(context.Background(), molarCase(), schools, DefaultGrid)
		var faults Faults
		if !errors.As(err, &faults) {
			t.Errorf("%v: %v", schools, err)
		}
	}
}
