// Package chair follows a dentist through a sequence of steps: it folds what happens, in
// the order in which it happened, into the step at hand, the time that each took, and what
// a slip leads on to.
package chair

import (
	"fmt"
	"slices"

	"obturon/core/instrument"
)

// Kind of an event at the chair.
type Kind string

// The kinds. Done, Skipped and Back lead to another step.
const (
	Done             Kind = "done"
	Skipped          Kind = "skipped"
	Back             Kind = "back"
	Paused           Kind = "paused"
	Resumed          Kind = "resumed"
	Reading          Kind = "reading"
	NeighbourTouched Kind = "neighbour_touched"
	PulpSeen         Kind = "pulp_seen"
	TooDeep          Kind = "too_deep"
	ClockStarted     Kind = "clock_started" // of the step named
	ClockStopped     Kind = "clock_stopped"
	Finished         Kind = "finished"
)

// Kinds lists them.
var Kinds = []Kind{Done, Skipped, Back, Paused, Resumed, Reading, NeighbourTouched, PulpSeen, TooDeep, ClockStarted, ClockStopped, Finished}

// Event is one thing that happened.
type Event struct {
	Kind Kind
	Step int     // index of the step at hand
	At   float64 // seconds since the start
	MM   float64 // of a reading, or by how much a cut is too deep
}

// Progress is what has become of one step.
type Progress struct {
	Seconds float64 // spent on it, pauses left out
	Times   int     // that it was taken up
	Done    bool
	Skipped bool
}

// State is where a run stands.
type State struct {
	Step     int // at hand; as many as there are steps once all are behind
	Steps    []Progress
	Seconds  float64 // worked until the last event
	Last     float64 // seconds since the start of the last event
	Paused   bool
	Finished bool
	Readings []Event
	Slips    []Event
}

// TakenUp is what the steps that were done take up, by step.
func (s *State) TakenUp(instruments func(step int) []instrument.ID) []instrument.ID {
	var all []instrument.ID
	for n, p := range s.Steps {
		if p.Done {
			all = append(all, instruments(n)...)
		}
	}
	return all
}

// Run folds the events of a run of so many steps. Events that cannot be, as from a key
// pressed twice, change nothing.
func Run(steps int, events []Event) State {
	s := State{Steps: make([]Progress, steps)}
	if steps > 0 {
		s.Steps[0].Times = 1
	}
	for _, e := range events {
		s.take(e)
	}
	return s
}

func (s *State) take(e Event) {
	if s.Finished {
		s.note(e) // from a window that was cut off when another one finished
		return
	}
	s.pass(e.At)
	switch e.Kind {
	case Done, Skipped:
		if e.Step != s.Step || s.Step >= len(s.Steps) {
			return
		}
		s.Steps[s.Step].Done, s.Steps[s.Step].Skipped = e.Kind == Done, e.Kind == Skipped
		s.goTo(s.Step + 1)
	case Back:
		if e.Step == s.Step && s.Step > 0 {
			s.goTo(s.Step - 1)
		}
	case Paused:
		s.Paused = true
	case Resumed:
		s.Paused = false
	case Finished:
		s.Finished = true
	default:
		s.note(e)
	}
}

// note keeps what was measured or went wrong.
func (s *State) note(e Event) {
	switch e.Kind {
	case Reading:
		s.Readings = append(s.Readings, e)
	case NeighbourTouched, PulpSeen, TooDeep:
		s.Slips = append(s.Slips, e)
	}
}

// pass counts the time up to an event to the step at hand.
func (s *State) pass(at float64) {
	if spent := at - s.Last; spent > 0 {
		if !s.Paused {
			s.Seconds += spent
			if s.Step < len(s.Steps) {
				s.Steps[s.Step].Seconds += spent
			}
		}
		s.Last = at
	}
}

func (s *State) goTo(step int) {
	s.Step = step
	if step < len(s.Steps) {
		s.Steps[step].Times++
	}
}

// Case is what slips are judged by.
type Case struct {
	Tooth      string // of several in one run; "" of the only one
	Primary    bool
	DentinLeft float64 // mm over the pulp, as measured on the computed cavity; 0 where unknown
	Wanted     float64 // mm of it that the school asks for
}

// exposing (mm) is the dentin under which a pulp is as good as seen (operative dentistry
// convention).
const exposing = 0.5

// Sequel is what a slip leads on to: Steps in their order where the work goes another way.
type Sequel struct {
	Text  string
	Steps []string
}

// Sequels say what slips lead on to, each judged by the case of the step at which it happened,
// and by what happened to that tooth before.
func Sequels(slips []Event, at func(step int) Case) []Sequel {
	all := make([]Sequel, len(slips))
	for n, slip := range slips {
		own := at(slip.Step)
		before := slices.DeleteFunc(slices.Clone(slips[:n]), func(e Event) bool { return at(e.Step).Tooth != own.Tooth })
		all[n].Text = own.sequel(slip, before)
		if slip.Kind == PulpSeen {
			all[n].Steps = Exposure(own.Primary)
		}
	}
	return all
}

// sequel says what a slip leads on to; "" for what is none. Too deep adds up over a run.
func (c Case) sequel(e Event, before []Event) string {
	switch e.Kind {
	case NeighbourTouched:
		return "Polish the adjacent tooth with the finest disc before the filling, and record it. Look for a lost point of contact."
	case PulpSeen:
		return "The pulp is open: in this order, or by your own protocol."
	case TooDeep:
		return c.tooDeep(e, before)
	}
	return ""
}

func (c Case) tooDeep(e Event, before []Event) string {
	over := e.MM
	for _, b := range before {
		if b.Kind == TooDeep {
			over = max(over, b.MM)
		}
	}
	if c.DentinLeft <= 0 {
		return fmt.Sprintf("%.1f mm too deep. How much dentin is left over the pulp is not known here: judge it on the film.", over)
	}
	left := c.DentinLeft - over
	switch {
	case left < exposing:
		return fmt.Sprintf(
			"%.1f mm too deep leaves about %.1f mm of dentin over the pulp as modelled: treat it as a near exposure. Stop, decide on a liner by your own protocol, and tell the patient.",
			over,
			max(left, 0),
		)
	case left < c.Wanted:
		return fmt.Sprintf(
			"%.1f mm too deep leaves about %.1f mm of dentin over the pulp as modelled, under the %.1f that are asked for: decide on a liner.",
			over,
			left,
			c.Wanted,
		)
	}
	return fmt.Sprintf(
		"%.1f mm too deep leaves about %.1f mm of dentin over the pulp as modelled: no liner is asked for. Do not deepen the rest of the floor to match.",
		over,
		left,
	)
}

// Past is how long (s) a step of some name took somebody before: the middle one of the
// times that it was done; ok is false where it never was.
func Past(seconds []float64) (middle float64, ok bool) {
	if len(seconds) == 0 {
		return 0, false
	}
	sorted := slices.Sorted(slices.Values(seconds))
	return sorted[len(sorted)/2], true
}
