package sitting

import (
	"fmt"
	"slices"
	"strings"

	"obturon/core/instrument"
	"obturon/core/procedure"
)

// Visit is one tooth of a sitting with its course.
type Visit struct {
	Tooth string
	Steps []procedure.Step
}

// Why the steps of several teeth come in the order in which they do.
const (
	whyRound    = "Each instrument goes round all teeth before the next is taken up. Necks have no contacts to lose by it."
	whyPrimed   = "All are etched, then all bonded, before the first is filled: acid and water would reach a tooth that is bonded already."
	whyLaid     = "From here on one tooth at a time: what is laid goes on setting."
	whyDark     = "From here on one tooth at a time: the light on one would cure what lies soft on the next."
	whyFinished = "All are filled: each finishing instrument goes round once."
)

// Together runs the courses of several teeth as one: every step on all teeth that need it
// before the next, but each laid in one go once all are ready for it.
func Together(visits []Visit) []procedure.Step {
	if len(visits) == 1 {
		return timed(slices.Clone(visits[0].Steps))
	}
	i := interleaving{next: make([]int, len(visits)), known: map[string]string{}, last: -1}
	for _, v := range visits {
		i.visits = append(i.visits, Visit{v.Tooth, procedure.Within(v.Tooth, v.Steps)})
	}
	for v, ok := i.following(); ok; v, ok = i.following() {
		i.take(v)
	}
	for n := range i.all {
		if c := i.all[n].Clock; c != nil && c.After != "" {
			own := *c
			own.After = i.known[own.After]
			i.all[n].Clock = &own
		}
	}
	explain(i.all)
	return timed(i.all)
}

type interleaving struct {
	visits []Visit
	next   []int // of each visit's own steps
	last   int   // the visit whose step was taken last, -1 at first
	all    []procedure.Step
	known  map[string]string // the id among all of each visit's step, by its own
}

// ahead are the steps of a visit that are still to come.
func (i *interleaving) ahead(v int) []procedure.Step { return i.visits[v].Steps[i.next[v]:] }

// following is the visit whose step comes next.
func (i *interleaving) following() (visit int, ok bool) {
	first := func(is func(v int, s procedure.Step) bool) bool {
		for v := range i.visits {
			if ahead := i.ahead(v); len(ahead) > 0 && is(v, ahead[0]) {
				visit = v
				return true
			}
		}
		return false
	}
	if i.last >= 0 {
		before := i.all[len(i.all)-1]
		if ahead := i.ahead(i.last); unbroken(before) && len(ahead) > 0 && unbroken(ahead[0]) {
			return i.last, true
		}
		if !unbroken(before) && first(func(_ int, s procedure.Step) bool { return alike(s, before) }) {
			return visit, true
		}
	}
	ok = first(func(v int, s procedure.Step) bool { return !unbroken(s) && !i.awaited(v, s) }) ||
		first(func(v int, s procedure.Step) bool { return !unbroken(s) && slices.ContainsFunc(i.ahead(v), unbroken) }) ||
		first(func(_ int, s procedure.Step) bool { return unbroken(s) }) ||
		first(func(int, procedure.Step) bool { return true })
	return visit, ok
}

// awaited reports a step that another tooth has still to come to, after one of its own.
func (i *interleaving) awaited(by int, step procedure.Step) bool {
	for v := range i.visits {
		if ahead := i.ahead(v); v != by && len(ahead) > 1 &&
			slices.ContainsFunc(ahead[1:], func(s procedure.Step) bool { return alike(s, step) }) {
			return true
		}
	}
	return false
}

// take takes the next step of a visit, and of the others with it where it is done once.
func (i *interleaving) take(v int) {
	s := i.ahead(v)[0]
	for other := range i.visits {
		ahead := i.ahead(other)
		if other != v && (!s.Shared || len(ahead) == 0 || ahead[0].Kind != s.Kind || !ahead[0].Shared) {
			continue
		}
		i.next[other]++
		i.known[ahead[0].ID] = s.ID
		s.Teeth = append(s.Teeth, i.visits[other].Tooth)
		if other != v {
			s = withThat(s, ahead[0])
		}
	}
	i.all, i.last = append(i.all, s), v
}

// unbroken reports a step that follows the one before it without a break.
func unbroken(s procedure.Step) bool { return s.Kind.Entry().Unbroken }

// alike reports steps of two teeth that the same instruments go round for.
func alike(a, b procedure.Step) bool { return a.Kind == b.Kind && a.Side == b.Side }

