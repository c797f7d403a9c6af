package assess

import (
	"strings"
	"testing"

	"obturon/core/cavity"
	"obturon/core/cavity/cavitytest"
	"obturon/core/cavity/smooth"
	"obturon/core/lesion"
	"obturon/core/school"
)

// judged plans a cavity, changes its design and judges what that cuts.
func judged(t *testing.T, tooth string, f lesion.Finding, schoolID string, choice cavity.Choice, change func(*smooth.Design)) map[school.CriterionID]Check {
	t.Helper()
	r := cavitytest.Request(t, tooth, schoolID, choice.Material, 0.12, f)
	choice.HidesMargin = true
	r.Choice = choice
	p, err := smooth.Propose(r)
	if err != nil {
		t.Fatal(err)
	}
	change(&p.Design)
	checks := map[school.CriterionID]Check{}
	all, err := Cavity(t.Context(), cavitytest.Cut(t, p, nil))
	if err != nil {
		t.Fatal(err)
	}
	for _, k := range all {
		checks[k.ID] = k
	}
	return checks
}

// Whatever the design says, a cavity cut wrong is found so, with the way to mend it.
func TestCavitiesCutWrongAreFoundSo(t *testing.T) {
	neck := lesion.Finding{Kind: lesion.CervicalCaries, Site: lesion.Buccal, Depth: "outer_dentin"}
	proximal := lesion.Finding{Kind: lesion.ProximalCaries, Site: lesion.Distal, Depth: "outer_dentin"}
	corner := lesion.Finding{Kind: lesion.Fracture, Site: lesion.MesialIncisalAngle, Depth: "outer_dentin"}
	pit := lesion.Finding{Kind: lesion.PitCaries, Site: lesion.BuccalPit, Depth: "outer_dentin"}
	shallow := pit
	shallow.Depth = "outer_enamel"
	for _, c := range []struct {
		name, tooth string
		finding     lesion.Finding
		school      string
		material    school.Material
		change      func(*smooth.Design)
		check       school.CriterionID
		severity    school.Severity
		says        string
	}{
		{"floor too shallow", "33", neck, "board", "amalgam", func(d *smooth.Design) { d.Depth = 0.6 }, "neck.depth", school.Major, "short"},
		{"floor too deep", "33", neck, "board", "amalgam", func(d *smooth.Design) { d.Depth = 2.2 }, "neck.depth", school.Major, "more than asked"},
		{"no grooves", "33", neck, "traditional", "amalgam", func(d *smooth.Design) { d.GrooveDepth = 0 }, "neck.grooves", school.Major, "1/4 round"},
		{"walls lean over", "33", neck, "board", "amalgam", func(d *smooth.Design) { d.WallOpening, d.GrooveDepth = -5, 0 }, "neck.wall_open", school.Minor, "leans over"},
		{"no occlusal bevel", "33", neck, "adhesive", "composite", func(d *smooth.Design) { d.BevelWidth = 0 }, "neck.bevel_width", school.Minor, "too narrow"},
		{"margin in view too high", "33", neck, "adhesive", "composite", func(d *smooth.Design) { d.IncisalShift += 0.8; d.Height -= 0.2 }, "neck.gingiva", school.Major, "cord"},
		{"corner left hanging", "12", proximal, "board", "composite", func(d *smooth.Design) { d.IncisalShift += 2.1 }, "anterior.incisal_bridge", school.Critical, "plan it as lost"},
		{"bevel too wide", "12", proximal, "board", "composite", func(d *smooth.Design) { d.BevelWidth = 1.4 }, "finish.bevel_width", school.Minor, "wider"},
		{"bevel too steep", "12", proximal, "adhesive", "composite", func(d *smooth.Design) { d.BevelAngle = 68 }, "finish.bevel_angle", school.Minor, "flatter"},
		{"facial bevel missing", "22", corner, "board", "composite", func(d *smooth.Design) { d.BevelWidth = 0 }, "corner.facial_bevel", school.Major, "too narrow"},
		{"sharp line facially", "22", corner, "board", "composite", func(d *smooth.Design) { d.BevelWidth, d.BevelAngle = 0.5, 47 }, "corner.facial_angle", school.Minor, "too steep"},
		{"pit too shallow", "46", shallow, "board", "amalgam", func(d *smooth.Design) { d.Depth = 0.7 }, "pit.depth", school.Major, "330 pear"},
	} {
		before := judged(t, c.tooth, c.finding, c.school, cavity.Choice{Material: c.material}, func(*smooth.Design) {})[c.check]
		if before.Verdict == Missed {
			t.Errorf("%s: missed as proposed, %.3f", c.name, before.Value)
		}
		k := judged(t, c.tooth, c.finding, c.school, cavity.Choice{Material: c.material}, c.change)[c.check]
		if k.Verdict != Missed || k.Severity != c.severity || !strings.Contains(k.Chair, c.says) {
			t.Errorf("%s: %s %s, %.3f of %v: %q", c.name, k.Verdict, k.Severity, k.Value, k.Target, k.Chair)
		}
	}
}

func TestAFeatherIsJudgedByItsWidthAndEdge(t *testing.T) {
	proximal := lesion.Finding{Kind: lesion.ProximalCaries, Site: lesion.Mesial, Depth: "outer_dentin"}
	long := judged(t, "11", proximal, "adhesive", cavity.Choice{Material: school.Composite, Style: cavity.Long}, func(d *smooth.Design) { d.BevelWidth = 2.5 })
	for id, want := range map[school.CriterionID]Verdict{"finish.feather_width": Met, "finish.margin_thickness": Met, "finish.bevel_width": NotApplicable, "finish.bevel_angle": NotApplicable} {
		if k := long[id]; k.Verdict != want {
			t.Errorf("%s is %s, %.3f", id, k.Verdict, k.Value)
		}
	}
}
