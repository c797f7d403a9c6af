package lesion

import (
	"math"
	"slices"
	"strings"
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
		{"corner", incisor, []Finding{{Kind: Fracture, Site: MesialIncisalAngle}}, ClassIV, []string{"mesial", "incisal"}},
		{"old filling at the cervical line", molar, []Finding{{Kind: OldRestoration, Site: Lingual}}, ClassV, []string{"lingual"}},
		{"neck", molar, []Finding{{Kind: CervicalCaries, Site: Buccal}}, ClassV, []string{"buccal"}},
		{"lost cusp", molar, []Finding{{Kind: Fracture, Site: "distolingual"}, {Kind: ProximalCaries, Site: Mesial}}, Rebuild, []string{"mesial", "occlusal"}},
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
		{"13", Finding{Kind: PitCaries, Site: LingualPit, Depth: "outer_dentin"}, true},
		{"46", Finding{Kind: PitCaries, Site: LingualPit, Depth: "outer_dentin"}, true},
		{"26", Finding{Kind: PitCaries, Site: LingualPit, Depth: "outer_dentin"}, false},
		{"11", Finding{Kind: Fracture, Site: DistalIncisalAngle, Depth: "outer_dentin"}, false},
		{"11", Finding{Kind: Fracture, Site: Mesial, Depth: "outer_dentin"}, true},
		{"46", Finding{Kind: OldRestoration, Site: "mesiobuccal", Depth: "outer_dentin"}, true},
		{"46", Finding{Kind: UnderminedCusp, Site: "distal_cusp", Depth: "outer_dentin"}, false},
		{"47", Finding{Kind: UnderminedCusp, Site: "distal_cusp", Depth: "outer_dentin"}, true},
		{"46", Finding{Kind: Fracture, Site: DistalIncisalAngle, Depth: "outer_dentin"}, true},
		{"46", Finding{Kind: PitCaries, Site: Mesial, Depth: "outer_dentin"}, true},
		{"46", Finding{Kind: UnderminedCusp, Site: Central, Depth: "outer_dentin"}, true},
		{"46", Finding{Kind: FissureCaries, Site: "distobuccal_groove", Depth: "outer_dentin"}, false},
		{"47", Finding{Kind: FissureCaries, Site: "distobuccal_groove", Depth: "outer_dentin"}, true},
		{"46", Finding{Kind: PitCaries, Site: "lingual_groove", Depth: "outer_dentin"}, true},
		{"15", Finding{Kind: FissureCaries, Site: "buccal_groove", Depth: "outer_dentin"}, true},
	} {
		if got := Validate(c.f, notation.MustParse(c.tooth)); (len(got) > 0) != c.bad {
			t.Errorf("%s %s %s: %v", c.tooth, c.f.Kind, c.f.Site, got)
		}
	}
}

