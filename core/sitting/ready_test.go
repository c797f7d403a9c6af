package sitting

import (
	"slices"
	"strings"
	"testing"

	"obturon/core/fill"
	"obturon/core/instrument"
	"obturon/core/intake"
	"obturon/core/lesion"
	"obturon/core/notation"
	"obturon/core/procedure"
)

func caseOf(tooth string, age float64) *intake.Case {
	return &intake.Case{Tooth: notation.MustParse(tooth), Patient: intake.Patient{AgeYears: age}}
}

// Where a tooth is made numb, and how long that takes, is by jaw, tooth and age.
func TestNumbing(t *testing.T) {
	with := fill.Anaesthetic{Name: "Ours", InfiltrationMinutes: 3, BlockMinutes: 5, NumbMinutes: 60}
	for _, c := range []struct {
		tooth, says string
		age         float64
		least       int
	}{
		{"25", "root's tip", 40, 180}, {"26", "cheekbone", 40, 180}, {"12", "root's tip", 40, 180}, {"65", "root's tip", 5, 180},
		{"32", "root's tip", 40, 180}, {"44", "mental nerve", 40, 300}, {"36", "inferior alveolar", 40, 300},
		{"75", "so young a jaw", 5, 180}, {"75", "inferior alveolar", 8, 300},
	} {
		steps := numbed(caseOf(c.tooth, c.age), false, with)
		numb, prove := steps[0], steps[1]
		if !strings.Contains(numb.Action, c.says) || !strings.Contains(numb.Action, "Ours") {
			t.Errorf("%s at %g: %q", c.tooth, c.age, numb.Action)
		}
		if *prove.Clock != (procedure.Clock{Least: c.least, Most: 3600, After: numb.ID}) {
			t.Errorf("%s at %g: the clock is %+v", c.tooth, c.age, *prove.Clock)
		}
		if !strings.Contains(numb.Caution, "your own protocol") {
			t.Errorf("%s: no caution, %q", c.tooth, numb.Caution)
		}
		if !strings.Contains(numb.Action, "Topical gel, 1 to 2 minutes") || !strings.Contains(numb.Action, "aspirate, then inject slowly") {
			t.Errorf("%s at %g: %q", c.tooth, c.age, numb.Action)
		}
	}
	if asked := numbed(caseOf("25", 40), true, with); !strings.Contains(asked[0].Action, "ask") {
		t.Errorf("a lesion in enamel: %q", asked[0].Action)
	}
}

// The clamp stands on the tooth behind where there is one.
func TestIsolation(t *testing.T) {
	missing := caseOf("45", 40)
	missing.Missing = []notation.Side{notation.Distal}
	none := caseOf("45", 40)
	none.Patient.Isolation = intake.None
	doubtful := caseOf("45", 40)
	doubtful.Patient.Isolation = intake.Doubtful
	for name, c := range map[string]struct {
		of   *intake.Case
		with instrument.ID
		says string
	}{
		"a premolar": {caseOf("45", 40), instrument.MolarClamp, "on 46"}, "a first premolar": {caseOf("14", 40), instrument.PremolarClamp, "on 15"},
		"the last tooth": {caseOf("37", 16), instrument.MolarClamp, "the tooth itself"}, "a gap behind": {missing, instrument.PremolarClamp, "the tooth itself"},
		"a front tooth": {caseOf("21", 40), instrument.PremolarClamp, "behind the canine"}, "a primary molar": {caseOf("84", 5), instrument.MolarClamp, "on 85"},
		"no dam": {none, instrument.CottonRolls, "No dam"}, "doubtful": {doubtful, instrument.MolarClamp, "on 46"},
	} {
		step := isolated(c.of, true, true)
		if !strings.Contains(step.Action, c.says) || !slices.Contains(step.Instruments, c.with) {
			t.Errorf("%s: %v, %q", name, step.Instruments, step.Action)
		}
		if wood := strings.Contains(step.Action, "Wedge"); wood == (name == "no dam") {
			t.Errorf("%s: a wedge %v", name, wood)
		}
	}
	if s := isolated(doubtful, false, true); !strings.Contains(s.Caution, "decide again on the material") || strings.Contains(s.Action, "Wedge") {
		t.Errorf("doubtful: %q, %q", s.Action, s.Caution)
	}
	if s := isolated(doubtful, false, false); strings.Contains(s.Caution, "bond") {
		t.Errorf("an amalgam is told of bonding: %q", s.Caution)
	}
	if s := isolated(missing, true, true); !strings.Contains(s.Action, "from the tooth itself") {
		t.Errorf("nothing stands behind it: %q", s.Action)
	}
}

