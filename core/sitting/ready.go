package sitting

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"obturon/core/cavity"
	"obturon/core/fill"
	"obturon/core/instrument"
	"obturon/core/intake"
	"obturon/core/measure"
	"obturon/core/notation"
	"obturon/core/procedure"
)

// Seconds of a practised operator.
const (
	secondsNumb  = 90
	secondsProve = 20
	secondsDam   = 150
	secondsRolls = 30
	secondsOff   = 40
)

// Ready makes a tooth numb and dry for its cavities.
func Ready(subjects []*measure.Subject, c *intake.Case, products fill.Products) []procedure.Step {
	all := numbed(c, inEnamel(subjects), products.Anaesthetics[0])
	neck := slices.ContainsFunc(subjects, func(s *measure.Subject) bool { return s.Cavity.Kind == cavity.Cervical })
	if neck { // whose own steps hold the gingiva back with the dam
		return all
	}
	boxes := slices.ContainsFunc(subjects, func(s *measure.Subject) bool { return len(s.Cavity.Boxes) > 0 })
	bonds := slices.ContainsFunc(subjects, func(s *measure.Subject) bool { return s.Cavity.Bonded() })
	return append(all, isolated(c, boxes, bonds))
}

// inEnamel reports cavities whose lesions all end in enamel.
func inEnamel(subjects []*measure.Subject) bool {
	for _, s := range subjects {
		for _, l := range s.Cavity.Lesions {
			if l.IntoDentin() > 0 {
				return false
			}
		}
	}
	return true
}

// numbing is where a tooth is made numb, and how that is told (local anaesthesia convention).
type numbing struct {
	where, told string
	block       bool
}

// needle is the age under which the thin bone of a lower jaw lets an infiltration through
// (paediatric dentistry convention).
const needle = 6

func numbingOf(t notation.Tooth, ageYears float64) numbing {
	beside := numbing{
		where: "Infiltrate in the fold beside it, at the height of its root's tip.",
		told:  "A probe pressed into the gingiva facially and orally is felt as touch only, and the tooth does not feel cold.",
	}
	position := t.Position()
	switch {
	case t.Upper() && !t.Primary() && position == 6:
		beside.where = "Infiltrate in the fold before and behind the ridge of the cheekbone, whose thick bone covers its mesiobuccal root."
	case t.Upper(), t.Anterior():
	case t.Primary() && ageYears < needle:
		beside.where = "Infiltrate in the fold beside it: in so young a jaw that mostly does. If it does not, a block."
	case !t.Molar():
		beside.where, beside.block = "Block the mental nerve at its foramen, below and between the premolars; a finger on it for a minute.", true
		beside.told = "Lip and chin of that side are numb to the midline, and the tooth does not feel cold."
	default:
		beside.where, beside.block = "Block the inferior alveolar nerve, and the buccal nerve where clamp and band press.", true
		beside.told = "Lip and chin of that side are numb to the midline, the gingiva beside the tooth too, and the tooth does not feel cold."
	}
	if t.Upper() && !t.Anterior() {
		beside.where += " A little into the palate too, where the clamp presses."
	}
	return beside
}

// numbed are the steps that make a tooth numb and confirm it.
func numbed(c *intake.Case, inEnamel bool, with fill.Anaesthetic) []procedure.Step {
	how := numbingOf(c.Tooth, c.Patient.AgeYears)
	numb := procedure.New(procedure.Anaesthetise, instrument.SurfaceGel, instrument.Syringe)
	numb.Shared, numb.Seconds, numb.Shown = how.block, secondsNumb, marked
	numb.Action = "Topical gel, 1 to 2 minutes. " + how.where + " " + with.Name + ": aspirate, then inject slowly."
	numb.Caution = "History, allergies and dose by your own protocol and local code: none is reckoned here."
	onset := with.InfiltrationMinutes
	if how.block {
		onset = with.BlockMinutes
	}
	if inEnamel {
		numb.Action = "The lesion ends in enamel: often none is needed, so ask. Else: " + lowered(numb.Action)
	}
	const minute = 60
	least := int(math.Ceil(minute * onset))
	confirm := procedure.New(procedure.ConfirmAnaesthesia, instrument.Probe)
	confirm.Seconds, confirm.Shown = least+secondsProve, marked
	confirm.Action = fmt.Sprintf("After about %g minutes. %s Nothing is clamped or cut before.", onset, how.told)
	confirm.Clock = &procedure.Clock{Least: least, Most: int(math.Ceil(minute * with.NumbMinutes)), After: numb.ID}
	return []procedure.Step{numb, confirm}
}

