package plan

import (
	"strings"
	"testing"

	"obturon/core/notation"
)

func TestAdviceFollowsTheFindings(t *testing.T) {
	for _, c := range []struct {
		name     string
		findings []Finding
		want     string
		says     string
	}{
		{"fissure in enamel", []Finding{{Kind: "fissure_caries", Site: "central", Depth: "inner_enamel"}}, Seal, "sealed fissure"},
		{"groove in enamel", []Finding{{Kind: "fissure_caries", Site: "buccal_groove", Depth: "outer_enamel"}}, Seal, "sealed fissure"},
		{"proximal in enamel", []Finding{{Kind: "proximal_caries", Site: "mesial", Depth: "inner_enamel"}}, Watch, "next bitewing"},
		{"dentin", []Finding{{Kind: "fissure_caries", Site: "central", Depth: "outer_dentin"}}, Restore, "reached dentin"},
		{"old filling", []Finding{{Kind: "old_restoration", Site: "central", Depth: "outer_dentin"}}, Restore, "better sealed"},
		{"weak cusp", []Finding{{Kind: "undermined_cusp", Site: "mesiobuccal", Depth: "outer_dentin"}}, Restore, "undermined"},
		{"crack", []Finding{{Kind: "crack", Site: "mesial", Depth: "outer_dentin"}}, Watch, "Nothing here"},
	} {
		treatment, reason := treatment(&Case{Findings: c.findings})
		if treatment != c.want || !strings.Contains(reason, c.says) {
			t.Errorf("%s: %s, %q", c.name, treatment, reason)
		}
	}
}

func TestRefusalsSayWhatElseToDo(t *testing.T) {
	for _, c := range []struct {
		tooth string
		f     Finding
		says  string
	}{
		{"46", Finding{Kind: "fracture", Site: "mesiobuccal", Depth: "outer_dentin"}, "weakened it"},
		{"12", Finding{Kind: "fracture", Site: "mesial_incisal", Depth: "outer_dentin"}, "Choose composite"},
		{"46", Finding{Kind: "cervical_caries", Site: "buccal", Depth: "inner_enamel"}, "fluoride"},
		{"46", Finding{Kind: "crack", Site: "mesial", Depth: "outer_dentin"}, "never chased"},
		{"54", Finding{Kind: "proximal_caries", Site: "mesial", Depth: "outer_dentin"}, "full-coverage crown"},
		{"46", Finding{Kind: "undermined_cusp", Site: "mesiobuccal", Depth: "outer_dentin"}, "weakened it"},
		{"46", Finding{Kind: "fissure_caries", Site: "central", Depth: "inner_enamel"}, "choose to restore"},
	} {
		k := molarCase()
		k.Tooth, k.Findings = notation.MustParse(c.tooth), []Finding{c.f}
		if refused := evaluate(t, k).Document.Refused; !strings.Contains(refused, c.says) {
			t.Errorf("%s %s at %s: %q", c.tooth, c.f.Kind, c.f.Site, refused)
		}
	}
}

func TestChildrenAreSpokenOfAsSuch(t *testing.T) {
	said := func(tooth string, age float64, material string) string {
		c := &Case{
			Tooth: notation.MustParse(tooth), Patient: Patient{AgeYears: age}, Choice: &Choice{Material: material, School: "primary"},
			Findings: []Finding{{Kind: "fissure_caries", Site: "central", Depth: "outer_dentin"}},
		}
		return strings.Join(evaluate(t, c).Document.Cautions, "\n")
	}
	composite := said("85", 7, "composite")
	for _, want := range []string{"Child:", "pulp therapy", "single increment"} {
		if !strings.Contains(composite, want) {
			t.Errorf("a primary composite misses %q", want)
		}
	}
	if amalgam := said("85", 7, "amalgam"); strings.Contains(amalgam, "single increment") || !strings.Contains(amalgam, "barred under 15") {
		t.Error("a primary amalgam is spoken of like a composite, or its bar is not said")
	}
	if adult := said("46", 34, "composite"); strings.Contains(adult, "Child:") || !strings.Contains(adult, "not meant for this tooth") {
		t.Error("an adult's tooth is spoken of as a child's, or the wrong school is not said")
	}
}

func TestTheWorstVerdictIsThatOfThePlan(t *testing.T) {
	for _, c := range []struct {
		d    Document
		want string
	}{
		{Document{Refused: "no"}, "refused"},
		{Document{}, "met"},
		{Document{Checks: []Check{{Verdict: "met"}, {Verdict: "not_applicable"}}}, "met"},
		{Document{Checks: []Check{{Verdict: "near"}, {Verdict: "met"}}}, "near"},
		{Document{Checks: []Check{{Verdict: "near"}, {Verdict: "missed"}, {Verdict: "met"}}}, "missed"},
	} {
		if got := c.d.Worst(); got != c.want {
			t.Errorf("%+v is %s, want %s", c.d.Checks, got, c.want)
		}
	}
}

func TestTheCuspsOwnSchoolDecidesHowThickItMustBe(t *testing.T) {
	said := func(school string) string {
		c := forms[0].on("25", "composite", school)
		c.Findings = append(c.Findings, Finding{Kind: "undermined_cusp", Site: "buccal_cusp", Depth: "outer_dentin"})
		c.Overrides = map[string]float64{"isthmus_width": 3.9, "cusp_reduction": 0}
		cautions := evaluate(t, c).Document.Cautions
		return cautions[len(cautions)-1]
	}
	if thin := said("adhesive"); !strings.Contains(thin, "under 2.0") {
		t.Errorf("a cusp beside an isthmus of 3.9 mm: %q", thin)
	}
}