// withThat is a step that is done once, with what another tooth's says of it.
func withThat(s, other procedure.Step) procedure.Step {
	if len(other.Action) > len(s.Action) {
		s.Action = other.Action
	}
	s.Seconds = max(s.Seconds, other.Seconds)
	s.Instruments = slices.Clone(s.Instruments)
	for _, id := range other.Instruments {
		if !slices.Contains(s.Instruments, id) {
			s.Instruments = append(s.Instruments, id)
		}
	}
	return s
}

// explain says at the first step of each stretch why it comes so.
func explain(all []procedure.Step) {
	firstLaid, lastLaid := -1, -1
	for n, s := range all {
		if unbroken(s) {
			lastLaid = n
			if firstLaid < 0 {
				firstLaid = n
			}
		}
	}
	overlap(all)
	all[0].Why = whyRound
	if firstLaid < 0 {
		return
	}
	if n := slices.IndexFunc(all[:firstLaid], func(s procedure.Step) bool { return s.Kind.Fills() }); n >= 0 {
		all[n].Why = whyPrimed
	}
	all[firstLaid].Why = whyLaid
	if slices.ContainsFunc(
		all[firstLaid].Instruments,
		func(id instrument.ID) bool { return id == instrument.CompositePaste || id == instrument.Flowable },
	) {
		all[firstLaid].Why = whyDark
	}
	if lastLaid+1 < len(all) {
		all[lastLaid+1].Why = whyFinished
	}
}

// overlap lets clocks run on while the next tooth is reached; what then acts longer on the
// first than twice what it should is warned of.
func overlap(all []procedure.Step) {
	const reach = 5 // seconds, for gel or bond on one tooth
	runsOn := func(n int) bool {
		s := all[n]
		return s.Clock != nil && etches(s.Kind) && n+1 < len(all) && all[n+1].Kind == s.Kind
	}
	for n := range all {
		if runsOn(n) {
			all[n].Action += " On to the next tooth while this clock runs."
			all[n].Seconds = min(all[n].Seconds, reach)
		}
	}
	for n := range all {
		first := runsOn(n) && (n == 0 || all[n-1].Kind != all[n].Kind)
		ends := slices.IndexFunc(all[n:], func(s procedure.Step) bool { return s.Shared })
		if !first || ends < 0 || all[n+ends-1].Kind != all[n].Kind { // dentin is etched last, and bears the least
			continue
		}
		if acts := procedure.Seconds(all[n : n+ends]); acts > 2*all[n].Clock.Most {
			all[n].Caution = fmt.Sprintf(
				"%s On the first tooth the acid stands for about %d s before it is rinsed, and %d are asked for: do it in two groups.",
				all[n].Caution,
				acts,
				all[n].Clock.Most,
			)
			all[n].Caution = strings.TrimSpace(all[n].Caution)
		}
	}
}

// etches reports acid that goes on acting while the next tooth is reached.
func etches(k procedure.Kind) bool {
	return slices.Contains([]procedure.Kind{procedure.EtchEnamel, procedure.EtchDentin, procedure.EtchMargins}, k)
}

// Round is a step of a sitting as it goes round the teeth, or a tooth's filling as a whole.
type Round struct {
	Name    string
	Steps   []procedure.Step
	Teeth   []string
	Seconds int
	Once    bool // for all of them at a time
}

// Action is what is done in it; of a filling, what it is laid in.
func (r Round) Action() string {
	if !unbroken(r.Steps[0]) {
		return r.Steps[0].Action
	}
	names := make([]string, len(r.Steps))
	for n, s := range r.Steps {
		names[n] = s.Name
	}
	return strings.Join(names, ", ") + "."
}

// Rounds gather steps that belong together in a list.
func Rounds(steps []procedure.Step) []Round {
	var all []Round
	for _, s := range steps {
		n := len(all) - 1
		goesOn := n >= 0 && !unbroken(s) && alike(all[n].Steps[0], s)
		laidOn := n >= 0 && unbroken(s) && unbroken(all[n].Steps[0]) && slices.Equal(all[n].Teeth, s.Teeth)
		if !goesOn && !laidOn {
			name := s.Name
			if unbroken(s) {
				name = "Fill"
			}
			all = append(all, Round{Name: name, Once: len(s.Teeth) > 1})
		}
		r := &all[len(all)-1]
		r.Steps = append(r.Steps, s)
		r.Seconds += s.Seconds
		for _, t := range s.Teeth {
			if !slices.Contains(r.Teeth, t) {
				r.Teeth = append(r.Teeth, t)
			}
		}
	}
	return all
}
