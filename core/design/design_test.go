package design

import (
	"context"
	"errors"
	"slices"
	"strings"
	"testing"

	"obturon/core/advice"
	"obturon/core/anatomy"
	"obturon/core/cavity"
	"obturon/core/intake"
	"obturon/core/lesion"
	"obturon/core/notation"
)

func caseOf(tooth string, findings ...lesion.Finding) *intake.Case {
	return &intake.Case{Tooth: notation.MustParse(tooth), Patient: intake.Patient{Code: "HV-031", AgeYears: 38}, Findings: findings}
}

func at(kind lesion.Kind, site lesion.Site) lesion.Finding {
	return lesion.Finding{Kind: kind, Site: site, Depth: lesion.OuterDentin}
}

// proposed runs a case down to its proposals.
func proposed(t *testing.T, c *intake.Case) Basis {
	t.Helper()
	d := advice.Decide(c)
	if d.Refused != "" {
		t.Fatal(d.Refused)
	}
	s, err := c.SchoolOf(d.Choice)
	if err != nil {
		t.Fatal(err)
	}
	m, err := anatomy.Build(c.Tooth, anatomy.MeasuredSizes{}, c.Patient.AgeYears, 0.15)
	if err != nil {
		t.Fatal(err)
	}
	b, err := Propose(t.Context(), c, d, s, m, nil)
	if err != nil {
		t.Fatal(err)
	}
	return b
}

func TestSidesTouchedNeedANeighbour(t *testing.T) {
	for _, c := range []struct {
		name     string
		tooth    string
		findings []lesion.Finding
		missing  []notation.Side
		want     []notation.Side
	}{
		{"fissure", "47", []lesion.Finding{at(lesion.FissureCaries, lesion.Central)}, nil, nil},
		{"distal", "35", []lesion.Finding{at(lesion.ProximalCaries, lesion.Distal)}, nil, []notation.Side{notation.Distal}},
		{"both, in order", "35", []lesion.Finding{at(lesion.ProximalCaries, lesion.Distal), at(lesion.ProximalCaries, lesion.Mesial)}, nil, []notation.Side{notation.Mesial, notation.Distal}},
		{"none beside", "35", []lesion.Finding{at(lesion.ProximalCaries, lesion.Distal)}, []notation.Side{notation.Distal}, nil},
		{"incisal angle", "32", []lesion.Finding{at(lesion.Fracture, lesion.MesialIncisalAngle)}, nil, []notation.Side{notation.Mesial}},
		{"cervical", "33", []lesion.Finding{at(lesion.CervicalCaries, lesion.Buccal)}, nil, nil},
	} {
		dental := caseOf(c.tooth, c.findings...)
		dental.Missing = c.missing
		if got := SidesTouched(dental); !slices.Equal(got, c.want) {
			t.Errorf("%s: %v", c.name, got)
		}
	}
}

// One cavity for what belongs together, one each for what does not; the occlusal
// one comes first.
func TestFindingsShareACavityWhereTheyBelongTogether(t *testing.T) {
	for _, c := range []struct {
		name     string
		tooth    string
		findings []lesion.Finding
		kinds    []cavity.Kind
		surfaces []string
	}{
		{"fissure and distal", "35", []lesion.Finding{at(lesion.FissureCaries, lesion.Central), at(lesion.ProximalCaries, lesion.Distal)}, []cavity.Kind{cavity.Occlusal}, []string{"occlusal", "distal"}},
		{"cervical and fissure", "47", []lesion.Finding{at(lesion.CervicalCaries, lesion.Buccal), at(lesion.FissureCaries, lesion.Central)}, []cavity.Kind{cavity.Occlusal, cavity.Cervical}, []string{"occlusal", "buccal"}},
		{"two proximal of an incisor", "32", []lesion.Finding{at(lesion.ProximalCaries, lesion.Distal), at(lesion.ProximalCaries, lesion.Mesial)}, []cavity.Kind{cavity.Proximal, cavity.Proximal}, []string{"mesial", "distal", "lingual"}},
		{"incisal angle", "32", []lesion.Finding{at(lesion.Fracture, lesion.DistalIncisalAngle)}, []cavity.Kind{cavity.IncisalAngle}, []string{"distal", "buccal", "lingual", "incisal"}},
	} {
		dental := caseOf(c.tooth, c.findings...)
		cut, err := proposed(t, dental).Cut(nil)
		if err != nil {
			t.Errorf("%s: %v", c.name, err)
			continue
		}
		var kinds []cavity.Kind
		for _, one := range cut.Cavities {
			kinds = append(kinds, one.Kind)
		}
		_, diseased := lesion.Classify(dental.Findings, dental.Tooth)
		surfaces := cut.Surfaces(diseased)
		slices.Sort(surfaces)
		slices.Sort(c.surfaces)
		if !slices.Equal(kinds, c.kinds) || !slices.Equal(surfaces, c.surfaces) || len(cut.Lesions()) != len(c.findings) {
			t.Errorf("%s: %v on %v with %d lesions", c.name, kinds, surfaces, len(cut.Lesions()))
		}
	}
}

