package procedure

// rule is which kind comes before which, and what goes wrong otherwise.
type rule struct {
	first, then Kind
	otherwise   string
}

// order is what the order of the work rests on (operative dentistry convention).
var order = []rule{
	{Confirm, Anaesthetise, "The wrong tooth can be numbed."},
	{Confirm, Isolate, "What isolation hides is not marked yet."},
	{Confirm, IsolateNeck, "What isolation hides is not marked yet."},
	{Anaesthetise, ConfirmAnaesthesia, "There is nothing to confirm yet."},
	{ConfirmAnaesthesia, Isolate, "The clamp hurts a tooth that is not numb."},
	{ConfirmAnaesthesia, IsolateNeck, "The clamp hurts a tooth that is not numb."},

	{OldFillingOut, PunchCut, "What lies under the old filling is not known yet."},
	{PunchCut, Outline, "No depth has been found yet that the outline could keep."},
	{PunchCut, OpenToSize, "No depth has been found yet that the walls could keep."},
	{Outline, Ridges, "The ridges are approached first: an overrun crosses them while the bur has no bearing."},
	{Outline, Extensions, "The wide bur follows into the grooves: they end up as wide as its head."},
	{Outline, Ditch, "The box is cut before the floor over it gives access and depth."},
	{Ditch, BreakShell, "The shell is not undermined yet: it breaks where it will."},
	{BoxWalls, Refine, "The walls that are refined are not cut yet."},
	{CariesLeft, Grooves, "The grooves lie in dentin that is still soft."},
	{CariesLeft, ReduceCusps, "It is not known yet what carries the cusp."},
	{Refine, Bevel, "Whatever is cut later blunts the bevel."},
	{PlaneWalls, Bevel, "Whatever is cut later blunts the bevel."},
	{Inspect, PlaceMatrix, "What a matrix hides has not been inspected."},
	{Inspect, EtchEnamel, "What is bonded over has not been inspected."},

	{CariesLeft, ProtectPulp, "What is left over the pulp is not known yet."},
	{LiftSoftDentin, ProtectPulp, "What is left over the pulp is not known yet."},
	{ProtectPulp, EtchEnamel, "Acid reaches the deepest dentin before it is covered."},
	{ProtectPulp, EtchDentin, "Acid reaches the deepest dentin before it is covered."},
	{ProtectPulp, Condense, "Amalgam is packed onto the bare floor."},
	{EtchEnamel, Rinse, "There is no acid to rinse off yet."},
	{Rinse, Bond, "Acid is still on the tooth that is bonded."},
	{Bond, LayIncrement, "Nothing holds the increment."},
	{CureBond, LayIncrement, "The bond is soft under the increment."},
	{PlaceMatrix, LayIncrement, "Nothing holds the paste to its shape."},
	{PlaceMatrix, Condense, "Nothing holds the amalgam to its shape."},
	{RemoveMatrix, CureSides, "The band keeps the light off."},
	{RemoveMatrix, CheckContact, "The band is still in the contact."},
	{RemoveExcess, Finish, "Discs and burs drag over what hangs past the margin."},
	{EtchMargins, SealMargins, "Thin resin runs off what is not etched."},
	{RemoveDam, CheckOcclusion, "The patient cannot close on a dam and its clamp."},
	{CheckOcclusion, Finish, "The polish is ground through again where the bite is adjusted."},
	{CheckOcclusion, SealMargins, "Adjusting the bite opens the margins that were sealed."},
	{CheckOcclusion, Instruct, "A filling that is too high is sent home."},
}

// OutOfOrder says, by step, which rules of the order some steps of one tooth break. Cavities
// are cut and filled one after the other: each is looked at by itself, with what the tooth
// needs once.
func OutOfOrder(steps []Step) map[int][]string {
	broken := map[int][]string{}
	for n, s := range steps {
		for _, o := range order {
			if s.Kind != o.then {
				continue
			}
			for _, later := range steps[n+1:] {
				if later.Kind == o.first && (later.Of == s.Of || o.first.Entry().Once || o.then.Entry().Once) {
					broken[n] = append(broken[n], o.otherwise)
					break
				}
			}
		}
	}
	return broken
}
