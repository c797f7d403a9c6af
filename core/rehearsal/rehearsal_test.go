package rehearsal_test

import (
	"context"
	"errors"
	"math"
	"slices"
	"strings"
	"testing"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/cavity"
	"obturon/core/cavity/cavitytest"
	"obturon/core/instrument"
	"obturon/core/lesion"
	"obturon/core/rehearsal"
	"obturon/core/rehearsal/rehearsaltest"
	"obturon/core/school"
)

func finding(kind lesion.Kind, site lesion.Site) lesion.Finding {
	return lesion.Finding{Kind: kind, Site: site, Depth: lesion.OuterDentin}
}

func names(r *rehearsal.Rehearsal) []string {
	var all []string
	for _, s := range r.Steps {
		all = append(all, s.Name())
	}
	return all
}

// The kit makes what was drawn: each surface to within what is proven, what is cut is what
// had to go, and nothing on the way raises an alarm.
func TestTheKitMakesWhatIsDrawn(t *testing.T) {
	for _, c := range []struct {
		name, tooth, rules string
		material           school.Material
		beside             bool
		finding            lesion.Finding
		bur                instrument.ID // that opens it
	}{
		{"Class II beside a tooth", "35", "board", school.Amalgam, true, finding(lesion.ProximalCaries, lesion.Distal), instrument.Pear},
		{"Class V", "33", "adhesive", school.Composite, false, finding(lesion.CervicalCaries, lesion.Buccal), instrument.MicroDiamond},
		{"pit", "22", "adhesive", school.Composite, false, finding(lesion.PitCaries, lesion.LingualPit), instrument.SmallPear}, // as its school teaches
	} {
		t.Run(c.name, func(t *testing.T) {
			t.Parallel()
			r, prepared := rehearsaltest.Cut(t, c.tooth, c.rules, c.material, c.beside, c.finding)
			if c.name == "Class II beside a tooth" {
				testFaultsAreTold(t, r)
			}
			for _, d := range r.Unproven() {
				t.Errorf("%s (%.1f mm²)", d.Words(), d.Area)
			}
			for _, a := range r.Alarms() {
				t.Errorf("%s: %s", r.Steps[a.Step].Name(), a.Text)
			}
			states := r.Workpieces()
			drawn, cut := prepared.Removed(nil).Total, states[len(states)-1].Removed(nil).Total
			if off := cut - drawn; off < -0.02*drawn-0.05 || off > 0.05*drawn+0.05 {
				t.Errorf("%.2f mm³ are cut, %.2f are drawn", cut, drawn)
			}
			if first := r.Steps[0]; first.Instruments[0] != c.bur {
				t.Errorf("opened with the %s: %v", first.Instruments[0], names(r))
			}
			left := r.Survey.Volume(r.Survey.ToGo)
			for n, s := range r.Steps {
				if s.Left > left+1e-6 || s.Taken <= 0 {
					t.Errorf("%s takes %.3f, and leaves %.3f of %.3f", s.Name(), s.Taken, s.Left, left)
				}
				left = s.Left
				for _, id := range s.Instruments {
					if _, ok := instrument.Find(id); !ok {
						t.Errorf("%s names %q, which the kit lacks", s.Name(), id)
					}
				}
				if n > 0 && states[n].Removed(nil).Total < states[n-1].Removed(nil).Total {
					t.Errorf("tooth grows in %s", s.Name())
				}
			}
		})
	}
}

