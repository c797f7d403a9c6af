package sitting

import (
	"fmt"
	"slices"
	"strings"

	"obturon/core/instrument"
)

// Visit is one tooth of a sitting with its course.
type Visit struct {
	Tooth string
	Steps []Step
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
func Together(visits []Visit) []Step {
	if len(visits) == 1 {
		return timed(slices.Clone(visits[0].Steps))
	}
	i := interleaving{visits: visits, next: make([]int, len(visits)), number: map[place]int{}, last: -1}
	for v, ok := i.following(); ok; v, ok = i.following() {
		i.take(v)
	}
	for n := range i.all {
		if c := i.all[n].Clock; c != nil && c.After > 0 {
			own := *c
			own.After = i.number[place{i.from[n], c.After}]
			i.all[n].Clock = &own
		}
	}
	explain(i.all)
	return timed(i.all)
}

// place is the step of a number, from 1, in a visit.
type place struct{ visit, number int }

type interleaving struct {
	visits []Visit
	next   []int // of each visit's own steps
	last   int   // the visit whose step was taken last, -1 at first
	all    []Step
	from   []int         // the visit that each came from
	number map[place]int // of each visit's steps in all, from 1
}

// ahead are the steps of a visit that are still to come.
func (i *interleaving) ahead(v int) []Step { return i.visits[v].Steps[i.next[v]:] }

// following is the visit whose step comes next.
func (i *interleaving) following() (visit int, ok bool) {
	first := func(is func(v int, s Step) bool) bool {
		for v := range i.visits {
			if ahead := i.ahead(v); len(ahead) > 0 && is(v, ahead[0]) {
				visit = v
				return true
			}
		}
		return false
	}
	laid := func(s Step) bool { return s.Laying }
	if i.last >= 0 {
		before := i.all[len(i.all)-1]
		if ahead := i.ahead(i.last); before.Laying && len(ahead) > 0 && ahead[0].Laying {
			return i.last, true
		}
		if !before.Laying && first(func(_ int, s Step) bool { return s.Name == before.Name }) {
			return visit, true
		}
	}
	ok = first(func(v int, s Step) bool { return !s.Laying && !i.awaited(v, s.Name) }) ||
		first(func(v int, s Step) bool { return !s.Laying && slices.ContainsFunc(i.ahead(v), laid) }) ||
		first(func(_ int, s Step) bool { return s.Laying }) ||
		first(func(int, Step) bool { return true })
	return visit, ok
}

// awaited reports a step that another tooth has still to come to, after one of its own.
func (i *interleaving) awaited(by int, name string) bool {
	for v := range i.visits {
		if ahead := i.ahead(v); v != by && len(ahead) > 1 && slices.ContainsFunc(ahead[1:], func(s Step) bool { return s.Name == name }) {
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
		if other != v && (!s.Together || len(ahead) == 0 || ahead[0].Name != s.Name || !ahead[0].Together) {
			continue
		}
		i.next[other]++
		i.number[place{other, i.next[other]}] = len(i.all) + 1
		s.Teeth = append(s.Teeth, i.visits[other].Tooth)
		if other != v {
			s = withThat(s, ahead[0])
		}
	}
	i.all, i.from, i.last = append(i.all, s), append(i.from, v), v
}

// withThat is a step that is done once, with what another tooth's says of it.
func withThat(s, other Step) Step {
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
func explain(all []Step) {
	firstLaid, lastLaid := -1, -1
	for n, s := range all {
		if s.Laying {
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
	if n := slices.IndexFunc(all[:firstLaid], func(s Step) bool { return s.Filling }); n >= 0 {
		all[n].Why = whyPrimed
	}
	all[firstLaid].Why = whyLaid
	if slices.ContainsFunc(all[firstLaid].Instruments, func(id instrument.ID) bool { return id == instrument.CompositePaste || id == instrument.Flowable }) {
		all[firstLaid].Why = whyDark
	}
	if lastLaid+1 < len(all) {
		all[lastLaid+1].Why = whyFinished
	}
}

// overlap lets clocks run on while the next tooth is reached; what then acts longer on the
// first than twice what it should is warned of.
func overlap(all []Step) {
	const reach = 5 // seconds, for gel or bond on one tooth
	runsOn := func(n int) bool {
		s := all[n]
		return s.Clock != nil && s.Filling && !s.Laying && n+1 < len(all) && all[n+1].Name == s.Name && slices.Contains(s.Instruments, instrument.Etch)
	}
	for n := range all {
		if runsOn(n) {
			all[n].Action += " On to the next tooth while this clock runs."
			all[n].Seconds = min(all[n].Seconds, reach)
		}
	}
	for n := range all {
		first := runsOn(n) && (n == 0 || all[n-1].Name != all[n].Name)
		ends := slices.IndexFunc(all[n:], func(s Step) bool { return s.Together })
		if !first || ends < 0 || all[n+ends-1].Name != all[n].Name { // dentin is etched last, and bears the least
			continue
		}
		if acts := Seconds(all[n : n+ends]); acts > 2*all[n].Clock.Most {
			all[n].Caution = fmt.Sprintf("%s On the first tooth the acid stands for about %d s before it is rinsed, and %d are asked for: do it in two groups.", all[n].Caution, acts, all[n].Clock.Most)
			all[n].Caution = strings.TrimSpace(all[n].Caution)
		}
	}
}

// Round is a step of a sitting as it goes round the teeth, or a tooth's filling as a whole.
type Round struct {
	Name    string
	Steps   []Step
	Teeth   []string
	Seconds int
	Once    bool // for all of them at a time
}

// Action is what is done in it; of a filling, what it is laid in.
func (r Round) Action() string {
	if !r.Steps[0].Laying {
		return r.Steps[0].Action
	}
	names := make([]string, len(r.Steps))
	for n, s := range r.Steps {
		names[n] = s.Name
	}
	return strings.Join(names, ", ") + "."
}

// Rounds gather steps that belong together in a list.
func Rounds(steps []Step) []Round {
	const filled = "Fill"
	var all []Round
	for _, s := range steps {
		name := s.Name
		if s.Laying {
			name = filled
		}
		if n := len(all) - 1; n < 0 || all[n].Name != name || s.Laying && !slices.Equal(all[n].Teeth, s.Teeth) {
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
