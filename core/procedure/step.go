package procedure

import (
	"fmt"
	"slices"
	"strings"

	"obturon/core/instrument"
)

// Step is one step for a tooth, or for several that are treated together.
type Step struct {
	// ID is its own within the procedure; it stays the same while the step does.
	ID   string
	Kind Kind
	// Teeth are those that it is for, of several; empty where there is one.
	Teeth       []string
	Of          string          // the cavity that it is about, of several
	Side        string          // "mesial" or "distal", of the box that it is about; "" elsewhere
	Instruments []instrument.ID // of the kit, in the order in which they are taken up
	Speed       instrument.Speed
	Depth       float64 // mm, 0 where depth plays no part
	Seconds     int     // of a practised operator
	Clock       *Clock  // where time decides, not the hand
	Cut         *Cut    // nil where nothing is cut, or before that is proven
	Increment   int     // that it lays or cures, from 1 through its cavity; 0 of other steps
	Shared      bool    // it is done once for teeth that are treated in one sitting
	// Shown is the number, from 1, of the step of its tooth's own sequence in whose picture it
	// shows; 0 of filling.
	Shown int
	// FromAbove tells that it shows best as the bur comes, not in a section.
	FromAbove bool
	Words
}

// Words are what is said of a step, "" where there is nothing to say: they come last, from its
// kind and from what was measured, and nothing hangs on them.
type Words struct {
	Name     string
	Action   string
	Gauge    string
	Caution  string
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
}

// Clock is how long something lasts, seconds: etching neither less nor more, a light at the
// least, an amalgam until it sets.
type Clock struct {
	Least, Most int // Least is 0 where only its end counts
	// After is the id of the step whose end starts it; "" where a hand does.
	After string
}

// Cut is where in the rehearsals of a tooth a step is cut.
type Cut struct{ Cavity, Step int }

// Alternative is another instrument for a step, and what it trades.
type Alternative struct {
	Instrument instrument.ID
	Trade      string
}

// New is a step of a kind with what holds of all of that kind. It panics where the kit lacks
// an instrument: a step that cannot be done is a mistake of who plans it.
func New(k Kind, ids ...instrument.ID) Step {
	e := k.Entry()
	for _, id := range ids {
		instrument.MustFind(id)
	}
	s := Step{ID: string(k), Kind: k, Instruments: append([]instrument.ID{}, ids...), Shared: e.Shared, Speed: instrument.NoSpeed}
	if e.Phase == Filling || e.Phase == Finishing {
		s.Speed = instrument.ByHand
	}
	s.Name = e.Name
	return s
}

// Tray names the step's instruments in words.
func (s Step) Tray() string {
	names := make([]string, len(s.Instruments))
	for n, id := range s.Instruments {
		names[n] = string(id)
	}
	return strings.Join(names, ", ")
}

// Seconds are what some steps take together.
func Seconds(steps []Step) int {
	sum := 0
	for _, s := range steps {
		sum += s.Seconds
	}
	return sum
}

// List is a procedure as it is put together.
type List []Step

// Add appends a step under an id of its own, which it gives back: of several that come with
// the same id all but the first get a number.
func (l *List) Add(s Step) (id string) {
	came := s.ID
	for n := 2; Index(*l, s.ID) >= 0; n++ {
		s.ID = fmt.Sprintf("%s-%d", came, n)
	}
	*l = append(*l, s)
	return s.ID
}

// Within are some steps with ids that tell them from those of another cavity or tooth.
func Within(part string, steps []Step) []Step {
	if part == "" {
		return steps
	}
	all := slices.Clone(steps)
	for n := range all {
		s := &all[n]
		s.ID = part + "/" + s.ID
		if s.Clock != nil && s.Clock.After != "" {
			own := *s.Clock
			own.After = part + "/" + own.After
			s.Clock = &own
		}
	}
	return all
}

// Index is where the step of an id stands among some; -1 where it does not.
func Index(steps []Step, id string) int {
	return slices.IndexFunc(steps, func(s Step) bool { return s.ID == id })
}

// First is where the first step of a kind stands among some; -1 where none does.
func First(steps []Step, k Kind) int {
	return slices.IndexFunc(steps, func(s Step) bool { return s.Kind == k })
}
