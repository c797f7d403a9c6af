package sequence

import (
	"slices"
	"strings"
	"testing"

	"obturon/core/anatomy"
	"obturon/core/cavity"
	"obturon/core/cavity/occlusal"
	"obturon/core/cavity/smooth"
	"obturon/core/instrument"
	"obturon/core/lesion"
	"obturon/core/notation"
	"obturon/core/procedure"
	"obturon/core/school"
)

func fissure(change func(d *occlusal.Design)) occlusal.Design {
	d := occlusal.Design{Occlusal: true, PulpalDepth: 1.6, IsthmusWidth: 1.1, DovetailWidth: 1.65, BuccalExtension: 1, MesialRidge: 2.1, DistalRidge: 2.1, LineAngleRadius: 0.2}
	if change != nil {
		change(&d)
	}
	return d
}

func boxed(d *occlusal.Design) {
	d.Boxes[notation.Distal] = occlusal.BoxDesign{Present: true, BuccalReach: 1.8, LingualReach: 1.7, Depth: 3.6, AxialDepth: 1.3}
	d.Axiopulpal, d.ReverseCurve, d.GingivalSlope, d.GrooveDepth = 0.4, 0.1, 20, 0.3
}

// besideBoth are teeth on either side.
func besideBoth() map[notation.Side]*anatomy.AdjacentSurface {
	return map[notation.Side]*anatomy.AdjacentSurface{notation.Mesial: {}, notation.Distal: {}}
}

func cavityOf(t *testing.T, design any, material school.Material, beside map[notation.Side]*anatomy.AdjacentSurface) *cavity.Cavity {
	t.Helper()
	board, err := school.Get("board")
	if err != nil {
		t.Fatal(err)
	}
	c := &cavity.Cavity{Request: cavity.Request{School: board, Adjacent: beside, Choice: cavity.Choice{Material: material}}, Design: design}
	tooth := "46"
	switch d := design.(type) {
	case occlusal.Design:
		c.Kind, c.Boxes, c.Opened = cavity.Occlusal, d.Sides(), d.Occlusal
	case smooth.Design:
		tooth = "33"
		c.Kind = map[lesion.Class]cavity.Kind{lesion.ClassI: cavity.Pit, lesion.ClassIII: cavity.Proximal, lesion.ClassIV: cavity.IncisalAngle, lesion.ClassV: cavity.Cervical}[smooth.ClassOf(d.Site)]
		c.Site = d.Site
	}
	c.Model = anatomy.FromFields(notation.MustParse(tooth), anatomy.Frame{}, nil, nil, nil)
	return c
}

func kinds(steps []procedure.Step) []procedure.Kind {
	var all []procedure.Kind
	for _, s := range steps {
		all = append(all, s.Kind)
	}
	return all
}

