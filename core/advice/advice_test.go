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

// What is indicated for a finding, case by case, as an examiner would have it.
func TestAdviceFollowsTheFindings(t *testing.T) {
	f := func(kind lesion.Kind, site lesion.Site, depth lesion.Depth, e lesion.Evidence) []lesion.Finding {
		return []lesion.Finding{{Kind: kind, Site: site, Depth: depth, Evidence: e}}
	}
	none := lesion.Evidence{}
	fissure, proximal := lesion.FissureCaries, lesion.ProximalCaries
	for _, c := range []struct {
		name, tooth string
		age         float64
		pulp        intake.Pulp
		findings    []lesion.Finding
		want        intake.Treatment
		offers      intake.Treatment // beside it, "" where nothing is asked of it
		says        string
	}{
		{"fissure in enamel", "46", 30, "", f(fissure, lesion.Central, lesion.InnerEnamel, none), intake.Seal, intake.Restore, "sealing arrests"},
		{"groove in enamel", "46", 30, "", f(fissure, "buccal_groove", lesion.OuterEnamel, none), intake.Seal, intake.Watch, "sealing arrests"},
		{"fissure in outer dentin", "46", 30, "", f(fissure, lesion.Central, lesion.OuterDentin, none), intake.Restore, intake.Seal, "reached dentin"},
		{"the same, intact", "46", 30, "", f(fissure, lesion.Central, lesion.OuterDentin, lesion.Evidence{Surface: lesion.Intact}), intake.Seal, intake.Restore, "intact"},
		{"the same, arrested", "46", 30, "", f(fissure, lesion.Central, lesion.OuterDentin, lesion.Evidence{Activity: lesion.Arrested}), intake.Watch, intake.Restore, "arrested"},
		{"proximal in enamel", "46", 30, "", f(proximal, lesion.Mesial, lesion.InnerEnamel, none), intake.Arrest, intake.Restore, "before anything is drilled"},
		{"proximal in enamel, open", "46", 30, "", f(proximal, lesion.Mesial, lesion.InnerEnamel, lesion.Evidence{Surface: lesion.Cavitated}), intake.Restore, "", "open to dentin"},
		{"proximal in outer dentin, intact", "46", 30, "", f(proximal, lesion.Mesial, lesion.OuterDentin, lesion.Evidence{Surface: lesion.Intact}), intake.Arrest, intake.Restore, "intact"},
		{"proximal in middle dentin", "46", 30, "", f(proximal, lesion.Mesial, lesion.MiddleDentin, none), intake.Restore, "", "reached dentin"},
		{"a sound filling", "26", 40, "", f(lesion.OldRestoration, lesion.Central, lesion.OuterDentin, none), intake.Watch, intake.Replace, "a sound one stays"},
		{"an open margin", "26", 40, "", f(lesion.OldRestoration, lesion.Central, lesion.OuterDentin, lesion.Evidence{Fault: lesion.OpenMargin}), intake.Repair, intake.Replace, "sound but for its margin"},
		{"caries beside a filling", "26", 40, "", f(lesion.OldRestoration, lesion.Central, lesion.OuterDentin, lesion.Evidence{Fault: lesion.CariesBeside}), intake.Replace, intake.Repair, "beside the old filling"},
		{"a painful filling", "26", 40, "", f(lesion.OldRestoration, lesion.Central, lesion.OuterDentin, lesion.Evidence{Fault: lesion.Painful}), intake.Refer, intake.Replace, "why it hurts"},
		{"weak cusp", "46", 30, "", f(lesion.UnderminedCusp, "mesiobuccal", lesion.OuterDentin, none), intake.Cover, "", "undermined"},
		{"crack line", "37", 45, "", f(lesion.Crack, lesion.Mesial, lesion.OuterDentin, none), intake.Watch, "", "recorded"},
		{"painful crack", "37", 45, "", f(lesion.Crack, lesion.Mesial, lesion.OuterDentin, lesion.Evidence{Complaint: lesion.PainOnBiting}), intake.Refer, "", "bite test"},
		{"chip of enamel", "32", 25, "", f(lesion.Fracture, lesion.MesialIncisalAngle, lesion.OuterEnamel, none), intake.Smooth, intake.Restore, "less tooth than was lost"},
		{"dead pulp", "46", 30, intake.Irreversible, f(fissure, lesion.Central, lesion.InnerDentin, none), intake.Refer, "", "root canal"},
		{"sinus over a primary molar", "75", 5, intake.Irreversible, f(fissure, lesion.Central, lesion.InnerDentin, none), intake.Refer, "", "pulp treatment or extraction"},
		{"deep primary molar, vital", "75", 5, intake.Reversible, f(fissure, lesion.Central, lesion.InnerDentin, none), intake.Restore, "", "reached dentin"},
		{"nearly shed", "85", 11.5, "", f(fissure, lesion.Central, lesion.OuterDentin, none), intake.Watch, intake.Restore, "lost within about a year"},
		{"first primary molar, mesial", "54", 8, "", f(proximal, lesion.Mesial, lesion.OuterDentin, none), intake.Refer, intake.Restore, "mesial horn"},
	} {
		d := Decide(&intake.Case{Tooth: notation.MustParse(c.tooth), Patient: intake.Patient{AgeYears: c.age}, Pulp: c.pulp, Findings: c.findings})
		offered := slices.ContainsFunc(d.Ways[1:], func(w Way) bool { return w.Treatment == c.offers })
		if d.Treatment != c.want || !strings.Contains(d.Because, c.says) || c.offers != "" && !offered {
			t.Errorf("%s: %s, %q, offering %v", c.name, d.Treatment, d.Because, d.Ways)
		}
		if (d.Refused == "") != d.Treatment.Cuts() && d.Class != lesion.Rebuild {
			t.Errorf("%s: %s leads to %q", c.name, d.Treatment, d.Refused)
		}
		for _, w := range d.Ways {
			if w.Does == "" || len(w.For) == 0 || len(w.Against) == 0 {
				t.Errorf("%s: %s is not described", c.name, w.Treatment)
			}
		}
	}
}

