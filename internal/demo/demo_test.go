package demo

import (
	"context"
	"encoding/json"
	"strings"
	"testing"

	"obturon/core/intake"
	"obturon/core/notation"
	"obturon/internal/document"
	"obturon/internal/plan"
)

// Every demonstration case is sound by itself: it reads, its tooth is
// confirmed, its plan can be made, and nobody in it has a name.
func TestDemonstrationCasesAreSound(t *testing.T) {
	files, err := cases.ReadDir("cases")
	if err != nil || len(files) < 6 {
		t.Fatalf("%d cases, %v", len(files), err)
	}
	planner := plan.NewPlanner()
	teeth := map[string]bool{}
	for _, f := range files {
		data, err := cases.ReadFile("cases/" + f.Name())
		if err != nil {
			t.Fatal(err)
		}
		var e entry
		if err := json.Unmarshal(data, &e); err != nil {
			t.Errorf("%s: %v", f.Name(), err)
			continue
		}
		c, err := document.ReadCase(e.Document)
		if err != nil {
			t.Errorf("%s: %v", f.Name(), err)
			continue
		}
		if err := notation.Confirm(c.Tooth, notation.Confirmation{Method: e.Confirmation["method"], Answer: e.Confirmation["answer"]}); err != nil {
			t.Errorf("%s: %v", f.Name(), err)
		}
		if !strings.HasPrefix(c.Patient.Code, "HV-") && !strings.HasPrefix(c.Patient.Code, "HB-") {
			t.Errorf("%s: patient %q", f.Name(), c.Patient.Code)
		}
		r, err := planner.Evaluate(context.Background(), c, 0.2)
		// What is better sealed or watched is shown with that advice.
		if err != nil || (r.Document().Refused != "" && r.Document().Advice.Treatment == intake.Restore) {
			t.Errorf("%s: %v %s", f.Name(), err, r.Document().Refused)
		}
		teeth[c.Tooth.String()] = true
	}
	if len(teeth) < 6 {
		t.Errorf("only %d different teeth", len(teeth))
	}
}
