package fill

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"obturon/core/cavity"
	"obturon/core/instrument"
	"obturon/core/measure"
	"obturon/core/school"
)

// Step is one of filling a cavity.
type Step struct {
	Name, Action string
	Instruments  []instrument.ID
	Caution      string
	Seconds      int    // that it takes
	Clock        *Clock // where time decides, not the hand
	// Laying is of the steps that follow each other without a break, whatever else is done
	// at the time: what is laid goes on setting.
	Laying bool
	// Last is what waits until all cavities of the tooth are filled: the patient bites, is told
	// what to mind, and goes.
	Last bool
	// Together is what is done once for teeth that are treated in one sitting.
	Together bool
	// Increment counts from 1 through the cavity's increments; 0 of other steps.
	Increment int
}

// Clock is how long something lasts, seconds: etching neither less nor more, a light at the
// least, an amalgam until it sets.
type Clock struct {
	Least, Most int // Least is 0 where only its end counts
	// After is the number, from 1, of the step whose end starts it; 0 where a hand does.
	After int
}

// Times of a practised operator, seconds.
const (
	secondsMatrix    = 120
	secondsIncrement = 45
	secondsUnband    = 30
	secondsFlash     = 90
	secondsPolish    = 120
	secondsBite      = 60
	secondsSeal      = 30
	secondsFloss     = 20
	secondsTell      = 30
	secondsBurnish   = 20
	secondsCarve     = 180
	secondsTriturate = 10
	secondsFromSides = 20
)

// Steps fill a cavity from its walls as they are cut to what the patient is told.
func Steps(s *measure.Subject, plans []Plan, m Matrix, products Products) []Step {
	all := m.steps()
	if s.Cavity.Material == school.Amalgam {
		for n, p := range plans {
			all = append(all, p.amalgamSteps(len(all), n, len(plans), m)...)
		}
		first := 1 + slices.IndexFunc(all, func(s Step) bool { return strings.HasPrefix(s.Name, "Triturate") })
		return append(append(all, m.off()...), carved(s, products.Amalgams[0], first)...)
	}
	all = append(all, products.Adhesives[0].steps(meets(s))...)
	number := 0
	for _, p := range plans {
		for n, i := range p.Increments {
			number++
			all = append(all, i.steps(number, len(m.Bands) > 0 && n == len(p.Increments)-1)...)
		}
	}
	all = append(all, m.off()...)
	if len(m.Bands) > 0 && m.Kind != Strip { // which lets the light through
		all = append(all, Step{Name: "Cure from the sides", Instruments: []instrument.ID{instrument.CuringLamp}, Seconds: secondsFromSides, Clock: &Clock{Least: secondsFromSides, Most: 2 * secondsFromSides}, Action: "From facial, then from lingual: what stood behind the band has had its light from one side only."})
	}
	return append(all, finished(s, products)...)
}

func (m Matrix) steps() []Step {
	if m.Kind == NoMatrix {
		return nil
	}
	step := Step{Name: m.Kind.Name(), Seconds: secondsMatrix, Action: m.Why, Instruments: []instrument.ID{m.Kind.instrument()}}
	for _, b := range m.Bands {
		step.Action += fmt.Sprintf(" %s: %.1f mm past the gingival margin.", strings.ToUpper(b.Side.String()[:1])+b.Side.String()[1:], b.Under)
		for _, t := range b.Facing {
			step.Action += fmt.Sprintf(" The band of %s stands at the same time: the two are filled in one go.", t)
		}
		if len(b.Short) > 0 {
			step.Caution = fmt.Sprintf("It will not seat %s: clear the %s first.", b.Side, strings.Join(b.Short, " and the "))
		}
	}
	if len(m.Pieces()) > 1 {
		step.Instruments = append(step.Instruments, instrument.Wedge)
	}
	if m.Kind != Strip {
		step.Instruments = append(step.Instruments, instrument.Burnisher)
	}
	return []Step{step}
}

// instrument is what of the kit makes a matrix of the kind.
func (k MatrixKind) instrument() instrument.ID {
	switch k {
	case Sectional:
		return instrument.SectionalBand
	case TBand:
		return instrument.FoldedBand
	case Strip:
		return instrument.ClearStrip
	default:
		return instrument.RetainerBand
	}
}

// Pieces are what a matrix is made of.
func (m Matrix) Pieces() []Piece {
	if m.Kind == NoMatrix {
		return nil
	}
	band := Piece{m.Kind.instrument(), 1}
	if m.Kind == Sectional {
		band.Count = len(m.Bands)
	}
	wedges := Piece{Instrument: instrument.Wedge}
	for _, b := range m.Bands {
		if b.Wedge != nil {
			wedges.Count++
		}
	}
	if wedges.Count == 0 {
		return []Piece{band}
	}
	return []Piece{band, wedges}
}

// Piece is so many of one thing.
type Piece struct {
	Instrument instrument.ID
	Count      int
}

