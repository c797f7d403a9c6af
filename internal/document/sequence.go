package document

import (
	"encoding/json"
	"strings"

	"obturon/core/procedure"
)

// ReadSequence reads the steps that a run was begun with. Steps that cores before 0.5 wrote
// have no kind: they are known by what they were called then.
func ReadSequence(text []byte) (ProvenSequence, error) {
	var d ProvenSequence
	if err := json.Unmarshal(text, &d); err != nil {
		return d, err
	}
	for n := range d.Steps {
		if s := &d.Steps[n]; s.Kind == "" {
			s.Kind = formerKind(s.Step)
			if s.Kind != "" {
				s.Phase = s.Kind.Phase()
			}
		}
	}
	return d, nil
}

// formerKind is the kind of a step by what cores before 0.5 called it: whole, or what stands
// before the side, the cusps or the layer; "" of a name that none of them wrote.
func formerKind(name string) procedure.Kind {
	if k, ok := formerNames[name]; ok {
		return k
	}
	first, _, _ := strings.Cut(name, ",")
	if k, ok := formerNames[first]; ok {
		return k
	}
	first, _, _ = strings.Cut(name, " ")
	return formerNames[first+" …"]
}

var formerNames = map[string]procedure.Kind{
	"Confirm and mark": procedure.Confirm, "Confirm": procedure.Confirm, "Numb": procedure.Anaesthetise, "Prove it numb": procedure.ConfirmAnaesthesia,
	"Isolate": procedure.Isolate, "Dam and cord": procedure.IsolateNeck, "Guard the neighbour": procedure.Guard,

	"Old filling out": procedure.OldFillingOut, "Punch cut": procedure.PunchCut, "Outline at depth": procedure.Outline, "Approach the ridges": procedure.Ridges,
	"Groove extensions": procedure.Extensions, "Ditch the box": procedure.Ditch, "Break the shell": procedure.BreakShell, "Walls of the box": procedure.BoxWalls,
	"Cleave to clearance": procedure.Cleave, "Open to size": procedure.OpenToSize, "Walls": procedure.Walls, "Fracture surface": procedure.FractureSurface,
	"Lingual lock": procedure.LingualLock, "Refine walls and floor": procedure.Refine, "Caries that is left": procedure.CariesLeft, "Retention grooves": procedure.Grooves,
	"Trim the seat": procedure.TrimSeat, "Gingival margin": procedure.TrimSeat, "Axiopulpal line angle": procedure.TrimSeat, "Plane the walls": procedure.PlaneWalls,
	"Lift soft dentin": procedure.LiftSoftDentin, "Reduce …": procedure.ReduceCusps, "Bevel": procedure.Bevel, "Freshen dentin": procedure.FreshenDentin,
	"Margin and pumice": procedure.CleanMargin, "Clean and inspect": procedure.Inspect, "Seal the other fissures": procedure.SealFissures, "Seal the filling that stays": procedure.SealStaying,

	"Band round the tooth": procedure.PlaceMatrix, "Sectional band with a ring": procedure.PlaceMatrix, "T-band": procedure.PlaceMatrix, "Clear strip": procedure.PlaceMatrix,
	"Etch enamel": procedure.EtchEnamel, "Etch dentin": procedure.EtchDentin, "Rinse": procedure.Rinse, "Dry": procedure.Dry, "Bond": procedure.Bond,
	"Thin it": procedure.ThinBond, "Cure the bond": procedure.CureBond, "Lay …": procedure.LayIncrement, "Cure …": procedure.CureIncrement,
	"Triturate": procedure.Triturate, "Triturate again": procedure.Triturate, "Condense": procedure.Condense, "Burnish": procedure.Burnish,
	"Matrix off": procedure.RemoveMatrix, "Cure from the sides": procedure.CureSides, "Carve": procedure.Carve,

	"Flash off": procedure.RemoveExcess, "Finish": procedure.Finish, "Floss": procedure.CheckContact, "Etch the margins again": procedure.EtchMargins,
	"Seal": procedure.SealMargins, "Smooth": procedure.Smooth, "Dam off": procedure.RemoveDam, "Bite": procedure.CheckOcclusion, "Tell the patient": procedure.Instruct,
}
