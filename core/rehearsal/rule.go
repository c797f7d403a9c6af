package rehearsal

// Rule is a rule of the order of work. A step bears the name of the rule that it follows.
type Rule string

// The rules.
const (
	OldFillingOut   Rule = "Old filling out"
	PunchCut        Rule = "Punch cut"
	Outline         Rule = "Outline at depth"
	Ridges          Rule = "Approach the ridges"
	Extensions      Rule = "Groove extensions"
	Ditch           Rule = "Ditch the box"
	BreakShell      Rule = "Break the shell"
	BoxWalls        Rule = "Walls of the box"
	Cleave          Rule = "Cleave to clearance"
	OpenToSize      Rule = "Open to size"
	Walls           Rule = "Walls"
	FractureSurface Rule = "Fracture surface"
	LingualLock     Rule = "Lingual lock"
	Refine          Rule = "Refine walls and floor"
	CariesLeft      Rule = "Caries that is left"
	Grooves         Rule = "Retention grooves"
	TrimSeat        Rule = "Trim the seat"
	PlaneWalls      Rule = "Plane the walls"
	LiftSoftDentin  Rule = "Lift soft dentin"
	ReduceCusps     Rule = "Reduce cusps"
	Bevel           Rule = "Bevel"
)

// Rules lists them, in the order of work as far as they share one.
var Rules = []Rule{
	OldFillingOut, PunchCut, Outline, Ridges, Extensions, Ditch, BreakShell, BoxWalls, Cleave, OpenToSize, Walls, FractureSurface, LingualLock,
	Refine, CariesLeft, Grooves, TrimSeat, PlaneWalls, LiftSoftDentin, ReduceCusps, Bevel,
}

// order is which rule comes before which, and what goes wrong otherwise.
var order = []struct {
	first, then Rule
	otherwise   string
}{
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
}

// outOfOrder says, by step, which rules of the order the steps break.
func outOfOrder(steps []Step) map[int][]string {
	broken := map[int][]string{}
	for n, s := range steps {
		for _, o := range order {
			if s.Rule != o.then {
				continue
			}
			for _, later := range steps[n+1:] {
				if later.Rule == o.first {
					broken[n] = append(broken[n], o.otherwise)
					break
				}
			}
		}
	}
	return broken
}