// off takes the matrix away again.
func (m Matrix) off() []Step {
	step := Step{Name: "Matrix off", Seconds: secondsUnband}
	switch m.Kind {
	case NoMatrix:
		return nil
	case Strip:
		step.Action = "The strip drawn out to one side."
	case Sectional:
		step.Action = "Ring and wedge out, the band out sideways, not towards the biting side, with a finger on the filling."
	default:
		step.Action = "What holds the band out first, then the wedge, and the band sideways, not towards the biting side."
	}
	return []Step{step}
}

// Seconds are what some steps take together.
func Seconds(steps []Step) int {
	sum := 0
	for _, s := range steps {
		sum += s.Seconds
	}
	return sum
}

// substrate is what a cavity's walls are of.
type substrate struct{ enamel, dentin bool }

func meets(s *measure.Subject) substrate {
	var of substrate
	dentin := s.Model.Dentin()
	for _, bed := range s.Beds() {
		for _, w := range bed.Walls {
			if dentin.Distance(w.At) >= 0 {
				of.enamel = true
			} else {
				of.dentin = true
			}
		}
	}
	return of
}

func (a Adhesive) steps(of substrate) []Step {
	timed := func(name, action string, seconds float64, with ...instrument.ID) Step {
		whole := int(math.Ceil(seconds))
		return Step{Name: name, Instruments: with, Action: action, Seconds: whole, Clock: &Clock{Least: whole, Most: whole}}
	}
	var all []Step
	if of.enamel && a.EtchEnamel > 0 {
		all = append(all, timed("Etch enamel", "Acid on the enamel margins first, all round.", a.EtchEnamel, instrument.Etch))
	}
	if of.dentin && a.EtchDentin > 0 {
		all = append(all, timed("Etch dentin", "Then over the dentin; no longer than this.", a.EtchDentin, instrument.Etch))
	}
	if len(all) > 0 {
		rinse := timed("Rinse", "Water and air until no acid is left.", a.Rinse)
		rinse.Together = true
		all = append(all, rinse)
		dry := Step{Name: "Dry", Together: true, Seconds: secondsSeal / 2, Action: "Enamel dry and frosty."}
		if of.dentin && a.Moist {
			dry.Action, dry.Caution = "Enamel frosty, dentin left glistening: blot it, no air on it.", "Dried out, its fibres fall together and the bond fails."
		}
		all = append(all, dry)
	}
	if a.Rub > 0 {
		all = append(all, timed("Bond", a.Name+", rubbed in all over.", a.Rub, instrument.Adhesive, instrument.Applicator))
	}
	all = append(all, timed("Thin it", "A gentle stream of air until nothing moves.", a.Thin))
	if a.Cure > 0 {
		cure := timed("Cure the bond", "Before anything is laid on it.", a.Cure, instrument.CuringLamp)
		cure.Caution = "Through the filter."
		all = append(all, cure)
	}
	return all
}

// steps lay and cure an increment; the last one behind a band is shaped before it is cured.
func (i Laid) steps(number int, shaped bool) []Step {
	paste := instrument.CompositePaste
	if i.Product.Kind == Flowing {
		paste = instrument.Flowable
	}
	place := Step{Name: "Lay " + strings.ToLower(i.Name), Instruments: []instrument.ID{paste, instrument.FillingBlade}, Laying: true, Seconds: secondsIncrement, Increment: number}
	place.Action = fmt.Sprintf("%s, %.1f mm³, nowhere over %.1f mm thick.", i.Product.Name, i.Volume, i.Most)
	if i.Why != "" {
		place.Action += " " + i.Why
	}
	if i.Product.WorkingSeconds < secondsIncrement {
		place.Caution = fmt.Sprintf("It stays soft for %.0f s only, and laying it takes about %d: turn the operating light off it, or take it in two.", i.Product.WorkingSeconds, secondsIncrement)
	}
	if shaped {
		place.Action += " Open the embrasures with an explorer while it is soft: cured, it takes a bur."
	}
	least, most := int(math.Ceil(i.Light.Exposure.Least)), int(math.Ceil(i.Light.Exposure.Most))
	cure := Step{
		Name: "Cure " + strings.ToLower(i.Name), Instruments: []instrument.ID{instrument.CuringLamp}, Laying: true, Seconds: least, Clock: &Clock{Least: least, Most: most}, Increment: number,
		Action: fmt.Sprintf("The tip %.1f mm from its deepest place.", i.Light.MM), Caution: "Through the filter.",
	}
	return []Step{place, cure}
}