func TestLesionsGrowWithDepthAndStayInTheTooth(t *testing.T) {
	m, err := anatomy.Build(notation.MustParse("46"), anatomy.MeasuredSizes{}, 34, 0.2)
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

func TestALesionOfASideGrooveLeadsAwayFromTheCentralFissure(t *testing.T) {
	m, err := anatomy.Build(notation.MustParse("46"), anatomy.MeasuredSizes{}, 34, 0.2)
	if err != nil {
		t.Fatal(err)
	}
	for _, site := range GrooveSites(m.Tooth) {
		l, err := NewOcclusal(m, Finding{Kind: FissureCaries, Site: site, Depth: "outer_dentin"})
		if err != nil {
			t.Fatal(err)
		}
		path := l.Path()
		first, last := path[0], path[len(path)-1]
		facial := strings.Contains(string(site), "buccal")
		if !l.Branches() || (last.Y > first.Y) != facial || math.Abs(last.Y-first.Y) < 0.7 {
			t.Errorf("%s runs from %v to %v", site, first, last)
		}
		if left := m.TableHeights().At(last.X, last.Y); left < -2 {
			t.Errorf("%s ends %.1f mm under the table", site, -left)
		}
	}
}

func TestAGivenHeightIsKept(t *testing.T) {
	m, err := anatomy.Build(notation.MustParse("46"), anatomy.MeasuredSizes{}, 34, 0.2)
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

func TestProximalLesions(t *testing.T) {
	for _, id := range []string{"36", "15", "75"} {
		m, err := anatomy.Build(notation.MustParse(id), anatomy.MeasuredSizes{}, 34, 0.2)
		if err != nil {
			t.Fatal(err)
		}
		for _, site := range []Site{Mesial, Distal} {
			contact := m.MesialContact
			if site == Distal {
				contact = m.DistalContact
			}
			last := 0.0
			for _, depth := range Depths {
				l, err := NewProximal(m, Finding{Kind: ProximalCaries, Site: site, Depth: depth})
				if err != nil {
					t.Fatal(err)
				}
				if v := l.Volume(); v <= last {
					t.Errorf("%s %s %s holds %.2f mm3, the one before %.2f", id, site, depth, v, last)
				} else {
					last = v
				}
				if depth.InDentin() != (l.IntoDentin() > 0) {
					t.Errorf("%s %s %s reaches %.2f into dentin", id, site, depth, l.IntoDentin())
				}
				if below := contact.At.Z - l.Middle().Z; below < 0.2 || below > 1.5 {
					t.Errorf("%s %s lies %.2f below the contact's middle", id, site, below)
				}
				// Walked inwards, it is as deep as it says.
				into := r3.Scale(-1, contact.Normal)
				dentin, ok := m.Dentin().RootAlong(l.Middle(), into, 0.1, 3, 0.05)
				end := 0.0
				for d := 0.02; d < 6; d += 0.01 {
					if l.Distance(r3.Add(l.Middle(), r3.Scale(d, into))) < 0 {
						end = d
					}
				}
				if !ok || math.Abs(end-dentin-l.IntoDentin()) > 0.05 {
					t.Errorf("%s %s %s ends %.2f past the junction, says %.2f", id, site, depth, end-dentin, l.IntoDentin())
				}
				if end := l.Deepest(); l.Distance(r3.Add(end, r3.Scale(0.05, contact.Normal))) > 0 || l.Distance(r3.Add(end, r3.Scale(0.1, into))) < 0 {
					t.Errorf("%s %s %s: its deepest point is not where it ends", id, site, depth)
				}
				b := l.Bounds()
				for _, p := range l.Rim() {
					if math.Abs(l.Distance(p)) > 0.1 || !b.Contains(p) {
						t.Errorf("%s %s %s: a point of the rim lies %.2f off", id, site, depth, l.Distance(p))
						break
					}
				}
			}
		}
	}
}

func TestAProximalHeightAndWidthAreKept(t *testing.T) {
	m, err := anatomy.Build(notation.MustParse("37"), anatomy.MeasuredSizes{}, 34, 0.2)
	if err != nil {
		t.Fatal(err)
	}
	l, err := NewProximal(m, Finding{Kind: ProximalCaries, Site: Distal, Depth: "outer_dentin", Height: 2.2, Width: 3})
	if err != nil {
		t.Fatal(err)
	}
	spread := func(dir r3.Vec) float64 {
		extent := 0.0
		for d := 0.0; d < 3; d += 0.01 {
			// Follow the surface beside the middle.
			at := r3.Add(l.Middle(), r3.Scale(d, dir))
			out, ok := m.Surface.RootAlong(r3.Sub(at, r3.Scale(1, m.DistalContact.Normal)), m.DistalContact.Normal, 0, 2, 0.1)
			if ok && l.Distance(r3.Add(at, r3.Scale(out-1.02, m.DistalContact.Normal))) < 0 {
				extent = d
			}
		}
		return extent
	}
	if h := spread(r3.Vec{Z: 1}) + spread(r3.Vec{Z: -1}); math.Abs(h-2.2) > 0.1 {
		t.Errorf("height %.2f, want 2.2", h)
	}
	if w := spread(r3.Vec{Y: 1}) + spread(r3.Vec{Y: -1}); math.Abs(w-3) > 0.15 {
		t.Errorf("width %.2f, want 3", w)
	}
}

func TestDepthsNamedFromAMeasurement(t *testing.T) {
	l := Layers{Enamel: 1.2, Dentin: 3}
	for _, c := range []struct {
		mm   float64
		want Depth
	}{{0.3, "outer_enamel"}, {0.6, "outer_enamel"}, {0.9, "inner_enamel"}, {1.2, "inner_enamel"}, {1.5, "outer_dentin"}, {2.5, "middle_dentin"}, {3.6, "inner_dentin"}} {
		if got := l.DepthOf(c.mm); got != c.want {
			t.Errorf("%.1f mm is %s, want %s", c.mm, got, c.want)
		}
	}
	m, err := anatomy.Build(notation.MustParse("16"), anatomy.MeasuredSizes{}, 34, 0.2)
	if err != nil {
		t.Fatal(err)
	}
	for _, site := range []Site{Mesial, Distal} {
		layers, err := LayersAt(m, site)
		if err != nil || layers.Enamel < 0.6 || layers.Enamel > 1.8 || layers.Dentin < 1.5 || layers.Dentin > 5 {
			t.Errorf("%s: %+v %v", site, layers, err)
		}
	}
	if _, err := LayersAt(m, Central); err == nil {
		t.Error("a fissure has proximal layers")
	}
}
