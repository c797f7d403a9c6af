// Package procedure is what is done for a tooth, step by step, from marking to the last word
// to the patient: the kinds of step with what holds of each, the order that they keep, and
// the step itself. Who plans a phase writes its words: isolation and anaesthesia in sitting,
// cutting in sequence, filling and finishing in fill.
package procedure

import "slices"

// Kind of a step. It is kept with runs and plans: it never changes, however a step is worded.
type Kind string

// The kinds, in the order of the work as far as they share one.
const (
	Confirm Kind = "confirm"

	Anaesthetise       Kind = "anaesthetise"
	ConfirmAnaesthesia Kind = "confirm_anaesthesia"
	Isolate            Kind = "isolate"
	IsolateNeck        Kind = "isolate_neck" // dam and cord about a cervical cavity
	Guard              Kind = "guard"

	OldFillingOut   Kind = "old_filling_out"
	PunchCut        Kind = "punch_cut"
	Outline         Kind = "outline"
	Ridges          Kind = "ridges"
	Extensions      Kind = "extensions"
	Ditch           Kind = "ditch"
	BreakShell      Kind = "break_shell"
	BoxWalls        Kind = "box_walls"
	Cleave          Kind = "cleave"
	OpenToSize      Kind = "open_to_size"
	Walls           Kind = "walls"
	FractureSurface Kind = "fracture_surface"
	LingualLock     Kind = "lingual_lock"
	Refine          Kind = "refine"
	CariesLeft      Kind = "caries_left"
	Grooves         Kind = "grooves"
	TrimSeat        Kind = "trim_seat"
	PlaneWalls      Kind = "plane_walls"
	LiftSoftDentin  Kind = "lift_soft_dentin"
	ReduceCusps     Kind = "reduce_cusps"
	FreshenDentin   Kind = "freshen_dentin"
	Bevel           Kind = "bevel"
	CleanMargin     Kind = "clean_margin"
	Inspect         Kind = "inspect"
	SealFissures    Kind = "seal_fissures"
	SealStaying     Kind = "seal_staying" // an old filling that is not replaced

	ProtectPulp   Kind = "protect_pulp"
	PlaceMatrix   Kind = "place_matrix"
	EtchEnamel    Kind = "etch_enamel"
	EtchDentin    Kind = "etch_dentin"
	Rinse         Kind = "rinse"
	Dry           Kind = "dry"
	Bond          Kind = "bond"
	ThinBond      Kind = "thin_bond"
	CureBond      Kind = "cure_bond"
	LayIncrement  Kind = "lay_increment"
	CureIncrement Kind = "cure_increment"
	Triturate     Kind = "triturate"
	Condense      Kind = "condense"
	Burnish       Kind = "burnish"
	RemoveMatrix  Kind = "remove_matrix"
	CureSides     Kind = "cure_sides"
	Carve         Kind = "carve"

	RemoveExcess   Kind = "remove_excess"
	RemoveDam      Kind = "remove_dam"
	CheckOcclusion Kind = "check_occlusion"
	CheckContact   Kind = "check_contact"
	Finish         Kind = "finish"
	EtchMargins    Kind = "etch_margins"
	SealMargins    Kind = "seal_margins"
	Smooth         Kind = "smooth"

	Instruct Kind = "instruct" // the patient
)

// Phase of the work.
type Phase string

// The phases, in their order.
const (
	Marking     Phase = "marking"
	Anaesthesia Phase = "anaesthesia"
	Isolation   Phase = "isolation"
	Cutting     Phase = "cutting"
	Filling     Phase = "filling"
	Finishing   Phase = "finishing"
	Dismissal   Phase = "dismissal" // once all cavities of the tooth are filled
)

// Phases lists them.
var Phases = []Phase{Marking, Anaesthesia, Isolation, Cutting, Filling, Finishing, Dismissal}

// Entry is what holds of every step of a kind.
type Entry struct {
	Kind  Kind
	Phase Phase
	Name  string // its first words; a step may say more
	// Shared is what may be done once for several teeth of a sitting.
	Shared bool
	// Unbroken is what follows the step before it without a break, and takes none: what is
	// laid goes on setting.
	Unbroken bool
	// Once is what a tooth needs once, however many cavities it has.
	Once bool
}

