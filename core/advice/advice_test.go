package advice

import (
	"slices"
	"strings"
	"testing"

	"obturon/core/intake"
	"obturon/core/lesion"
	"obturon/core/notation"
	"obturon/core/school"
)

func TestAdviceFollowsTheFindings(t *testing.T) {
	for _, c := range []struct {
		name     string
		findings []lesion.Finding
		want     intake.Treatment
		says     string
	}{
		{"fissure in enamel", []lesion.Finding{{Kind: "fissure_caries", Site: "central", Depth: "inner_enamel"}}, intake.Seal, "sealing arrests"},
		{"groove in enamel", []lesion.Finding{{Kind: "fissure_caries", Site: "buccal_groove", Depth: "outer_enamel"}}, intake.Seal, "sealing arrests"},
		{"proximal in enamel", []lesion.Finding{{Kind: "proximal_caries", Site: "mesial", Depth: "inner_enamel"}}, intake.Watch, "next bitewing"},
		{"dentin", []lesion.Finding{{Kind: "fissure_caries", Site: "central", Depth: "outer_dentin"}}, intake.Restore, "reached dentin"},
		{"old filling", []lesion.Finding{{Kind: "old_restoration", Site: "central", Depth: "outer_dentin"}}, intake.Restore, "better sealed"},
		{"weak cusp", []lesion.Finding{{Kind: "undermined_cusp", Site: "mesiobuccal", Depth: "outer_dentin"}}, intake.Restore, "undermined"},
		{"crack", []lesion.Finding{{Kind: "crack", Site: "mesial", Depth: "outer_dentin"}}, intake.Watch, "Nothing here"},
	} {
		treatment, reason := treatment(&intake.Case{Findings: c.findings})
		if treatment != c.want || !strings.Contains(reason, c.says) {
			t.Errorf("%s: %s, %q", c.name, treatment, reason)
		}
	}
}

func TestRefusalsSayWhatElseToDo(t *testing.T) {
	for _, c := range []struct {
		tooth string
		f     lesion.Finding
		says  string
	}{
		{"46", lesion.Finding{Kind: "fracture", Site: "mesiobuccal", Depth: "outer_dentin"}, "weakened it"},
		{"12", lesion.Finding{Kind: "fracture", Site: "mesial_incisal", Depth: "outer_dentin"}, "Choose composite"},
		{"46", lesion.Finding{Kind: "cervical_caries", Site: "buccal", Depth: "inner_enamel"}, "fluoride"},
		{"46", lesion.Finding{Kind: "crack", Site: "mesial", Depth: "outer_dentin"}, "never chased"},
		{"54", lesion.Finding{Kind: "proximal_caries", Site: "mesial", Depth: "outer_dentin"}, "full-coverage crown"},
		{"46", lesion.Finding{Kind: "undermined_cusp", Site: "mesiobuccal", Depth: "outer_dentin"}, "weakened it"},
		{"46", lesion.Finding{Kind: "fissure_caries", Site: "central", Depth: "inner_enamel"}, "choose to restore"},
	} {
		k := &intake.Case{
			Tooth: notation.MustParse(c.tooth), Findings: []lesion.Finding{c.f}, Patient: intake.Patient{AgeYears: 34},
			Choice: intake.Choice{Material: school.Amalgam, School: "board"},
		}
		if refused := Decide(k).Refused; !strings.Contains(refused, c.says) {
			t.Errorf("%s %s at %s: %q", c.tooth, c.f.Kind, c.f.Site, refused)
		}
	}
}

