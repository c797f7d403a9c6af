package plan

import (
	"slices"
	"strings"
	"testing"

	"obturon/core/anatomy"
	"obturon/core/intake"
	"obturon/core/lesion"
	"obturon/core/notation"
	"obturon/core/school"
	"obturon/internal/document"
)

// examined is a case as an operative dentistry examiner poses it, in a field that is dry.
func examined(tooth string, age float64, more func(*intake.Case), findings ...lesion.Finding) *intake.Case {
	c := &intake.Case{Tooth: notation.MustParse(tooth), Patient: intake.Patient{AgeYears: age, Isolation: intake.Secure}, Findings: findings}
	if more != nil {
		more(c)
	}
	return c
}

func found(kind lesion.Kind, site lesion.Site, depth lesion.Depth) lesion.Finding {
	return lesion.Finding{Kind: kind, Site: site, Depth: depth}
}

func inAmalgam(c *intake.Case) { c.Choice.Material = school.Amalgam }

func withBareRoot(c *intake.Case) { c.Gingiva = &anatomy.Gingiva{Facial: -3, Lingual: -2, Papilla: -1} }

func onRoot(f lesion.Finding) lesion.Finding {
	under := -1.5
	f.OverCervicalLine = &under
	return f
}

// The cases are read as an examiner reads them: what is indicated, what tooth it costs, what is
// said of the pulp, what holds it, and what is written down to do.
func TestPlansAnExaminerWouldSign(t *testing.T) {
	const fissure, proximal, broken = lesion.FissureCaries, lesion.ProximalCaries, lesion.Fracture
	old := found(lesion.OldRestoration, lesion.Central, lesion.OuterDentin)
	old.Width, old.Fault = 4.6, lesion.Broken
	crack := found(lesion.Crack, lesion.Mesial, lesion.OuterDentin)
	crack.Complaint = lesion.PainOnBiting
	for _, c := range []struct {
		name string
		of   *intake.Case
		most float64 // mm³ that it may take; 0 where nothing is cut
		// said and unsaid are parts of what the plan says: its reasons, cautions, checks and steps.
		said, unsaid []string
		wants        func(t *testing.T, r *Result)
	}{
		{
			"a deep pit at 16", examined("45", 16, nil, found(fissure, lesion.Central, lesion.InnerDentin)), 24,
			[]string{"Over the pulp leave soft dentin", "Before cutting: history, cold test"}, []string{"take the cusp down", "short of the mesial surface; stop -", "Stop at firm dentin"}, keepsDentin,
		},
		{
			"a wide old filling between two boxes",
			examined("46", 40, nil, found(proximal, lesion.Mesial, lesion.MiddleDentin), found(proximal, lesion.Distal, lesion.MiddleDentin), old), 260,
			[]string{"4 cusps are covered: an indirect cover", "Slit it from mesial to distal"}, []string{"punch cut in the deepest pit"}, nil,
		},
		{
			"an undermined cusp of a grinder",
			examined("34", 40, func(c *intake.Case) { c.Patient.Parafunction = true }, found(proximal, lesion.Mesial, lesion.MiddleDentin), found(proximal, lesion.Distal, lesion.MiddleDentin), found(lesion.UnderminedCusp, "buccal_cusp", lesion.OuterDentin)), 110,
			[]string{"take the cusp down", "consider a guard"}, nil, nil,
		},
		{
			"two lost cusps and a box in amalgam",
			examined("46", 45, inAmalgam, found(broken, "mesiolingual", lesion.OuterDentin), found(broken, "distolingual", lesion.OuterDentin), found(proximal, lesion.Distal, lesion.MiddleDentin)), 150,
			[]string{"held by grooves in the walls of the box", "Pins are the last resort"}, nil,
			func(t *testing.T, r *Result) {
				if k := checkOf(t, r, school.RetainGrooves); k.Severity != school.Major || k.Target.Min == nil || *k.Target.Min < 0.2 || k.Value != nil && *k.Value < 0.2 && k.Verdict != "missed" {
					t.Errorf("the grooves are %+v", k)
				}
			},
		},
		{
			"two lost cusps in amalgam without a box",
			examined("46", 45, inAmalgam, found(broken, "mesiolingual", lesion.OuterDentin), found(broken, "distolingual", lesion.OuterDentin), found(fissure, lesion.Central, lesion.MiddleDentin)), 130,
			[]string{"no box to hold grooves: cut a slot"}, nil, nil,
		},
		{
			"a slot in amalgam", examined("46", 30, func(c *intake.Case) { inAmalgam(c); c.Choice.Layout = "slot" }, found(proximal, lesion.Mesial, lesion.OuterDentin)), 24,
			[]string{"Along the inside of the junction in dentin"}, nil,
			func(t *testing.T, r *Result) {
				if k := checkOf(t, r, school.RetainGrooves); k.Verdict != "met" || k.Target.Min == nil || *k.Target.Min < 0.2 {
					t.Errorf("the grooves are %+v", k)
				}
			},
		},
		{"a chip of enamel", examined("32", 25, nil, found(broken, lesion.MesialIncisalAngle, lesion.OuterEnamel)), 0, []string{"bonding its fragment back, costs less tooth"}, nil, nil},
		{
			"a fissure in outer enamel, on wish", examined("46", 25, func(c *intake.Case) { c.Choice.Treatment = intake.Restore }, found(fissure, lesion.Central, lesion.OuterEnamel)), 3,
			[]string{"consider sealing"}, nil, nil,
		},
		{
			"a deep box with its margin on the root", examined("35", 66, withBareRoot, found(proximal, lesion.Distal, lesion.InnerDentin)), 34,
			[]string{"Over the pulp leave soft dentin", "Over the pulp soft dentin stays"}, []string{"Stop at firm dentin"}, keepsDentin,
		},
		{
			"a neck on the root in amalgam", examined("34", 70, func(c *intake.Case) { withBareRoot(c); inAmalgam(c) }, onRoot(found(lesion.CervicalCaries, lesion.Buccal, lesion.OuterDentin))), 5,
			[]string{"on the root there is no enamel", "clean the edge first"}, []string{"junction first"},
			func(t *testing.T, r *Result) {
				if k := checkOf(t, r, school.NeckDepth); k.Verdict != "met" || k.Target.Max == nil || *k.Target.Max > 1 {
					t.Errorf("its depth is %+v", k)
				}
			},
		},
		{
			"a neck on the root of an incisor", examined("12", 70, withBareRoot, onRoot(found(lesion.CervicalCaries, lesion.Buccal, lesion.OuterDentin))), 2.5,
			[]string{"on the root there is no enamel"}, []string{"occlusal enamel", "Bevel"}, nil,
		},
		{
			"a canine's distal in amalgam", examined("23", 40, inAmalgam, found(proximal, lesion.Distal, lesion.MiddleDentin)), 15,
			[]string{"with a metal strip against the adjacent tooth", "Along the gingival and the incisal line angle"}, []string{"clear strip", "Bevel"}, nil,
		},
		{
			"both sides of a first primary molar at high risk",
			examined("84", 8, func(c *intake.Case) { c.Patient.CariesRisk = intake.HighRisk }, found(proximal, lesion.Mesial, lesion.OuterDentin), found(proximal, lesion.Distal, lesion.OuterDentin)), 0,
			[]string{"a preformed crown lasts longer"}, nil, nil,
		},
		{
			"behind a missing tooth", examined("17", 40, func(c *intake.Case) { c.Missing = []notation.Side{notation.Mesial} }, found(proximal, lesion.Mesial, lesion.MiddleDentin)), 28,
			[]string{"Nothing stands beside it"}, []string{"Leave the guard in", "take the wedge out", "Stop when the shell is thin"}, nil,
		},
		{
			"a deep primary molar that is vital", examined("75", 5, func(c *intake.Case) { c.Pulp = intake.Healthy }, found(fissure, lesion.Central, lesion.InnerDentin)), 45,
			[]string{"a film of the furcation", "Over the pulp leave soft dentin"}, []string{"Stop at firm dentin"}, keepsDentin,
		},
		{
			"a field that cannot be dried", examined("15", 40, func(c *intake.Case) { c.Patient.Isolation = intake.None }, found(proximal, lesion.Distal, lesion.MiddleDentin)), 40,
			[]string{"Amalgam proposed: no isolation possible"}, []string{"etch"}, nil,
		},
		{"a crack that hurts", examined("37", 45, nil, crack), 0, []string{"by a bite test at each cusp"}, nil, nil},
	} {
		t.Run(c.name, func(t *testing.T) {
			if faults := c.of.Check(); len(faults) > 0 {
				t.Fatal(faults)
			}
			r := evaluate(t, c.of)
			d := r.Document()
			text := written(d)
			for _, want := range c.said {
				if !strings.Contains(text, want) {
					t.Errorf("it does not say %q:\n%s", want, text)
				}
			}
			for _, not := range c.unsaid {
				if strings.Contains(text, not) {
					t.Errorf("it says %q", not)
				}
			}
			if r.Drawn == nil {
				if c.most > 0 {
					t.Fatalf("nothing is cut: %s", d.Refused)
				}
				return
			}
			if d.Volumes.Cavity > c.most {
				t.Errorf("it takes %.1f mm³, at most %.1f are asked", d.Volumes.Cavity, c.most)
			}
			for _, k := range d.Checks {
				if k.Verdict == "missed" && k.Severity == school.Critical {
					t.Errorf("a critical miss: %s", k.Id)
				}
			}
			if c.wants != nil {
				c.wants(t, r)
			}
		})
	}
}

func keepsDentin(t *testing.T, r *Result) {
	if kept := r.Document().Kept; len(kept) != 1 || kept[0].OverPulpMm < 0.5 || kept[0].SealMm < 0.6 {
		t.Errorf("over the pulp stays %+v", kept)
	}
}

// written is all that a plan says of a case in sentences.
func written(d document.Plan) string {
	lines := append([]string{d.ChoiceReason, d.Refused, d.Advice.Reason}, d.Cautions...)
	for _, s := range d.Sequence {
		lines = append(lines, s.Action+" "+s.Caution)
	}
	return strings.Join(slices.DeleteFunc(lines, func(s string) bool { return s == "" }), "\n")
}