// Both proximal surfaces of a primary molar at high risk: the crown comes first.
func TestAPrimaryMolarWithSeveralSurfacesGetsACrownFirst(t *testing.T) {
	for _, tooth := range []string{"54", "84"} {
		c := &intake.Case{Tooth: notation.MustParse(tooth), Patient: intake.Patient{AgeYears: 8, CariesRisk: intake.HighRisk}, Findings: []lesion.Finding{
			{Kind: lesion.ProximalCaries, Site: lesion.Mesial, Depth: lesion.OuterDentin}, {Kind: lesion.ProximalCaries, Site: lesion.Distal, Depth: lesion.OuterDentin},
		}}
		if d := Decide(c); d.Treatment != intake.Refer || !strings.Contains(d.Because, "crown") || d.Refused == "" {
			t.Errorf("%s: %s %q", tooth, d.Treatment, d.Because)
		}
		c.Choice.Treatment = intake.Restore
		if d := Decide(c); d.Refused != "" {
			t.Errorf("%s: on request it is refused: %s", tooth, d.Refused)
		}
	}
}

// A finding that must be cut is not talked out of it by another that can be sealed.
func TestTheFindingThatNeedsMostDecides(t *testing.T) {
	c := &intake.Case{Tooth: notation.MustParse("26"), Patient: intake.Patient{AgeYears: 30}, Findings: []lesion.Finding{
		{Kind: lesion.FissureCaries, Site: lesion.MesialPit, Depth: lesion.InnerEnamel},
		{Kind: lesion.ProximalCaries, Site: lesion.Distal, Depth: lesion.MiddleDentin},
		{Kind: lesion.OldRestoration, Site: lesion.Central, Depth: lesion.OuterDentin},
	}}
	d := Decide(c)
	if d.Treatment != intake.Restore || len(c.ToCut()) != 2 || len(c.Staying()) != 1 {
		t.Errorf("%s, %d cut, %d stay", d.Treatment, len(c.ToCut()), len(c.Staying()))
	}
	c.Choice.Treatment = intake.Replace
	if len(c.ToCut()) != 3 {
		t.Errorf("to be replaced all the same: %d cut", len(c.ToCut()))
	}
}

// What was not entered is said, and taken neither for the worse nor for the better.
func TestWhatIsAssumedIsSaid(t *testing.T) {
	deep := &intake.Case{Tooth: notation.MustParse("46"), Patient: intake.Patient{AgeYears: 30}, Findings: []lesion.Finding{
		{Kind: lesion.ProximalCaries, Site: lesion.Distal, Depth: lesion.MiddleDentin},
		{Kind: lesion.OldRestoration, Site: lesion.Central, Depth: lesion.OuterDentin},
		{Kind: lesion.Crack, Site: lesion.Mesial, Depth: lesion.OuterDentin},
	}}
	var fields []string
	for _, a := range Decide(deep).Assumed {
		fields = append(fields, a.Field)
	}
	if want := []string{"surface", "fault", "complaint", "pulp", "isolation"}; !slices.Equal(fields, want) {
		t.Errorf("%v, want %v", fields, want)
	}
	deep.Pulp, deep.Patient.Isolation = intake.Reversible, intake.Secure
	deep.Findings = deep.Findings[:1]
	deep.Findings[0].Surface = lesion.Cavitated
	if said := Decide(deep).Assumed; len(said) != 0 {
		t.Errorf("entered, and still assumed: %v", said)
	}
}