// Before anything is proven the steps are those that the design asks for, in the order of
// the work, each with what it takes.
func TestStepsFollowTheDesign(t *testing.T) {
	for name, c := range map[string]struct {
		design   any
		material school.Material
		alone    bool
		order    []procedure.Kind
		without  []procedure.Kind
		says     map[procedure.Kind]string
	}{
		"a fissure": {fissure(nil), school.Amalgam, false,
			[]procedure.Kind{procedure.Confirm, procedure.PunchCut, procedure.Outline, procedure.Ridges, procedure.Extensions, procedure.Refine, procedure.PlaneWalls, procedure.Inspect},
			[]procedure.Kind{procedure.Guard, procedure.CariesLeft, procedure.Ditch, procedure.Bevel, procedure.TrimSeat},
			map[procedure.Kind]string{procedure.PunchCut: "at the deepest pit, full depth at once: 1.6 mm", procedure.Ridges: "2.1 mm short of the mesial"}},
		"a plain fissure": {fissure(func(d *occlusal.Design) { d.BuccalExtension = 0 }), school.Amalgam, false, []procedure.Kind{procedure.Outline}, []procedure.Kind{procedure.Extensions}, nil},
		"a box": {fissure(boxed), school.Amalgam, false,
			[]procedure.Kind{procedure.Guard, procedure.PunchCut, procedure.Outline, procedure.Ridges, procedure.Ditch, procedure.BreakShell, procedure.BoxWalls, procedure.Cleave, procedure.Refine, procedure.Grooves, procedure.TrimSeat, procedure.Inspect},
			nil, map[procedure.Kind]string{procedure.Ditch: "3.6 mm under the ridge", procedure.Outline: "distally carry it to the middle"}},
		"a box without an adjacent tooth": {fissure(boxed), school.Amalgam, true, []procedure.Kind{procedure.Ditch, procedure.BoxWalls}, []procedure.Kind{procedure.Guard, procedure.BreakShell, procedure.Cleave}, nil},
		"a slot": {fissure(func(d *occlusal.Design) { boxed(d); d.Occlusal, d.GrooveDepth = false, 0 }), school.Composite, false,
			[]procedure.Kind{procedure.PunchCut, procedure.Ditch}, []procedure.Kind{procedure.Outline, procedure.Ridges, procedure.Grooves}, map[procedure.Kind]string{procedure.PunchCut: "3.6 mm"}},
		"a covered cusp": {fissure(func(d *occlusal.Design) { d.Reduced, d.CuspReduction = []string{"DL"}, 2.2 }), school.Amalgam, false,
			[]procedure.Kind{procedure.Refine, procedure.ReduceCusps, procedure.Inspect}, nil, nil},
		"a bevel": {fissure(func(d *occlusal.Design) { d.Bonded, d.BevelWidth, d.BevelAngle = true, 0.5, 45 }), school.Composite, false,
			[]procedure.Kind{procedure.PlaneWalls, procedure.Bevel}, nil, map[procedure.Kind]string{procedure.Bevel: "45 degrees"}},
		"III short": {smooth.Design{Site: lesion.Distal, Style: cavity.Short, Width: 2, Height: 3, Depth: 1.5, BevelWidth: 0.5, BevelAngle: 45}, school.Composite, false,
			[]procedure.Kind{procedure.Confirm, procedure.Guard, procedure.PunchCut, procedure.OpenToSize, procedure.BreakShell, procedure.Walls, procedure.Bevel}, []procedure.Kind{procedure.Grooves, procedure.CleanMargin},
			map[procedure.Kind]string{procedure.PunchCut: "from lingual", procedure.Confirm: "shade", procedure.Bevel: "0.5 mm wide"}},
		"III long":    {smooth.Design{Site: lesion.Distal, Style: cavity.Long, Depth: 1.5, BevelWidth: 2.5}, school.Composite, false, []procedure.Kind{procedure.Bevel, procedure.CleanMargin}, nil, map[procedure.Kind]string{procedure.Bevel: "2.5 mm"}},
		"III amalgam": {smooth.Design{Site: lesion.Distal, Depth: 1.5, GrooveDepth: 0.25}, school.Amalgam, false, []procedure.Kind{procedure.Grooves}, []procedure.Kind{procedure.Bevel}, nil},
		"IV": {smooth.Design{Site: lesion.MesialIncisalAngle, Style: cavity.Scalloped, BevelWidth: 2.5, LingualBevel: 0.5, LockDepth: 0.4}, school.Composite, false,
			[]procedure.Kind{procedure.Confirm, procedure.FractureSurface, procedure.LingualLock, procedure.Bevel}, []procedure.Kind{procedure.Guard},
			map[procedure.Kind]string{procedure.Confirm: "putty index", procedure.Bevel: "waves", procedure.LingualLock: "0.4 mm deep"}},
		"V composite": {smooth.Design{Site: lesion.Buccal, Depth: 1, BevelWidth: 1, BevelAngle: 30}, school.Composite, false,
			[]procedure.Kind{procedure.IsolateNeck, procedure.OpenToSize, procedure.Bevel}, []procedure.Kind{procedure.PunchCut, procedure.FreshenDentin},
			map[procedure.Kind]string{procedure.Bevel: "none at the root"}},
		"V amalgam": {smooth.Design{Site: lesion.Buccal, Depth: 1, GrooveDepth: 0.25}, school.Amalgam, false, []procedure.Kind{procedure.OpenToSize, procedure.Grooves}, []procedure.Kind{procedure.Bevel, procedure.FreshenDentin},
			map[procedure.Kind]string{procedure.Grooves: "occlusal and the gingival"}},
		"pit": {smooth.Design{Site: lesion.LingualPit, Depth: 1.2}, school.Composite, false, []procedure.Kind{procedure.PunchCut, procedure.OpenToSize}, []procedure.Kind{procedure.Bevel, procedure.IsolateNeck}, nil},
	} {
		beside := besideBoth()
		if c.alone {
			beside = nil
		}
		steps := Of([]*cavity.Cavity{cavityOf(t, c.design, c.material, beside)}, nil, nil, false)
		at := -1
		for _, k := range c.order {
			next := procedure.First(steps, k)
			if next <= at {
				t.Errorf("%s: %s does not follow in %v", name, k, kinds(steps))
			}
			at = next
		}
		for _, k := range c.without {
			if procedure.First(steps, k) >= 0 {
				t.Errorf("%s: %s in %v", name, k, kinds(steps))
			}
		}
		for k, says := range c.says {
			if n := procedure.First(steps, k); n < 0 || !strings.Contains(steps[n].Action, says) {
				t.Errorf("%s: %s does not say %q: %+v", name, k, says, steps[max(n, 0)].Action)
			}
		}
		if broken := procedure.OutOfOrder(steps); len(broken) > 0 {
			t.Errorf("%s: out of order %v", name, broken)
		}
		canBeDone(t, name, steps)
	}
}

