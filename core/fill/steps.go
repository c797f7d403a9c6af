package fill

import (
	"fmt"
	"math"
	"strings"

	"obturon/core/cavity"
	"obturon/core/instrument"
	"obturon/core/measure"
	"obturon/core/procedure"
	"obturon/core/school"
)

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
func Steps(s *measure.Subject, under []Layer, plans []Plan, m Matrix, products Products) []procedure.Step {
	var all procedure.List
	add := func(steps ...procedure.Step) {
		for _, s := range steps {
			all.Add(s)
		}
	}
	for _, l := range under {
		add(l.steps()...)
	}
	add(m.steps()...)
	if s.Cavity.Material == school.Amalgam {
		first, last := "", ""
		for n, p := range plans {
			mixes := p.amalgamSteps(&all, n, len(plans), m)
			if first == "" {
				first = mixes[0]
			}
			last = mixes[len(mixes)-1]
		}
		add(m.off()...)
		after := carved(s, products.Amalgams[0], first)
		// What was packed first may have set by then: it lies deep, and is not carved.
		if procedure.Seconds(all[procedure.Index(all, first)+1:]) > after[0].Clock.Most {
			after[0].Clock.After = last
			after[0].Action += " The first mix has set by now, under the last: carve in the last alone. Where the last is thinner than a millimetre, fill in two stages, and carve the lower one before the next is mixed."
		}
		add(after...)
		return all
	}
	add(products.Adhesives[0].steps(meets(s))...)
	number := 0
	for _, p := range plans {
		for n, i := range p.Increments {
			number++
			add(i.steps(number, len(m.Bands) > 0 && n == len(p.Increments)-1)...)
		}
	}
	add(m.off()...)
	if len(m.Bands) > 0 && m.Kind != Strip { // which lets the light through
		cure := timed(
			procedure.CureSides,
			"From facial, then from lingual: what stood behind the band has had its light from one side only.",
			secondsFromSides,
			instrument.CuringLamp,
		)
		cure.Clock.Most = 2 * secondsFromSides
		add(cure)
	}
	add(finished(s, products)...)
	return all
}

// step is one of a kind that takes so long.
func step(k procedure.Kind, action string, seconds int, with ...instrument.ID) procedure.Step {
	s := procedure.New(k, with...)
	s.Action, s.Seconds = action, seconds
	return s
}

// timed is one whose time is kept, neither less nor more.
func timed(k procedure.Kind, action string, seconds float64, with ...instrument.ID) procedure.Step {
	whole := int(math.Ceil(seconds))
	s := step(k, action, whole, with...)
	s.Clock = &procedure.Clock{Least: whole, Most: whole}
	return s
}

