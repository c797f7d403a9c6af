// Package sequence writes the steps at the chair. Rehearsed writes them from how the kit
// cuts the cavities; Tooth is the first word, from the design alone, for as long as a
// rehearsal is not worked out.
package sequence

import (
	"slices"
	"strings"

	"obturon/core/cavity"
	"obturon/core/cavity/occlusal"
	"obturon/core/cavity/smooth"
	"obturon/core/instrument"
	"obturon/core/lesion"
)

// Step is one step at the chair.
type Step struct {
	Name        string
	Instruments []instrument.ID // of the kit, in the order in which they are taken up
	Speed       instrument.Speed
	Action      string
	Depth       float64 // mm, 0 where depth plays no part
	Gauge       string
	Caution     string
	Seconds     int
	// Together is what is done once for teeth that are treated in one sitting.
	Together bool

	// What only a rehearsed step knows; texts are "" where they play no part.
	Of       string // the cavity that it is about, of several
	Figure   string // the one that counts
	Why      string // this instrument, and now
	Start    string // where the first bur enters
	Lean     string // how the bur is held
	Stays    string // standing, on purpose
	LookFor  string
	Grasp    string
	Position string // of the operator, and how the place is seen
	Others   []Alternative
	Lack     string // what is missing of the kit for it, and what stands in
	Alarms   []string
	Cut      *Cut // nil where nothing is cut
	// FromAbove tells that it shows best as the bur comes, not in a section.
	FromAbove bool
}

// Cut is where in the rehearsals of a tooth a step is cut.
type Cut struct{ Cavity, Step int }

// Alternative is another instrument for a step, and what it trades.
type Alternative struct {
	Instrument instrument.ID
	Trade      string
}

// Tray names the step's instruments in words.
func (s Step) Tray() string {
	names := make([]string, len(s.Instruments))
	for n, id := range s.Instruments {
		names[n] = string(id)
	}
	return strings.Join(names, ", ")
}

// tray lists instruments of a step. It panics where the kit lacks one: a step that
// cannot be done is a mistake in this package.
func tray(ids ...instrument.ID) []instrument.ID {
	for _, id := range ids {
		instrument.MustFind(id)
	}
	return ids
}

// Step times are for a practised operator. They add up to what preparation
// courses give for one tooth: 15 to 20 minutes to a shaped cavity and about 10
// more to refine it; a candidate of a board has longer.
const (
	secondsMark    = 60
	secondsGuard   = 60
	secondsPunch   = 60
	secondsWiden   = 240
	secondsExtend  = 60
	secondsDitch   = 180
	secondsBreak   = 60
	secondsCleave  = 150
	secondsAxial   = 60
	secondsCurve   = 45
	secondsRefine  = 150
	secondsTrim    = 60
	secondsBevel   = 45
	secondsGroove  = 60
	secondsCaries  = 120
	secondsPlane   = 90
	secondsClean   = 60
	secondsFlame   = 60
	secondsOld     = 180
	secondsCusp    = 90
	secondsSeal    = 120
	secondsShade   = 90
	secondsIndex   = 120
	secondsCord    = 120
	secondsEnter   = 60
	secondsBox     = 150
	secondsSaucer  = 120
	secondsFeather = 150
	secondsPolish  = 45
	secondsReduce  = 60
	secondsLock    = 60
)

// outlineOf is what a form adds to the steps that all cavities share.
type outlineOf struct {
	confirm Step
	protect []Step // neighbours and gingiva, before anything is cut
	oldOut  Step   // where an old filling goes
	shape   []Step // outline, walls and floors
	grooves []Step // and locks, in dentin
	finish  []Step // enamel walls and bevels
	inspect Step
}

// Cavity derives the steps of a cavity from its design: protect first, an old
// filling before the shape, shape before caries that is followed past it, grooves
// in clean dentin, enamel last.
func Cavity(c *cavity.Cavity) []Step {
	own := formOf(c)
	steps := append([]Step{own.confirm}, own.protect...)
	if slices.ContainsFunc(c.Lesions, func(l lesion.Lesion) bool { return lesion.KindOf(l) == lesion.OldRestoration }) {
		steps = append(steps, own.oldOut)
	}
	steps = append(steps, own.shape...)
	if followsCaries(c.Lesions) {
		steps = append(steps, Step{Name: "Caries left at the junction", Instruments: tray(cariesBur(c)), Speed: instrument.Low, Action: "Clean the junction first, then follow soft dentin only where it is; leave the rest of floor and wall.", Gauge: "explorer", Caution: "Near the pulp: stop at firm dentin and decide on a liner.", Seconds: secondsCaries})
	}
	steps = append(append(steps, own.grooves...), own.finish...)
	steps = append(steps, own.inspect)
	if len(c.Sealed) > 0 {
		steps = append(steps, sealFissures())
	}
	return steps
}

func formOf(c *cavity.Cavity) outlineOf {
	switch d := c.Design.(type) {
	case occlusal.Design:
		return ofOcclusal(d, c)
	case smooth.Design:
		return ofSmooth(d, c)
	default:
		panic("sequence: a cavity of no form")
	}
}

// Tooth derives the steps of all cavities of a tooth, each finished before the
// next, and of an old filling that stays.
func Tooth(cavities []*cavity.Cavity, fillingStays bool) []Step {
	var steps []Step
	for _, c := range cavities {
		steps = append(steps, Cavity(c)...)
	}
	if fillingStays {
		steps = append(steps, sealStaying())
	}
	return steps
}

// sealFissures is the step for fissures that are not opened.
func sealFissures() Step {
	return Step{Name: "Seal the other fissures", Instruments: tray(instrument.Etch, instrument.Sealant), Speed: instrument.NoSpeed, Action: "With the filling: etch and seal the fissures that were not opened.", Gauge: "explorer along the edge", Caution: "Dry field: moisture lifts a sealant.", Seconds: secondsSeal}
}

// sealStaying is the step for an old filling that is not replaced.
func sealStaying() Step {
	return Step{Name: "Seal the filling that stays", Instruments: tray(instrument.FineFlame, instrument.Etch, instrument.Resin), Speed: instrument.NoSpeed, Action: "With the new filling: roughen the open margin of the old one, etch, bond, flow a thin resin over it, cure.", Gauge: "explorer along the margin", Caution: "Dry field: moisture lifts a sealant.", Seconds: secondsSeal}
}

// followsCaries reports a lesion in dentin, whose floor must be checked.
func followsCaries(lesions []lesion.Lesion) bool {
	for _, l := range lesions {
		if lesion.KindOf(l) != lesion.OldRestoration && lesion.KindOf(l) != lesion.Fracture && l.IntoDentin() > 0 {
			return true
		}
	}
	return false
}
