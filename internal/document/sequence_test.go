package document

import (
	"encoding/json"
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
		if !k.Known() {
			t.Errorf("%q is of the kind %q, which there is not", name, k)
		}
	}
	if _, err := ReadSequence([]byte(`{"steps": 3}`)); err == nil {
		t.Error("steps that are no list are read")
	}
}
