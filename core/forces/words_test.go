package forces

import (
	"math"
	"testing"

	"obturon/core/hold"
)

// Each sentence says what it rests on: what holds, by how much, and what happens else.
func TestPullsInWords(t *testing.T) {
	grooves, walls := Holder{Name: "the retention grooves", MM: 0.5}, Holder{Name: "the walls of the box", MM: 0.12}
	for _, c := range []struct {
		pull Pull
		want string
	}{
		{Pull{Name: "Pulled towards mesial", State: Free, Moves: math.Inf(1)}, "Pulled towards mesial: free. No wall stands in its way, it slides out."},
		{Pull{Name: "Pulled towards mesial", State: Fit, Depth: 0.02}, "Pulled towards mesial: by fit and friction alone, 0.02 mm of undercut is what walls wave by."},
		{Pull{Name: "Pulled out along the bur", State: Held, Depth: 0.5, Moves: 0.3, By: []Holder{grooves, walls}}, "Pulled out along the bur: held by the retention grooves, 0.5 mm and more; the walls of the box, 0.12 mm; it goes 0.3 mm before it stops."},
		{Pull{Name: "Pulled out along the bur", State: Held, Depth: 0.11, Moves: 0.01}, "Pulled out along the bur: held by its walls together, 0.11 mm."},
		{Pull{Name: "Tipped", Side: "distal", Turns: true, State: Held, Depth: 0.034, By: []Holder{grooves}}, "Tipped, distal: held by the retention grooves, 0.03 mm for 0.5 mm of tipping."},
		{Pull{Name: "Tipped", Side: "distal", Turns: true, State: Fit, Depth: 0.004}, "Tipped, distal: hardly held, by 0.004 mm for 0.5 mm of tipping."},
		{Pull{Name: "Tipped", Side: "distal", Turns: true, State: Free}, "Tipped, distal: free. Nothing but its fit and the load from above keeps it down."},
	} {
		if got := c.pull.said(); got != c.want {
			t.Errorf("got  %s\nwant %s", got, c.want)
		}
	}
}

// Of fillings that stand by themselves, the one that is held least counts on either side of
// a change: the other's hold is no gain.
func TestTheFillingThatIsHeldLeastCounts(t *testing.T) {
	out := func(mm float64) Pull { return Pull{Name: "Pulled out along the bur", Depth: mm} }
	if g := gains([]Pull{out(0.1), out(0.4)}, []Pull{out(0.1), out(0.4)}); len(g) != 0 {
		t.Errorf("nothing has changed, and gains %+v", g)
	}
	g := gains([]Pull{out(0.4), out(0.1)}, []Pull{out(0.4), out(0.2)})
	if len(g) != 1 || g[0].Before.Depth != 0.1 || g[0].After.Depth != 0.2 {
		t.Errorf("gains %+v", g)
	}
}

func TestReleaseInWords(t *testing.T) {
	for degrees, want := range map[float64]string{
		3:  "There is a way in which every wall leans away from the filling, by 3.0 degrees at least: unbonded, it could be drawn out.",
		0:  "In its freest way the walls stand along the filling, within 0.0 degrees: unbonded, fit and friction alone hold it.",
		-4: "Whichever way it is drawn, some wall leans over the filling, by 4.0 degrees at least.",
	} {
		if got := released(hold.Release{Degrees: degrees}); got != want {
			t.Errorf("%v degrees: %s", degrees, got)
		}
	}
}

func TestATiltedPullInWords(t *testing.T) {
	for want, tilt := range map[string]Tilt{
		"Pulled out along the bur":                            {},
		"Pulled out 20° towards distal":                       {Mesial: -20},
		"Pulled out 5° towards mesial and 10° towards facial": {Mesial: 5, Facial: 10},
	} {
		if got := tilt.said(); got != want || tilt.Check() != nil {
			t.Errorf("%q, want %q: %v", got, want, tilt.Check())
		}
	}
	for _, wrong := range []Tilt{{Mesial: 81}, {Facial: math.NaN()}, {Facial: math.Inf(-1)}} {
		if wrong.Check() == nil {
			t.Errorf("%+v is taken", wrong)
		}
	}
}
