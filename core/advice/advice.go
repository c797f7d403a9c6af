// Package advice says what the findings and the patient speak for before anything
// is cut: whether to restore, seal or watch, which material and school to start
// from and why, what must be said, and when no plan is made. The dentist decides.
package advice

import (
	"cmp"

	"obturon/core/intake"
	"obturon/core/lesion"
	"obturon/core/school"
)

// Decision is what a case leads to before anything is cut.
type Decision struct {
	Class    lesion.Class // "" where nothing is cut
	Surfaces []string     // diseased, in the order in which a record names them
	// Choice is the dentist's, with material and school filled in; Reason says why
	// they were proposed, "" where the dentist chose both.
	Choice    intake.Choice
	Reason    string
	Treatment intake.Treatment // that is advised
	Because   string           // of the treatment
	Ways      []Way            // that are open, the advised one first
	Followed  intake.Treatment // the dentist's, or the advised one
	Assumed   []Assumption     // what was not entered and would count
	Questions []string         // what does not go together, to be checked
	Materials []MaterialAdvice
	Refused   string // why no plan is made, "" where one is
	Cautions  []string
}

// MaterialAdvice is what speaks for and against a material in a case.
type MaterialAdvice struct {
	Material school.Material
	Barred   string // why law or health commonly forbid it, "" where nothing does
	For      []string
	Against  []string
}

// Decide derives what a case leads to.
func Decide(c *intake.Case) Decision {
	var d Decision
	d.Class, d.Surfaces = lesion.Classify(c.ToCut(), c.Tooth)
	d.Choice, d.Reason = choose(c)
	found := decide(c)
	d.Treatment, d.Because = found.advise, found.because
	for _, t := range append([]intake.Treatment{found.advise}, found.also...) {
		d.Ways = append(d.Ways, described(c, t))
	}
	d.Followed = cmp.Or(c.Choice.Treatment, d.Treatment)
	d.Materials = []MaterialAdvice{amalgamAdvice(c), compositeAdvice(c)}
	d.Assumed, d.Questions = assumed(c, d), questions(c)
	if d.Refused = refusal(c, d); d.Refused == "" {
		d.Refused = notDrilled(d)
	}
	d.Cautions = cautions(c, d)
	return d
}