// marked is the number of the step in whose picture the tooth shows while it is made ready.
const marked = 1

// isolated keeps the field of a tooth dry: a dam from the tooth behind to where it no longer
// pulls, or what is left to do where none will hold.
func isolated(c *intake.Case, boxes, bonds bool) procedure.Step {
	t := c.Tooth
	step := procedure.New(procedure.Isolate)
	step.Seconds, step.Shown = secondsDam, marked
	if c.Patient.Isolation == intake.None {
		step.Instruments, step.Seconds = []instrument.ID{instrument.CottonRolls}, secondsRolls
		step.Action = "No dam will hold, as found: rolls in the fold and under the tongue, suction beside the tooth, new rolls before the band."
		step.Caution = "Nothing is etched, bonded or sealed in this field. Nothing small is used without a thread on it."
		return step
	}
	clamped, clamp := clampOn(c)
	step.Instruments = []instrument.ID{instrument.Dam, clamp, instrument.Floss}
	step.Action = fmt.Sprintf(
		"Dam %s. %s on %s, a thread round its bow; floss each contact through, edges turned in, air on them.",
		spanOf(t, clamped),
		upper(clampName(clamp)),
		toothBeside(t, clamped),
	)
	if boxes {
		step.Action += " Wedge on top of the dam, so that a bur meets wood before rubber and gingiva."
	}
	if c.Patient.Isolation == intake.Doubtful {
		before := "filling"
		if bonds {
			before = "bonding"
		}
		step.Caution = "Doubtful, as found: if it leaks, stop before " + before + " and decide again on the material."
	} else {
		step.Caution = "The clamp's four points on tooth, below its bulge, none on gingiva."
	}
	return step
}

// clampOn is the tooth that bears the clamp: the one behind where one stands, so that the
// clamp is out of the way.
func clampOn(c *intake.Case) (notation.Tooth, instrument.ID) {
	t := c.Tooth
	if t.Anterior() { // front teeth are isolated from premolar to premolar
		return t, instrument.PremolarClamp
	}
	on := t
	if behind, ok := t.Neighbour(notation.Distal, c.Patient.AgeYears); ok && !slices.Contains(c.Missing, notation.Distal) {
		on = behind
	}
	if on.Molar() {
		return on, instrument.MolarClamp
	}
	return on, instrument.PremolarClamp
}

func clampName(id instrument.ID) string { return instrument.MustFind(id).Name }

func toothBeside(t, on notation.Tooth) string {
	switch {
	case t.Anterior():
		return "the first tooth behind the canine of one side, on the other a tie of floss"
	case on == t:
		return "the tooth itself, for none stands behind it"
	}
	return on.String() + ", the tooth behind"
}

func spanOf(t, clamped notation.Tooth) string {
	if t.Anterior() {
		return "from the teeth behind one canine to those behind the other"
	}
	from := "from the tooth behind"
	if clamped == t {
		from = "from the tooth itself"
	}
	return from + " to the canine of that side, one hole more to the other side"
}

func upper(text string) string   { return strings.ToUpper(text[:1]) + text[1:] }
func lowered(text string) string { return strings.ToLower(text[:1]) + text[1:] }