// What is thrown away after one patient is counted: by tooth, by band, by capsule.
func TestATrayIsCounted(t *testing.T) {
	step := func(filling bool, teeth []string, ids ...instrument.ID) procedure.Step {
		s := procedure.New(procedure.PunchCut, ids...)
		if filling {
			s = procedure.New(procedure.Bond, ids...)
		}
		s.Teeth = teeth
		return s
	}
	steps := []procedure.Step{
		step(false, nil, instrument.Pear), step(false, nil, instrument.Pear, instrument.Guard), step(false, []string{"33", "34"}, instrument.Cord), step(false, nil, instrument.Guard),
		step(true, nil, instrument.SectionalBand, instrument.Wedge), step(true, nil, instrument.Applicator), step(true, nil, instrument.Applicator), step(true, nil, instrument.CompositePaste),
	}
	alloy := &fill.Charge{Product: fill.Amalgam{Name: "Alloy"}, Mixes: []fill.Mix{{AlloyMg: 400}, {AlloyMg: 600}, {AlloyMg: 400}}}
	paste := fill.Composite{Name: "Paste"}
	filled := []Filled{
		{Matrix: fill.Matrix{Kind: fill.Sectional, Bands: []fill.Band{{Wedge: &fill.Wedge{}}, {}}}, Plans: []fill.Plan{{Charge: alloy}}},
		{Plans: []fill.Plan{{Increments: []fill.Laid{{Increment: fill.Increment{Volume: 4}, Product: paste}, {Increment: fill.Increment{Volume: 2.5}, Product: paste}}}}},
	}
	none := 0
	kit := instrument.Stock{{ID: instrument.Pear, Pieces: &none}}.Kit()
	tray := Tray(steps, filled, kit)
	for name, want := range map[string]int{
		"330, pear": 1, "wedge with guard": 2, "retraction cord": 2, "applicator": 2, "sectional band with a ring": 2, "wedge": 1,
		"Alloy, capsule of 400 mg": 2, "Alloy, capsule of 600 mg": 1, "Paste": 1,
	} {
		n := slices.IndexFunc(tray, func(i Item) bool { return i.Name == name })
		if n < 0 || tray[n].Count != want {
			t.Errorf("%s: want %d in %+v", name, want, tray)
			continue
		}
		if single := tray[n].SingleUse; single != (tray[n].Group != Burs && name != "Paste") {
			t.Errorf("%s: single use %v", name, single)
		}
		if tray[n].Missing != (name == "330, pear") {
			t.Errorf("%s: missing %v", name, tray[n].Missing)
		}
	}
	if n := slices.IndexFunc(tray, func(i Item) bool { return i.Name == "Paste" }); !strings.HasPrefix(tray[n].Note, "6.5 mm³") {
		t.Errorf("the paste is %q", tray[n].Note)
	}
	if !slices.IsSortedFunc(tray, func(a, b Item) int { return slices.Index(Groups, a.Group) - slices.Index(Groups, b.Group) }) {
		t.Error("groups are mixed")
	}
	for _, i := range tray {
		if i.Name == string(instrument.CompositePaste) || i.Count < 1 {
			t.Errorf("an item is %+v", i)
		}
	}
}

// A box opens towards another's tooth where it stands on that side and is cut.
func TestFacingBoxes(t *testing.T) {
	box := func(tooth string, site lesion.Site, depth lesion.Depth) *intake.Case {
		c := caseOf(tooth, 40)
		c.Findings = []lesion.Finding{{Kind: lesion.ProximalCaries, Site: site, Depth: depth}}
		return c
	}
	own := box("35", lesion.Distal, lesion.MiddleDentin)
	for name, c := range map[string]struct {
		other *intake.Case
		side  notation.Side
		faces bool
	}{
		"mesial of the next": {box("36", lesion.Mesial, lesion.MiddleDentin), notation.Distal, true}, "distal of the next": {box("36", lesion.Distal, lesion.MiddleDentin), 0, false},
		"distal of the one before": {box("34", lesion.Distal, lesion.MiddleDentin), notation.Mesial, true}, "two further": {box("37", lesion.Mesial, lesion.MiddleDentin), 0, false},
		"the other side": {box("46", lesion.Mesial, lesion.MiddleDentin), 0, false}, "watched only": {box("36", lesion.Mesial, lesion.OuterEnamel), 0, false},
	} {
		got := Facing(own, []*intake.Case{c.other})
		if (len(got) == 1) != c.faces || c.faces && (got[0].Side != c.side || got[0].Tooth != c.other.Tooth) {
			t.Errorf("%s: %+v", name, got)
		}
	}
}