// Where the field cannot be kept dry nothing is etched, bonded or sealed.
func TestNothingIsBondedWithoutIsolation(t *testing.T) {
	for _, c := range []struct {
		tooth    string
		depth    lesion.Depth
		material school.Material
		refused  string // "" where a plan is made
	}{
		{"47", lesion.MiddleDentin, "", ""},
		{"47", lesion.MiddleDentin, school.Composite, "amalgam"},
		{"15", lesion.MiddleDentin, school.Composite, "interim glass ionomer"},
		{"12", lesion.MiddleDentin, "", "postponing"},
		{"47", lesion.InnerEnamel, "", "fluoride"},
	} {
		k := &intake.Case{
			Tooth: notation.MustParse(c.tooth), Patient: intake.Patient{AgeYears: 40, Isolation: intake.None}, Choice: intake.Choice{Material: c.material},
			Findings: []lesion.Finding{{Kind: lesion.ProximalCaries, Site: lesion.Distal, Depth: c.depth}},
		}
		if !k.Tooth.Anterior() && c.depth == lesion.InnerEnamel {
			k.Findings[0] = lesion.Finding{Kind: lesion.FissureCaries, Site: lesion.Central, Depth: c.depth}
		}
		d := Decide(k)
		if (d.Refused == "") != (c.refused == "") || !strings.Contains(d.Refused+d.Because, c.refused) {
			t.Errorf("%s %s: %q", c.tooth, c.material, d.Refused)
		}
		if slices.ContainsFunc(d.Ways, func(w Way) bool { return bonds(w.Treatment) }) {
			t.Errorf("%s: %v", c.tooth, d.Ways)
		}
	}
}

// Tooth and age that do not go together are asked back, and planned all the same.
func TestToothAndAgeGoTogether(t *testing.T) {
	for _, c := range []struct {
		tooth string
		age   float64
		asked bool
	}{{"38", 8, true}, {"74", 35, true}, {"36", 8, false}, {"75", 5, false}, {"85", 13, false}, {"53", 3, false}, {"46", 5.2, false}} {
		d := Decide(&intake.Case{Tooth: notation.MustParse(c.tooth), Patient: intake.Patient{AgeYears: c.age}, Findings: []lesion.Finding{lesion.StartingFinding(notation.MustParse(c.tooth))}})
		if (len(d.Questions) > 0) != c.asked {
			t.Errorf("%s at %v: %q", c.tooth, c.age, d.Questions)
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
		{"54", lesion.Finding{Kind: "proximal_caries", Site: "mesial", Depth: "outer_dentin"}, "preformed crown"},
		{"46", lesion.Finding{Kind: "undermined_cusp", Site: "mesiobuccal", Depth: "outer_dentin"}, "weakened it"},
		{"46", lesion.Finding{Kind: "fissure_caries", Site: "central", Depth: "inner_enamel"}, "keep your reason"},
	} {
		k := &intake.Case{
			Tooth: notation.MustParse(c.tooth), Findings: []lesion.Finding{c.f}, Patient: intake.Patient{AgeYears: 34},
			Choice: intake.Choice{Material: school.Amalgam, School: "board"},
		}
		if k.Tooth.Primary() {
			k.Patient.AgeYears = 8
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
	for _, want := range []string{"Child:", "selective removal", "single increment"} {
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
		{"front tooth of a child", "12", intake.Patient{AgeYears: 10}, school.Composite, "adhesive", "front tooth"},
		{"nothing said of isolation", "46", intake.Patient{AgeYears: 30}, school.Composite, "adhesive", "not entered"},
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
		if got := strings.Contains(strings.Join(Decide(c).Cautions, " "), "splint"); got != want {
			t.Errorf("at %v an injury is spoken of: %v", age, got)
		}
	}
}

// Reasons against amalgam add up, and no caution is said twice.
func TestCautionsAddUp(t *testing.T) {
	c := &intake.Case{
		Tooth: notation.MustParse("46"), Patient: intake.Patient{AgeYears: 40, KidneyDisease: true, MercurySensitivity: true},
		Choice:   intake.Choice{Material: school.Amalgam, Treatment: intake.Restore},
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
	if d.Treatment != intake.Arrest || strings.Contains(d.Refused, "crown") || d.Refused == "" {
		t.Errorf("%s: %q", d.Treatment, d.Refused)
	}
}
