package sequence

import (
	"slices"
	"strings"
	"testing"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/anatomy"
	"obturon/core/cavity"
	"obturon/core/cavity/occlusal"
	"obturon/core/lesion"
	"obturon/core/notation"
	"obturon/core/school"
)

func names(steps []Step) []string {
	var list []string
	for _, s := range steps {
		list = append(list, s.Name)
	}
	return list
}

func design() occlusal.Design {
	return occlusal.Design{Occlusal: true, PulpalDepth: 1.6, IsthmusWidth: 1.1, DovetailWidth: 1.65, BuccalExtension: 1, MesialRidge: 2.1, DistalRidge: 2.1, LineAngleRadius: 0.2}
}

// besideBoth are teeth on either side.
func besideBoth() map[notation.Side]*anatomy.AdjacentSurface {
	return map[notation.Side]*anatomy.AdjacentSurface{notation.Mesial: {}, notation.Distal: {}}
}

func stepsOf(d occlusal.Design) []Step { return Cavity(boardCavity(d)) }

func boardCavity(d occlusal.Design) *cavity.Cavity {
	board, err := school.Get("board")
	if err != nil {
		panic(err)
	}
	m := anatomy.FromFields(notation.MustParse("46"), anatomy.Frame{}, nil, nil, nil)
	return &cavity.Cavity{Request: cavity.Request{Model: m, School: board, Adjacent: besideBoth()}, Design: d}
}

func TestStepsFollowTheDesign(t *testing.T) {
	all := names(stepsOf(design()))
	canBeDone(t, stepsOf(design()))
	for _, want := range []string{"Punch cut", "Dovetails", "Groove extensions"} {
		if !slices.Contains(all, want) {
			t.Errorf("no step %q in %v", want, all)
		}
	}
	plain := design()
	plain.DovetailWidth, plain.BuccalExtension = 0, 0
	for _, unwanted := range []string{"Dovetails", "Groove extensions", "Caries left at the junction"} {
		if slices.Contains(names(stepsOf(plain)), unwanted) {
			t.Errorf("step %q without its feature", unwanted)
		}
	}
	if all[0] != "Confirm and mark" || all[len(all)-1] != "Clean and inspect" {
		t.Errorf("order %v", all)
	}
}

func TestTheBurFitsTheCut(t *testing.T) {
	for _, c := range []struct {
		depth, isthmus float64
		bur, gauge     string
	}{
		{1.6, 1.1, "330", "sink it 0.10 below"},
		{1.5, 1.1, "330", "head flush is 1.5"},
		{1.3, 1.1, "330", "0.20 standing proud"},
		{1.2, 0.8, "329", "head flush is 1.2"},
		{2.9, 1.1, "245", "standing proud"},
	} {
		d := design()
		d.PulpalDepth, d.IsthmusWidth = c.depth, c.isthmus
		punch := stepsOf(d)[1]
		if punch.Tray() != c.bur || !strings.Contains(punch.Gauge, c.gauge) {
			t.Errorf("depth %v, isthmus %v: %s, %q", c.depth, c.isthmus, punch.Tray(), punch.Gauge)
		}
	}
}

func TestDentinCariesGetsItsStep(t *testing.T) {
	m, err := anatomy.Build(notation.MustParse("46"), anatomy.MeasuredSizes{}, 34, 0.3)
	if err != nil {
		t.Fatal(err)
	}
	l, err := lesion.NewOcclusal(m, lesion.Finding{Kind: lesion.FissureCaries, Site: lesion.Central, Depth: "middle_dentin"})
	if err != nil {
		t.Fatal(err)
	}
	steps := Cavity(&cavity.Cavity{Design: design(), Request: cavity.Request{Lesions: []lesion.Lesion{l}}})
	at := slices.Index(names(steps), "Caries left at the junction")
	if at < 0 || steps[at].Speed != "low" {
		t.Errorf("steps %v", names(steps))
	}
}

func TestABoxIsCutBehindItsShell(t *testing.T) {
	d := design()
	d.Boxes[notation.Distal] = occlusal.BoxDesign{Present: true, BuccalReach: 1.8, LingualReach: 1.7, Depth: 3.6, AxialDepth: 1.3}
	d.Axiopulpal, d.ReverseCurve, d.GingivalSlope, d.GrooveDepth = 0.4, 0.1, 20, 0.3
	steps := stepsOf(d)
	all := names(steps)
	order := []string{
		"Guard the neighbour", "Punch cut", "Outline at constant depth", "Box, distal: ditch", "Box, distal: break the shell",
		"Box, distal: walls to clearance", "Box, distal: axial wall", "Reverse curve", "Gingival margin", "Axiopulpal line angle", "Retention grooves", "Clean and inspect",
	}
	last := -1
	for _, name := range order {
		at := slices.Index(all, name)
		if at <= last {
			t.Errorf("%q stands at %d of %v", name, at, all)
		}
		last = at
	}
	if slices.ContainsFunc(all, func(s string) bool { return strings.Contains(s, "mesial") }) {
		t.Errorf("a mesial box in %v", all)
	}
	if text := steps[slices.Index(all, "Outline at constant depth")].Action; !strings.Contains(text, "stop short of the mesial ridge") || !strings.Contains(text, "distally carry it to") {
		t.Errorf("the outline ends: %s", text)
	}
	slot := d
	slot.Occlusal, slot.GrooveDepth = false, 0
	for _, unwanted := range []string{"Punch cut", "Reverse curve", "Axiopulpal line angle", "Retention grooves"} {
		if slices.Contains(names(stepsOf(slot)), unwanted) {
			t.Errorf("a slot with the step %q", unwanted)
		}
	}
}

func TestABondedFillingIsBevelledAndTheRestSealed(t *testing.T) {
	d := design()
	d.Bonded, d.BevelWidth, d.BevelAngle = true, 0.5, 45
	all := names(Cavity(&cavity.Cavity{Design: d, Sealed: [][]r3.Vec{nil}}))
	if bevel, walls := slices.Index(all, "Bevel"), slices.Index(all, "Enamel walls"); bevel < walls {
		t.Errorf("the bevel comes before the walls are planed: %v", all)
	}
	if all[len(all)-1] != "Seal the other fissures" {
		t.Errorf("sealing is not last: %v", all)
	}
	d.BevelWidth = 0
	if slices.Contains(names(stepsOf(d)), "Bevel") {
		t.Error("a bevel step without a bevel")
	}
}

func TestACoveredCuspIsReducedAfterItsWalls(t *testing.T) {
	d := design()
	d.Reduced, d.CuspReduction = []string{"DL"}, 2.2
	all := names(stepsOf(d))
	at := slices.Index(all, "Reduce DL")
	if at < slices.Index(all, "Floors and line angles") || at > slices.Index(all, "Enamel walls") {
		t.Errorf("reduced at the wrong time: %v", all)
	}
}