// amalgamSteps follow on so many others.
func (p Plan) amalgamSteps(before, n, of int, m Matrix) []Step {
	part := ""
	if of > 1 {
		part = fmt.Sprintf(", part %d of %d", n+1, of)
	}
	var all []Step
	first := 0
	for k, mix := range p.Charge.Mixes {
		name := "Triturate" + part
		if k > 0 {
			name = "Triturate again" + part
		}
		all = append(all, Step{Name: name, Laying: true, Seconds: secondsTriturate, Action: fmt.Sprintf("A capsule of %g mg alloy, for %d loads.", mix.AlloyMg, mix.Loads), Caution: "Capsule closed; no bare hands."})
		condense := Step{
			Name: "Condense" + part, Instruments: []instrument.ID{instrument.Carrier, instrument.Condenser}, Laying: true, Seconds: mix.Loads * loadSeconds, Clock: &Clock{Most: int(p.Charge.Product.CondenseSeconds), After: before + len(all)},
			Action: fmt.Sprintf("Loads %d to %d, each firmly and overlapping the last: %s.", first+1, first+mix.Loads, places(p.Loads[first:first+mix.Loads])),
		}
		all = append(all, condense)
		first += mix.Loads
	}
	burnish := Step{Name: "Burnish" + part, Instruments: []instrument.ID{instrument.Burnisher}, Laying: true, Seconds: secondsBurnish, Action: "Overfilled, then pressed towards the margins."}
	if m.Kind != NoMatrix {
		burnish.Action += " Free the ridge from the band with an explorer before it comes off."
	}
	return append(all, burnish)
}

// places are where loads go, each place once.
func places(loads []Load) string {
	var all []string
	for _, l := range loads {
		for where := range strings.SplitSeq(l.Where, ", then ") {
			if len(all) == 0 || all[len(all)-1] != where {
				all = append(all, where)
			}
		}
	}
	return strings.Join(all, ", then ")
}

// carved is what follows on condensing; the step of the number triturated is the first mix.
func carved(s *measure.Subject, a Amalgam, triturated int) []Step {
	carve := Step{
		Name: "Carve", Instruments: []instrument.ID{instrument.Carver}, Laying: true, Seconds: secondsCarve, Clock: &Clock{Most: int(a.CarveSeconds), After: triturated},
		Action: "The blade resting on tooth, from there over the filling; shallow grooves.", Caution: "Suction on; scraps into the closed container.",
	}
	if len(s.Cavity.Boxes) > 0 {
		carve.Action += " The marginal ridge as high as that of the tooth beside."
	}
	all := append([]Step{carve}, contact(s)...)
	all = append(all, Step{Name: "Smooth", Instruments: []instrument.ID{instrument.CottonRolls}, Seconds: secondsBurnish, Action: "Wet cotton over it."}, bite(s))
	return append(all, Step{Name: "Tell the patient", Last: true, Together: true, Seconds: secondsTell, Action: fmt.Sprintf("No heavy load on it for %.0f hours. Nothing is bitten while numb.", a.NoLoadHours)})
}

func finished(s *measure.Subject, products Products) []Step {
	flash := Step{Name: "Flash off", Instruments: []instrument.ID{instrument.FlashBlade}, Seconds: secondsFlash, Action: "A number 12 blade along the margins, from filling towards tooth."}
	polish := Step{Name: "Finish", Instruments: []instrument.ID{instrument.FinishingBurs, instrument.PumiceCup}, Seconds: secondsPolish, Action: "Finishing burs over the biting surface, then cup and paste."}
	if s.Cavity.Kind != cavity.Occlusal {
		polish.Instruments = []instrument.ID{instrument.Discs}
		polish.Action = "Discs coarse to superfine, half on tooth and half on filling."
		if s.Cavity.Kind == cavity.Cervical {
			polish.Action, polish.Caution = "Shaped by the same tooth of the other side. "+polish.Action, "Never on the gingiva."
		}
	}
	all := append([]Step{flash, polish}, contact(s)...)
	etch := int(math.Ceil(products.Adhesives[0].EtchEnamel))
	if etch > 0 {
		all = append(all, Step{Name: "Etch the margins again", Instruments: []instrument.ID{instrument.Etch}, Seconds: etch, Clock: &Clock{Least: etch, Most: etch}, Action: "Acid along the margins, rinsed and dried."})
	}
	all = append(all, Step{Name: "Seal", Instruments: []instrument.ID{instrument.Resin, instrument.CuringLamp}, Seconds: secondsSeal, Action: "Thin resin into what finishing has opened, cured."}, bite(s))
	return append(all, Step{Name: "Tell the patient", Last: true, Together: true, Seconds: secondsTell, Action: "It may be sensitive for some days. Nothing is bitten while numb."})
}

func contact(s *measure.Subject) []Step {
	if len(s.Cavity.Boxes) == 0 && s.Cavity.Kind != cavity.Proximal && s.Cavity.Kind != cavity.IncisalAngle {
		return nil
	}
	return []Step{{Name: "Floss", Instruments: []instrument.ID{instrument.Floss}, Seconds: secondsFloss, Action: "It must click through the contact and come out whole."}}
}

func bite(s *measure.Subject) Step {
	b := Step{Name: "Bite", Instruments: []instrument.ID{instrument.ContactPaper}, Last: true, Together: true, Seconds: secondsBite, Action: "Articulating paper against the marks taken before: no mark of its own may stand alone or heavier."}
	if s.Model.Tooth.Primary() || s.Model.AgeYears < 14 {
		b.Caution = "A child is told not to bite until asked: numb, it bites its lip."
	}
	return b
}
