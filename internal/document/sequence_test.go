package document

import (
	"encoding/json"
	"os"
	"slices"
	"testing"

	"obturon/core/procedure"
)

// A run that was begun before steps had kinds tells what each step was.
func TestStepsOfFormerCoresAreKnownByTheirNames(t *testing.T) {
	for name, want := range map[string]procedure.Kind{
		"Confirm, shade and mark": procedure.Confirm, "Prove it numb": procedure.ConfirmAnaesthesia, "Ditch the box, mesial": procedure.Ditch, "Trim the seat, distal": procedure.TrimSeat,
		"Reduce DL, DB": procedure.ReduceCusps, "Lay flowable at the neck": procedure.LayIncrement, "Cure layer 2": procedure.CureIncrement, "Cure the bond": procedure.CureBond,
		"Cure from the sides": procedure.CureSides, "Triturate again, part 2 of 2": procedure.Triturate, "Condense, part 1 of 2": procedure.Condense,
		"Band round the tooth, in a retainer": procedure.PlaceMatrix, "Seal": procedure.SealMargins, "Seal the other fissures": procedure.SealFissures, "Walls": procedure.Walls,
		"Something nobody wrote": "",
	} {
		text, err := json.Marshal(ProvenSequence{Steps: []Step{{Step: name}}})
		if err != nil {
			t.Fatal(err)
		}
		d, err := ReadSequence(text)
		if err != nil {
			t.Fatal(err)
		}
		if got := d.Steps[0].Kind; got != want {
			t.Errorf("%q is %q, want %q", name, got, want)
		}
	}
	for name, k := range formerNames {
		if !slices.Contains(procedure.Kinds(), k) {
			t.Errorf("%q is of the kind %q, which there is not", name, k)
		}
	}
	if _, err := ReadSequence([]byte(`{"steps": 3}`)); err == nil {
		t.Error("steps that are no list are read")
	}
}

// Runs as core 0.3 stored them are read whole: every step is of a kind, in an order that holds.
func TestRunsOfBeforeAreRead(t *testing.T) {
	text, err := os.ReadFile("testdata/runs-before-kinds.json")
	if err != nil {
		t.Fatal(err)
	}
	var runs []json.RawMessage
	if err := json.Unmarshal(text, &runs); err != nil {
		t.Fatal(err)
	}
	for n, run := range runs {
		d, err := ReadSequence(run)
		if err != nil {
			t.Fatal(err)
		}
		steps := make([]procedure.Step, len(d.Steps))
		for k, s := range d.Steps {
			if s.Kind == "" || s.Phase != s.Kind.Phase() {
				t.Errorf("run %d: %q is of the kind %q, the phase %q", n, s.Step, s.Kind, s.Phase)
			}
			steps[k].Kind = s.Kind
		}
		// The bite was checked last of all then.
		steps = slices.DeleteFunc(steps, func(s procedure.Step) bool { return s.Kind == procedure.CheckOcclusion })
		if broken := procedure.OutOfOrder(steps); len(steps) < 20 || len(broken) > 0 {
			t.Errorf("run %d of %d steps breaks %v", n, len(steps), broken)
		}
	}
}
