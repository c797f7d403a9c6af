package procedure

import (
	"slices"
	"testing"

	"obturon/core/instrument"
)

func TestEveryKindStandsOnceInTheTableInItsPhase(t *testing.T) {
	phase := 0
	seen := map[Kind]bool{}
	for _, k := range Kinds() {
		e := k.Entry()
		if seen[k] || e.Name == "" {
			t.Errorf("%s: %+v", k, e)
		}
		seen[k] = true
		at := slices.Index(Phases, e.Phase)
		if at < phase {
			t.Errorf("%s of the phase %q comes after %q", k, e.Phase, Phases[phase])
		}
		phase = at
		if k.Fills() != (at >= slices.Index(Phases, Filling)) {
			t.Errorf("%s fills: %v", k, k.Fills())
		}
		if e.Shared && e.Unbroken {
			t.Errorf("%s is shared between teeth and takes no break", k)
		}
	}
}

// A rule that another one contradicts, over however many steps, could never be kept.
func TestTheOrderCanBeKept(t *testing.T) {
	after := map[Kind][]Kind{}
	for _, o := range order {
		if !slices.Contains(Kinds(), o.first) || !slices.Contains(Kinds(), o.then) || o.otherwise == "" {
			t.Errorf("%+v", o)
		}
		after[o.first] = append(after[o.first], o.then)
	}
	var reaches func(from, to Kind, through map[Kind]bool) bool
	reaches = func(from, to Kind, through map[Kind]bool) bool {
		for _, next := range after[from] {
			if next == to || !through[next] && func() bool { through[next] = true; return reaches(next, to, through) }() {
				return true
			}
		}
		return false
	}
	for _, k := range Kinds() {
		if reaches(k, k, map[Kind]bool{}) {
			t.Errorf("%s has to come before itself", k)
		}
	}
}

func TestStepsOutOfOrderAreTold(t *testing.T) {
	of := func(name string, kinds ...Kind) []Step {
		var all []Step
		for _, k := range kinds {
			s := New(k)
			s.Of = name
			all = append(all, s)
		}
		return all
	}
	for name, c := range map[string]struct {
		steps  []Step
		broken []int
	}{
		"as it should be":             {of("", Confirm, Anaesthetise, ConfirmAnaesthesia, Isolate, PunchCut, Outline, CheckOcclusion, Instruct), nil},
		"the bevel before the walls":  {of("", Bevel, PlaneWalls), []int{0}},
		"isolated before it is numb":  {of("", Isolate, ConfirmAnaesthesia), []int{0}},
		"bitten on through the dam":   {of("", CheckOcclusion, RemoveDam), []int{0}},
		"one cavity after the other":  {append(of("mesial", Bond, LayIncrement), of("distal", Bond, LayIncrement)...), nil},
		"what a tooth needs once":     {append(of("mesial", CheckOcclusion), of("", RemoveDam)...), []int{0}},
		"two rules broken by one":     {of("", Bevel, Refine, PlaneWalls), []int{0}},
		"nothing that anything rules": {of("", Smooth, FreshenDentin), nil},
	} {
		broken := OutOfOrder(c.steps)
		for n := range c.steps {
			if (len(broken[n]) > 0) != slices.Contains(c.broken, n) {
				t.Errorf("%s: %v", name, broken)
			}
		}
	}
	if two := OutOfOrder(of("", Bevel, Refine, PlaneWalls))[0]; len(two) != 2 {
		t.Errorf("a bevel before both says %q", two)
	}
}

// However many steps of a kind there are, each is named, and what starts its clock goes with it.
func TestStepsHaveIdsOfTheirOwn(t *testing.T) {
	var all List
	var mixed []string
	for range 3 {
		id := all.Add(New(Triturate))
		s := New(Condense, instrument.Condenser)
		s.Clock = &Clock{Most: 200, After: id}
		all.Add(s)
		mixed = append(mixed, id)
	}
	if want := []string{"triturate", "triturate-2", "triturate-3"}; !slices.Equal(mixed, want) {
		t.Errorf("mixed as %v, want %v", mixed, want)
	}
	moved := Within("distal", all)
	for n, s := range moved {
		if s.Clock != nil && Index(moved, s.Clock.After) != n-1 {
			t.Errorf("%s is started by %s", s.ID, s.Clock.After)
		}
	}
	if Index(all, "triturate") != 0 || all[1].Clock.After != "triturate" {
		t.Error("the steps themselves were renamed")
	}
	if First(all, Condense) != 1 || First(all, Carve) != -1 || Seconds(all) != 0 {
		t.Errorf("%d, %d", First(all, Condense), First(all, Carve))
	}
}
