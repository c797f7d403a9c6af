package export

import (
	"bytes"
	"encoding/csv"
	"strings"
	"testing"

	"obturon/core/intake"
	"obturon/core/lesion"
	"obturon/core/notation"
	"obturon/internal/plan"
)

// The steps of a rehearsed plan are a table that reads back as it was, and stand on the
// card with a picture each.
func TestRehearsedStepsAreATableAndStandOnTheCard(t *testing.T) {
	c := &intake.Case{
		Tooth: notation.MustParse("33"), Patient: intake.Patient{AgeYears: 50}, Choice: intake.Choice{Treatment: intake.Restore, Material: "composite", School: "adhesive"},
		Findings: []lesion.Finding{{Kind: lesion.CervicalCaries, Site: lesion.Buccal, Depth: lesion.OuterDentin}},
	}
	planner := plan.NewPlanner()
	planned, err := planner.Evaluate(t.Context(), c, plan.DefaultGrid)
	if err != nil {
		t.Fatal(err)
	}
	rehearsed, err := planner.Rehearse(t.Context(), c, plan.DefaultGrid)
	if err != nil {
		t.Fatal(err)
	}
	var out bytes.Buffer
	if err := WriteSteps(&out, rehearsed.Proof().Sequence()); err != nil {
		t.Fatal(err)
	}
	rows, err := csv.NewReader(&out).ReadAll()
	if err != nil {
		t.Fatal(err)
	}
	if len(rows) != len(rehearsed.Chair)+1 || len(rows[0]) != len(stepColumns) {
		t.Fatalf("%d rows of %d columns", len(rows), len(rows[0]))
	}
	for n, s := range rehearsed.Chair {
		row := rows[n+1]
		if row[2] != s.Name || row[7] != s.Action || (row[14] != "") != (s.Cut != nil) {
			t.Errorf("row %d is %q", n+1, row)
		}
	}
	var plain, card bytes.Buffer
	for to, with := range map[*bytes.Buffer]*plan.Rehearsed{&plain: nil, &card: rehearsed} {
		if err := WriteCard(to, planned, Beside{Rehearsed: with}, CardHead{Patient: "HV-031", Practice: "Clinic"}, A4); err != nil {
			t.Fatal(err)
		}
	}
	if !strings.HasPrefix(card.String(), "%PDF-") || strings.Contains(card.String(), "NaN") || card.Len() < plain.Len()+10_000 {
		t.Errorf("a card of %d bytes with pictures, %d without", card.Len(), plain.Len())
	}
}