func (m Matrix) steps() []procedure.Step {
	if m.Kind == NoMatrix {
		return nil
	}
	s := step(procedure.PlaceMatrix, m.Why, secondsMatrix, m.Kind.instrument())
	s.Name = m.Kind.Name()
	for _, b := range m.Bands {
		s.Action += fmt.Sprintf(" %s: %.1f mm past the gingival margin.", strings.ToUpper(b.Side.String()[:1])+b.Side.String()[1:], b.Under)
		for _, t := range b.Facing {
			s.Action += fmt.Sprintf(" The band of %s stands at the same time: the two are filled in one go.", t)
		}
		if len(b.Short) > 0 {
			s.Caution = fmt.Sprintf("It will not seat %s: clear the %s first.", b.Side, strings.Join(b.Short, " and the "))
		}
	}
	if len(m.Pieces()) > 1 {
		s.Instruments = append(s.Instruments, instrument.Wedge)
	}
	if m.Kind != Strip {
		s.Instruments = append(s.Instruments, instrument.Burnisher)
	}
	return []procedure.Step{s}
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
func (m Matrix) off() []procedure.Step {
	action := "What holds the band out first, then the wedge, and the band sideways, not occlusally."
	switch m.Kind {
	case NoMatrix:
		return nil
	case Strip:
		action = "The strip drawn out to one side."
	case Sectional:
		action = "Ring and wedge out, the band out sideways, not occlusally, with a finger on the filling."
	}
	return []procedure.Step{step(procedure.RemoveMatrix, action, secondsUnband)}
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

func (a Adhesive) steps(of substrate) []procedure.Step {
	var all []procedure.Step
	if of.enamel && a.EtchEnamel > 0 {
		all = append(all, timed(procedure.EtchEnamel, "Acid on the enamel margins first, all round.", a.EtchEnamel, instrument.Etch))
	}
	if of.dentin && a.EtchDentin > 0 {
		all = append(all, timed(procedure.EtchDentin, "Then over the dentin; no longer than this.", a.EtchDentin, instrument.Etch))
	}
	if len(all) > 0 {
		dry := step(procedure.Dry, "Enamel dry and frosty.", secondsSeal/2)
		if of.dentin && a.Moist {
			dry.Action, dry.Caution = "Enamel frosty, dentin left glistening: blot it, no air on it.", "Dried out, its fibres fall together and the bond fails."
		}
		all = append(all, timed(procedure.Rinse, "Water and air until no acid is left.", a.Rinse), dry)
	}
	if a.Rub > 0 {
		all = append(all, timed(procedure.Bond, a.Name+", rubbed in all over.", a.Rub, instrument.Adhesive, instrument.Applicator))
	}
	all = append(all, timed(procedure.ThinBond, "A gentle stream of air until nothing moves.", a.Thin))
	if a.Cure > 0 {
		cure := timed(procedure.CureBond, "Before anything is laid on it.", a.Cure, instrument.CuringLamp)
		cure.Caution = "Through the filter."
		all = append(all, cure)
	}
	return all
}

// steps lay and cure an increment; the last one behind a band is shaped before it is cured.
func (i Laid) steps(number int, shaped bool) []procedure.Step {
	paste := instrument.CompositePaste
	if i.Product.Kind == Flowing {
		paste = instrument.Flowable
	}
	own := strings.ToLower(i.Name)
	place := step(
		procedure.LayIncrement,
		fmt.Sprintf("%s, %.1f mm³, nowhere over %.1f mm thick.", i.Product.Name, i.Volume, i.Most),
		secondsIncrement,
		paste,
		instrument.FillingBlade,
	)
	place.Name += " " + own
	place.Increment = number
	if i.Why != "" {
		place.Action += " " + i.Why
	}
	if i.Product.WorkingSeconds < secondsIncrement {
		place.Caution = fmt.Sprintf(
			"It stays soft for %.0f s only, and laying it takes about %d: turn the operating light off it, or take it in two.",
			i.Product.WorkingSeconds,
			secondsIncrement,
		)
	}
	if shaped {
		place.Action += " Open the embrasures with an explorer while it is soft: cured, it takes a bur."
	}
	cure := timed(
		procedure.CureIncrement,
		fmt.Sprintf("The tip %.1f mm from its deepest place.", i.Light.MM),
		i.Light.Exposure.Least,
		instrument.CuringLamp,
	)
	cure.Name += " " + own
	cure.Clock.Most = int(math.Ceil(i.Light.Exposure.Most))
	cure.Caution, cure.Increment = "Through the filter.", number
	return []procedure.Step{place, cure}
}

// amalgamSteps mix, condense and burnish a part of an amalgam; mixes are the steps that mix it.
func (p Plan) amalgamSteps(all *procedure.List, n, of int, m Matrix) (mixes []string) {
	part := ""
	if of > 1 {
		part = fmt.Sprintf(", part %d of %d", n+1, of)
	}
	loads := 0
	for k, mix := range p.Charge.Mixes {
		mixing := step(procedure.Triturate, fmt.Sprintf("A capsule of %g mg alloy, for %s.", mix.AlloyMg, counted(mix.Loads, "load")), secondsTriturate)
		if k > 0 {
			mixing.Name += " again"
		}
		mixing.Name += part
		mixing.Caution = "Capsule closed; no bare hands."
		if k > 0 {
			mixing.Action += " Its amalgam goes onto a surface that is still fresh: press mercury out of the one below, and go on at once."
		}
		mixed := all.Add(mixing)
		mixes = append(mixes, mixed)
		condense := step(
			procedure.Condense,
			fmt.Sprintf(
				"Loads %d to %d, each firmly and overlapping the last: %s.",
				loads+1,
				loads+mix.Loads,
				places(p.Loads[loads:loads+mix.Loads]),
			),
			mix.Loads*loadSeconds,
			instrument.Carrier,
			instrument.Condenser,
		)
		condense.Name += part
		condense.Clock = &procedure.Clock{Most: int(p.Charge.Product.CondenseSeconds), After: mixed}
		all.Add(condense)
		loads += mix.Loads
	}
	burnish := step(procedure.Burnish, "Overfilled, then pressed towards the margins.", secondsBurnish, instrument.Burnisher)
	burnish.Name += part
	if m.Kind != NoMatrix {
		burnish.Action += " Free the ridge from the band with an explorer before it comes off."
	}
	all.Add(burnish)
	return mixes
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

// carved is what follows on condensing; mixed is the step of the first mix.
func carved(s *measure.Subject, a Amalgam, mixed string) []procedure.Step {
	carve := step(
		procedure.Carve,
		"The blade resting on tooth, from there over the filling; shallow grooves.",
		secondsCarve,
		instrument.Carver,
	)
	carve.Caution = "Suction on; scraps into the closed container."
	carve.Clock = &procedure.Clock{Most: int(a.CarveSeconds), After: mixed}
	if len(s.Cavity.Boxes) > 0 {
		carve.Action += " The marginal ridge as high as that of the adjacent tooth."
	}
	bite := occlusion(s)
	bite.Action += " What is heavier is carved down while it still carves; nobody bites hard."
	bite.Instruments = append(bite.Instruments, instrument.Carver)
	all := append([]procedure.Step{carve, bite}, contact(s)...)
	return append(all,
		step(procedure.Smooth, "Wet cotton over it.", secondsBurnish, instrument.CottonRolls),
		step(procedure.Instruct, fmt.Sprintf("No heavy load on it for %.0f hours. Nothing is bitten while numb.", a.NoLoadHours), secondsTell))
}

func finished(s *measure.Subject, products Products) []procedure.Step {
	polish := step(
		procedure.Finish,
		"Finishing burs over the occlusal surface, then cup and paste.",
		secondsPolish,
		instrument.FinishingBurs,
		instrument.PumiceCup,
	)
	if s.Cavity.Kind != cavity.Occlusal {
		polish.Instruments = []instrument.ID{instrument.Discs}
		polish.Action = "Discs coarse to superfine, half on tooth and half on filling."
		if s.Cavity.Kind == cavity.Cervical {
			polish.Action, polish.Caution = "Shaped by the same tooth of the other side. "+polish.Action, "Never on the gingiva."
		}
	}
	excess := step(
		procedure.RemoveExcess,
		"A number 12 blade along the margins, from filling towards tooth.",
		secondsFlash,
		instrument.FlashBlade,
	)
	bite := occlusion(s)
	bite.Action += " What is heavier is ground before the polish."
	bite.Instruments = append(bite.Instruments, instrument.FinishingBurs)
	all := append([]procedure.Step{excess, bite}, contact(s)...)
	all = append(all, polish)
	if etch := products.Adhesives[0].EtchEnamel; etch > 0 {
		all = append(all, timed(procedure.EtchMargins, "Rolls in, the margins dry: acid along them, rinsed and dried.", etch, instrument.Etch))
	}
	return append(
		all,
		step(
			procedure.SealMargins,
			"Thin resin into what finishing has opened, cured.",
			secondsSeal,
			instrument.Resin,
			instrument.CuringLamp,
		),
		step(procedure.Instruct, "It may be sensitive for some days. Nothing is bitten while numb.", secondsTell),
	)
}

func contact(s *measure.Subject) []procedure.Step {
	if len(s.Cavity.Boxes) == 0 && s.Cavity.Kind != cavity.Proximal && s.Cavity.Kind != cavity.IncisalAngle {
		return nil
	}
	return []procedure.Step{
		step(procedure.CheckContact, "It must click through the contact and come out whole.", secondsFloss, instrument.Floss),
	}
}

func occlusion(s *measure.Subject) procedure.Step {
	b := step(
		procedure.CheckOcclusion,
		"Articulating paper against the marks taken before: new marks no heavier than the old.",
		secondsBite,
		instrument.ContactPaper,
	)
	if s.Model.Tooth.Primary() || s.Model.AgeYears < 14 {
		b.Caution = "A child is told not to bite until asked: numb, it bites its lip."
	}
	return b
}