// Faults are told for what they are, whether they show in the cut, on the way or in what a
// step takes.
func testFaultsAreTold(t *testing.T, r *rehearsal.Rehearsal) {
	t.Helper()
	at := func(name string) int {
		n := slices.Index(names(r), name)
		if n < 0 {
			t.Fatalf("no step %q in %v", name, names(r))
		}
		return n
	}
	without := func(name string) []rehearsal.Step { return slices.Delete(slices.Clone(r.Steps), at(name), at(name)+1) }
	with := func(change func(*rehearsal.Cutting), in ...string) []rehearsal.Step {
		steps := slices.Clone(r.Steps)
		for n := range steps {
			if len(in) == 0 || slices.Contains(in, steps[n].Name()) {
				steps[n].Cuts = slices.Clone(steps[n].Cuts)
				for k := range steps[n].Cuts {
					change(&steps[n].Cuts[k])
				}
			}
		}
		return steps
	}
	exchanged := func(a, b string) []rehearsal.Step {
		steps := slices.Clone(r.Steps)
		steps[at(a)], steps[at(b)] = steps[at(b)], steps[at(a)]
		return steps
	}
	swapped := slices.Clone(r.Steps)
	swapped[at("Break the shell")], swapped[at("Walls of the box, distal")] = swapped[at("Walls of the box, distal")], swapped[at("Break the shell")]
	for _, c := range []struct {
		name    string
		steps   []rehearsal.Step
		surface uint16 // that is no longer proven, 0 for none
		alarm   string // that is raised
	}{
		{"shell not broken", without("Break the shell"), cavity.BoxBuccal, ""},
		{"outline left out", without("Outline at depth"), cavity.WallBuccal, "were planned"},
		{"walls before the shell", swapped, 0, "goes through the shell"},
		{"square end for the walls", with(func(c *rehearsal.Cutting) { c.Head = instrument.MustFind(instrument.StraightBur).Head }), cavity.WallBuccal, "from the adjacent tooth"},
		{"held five degrees off", with(func(c *rehearsal.Cutting) { c.Axis = r3.Unit(r3.Add(c.Axis, r3.Vec{Y: 0.087})) }), cavity.WallBuccal, ""},
		{"a ridge approached first", exchanged("Approach the ridges", "Outline at depth"), 0, "an overrun crosses them"},
		{"the box before the outline", exchanged("Ditch the box, distal", "Outline at depth"), 0, "before the floor over it"},
		{"worn burs", with(func(c *rehearsal.Cutting) {
			worn := *c.Head
			worn.Diameter -= 0.15
			c.Head = &worn
		}), cavity.WallBuccal, ""},
		{"dull burs that are pushed and do not get to depth", with(func(c *rehearsal.Cutting) {
			c.Ways = slices.Clone(c.Ways)
			for n, w := range c.Ways {
				c.Ways[n] = slices.Clone(w)
				for k := range w {
					c.Ways[n][k].Z += 0.15
				}
			}
		}), cavity.Floor, ""},
		{"slimmer burs in the same ways", with(func(c *rehearsal.Cutting) { c.Head = instrument.MustFind(instrument.SmallPear).Head }), cavity.WallBuccal, ""},
	} {
		again := r.Repeat(c.steps)
		if c.surface != 0 && !slices.ContainsFunc(again.Unproven(), func(d rehearsal.Deviation) bool { return d.Feature == c.surface }) {
			t.Errorf("%s: the %s is still proven; off are %v", c.name, cavity.FeatureName(c.surface), again.Unproven())
		}
		for _, d := range again.Unproven() {
			if off := r.Survey.Kept.Distance(r.Survey.Frame.To(d.Worst)); math.Abs(off) > 0.1 {
				t.Errorf("%s: the worst place of the %s lies %.2f mm off what is drawn", c.name, cavity.FeatureName(d.Feature), off)
			}
		}
		if c.alarm != "" && !slices.ContainsFunc(again.Alarms(), func(a rehearsal.Alarm) bool { return strings.Contains(a.Text, c.alarm) }) {
			t.Errorf("%s: no alarm says %q: %v", c.name, c.alarm, again.Alarms())
		}
	}
	if same := r.Repeat(r.Steps); len(same.Alarms()) > 0 || len(same.Unproven()) != len(r.Unproven()) {
		t.Errorf("the same steps again: %v, %v", same.Alarms(), same.Unproven())
	}
}

func TestAToothThatIsNotCutIsNotRehearsed(t *testing.T) {
	request := cavitytest.Request(t, "33", "adhesive", school.Composite, 0.2, finding(lesion.CervicalCaries, lesion.Buccal))
	c, err := cavitytest.Propose(t, request).Cut(nil)
	if err != nil {
		t.Fatal(err)
	}
	if _, err := rehearsal.Of(t.Context(), nil, c, c.Model.Surface.Uncut(), nil); err == nil {
		t.Error("a whole tooth was rehearsed")
	}
	stopped, cancel := context.WithCancel(t.Context())
	cancel()
	if _, err := rehearsal.Of(stopped, nil, c, c.Model.Surface.Uncut().Carve(c.Tool()), nil); !errors.Is(err, context.Canceled) {
		t.Errorf("a cancelled rehearsal went on: %v", err)
	}
}