// table has every kind once, in the order of the constants.
var table = []Entry{
	{Kind: Confirm, Phase: Marking, Name: "Confirm and mark", Once: true},
	{Kind: Anaesthetise, Phase: Anaesthesia, Name: "Anaesthetise", Shared: true, Once: true},
	{Kind: ConfirmAnaesthesia, Phase: Anaesthesia, Name: "Confirm anaesthesia", Once: true},
	{Kind: Isolate, Phase: Isolation, Name: "Isolate", Once: true},
	{Kind: IsolateNeck, Phase: Isolation, Name: "Dam and cord", Shared: true, Once: true},
	{Kind: Guard, Phase: Isolation, Name: "Guard the adjacent tooth", Once: true},

	{Kind: OldFillingOut, Phase: Cutting, Name: "Old filling out"},
	{Kind: PunchCut, Phase: Cutting, Name: "Punch cut"},
	{Kind: Outline, Phase: Cutting, Name: "Outline at depth"},
	{Kind: Ridges, Phase: Cutting, Name: "Approach the ridges"},
	{Kind: Extensions, Phase: Cutting, Name: "Groove extensions"},
	{Kind: Ditch, Phase: Cutting, Name: "Ditch the box"},
	{Kind: BreakShell, Phase: Cutting, Name: "Break the shell"},
	{Kind: BoxWalls, Phase: Cutting, Name: "Walls of the box"},
	{Kind: Cleave, Phase: Cutting, Name: "Cleave to clearance"},
	{Kind: OpenToSize, Phase: Cutting, Name: "Open to size"},
	{Kind: Walls, Phase: Cutting, Name: "Walls"},
	{Kind: FractureSurface, Phase: Cutting, Name: "Fracture surface"},
	{Kind: LingualLock, Phase: Cutting, Name: "Lingual lock"},
	{Kind: Refine, Phase: Cutting, Name: "Refine walls and floor"},
	{Kind: CariesLeft, Phase: Cutting, Name: "Deep caries"},
	{Kind: Grooves, Phase: Cutting, Name: "Retention grooves"},
	{Kind: TrimSeat, Phase: Cutting, Name: "Trim the seat"},
	{Kind: PlaneWalls, Phase: Cutting, Name: "Plane the walls"},
	{Kind: LiftSoftDentin, Phase: Cutting, Name: "Lift soft dentin"},
	{Kind: ReduceCusps, Phase: Cutting, Name: "Reduce cusps"},
	{Kind: FreshenDentin, Phase: Cutting, Name: "Freshen dentin"},
	{Kind: Bevel, Phase: Cutting, Name: "Bevel"},
	{Kind: CleanMargin, Phase: Cutting, Name: "Margin and pumice"},
	{Kind: Inspect, Phase: Cutting, Name: "Clean and inspect", Once: true},
	{Kind: SealFissures, Phase: Cutting, Name: "Seal the other fissures"},
	{Kind: SealStaying, Phase: Cutting, Name: "Seal the filling that stays", Once: true},

	{Kind: ProtectPulp, Phase: Filling, Name: "Protect the pulp"},
	{Kind: PlaceMatrix, Phase: Filling, Name: "Place the matrix"},
	{Kind: EtchEnamel, Phase: Filling, Name: "Etch enamel"},
	{Kind: EtchDentin, Phase: Filling, Name: "Etch dentin"},
	{Kind: Rinse, Phase: Filling, Name: "Rinse", Shared: true},
	{Kind: Dry, Phase: Filling, Name: "Dry", Shared: true},
	{Kind: Bond, Phase: Filling, Name: "Bond"},
	{Kind: ThinBond, Phase: Filling, Name: "Air-thin"},
	{Kind: CureBond, Phase: Filling, Name: "Cure the bond"},
	{Kind: LayIncrement, Phase: Filling, Name: "Lay", Unbroken: true},
	{Kind: CureIncrement, Phase: Filling, Name: "Cure", Unbroken: true},
	{Kind: Triturate, Phase: Filling, Name: "Triturate", Unbroken: true},
	{Kind: Condense, Phase: Filling, Name: "Condense", Unbroken: true},
	{Kind: Burnish, Phase: Filling, Name: "Burnish", Unbroken: true},
	{Kind: RemoveMatrix, Phase: Filling, Name: "Matrix off"},
	{Kind: CureSides, Phase: Filling, Name: "Cure from the sides"},
	{Kind: Carve, Phase: Filling, Name: "Carve", Unbroken: true},

	{Kind: RemoveExcess, Phase: Finishing, Name: "Remove excess"},
	{Kind: RemoveDam, Phase: Finishing, Name: "Dam off", Shared: true, Once: true},
	{Kind: CheckOcclusion, Phase: Finishing, Name: "Check occlusion", Shared: true, Once: true},
	{Kind: CheckContact, Phase: Finishing, Name: "Floss"},
	{Kind: Finish, Phase: Finishing, Name: "Finish"},
	{Kind: EtchMargins, Phase: Finishing, Name: "Etch the margins again"},
	{Kind: SealMargins, Phase: Finishing, Name: "Seal"},
	{Kind: Smooth, Phase: Finishing, Name: "Smooth"},

	{Kind: Instruct, Phase: Dismissal, Name: "Tell the patient", Shared: true, Once: true},
}

// Kinds lists them all.
func Kinds() []Kind {
	all := make([]Kind, len(table))
	for n, e := range table {
		all[n] = e.Kind
	}
	return all
}

var entries = func() map[Kind]Entry {
	all := map[Kind]Entry{}
	for _, e := range table {
		all[e.Kind] = e
	}
	return all
}()

// Entry is what holds of the kind. It panics for one that there is not.
func (k Kind) Entry() Entry {
	e, ok := entries[k]
	if !ok {
		panic("procedure: no kind of step " + string(k))
	}
	return e
}

// Name is its first words.
func (k Kind) Name() string { return k.Entry().Name }

// Phase is the one that it belongs to.
func (k Kind) Phase() Phase { return k.Entry().Phase }

// Fills reports a kind of the filling, from the matrix to the last word.
func (k Kind) Fills() bool {
	return slices.Contains([]Phase{Filling, Finishing, Dismissal}, k.Phase())
}