func TestChildrenAreSpokenOfAsSuch(t *testing.T) {
	said := func(tooth string, age float64, material school.Material) string {
		c := &intake.Case{
			Tooth: notation.MustParse(tooth), Patient: intake.Patient{AgeYears: age}, Choice: intake.Choice{Material: material, School: "primary"},
			Findings: []lesion.Finding{{Kind: "fissure_caries", Site: "central", Depth: "outer_dentin"}},
		}
		return strings.Join(Decide(c).Cautions, "\n")
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

func TestChoiceIsProposedWithItsReason(t *testing.T) {
	for _, c := range []struct {
		name, tooth string
		patient     intake.Patient
		material    school.Material
		school      string
		says        string
	}{
		{"child of ten", "46", intake.Patient{AgeYears: 10, Isolation: intake.Doubtful}, school.Composite, "adhesive", "under 15"},
		{"pregnant", "46", intake.Patient{AgeYears: 30, PregnantOrNursing: true}, school.Composite, "adhesive", "pregnancy"},
		{"kidney disease", "46", intake.Patient{AgeYears: 50, KidneyDisease: true}, school.Composite, "adhesive", "kidney"},
		{"mercury sensitivity", "46", intake.Patient{AgeYears: 50, MercurySensitivity: true}, school.Composite, "adhesive", "mercury"},
		{"dry field", "46", intake.Patient{AgeYears: 30, Isolation: intake.Secure}, school.Composite, "adhesive", "isolation is secure"},
		{"wet field", "46", intake.Patient{AgeYears: 30, Isolation: intake.None}, school.Amalgam, "board", "moisture"},
		{"front tooth", "12", intake.Patient{AgeYears: 30, Isolation: intake.None}, school.Composite, "adhesive", "front tooth"},
		{"primary molar", "85", intake.Patient{AgeYears: 7}, school.Composite, "primary", "under 15"},
	} {
		d := Decide(&intake.Case{Tooth: notation.MustParse(c.tooth), Patient: c.patient, Findings: []lesion.Finding{lesion.StartingFinding(notation.MustParse(c.tooth))}})
		if d.Choice.Material != c.material || d.Choice.School != c.school || !strings.Contains(d.Reason, c.says) {
			t.Errorf("%s: %+v %q", c.name, d.Choice, d.Reason)
		}
	}
}

func TestWhatTheDentistChoseIsNotReasonedAway(t *testing.T) {
	c := &intake.Case{
		Tooth: notation.MustParse("46"), Patient: intake.Patient{AgeYears: 9}, Choice: intake.Choice{Material: school.Amalgam, School: "board"},
		Findings: []lesion.Finding{lesion.StartingFinding(notation.MustParse("46"))},
	}
	d := Decide(c)
	if d.Choice.Material != school.Amalgam || d.Reason != "" {
		t.Errorf("%+v, %q", d.Choice, d.Reason)
	}
	if !strings.Contains(strings.Join(d.Cautions, " "), "under 15") {
		t.Error("amalgam in a child passes without a word")
	}
}

func TestEveryToothHasSchoolsToLaySideBySide(t *testing.T) {
	for _, tooth := range notation.All() {
		ids := SchoolsFor(tooth)
		if len(ids) < 2 || slices.Contains(ids, "primary") != tooth.Primary() {
			t.Errorf("%s: %v", tooth, ids)
		}
		for _, id := range ids {
			if _, err := school.Get(id); err != nil {
				t.Errorf("%s: %v", tooth, err)
			}
		}
	}
}

func TestABrokenToothOfTheYoungIsAnInjury(t *testing.T) {
	broken := []lesion.Finding{{Kind: lesion.Fracture, Site: lesion.MesialIncisalAngle, Depth: lesion.OuterDentin}}
	for age, want := range map[float64]bool{9: true, 17: true, 18: false, 40: false} {
		c := &intake.Case{Tooth: notation.MustParse("21"), Patient: intake.Patient{AgeYears: age}, Findings: broken}
		if got := strings.Contains(strings.Join(cautions(c, intake.Choice{Material: school.Composite, School: "board"}), " "), "splint"); got != want {
			t.Errorf("at %v an injury is spoken of: %v", age, got)
		}
	}
}

// Reasons against amalgam add up, and no caution is said twice.
func TestCautionsAddUp(t *testing.T) {
	c := &intake.Case{
		Tooth: notation.MustParse("46"), Patient: intake.Patient{AgeYears: 40, KidneyDisease: true, MercurySensitivity: true},
		Choice:   intake.Choice{Material: school.Amalgam},
		Findings: []lesion.Finding{{Kind: lesion.FissureCaries, Site: lesion.Central, Depth: lesion.InnerEnamel}, {Kind: lesion.FissureCaries, Site: "buccal_groove", Depth: lesion.InnerEnamel}},
	}
	said := strings.Join(Decide(c).Cautions, "\n")
	for _, want := range []string{"kidney", "mercury sensitivity"} {
		if !strings.Contains(said, want) {
			t.Errorf("no word of %s in %s", want, said)
		}
	}
	if n := strings.Count(said, "A lesion within enamel"); n != 1 {
		t.Errorf("said %d times", n)
	}
	child := &intake.Case{Tooth: notation.MustParse("16"), Patient: intake.Patient{AgeYears: 8}, Findings: []lesion.Finding{{Kind: lesion.FissureCaries, Site: lesion.Central, Depth: lesion.OuterDentin}}}
	if said := strings.Join(Decide(child).Cautions, "\n"); !strings.Contains(said, "Child:") {
		t.Errorf("nothing of a child in %s", said)
	}
}

// A lesion that is watched is not answered with a crown.
func TestAnEnamelLesionIsNotAnsweredWithACrown(t *testing.T) {
	d := Decide(&intake.Case{Tooth: notation.MustParse("84"), Patient: intake.Patient{AgeYears: 6}, Findings: []lesion.Finding{{Kind: lesion.ProximalCaries, Site: lesion.Mesial, Depth: lesion.InnerEnamel}}})
	if d.Treatment != intake.Watch || strings.Contains(d.Refused, "crown") || d.Refused == "" {
		t.Errorf("%s: %q", d.Treatment, d.Refused)
	}
}