// canBeDone checks that each step has an id of its own, instruments of the kit, and a head to
// turn where the handpiece does, and knows nothing that only cutting tells.
func canBeDone(t *testing.T, name string, steps []procedure.Step) {
	t.Helper()
	ids := map[string]bool{}
	for _, s := range steps {
		turns := s.Speed == instrument.ByHand || s.Speed == instrument.NoSpeed
		for _, id := range s.Instruments {
			i, ok := instrument.Find(id)
			if !ok {
				t.Errorf("%s: %q takes %s, which the kit lacks", name, s.Name, id)
			}
			turns = turns || i.Head != nil
		}
		if !turns || len(s.Instruments) == 0 || s.Seconds <= 0 || s.Action == "" {
			t.Errorf("%s: %q at %s speed with %v for %d s: %q", name, s.Name, s.Speed, s.Instruments, s.Seconds, s.Action)
		}
		if s.Start != "" || s.Lean != "" || len(s.Others) > 0 || len(s.Alarms) > 0 || s.Cut != nil || strings.Contains(s.Figure, "mm³") {
			t.Errorf("%s: %q knows what is not proven: %+v", name, s.Name, s)
		}
		if ids[s.ID] {
			t.Errorf("%s: two steps are %q", name, s.ID)
		}
		ids[s.ID] = true
	}
}

// No instrument is named that does not fit its place, and no gauge that cannot tell.
func TestInstrumentsAndGaugesFitTheirPlace(t *testing.T) {
	for _, c := range []struct {
		depth, isthmus float64
		bur            instrument.ID
		gauge, pin     string
	}{
		{1.6, 1.1, "330", "sink it another 0.1", "pin 1.5"},
		{1.5, 1.1, "330", "head flush is 1.5", "pin 1.5"},
		{1.3, 1.1, "330", "leave 0.2 of it out", "pin 1.0"},
		{1.2, 0.8, "329", "head flush is 1.2", "pin 1.0"},
		{2.9, 1.1, "245", "of it out", "pin 1.5"},
		{0.3, 1.2, "330", "of it out", "probe"},
	} {
		d := fissure(func(d *occlusal.Design) { d.PulpalDepth, d.IsthmusWidth = c.depth, c.isthmus })
		steps := Of([]*cavity.Cavity{cavityOf(t, d, school.Amalgam, nil)}, nil, nil, false)
		punch, outline := steps[procedure.First(steps, procedure.PunchCut)], steps[procedure.First(steps, procedure.Outline)]
		if punch.Instruments[0] != c.bur || !strings.Contains(punch.Gauge, c.gauge) || !strings.HasPrefix(outline.Gauge, c.pin) {
			t.Errorf("depth %v, isthmus %v: %s, %q, %q", c.depth, c.isthmus, punch.Tray(), punch.Gauge, outline.Gauge)
		}
	}
	if pin, band := clearanceGauge(0.4), clearanceGauge(0.3); !strings.Contains(pin, "0.4") || strings.Contains(band, "0.4") {
		t.Errorf("%q for 0.4, %q for 0.3", pin, band)
	}
}

func TestNoTeethAreGuardedThatAreNotThere(t *testing.T) {
	for _, beside := range []map[notation.Side]*anatomy.AdjacentSurface{besideBoth(), nil} {
		steps := Of([]*cavity.Cavity{cavityOf(t, fissure(boxed), school.Amalgam, beside)}, nil, nil, false)
		pinned := slices.ContainsFunc(steps, func(s procedure.Step) bool { return strings.Contains(s.Gauge, "passes") })
		if guarded := procedure.First(steps, procedure.Guard) >= 0; guarded != (beside != nil) || pinned != guarded {
			t.Errorf("an adjacent tooth: %v; guarded: %v, clearance gauged: %v", beside != nil, guarded, pinned)
		}
	}
}

// What isolation hides is marked before anything is cut.
func TestIndexAndShadeComeBeforeAnyCut(t *testing.T) {
	c := cavityOf(t, smooth.Design{Site: lesion.DistalIncisalAngle, Style: cavity.Short, BevelWidth: 1, BevelAngle: 30}, school.Composite, nil)
	for n, s := range Of([]*cavity.Cavity{c}, nil, nil, false) {
		if n > 0 && (strings.Contains(s.Action, "index") || strings.Contains(s.Action, "shade")) {
			t.Errorf("%q comes after the first cut", s.Name)
		}
	}
}