// A value set by hand moves its dimension and no other; one that leads off the
// tooth is refused with a reason.
func TestOverridesChangeOneDimension(t *testing.T) {
	b := proposed(t, caseOf("47", at(lesion.FissureCaries, lesion.Central)))
	before, err := b.Cut(nil)
	if err != nil {
		t.Fatal(err)
	}
	after, err := b.Cut(map[string]float64{"pulpal_depth": 2.1})
	if err != nil {
		t.Fatal(err)
	}
	for n, d := range after.Cavities[0].Dimensions {
		was := before.Cavities[0].Dimensions[n]
		if d.ID != was.ID || d.Proposed != was.Proposed || d.Overridden() != (d.ID == "pulpal_depth") {
			t.Errorf("%s: %v of %v, was %v", d.ID, d.Value, d.Proposed, was.Value)
		}
	}
	// A figure that cannot be built is named among those that can.
	unbuildable := map[string]float64{"pulpal_depth": 2.1, "mesial_ridge": -2}
	if _, err := b.Cut(unbuildable); err == nil || !slices.Equal(b.AtFault(unbuildable), []string{"mesial_ridge"}) {
		t.Errorf("%v is laid to %v", err, b.AtFault(unbuildable))
	}
	if _, err := b.Cut(map[string]float64{"isthmus_width": 4, "mesial_ridge": 0.3, "distal_ridge": 0.3, "buccal_extension": 4, "lingual_extension": 4}); err != nil && cavity.Refusal(err) == "" {
		t.Errorf("refused without a reason: %v", err)
	}
}

func TestStylesAreThoseOfAnteriorForms(t *testing.T) {
	for _, c := range []struct {
		tooth   string
		finding lesion.Finding
		some    bool
	}{
		{"32", at(lesion.ProximalCaries, lesion.Mesial), true},
		{"32", at(lesion.Fracture, lesion.MesialIncisalAngle), true},
		{"47", at(lesion.FissureCaries, lesion.Central), false},
		{"35", at(lesion.ProximalCaries, lesion.Distal), false},
	} {
		styles := Styles(caseOf(c.tooth, c.finding))
		if (len(styles) > 0) != c.some || len(slices.Compact(slices.Sorted(slices.Values(styles)))) != len(styles) {
			t.Errorf("%s %s: %v", c.tooth, c.finding.Site, styles)
		}
	}
}

// What cannot be cut is refused in words a dentist can act on.
func TestALesionAtThePulpIsRefusedInWords(t *testing.T) {
	c := caseOf("32", lesion.Finding{Kind: lesion.ProximalCaries, Site: lesion.Mesial, Depth: "inner_dentin", Height: 6})
	d := advice.Decide(c)
	s, err := c.SchoolOf(d.Choice)
	if err != nil {
		t.Fatal(err)
	}
	m, err := anatomy.Build(c.Tooth, anatomy.MeasuredSizes{}, 38, 0.15)
	if err != nil {
		t.Fatal(err)
	}
	if _, err := Propose(t.Context(), c, d, s, m, nil); err == nil || !strings.HasSuffix(cavity.Refusal(err), ".") {
		t.Errorf("refused with %v: %q", err, cavity.Refusal(err))
	}
}

func TestProposingStopsWithItsContext(t *testing.T) {
	c := caseOf("47", at(lesion.FissureCaries, lesion.Central))
	d := advice.Decide(c)
	s, err := c.SchoolOf(d.Choice)
	if err != nil {
		t.Fatal(err)
	}
	m, err := anatomy.Build(c.Tooth, anatomy.MeasuredSizes{}, c.Patient.AgeYears, 0.2)
	if err != nil {
		t.Fatal(err)
	}
	ended, end := context.WithCancel(t.Context())
	end()
	if _, err := Propose(ended, c, d, s, m, nil); !errors.Is(err, context.Canceled) {
		t.Errorf("got %v", err)
	}
}
