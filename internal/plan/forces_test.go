package plan

import (
	"slices"
	"strings"
	"testing"

	"obturon/core/cavity"
	"obturon/core/forces"
	"obturon/core/lesion"
	"obturon/core/pipeline"
	"obturon/core/resist"
	"obturon/core/school"
)

func hold(t *testing.T, p *Planner, tooth, schoolID string, f form, material school.Material, overrides map[string]float64) pipeline.Hold {
	t.Helper()
	c := f.on(tooth, material, schoolID)
	c.Overrides = overrides
	h, err := p.HoldOf(t.Context(), c, DefaultGrid)
	if err != nil {
		t.Fatal(err)
	}
	return h
}

func pullOf(t *testing.T, h pipeline.Hold, name string) forces.Pull {
	t.Helper()
	for _, f := range h.Fillings {
		for _, p := range f.Pulls {
			if strings.HasPrefix(p.Name, name) {
				return p
			}
		}
	}
	t.Fatalf("%s is not asked", name)
	return forces.Pull{}
}

// An amalgam slot without grooves slides out; the pair of grooves that is offered holds it.
func TestAFreeFillingIsCuredByTheOfferedChange(t *testing.T) {
	p := planner
	smooth := map[string]float64{"groove_depth": 0}
	before := hold(t, p, "35", "board", forms[4], school.Amalgam, smooth)
	free := pullOf(t, before, "Pulled towards distal")
	if free.State == forces.Held && free.Depth > 0.1 {
		t.Fatalf("without grooves: %s", free.Text)
	}
	n := slices.IndexFunc(before.Changes, func(c forces.Change) bool { return c.Dimension == "groove_depth" })
	if n < 0 || !strings.Contains(before.Changes[n].Text, "pulled towards distal") || before.Changes[n].Tooth <= 0 {
		t.Fatalf("no grooves are offered: %+v", before.Changes)
	}
	smooth["groove_depth"] = before.Changes[n].To
	after := pullOf(t, hold(t, p, "35", "board", forms[4], school.Amalgam, smooth), "Pulled towards distal")
	if after.State != forces.Held || after.By[0].Name != "the retention grooves" || after.Depth < free.Depth+0.05 {
		t.Errorf("with grooves: %s", after.Text)
	}
}

// Boxes that stand by themselves have a filling each; a bonded one is offered nothing.
func TestEachPartIsAFillingOfItsOwn(t *testing.T) {
	p := planner
	apart := hold(t, p, "46", "adhesive", forms[3], school.Amalgam, nil)
	if len(apart.Fillings) != 2 || len(apart.Fillings[0].Pulls) != 3 {
		t.Errorf("%d fillings: %+v", len(apart.Fillings), apart.Fillings)
	}
	bonded := hold(t, p, "46", "adhesive", forms[0], school.Composite, nil)
	if len(bonded.Changes) != 0 || bonded.Fillings[0].Bond == nil || bonded.Fillings[0].Bond.Enamel < 2 {
		t.Errorf("bonded: %+v", bonded)
	}
}

// A rebuilt corner bonds the better the wider its bevel; the index says so.
func TestALongBevelHoldsARebuiltCornerBetter(t *testing.T) {
	index := map[cavity.Style]float64{}
	for _, style := range []cavity.Style{cavity.Short, cavity.Long} {
		h, err := planner.HoldOf(t.Context(), smoothCase("12", lesion.DistalIncisalAngle, "composite", "adhesive", style), DefaultGrid)
		if err != nil {
			t.Fatal(err)
		}
		index[style] = h.Fillings[0].Bond.EdgeIndex
	}
	if index[cavity.Short] <= 0 || index[cavity.Long] < 1.2*index[cavity.Short] {
		t.Errorf("index of the bond: %v", index)
	}
}

