package chair

import (
	"math"
	"math/rand/v2"
	"strings"
	"testing"
)

func TestARunIsFolded(t *testing.T) {
	s := Run(3, []Event{
		{Kind: Done, Step: 0, At: 60},
		{Kind: Done, Step: 0, At: 60}, // the key bounced
		{Kind: Paused, Step: 1, At: 90},
		{Kind: Resumed, Step: 1, At: 390},
		{Kind: TooDeep, Step: 1, At: 400, MM: 0.3},
		{Kind: Skipped, Step: 1, At: 410},
		{Kind: Back, Step: 2, At: 415},
		{Kind: Done, Step: 1, At: 445},
		{Kind: Reading, Step: 2, At: 450, MM: 1.8},
		{Kind: Done, Step: 2, At: 465},
		{Kind: Done, Step: 3, At: 466}, // there is none
		{Kind: Finished, Step: 3, At: 470},
		{Kind: Back, Step: 3, At: 480}, // it is over
	})
	if s.Step != 3 || !s.Finished || s.Paused || len(s.Slips) != 1 || len(s.Readings) != 1 {
		t.Errorf("the run stands at %+v", s)
	}
	for n, want := range []Progress{{60, 1, true, false}, {80, 2, true, false}, {25, 2, true, false}} {
		if s.Steps[n] != want {
			t.Errorf("step %d: %+v, want %+v", n, s.Steps[n], want)
		}
	}
	if s.Seconds != 170 || s.Last != 470 {
		t.Errorf("%v s of work in %v", s.Seconds, s.Last)
	}
}

// Whatever comes in, the step stays within the sequence and no time is counted twice.
func TestAnyEventsLeaveARunWhole(t *testing.T) {
	for seed := range uint64(500) {
		pick := rand.New(rand.NewPCG(seed, 1))
		steps := pick.IntN(5)
		var events []Event
		for range pick.IntN(40) {
			events = append(events, Event{Kind: Kinds[pick.IntN(len(Kinds))], Step: pick.IntN(7) - 1, At: float64(pick.IntN(1000)) - 50, MM: pick.Float64()})
		}
		s := Run(steps, events)
		sum := 0.0
		for _, p := range s.Steps {
			sum += p.Seconds
		}
		if s.Step < 0 || s.Step > steps || sum > s.Seconds+1e-9 || s.Seconds > math.Max(s.Last, 0)+1e-9 {
			t.Fatalf("seed %d: %+v", seed, s)
		}
	}
}

func TestSlipsLeadOn(t *testing.T) {
	deep := Case{DentinLeft: 1.4, Wanted: 1}
	for _, c := range []struct {
		name   string
		in     Case
		e      Event
		before []Event
		says   string
	}{
		{"a little too deep", deep, Event{Kind: TooDeep, MM: 0.2}, nil, "about 1.2 mm of dentin over the pulp as modelled: no liner"},
		{"under what is asked for", deep, Event{Kind: TooDeep, MM: 0.6}, nil, "about 0.8 mm of dentin over the pulp as modelled, under the 1.0"},
		{"near the pulp", deep, Event{Kind: TooDeep, MM: 1}, nil, "near exposure"},
		{"past the pulp", deep, Event{Kind: TooDeep, MM: 2}, nil, "about 0.0 mm"},
		{"deeper before", deep, Event{Kind: TooDeep, MM: 0.1}, []Event{{Kind: TooDeep, MM: 0.7}}, "about 0.7 mm"},
		{"nothing known", Case{}, Event{Kind: TooDeep, MM: 0.1}, nil, "not known"},
		{"neighbour", deep, Event{Kind: NeighbourTouched}, nil, "finest disc"},
		{"pulp", deep, Event{Kind: PulpSeen}, nil, "in this order"},
		{"no slip", deep, Event{Kind: Done}, nil, ""},
	} {
		got := c.in.sequel(c.e, c.before)
		if !strings.Contains(got, c.says) || (c.says == "") != (got == "") {
			t.Errorf("%s: %q", c.name, got)
		}
	}
}

func TestPast(t *testing.T) {
	if _, ok := Past(nil); ok {
		t.Error("a past without times")
	}
	if got, _ := Past([]float64{90, 10, 40}); got != 40 {
		t.Errorf("the middle of 10, 40 and 90 is %v", got)
	}
}

// Of several teeth each is judged by itself, in the order in which things happened.
func TestSlipsAreJudgedByTheirTooth(t *testing.T) {
	at := func(step int) Case {
		return []Case{{Tooth: "33", DentinLeft: 2, Wanted: 1}, {Tooth: "34", DentinLeft: 0.6, Wanted: 1}}[step%2]
	}
	slips := []Event{{Kind: TooDeep, Step: 0, MM: 0.9}, {Kind: TooDeep, Step: 1, MM: 0.3}, {Kind: TooDeep, Step: 2, MM: 0.2}, {Kind: NeighbourTouched, Step: 1}}
	got := Sequels(slips, at)
	for n, wanted := range []string{"0.9 mm too deep leaves about 1.1", "0.3 mm too deep leaves about 0.3", "0.9 mm too deep", "finest disc"} {
		if !strings.Contains(got[n].Text, wanted) {
			t.Errorf("slip %d leads on to %q, want %q", n, got[n].Text, wanted)
		}
	}
}

// Of a permanent tooth a small clean exposure is capped; a primary pulp gets a pulpotomy.
func TestAnOpenPulpHasItsOwnWay(t *testing.T) {
	for primary, want := range map[bool]string{false: "calcium silicate, 1.5 to 2 mm", true: "pulpotomy"} {
		got := Sequels([]Event{{Kind: PulpSeen}, {Kind: NeighbourTouched}}, func(int) Case { return Case{Primary: primary} })
		if steps := strings.Join(got[0].Steps, " "); !strings.HasPrefix(steps, "Stop cutting") || !strings.Contains(steps, want) || !strings.Contains(steps, "6") {
			t.Errorf("primary %v: %q", primary, steps)
		}
		if len(got[1].Steps) > 0 {
			t.Errorf("a touched neighbour leads to %q", got[1].Steps)
		}
	}
}
