package rehearsal

import (
	"fmt"
	"slices"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/instrument"
	"obturon/core/procedure"
	"obturon/core/solid"
)

// Step is what is cut with one purpose.
type Step struct {
	Kind        procedure.Kind
	Side        string // "mesial" or "distal" where it is about one box of several; ""
	Why         string
	Instruments []instrument.ID // in the order in which they are taken up
	ByHand      bool
	Cuts        []Cutting // of rotary instruments
	Others      []Other   // burs that would have done, in the order in which they suit
	Lack        *Lack     // what would have been taken up, and is not in the kit; nil with all of it
	Wanted      float64   // mm³ of what it is there for that stood before it
	Planned     float64   // mm³ that it took when it was derived
	Behind      float64   // mm of the shell behind which its burs keep; 0 without one
	Breaks      bool      // it takes the shell away

	// What cutting it showed: what it took and what still has to go after it, mm³, and
	// how near its burs came.
	Taken, Left float64
	Nearest     Nearness

	// Hot is how far (mm) the tips of its burs go with the head closer to the pulp than
	// HotPulp.
	Hot float64

	// Tissues is what it took of each.
	Tissues Taking

	pared    *solid.Dense // where its blade goes, in the cavity's frame
	paredIn  solid.Box    // about that
	beyond   float64      // mm that the blade goes past what is drawn
	furthest [2]*r3.Vec   // that is cut after it, by side; nil where a box is or no side
}

// Other is a bur that was not chosen, and what (mm³) it would seem to take at once.
type Other struct {
	Instrument instrument.ID
	Takes      float64
}

// Name is that of its kind, with the side.
func (s *Step) Name() string {
	if s.Side == "" {
		return s.Kind.Name()
	}
	return s.Kind.Name() + ", " + s.Side
}

// do cuts a step, and keeps what that shows.
func (p *progress) do(s *Step) {
	before := p.standing()
	s.Nearest, s.Hot = far, 0
	for _, c := range s.Cuts {
		s.Nearest = s.Nearest.and(p.cut(c))
		s.Hot += p.survey.hot(c)
	}
	if s.pared != nil {
		p.pare(s.pared)
	}
	after := p.standing()
	s.Left, s.Tissues = p.survey.Volume(after), p.survey.takenBetween(before, after)
	s.Taken = p.survey.Volume(before) - s.Left
	for _, side := range p.survey.ridged {
		s.furthest[side] = p.furthest(side)
	}
}

// Tools are all that the step sweeps, in the tooth frame.
func (s *Step) Tools(survey *Survey) []solid.Tool {
	var tools []solid.Tool
	for _, c := range s.Cuts {
		tools = append(tools, c.tools(survey)...)
	}
	if s.pared != nil {
		tools = append(tools, &paring{survey, s.pared, s.paredIn, s.beyond})
	}
	return tools
}

// Beyond is the same step with its blade led so far (mm) past what is drawn; short of it
// where that is negative. It changes what the step's tools take, not what they were planned
// to.
func (s Step) Beyond(mm float64) Step {
	s.beyond = mm
	return s
}

// fast reports a step one of whose burs turns at high speed.
func (s Step) fast() bool {
	return slices.ContainsFunc(s.Cuts, func(c Cutting) bool { return !slowly(s.Kind, instrument.MustFind(c.Instrument)) })
}

// Alarm is what goes wrong in a step, in words.
type Alarm struct {
	Step int
	Text string
}

// Alarms are what goes wrong on the way, whatever is left in the end: the order of steps
// leaves no trace in what is cut.
func (r *Rehearsal) Alarms() []Alarm {
	var all []Alarm
	standing := true // the shell
	steps := make([]procedure.Step, len(r.Steps))
	for n, s := range r.Steps {
		steps[n].Kind = s.Kind
	}
	broken := procedure.OutOfOrder(steps)
	for n, s := range r.Steps {
		alarm := func(format string, args ...any) { all = append(all, Alarm{n, fmt.Sprintf(format, args...)}) }
		standing = standing && !s.Breaks
		for _, text := range broken[n] {
			alarm("%s", text)
		}
		if s.Nearest.Beside < BesideSafe-reserve {
			alarm("A running bur comes to %.2f mm from the adjacent tooth; %.1f is the least that is safe.", max(s.Nearest.Beside, 0), BesideSafe)
		}
		switch near := max(s.Nearest.Pulp, 0); {
		case near < pulpGap-reserve:
			alarm("A running bur comes to %.2f mm from the pulp; the last %.1f are left to the spoon.", near, pulpGap)
		case near < HotPulp-reserve && s.fast():
			alarm("A bur at high speed comes to %.2f mm from the pulp; within %.1f it turns slowly.", near, HotPulp)
		}
		if standing && r.shelled() && s.Nearest.Skin < thinnestShell {
			alarm("A running bur goes through the shell towards the adjacent tooth before that is broken away.")
		}
		if off := s.Taken - s.Planned; off < -takeReserve || off > takeReserve {
			alarm("It takes %.2f mm³ where %.2f were planned: a step before it did more or less than its own.", s.Taken, s.Planned)
		}
	}
	return all
}

// What an alarm passes over: mm that the lattice hides, mm of shell that still hold, and
// mm³ of a step's take.
const (
	reserve       = 0.02
	thinnestShell = 0.1
	takeReserve   = 0.1
)

// shelled reports steps that break a shell: without one burs may reach the surface.
func (r *Rehearsal) shelled() bool {
	for _, s := range r.Steps {
		if s.Breaks {
			return true
		}
	}
	return false
}