// The cusps of a deep amalgam MOD part many times as far as sound ones; mirrored teeth alike.
func TestCuspsPart(t *testing.T) {
	p := planner
	part := func(tooth string, f form, overrides map[string]float64) forces.Deflection {
		c := f.on(tooth, school.Amalgam, "board")
		c.Overrides = overrides
		deflected, without, err := p.DeflectionOf(t.Context(), c, forces.UsualLoading(c, resist.Usual()), DefaultGrid, false, nil)
		if err != nil || without != "" {
			t.Fatal(err, without)
		}
		return deflected
	}
	right, left := part("15", forms[3], nil), part("25", forms[3], nil)
	if times, ok := right.Times(right.Empty); !ok || times < 3 || right.Empty.Opening != left.Empty.Opening {
		t.Errorf("cusps deflect by %.2f µm, %.1f times the sound tooth's; on the other side %.2f", right.Empty.Opening, times, left.Empty.Opening)
	}
	if len(right.Bulks) != 2 || right.Bulks[0].Isthmus < 1 || right.Bulks[0].Ridge < right.Bulks[0].Isthmus || right.Bulks[0].Bend <= 0 || right.Cusps[0].Width < 1 {
		t.Errorf("bulks %+v, cusps %+v", right.Bulks, right.Cusps)
	}
	deeper := part("15", forms[3], map[string]float64{"pulpal_depth": 2.6})
	class1 := part("15", forms[0], nil)
	if deeper.Empty.Opening < right.Empty.Opening*1.05 || class1.Empty.Opening > right.Empty.Opening/2 {
		t.Errorf("deflected by %.2f, deeper %.2f, within its ridges %.2f", right.Empty.Opening, deeper.Empty.Opening, class1.Empty.Opening)
	}
	c := forms[0].on("15", school.Amalgam, "board")
	c.Patient.Parafunction = true
	if usual := forces.UsualLoading(c, resist.Usual()).Bite; usual.Newtons != 400 || usual.Grinding != 2 {
		t.Errorf("who grinds is loaded by %+v", usual)
	}
	incisor := smoothCase("12", lesion.Distal, "composite", "adhesive", cavity.Short)
	_, without, err := p.DeflectionOf(t.Context(), incisor, forces.UsualLoading(incisor, resist.Usual()), DefaultGrid, false, nil)
	if err != nil || without == "" {
		t.Errorf("an incisor has cusps to part: %v", err)
	}
}

// Another school's cavity and another radius are loaded as if they were drawn; what does not
// differ is not told to.
func TestCutOtherwise(t *testing.T) {
	p := planner
	c := forms[3].on("25", school.Amalgam, "board")
	with := forces.UsualLoading(c, resist.Usual())
	other, err := school.Get("traditional")
	if err != nil {
		t.Fatal(err)
	}
	all, err := p.SectionsOf(t.Context(), c, 0, other, with, DefaultGrid)
	if err != nil || len(all) != 5 {
		t.Fatal(all, err)
	}
	of := map[forces.Way]pipeline.SectionBeside{}
	for _, b := range all {
		if b.Without != "" || b.Title == "" {
			t.Errorf("%s: %s", b.Title, b.Without)
		}
		of[b.Way] = b
	}
	own, round := of[forces.WayCut], of[forces.WayRadius]
	if round.Radius != own.OtherRadius || own.Radius == round.Radius || len(own.Corners) == 0 || own.Corners[0].MPa == round.Corners[0].MPa {
		t.Errorf("radius %.2f: %+v; %.2f: %+v", own.Radius, own.Corners, round.Radius, round.Corners)
	}
	if !strings.Contains(own.Text, "a radius of") {
		t.Errorf("nothing is said of the radius: %s", own.Text)
	}
	if of[forces.WaySound].Opening > of[forces.WayFilled].Opening || of[forces.WayFilled].Opening > own.Opening || of[forces.WaySchool].Opening == own.Opening || len(of[forces.WayFilled].Filling) == 0 {
		t.Errorf("sound %.2f µm, filled %.2f, cut %.2f, by the other school %.2f", of[forces.WaySound].Opening, of[forces.WayFilled].Opening, own.Opening, of[forces.WaySchool].Opening)
	}
	if c.Overrides != nil || c.Choice.School != "board" {
		t.Errorf("the case itself was changed: %+v", c)
	}
	lines, err := p.HoldLines(t.Context(), c, DefaultGrid)
	if err != nil || len(lines) != 1 || !strings.Contains(lines[0], "held least") {
		t.Errorf("for print: %q, %v", lines, err)
	}
}

// Who loads a case first, as a worker of its own does, loads what the sheet shows in the end:
// the solved proposal.
func TestTheSolvedProposalIsLoaded(t *testing.T) {
	c := forms[3].on("47", school.Amalgam, "traditional")
	with := forces.UsualLoading(c, resist.Usual())
	first, after := NewPlanner(), NewPlanner()
	shown, err := after.Evaluate(t.Context(), c, DefaultGrid)
	if err != nil {
		t.Fatal(err)
	}
	if shown.Solutions == nil {
		t.Fatal("nothing was solved: try another case")
	}
	var openings [2]float64
	for n, p := range []*Planner{first, after} {
		deflected, without, err := p.DeflectionOf(t.Context(), c, with, DefaultGrid, false, nil)
		if err != nil || without != "" {
			t.Fatal(err, without)
		}
		openings[n] = deflected.Empty.Opening
	}
	if openings[0] != openings[1] {
		t.Errorf("loaded first its cusps deflect by %.2f µm, after the sheet by %.2f", openings[0], openings[1])
	}
}
