package rehearsal

// Rule is a rule of the order of work. A step bears the name of the rule that it follows.
type Rule string

// The rules.
const (
	OldFillingOut   Rule = "Old filling out"
	PunchCut        Rule = "Punch cut"
	Outline         Rule = "Outline at depth"
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
	OldFillingOut, PunchCut, Outline, Extensions, Ditch, BreakShell, BoxWalls, Cleave, OpenToSize, Walls, FractureSurface, LingualLock,
	Refine, CariesLeft, Grooves, TrimSeat, PlaneWalls, LiftSoftDentin, ReduceCusps, Bevel,
}
