package lesion

import (
	"math"
	"slices"
	"testing"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/anatomy"
	"obturon/core/notation"
)

func TestClassFollowsFromTheFindings(t *testing.T) {
	molar, incisor := notation.MustParse("46"), notation.MustParse("12")
	for _, c := range []struct {
		name     string
		tooth    notation.Tooth
		findings []Finding
		class    Class
		surfaces []string
	}{
		{"fissure", molar, []Finding{{Kind: FissureCaries, Site: Central}}, ClassI, []string{"occlusal"}},
		{"proximal and fissure", molar, []Finding{{Kind: FissureCaries, Site: Central}, {Kind: ProximalCaries, Site: Distal}}, ClassII, []string{"occlusal", "distal"}},
		{"both proximals", molar, []Finding{{Kind: ProximalCaries, Site: Distal}, {Kind: ProximalCaries, Site: Mesial}}, ClassII, []string{"mesial", "occlusal", "distal"}},
		{"buccal pit", molar, []Finding{{Kind: PitCaries, Site: BuccalPit}}, ClassI, []string{"buccal"}},
		{"incisor proximal", incisor, []Finding{{Kind: ProximalCaries, Site: Mesial}}, ClassIII, []string{"mesial"}},
		{"corner", incisor, []Finding{{Kind: Fracture, Site: MesialCorner}}, ClassIV, []string{"incisal"}},
		{"neck", molar, []Finding{{Kind: CervicalCaries, Site: Buccal}}, ClassV, []string{"buccal"}},
		{"lost cusp", molar, []Finding{{Kind: UnderminedCusp, Site: "distolingual"}, {Kind: ProximalCaries, Site: Mesial}}, Rebuild, []string{"mesial", "occlusal"}},
		{"crack alone", molar, []Finding{{Kind: Crack, Site: Mesial}}, "", nil},
	} {
		class, surfaces := Classify(c.findings, c.tooth)
		if class != c.class || !slices.Equal(surfaces, c.surfaces) {
			t.Errorf("%s: class %q %v, want %q %v", c.name, class, surfaces, c.class, c.surfaces)
		}
	}
}

func TestSitesThatATeethCannotHave(t *testing.T) {
	for _, c := range []struct {
		tooth string
		f     Finding
		bad   bool
	}{
		{"46", Finding{Kind: FissureCaries, Site: Central, Depth: "outer_dentin"}, false},
		{"46", Finding{Kind: FissureCaries, Site: Buccal, Depth: "outer_dentin"}, true},
		{"11", Finding{Kind: PitCaries, Site: Central, Depth: "outer_dentin"}, true},
		{"11", Finding{Kind: PitCaries, Site: LingualPit, Depth: "outer_dentin"}, false},
		{"31", Finding{Kind: PitCaries, Site: LingualPit, Depth: "outer_dentin"}, true},
		{"14", Finding{Kind: PitCaries, Site: BuccalPit, Depth: "outer_dentin"}, true},
		{"46", Finding{Kind: UnderminedCusp, Site: "distal_cusp", Depth: "outer_dentin"}, false},
		{"47", Finding{Kind: UnderminedCusp, Site: "distal_cusp", Depth: "outer_dentin"}, true},
		{"46", Finding{Kind: Fracture, Site: DistalCorner, Depth: "outer_dentin"}, true},
	} {
		if got := Validate(c.f, notation.MustParse(c.tooth)); (len(got) > 0) != c.bad {
			t.Errorf("%s %s %s: %v", c.tooth, c.f.Kind, c.f.Site, got)
		}
	}
}

func TestLesionsGrowWithDepthAndStayInTheTooth(t *testing.T) {
	m, err := anatomy.Build(notation.MustParse("46"), anatomy.Own{}, 34, 0.2)
	if err != nil {
		t.Fatal(err)
	}
	last := 0.0
	for _, depth := range Depths {
		l, err := NewOcclusal(m, Finding{Kind: FissureCaries, Site: Central, Depth: depth})
		if err != nil {
			t.Fatal(err)
		}
		v := l.Volume()
		if v <= last {
			t.Errorf("%s holds %.2f mm3, the one before %.2f", depth, v, last)
		}
		last = v
		if depth.InDentin() != (l.IntoDentin() > 0) {
			t.Errorf("%s reaches %.2f into dentin", depth, l.IntoDentin())
		}
	}
}

func TestAGivenHeightIsKept(t *testing.T) {
	m, err := anatomy.Build(notation.MustParse("46"), anatomy.Own{}, 34, 0.2)
	if err != nil {
		t.Fatal(err)
	}
	l, err := NewOcclusal(m, Finding{Kind: PitCaries, Site: MesialPit, Depth: "outer_dentin", Height: 1.9, Width: 1})
	if err != nil {
		t.Fatal(err)
	}
	mouth := m.Table.From(l.Path()[0])
	deepest := 0.0
	for d := 0.0; d < 4; d += 0.02 {
		if l.Distance(r3.Sub(mouth, r3.Scale(d, m.Table.W))) < 0 {
			deepest = d
		}
	}
	if math.Abs(deepest-1.9) > 0.1 {
		t.Errorf("the lesion reaches %.2f mm down, want 1.9", deepest)
	}
}
