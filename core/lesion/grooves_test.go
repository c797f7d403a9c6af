package lesion

import (
	"slices"
	"testing"

	"obturon/core/anatomy"
	"obturon/core/notation"
)

func TestGroovesAndCuspsOfEachTooth(t *testing.T) {
	for _, c := range []struct {
		tooth   string
		grooves []Site
		cusps   []Site
	}{
		{"46", []Site{"mesiobuccal_groove", "distobuccal_groove", "lingual_groove", "distolingual_groove"}, []Site{"mesiobuccal", "distobuccal", "distal_cusp", "mesiolingual", "distolingual"}},
		{"47", []Site{"buccal_groove", "lingual_groove", "distolingual_groove"}, []Site{"mesiobuccal", "distobuccal", "mesiolingual", "distolingual"}},
		{"16", []Site{"buccal_groove", "distolingual_groove"}, []Site{"mesiobuccal", "distobuccal", "mesiolingual", "distolingual"}},
		{"25", nil, []Site{"buccal_cusp", "lingual_cusp"}},
		{"34", nil, []Site{"buccal_cusp", "lingual_cusp"}},
		{"11", nil, nil},
	} {
		tooth := notation.MustParse(c.tooth)
		if got := GrooveSites(tooth); !same(got, c.grooves) {
			t.Errorf("%s has the grooves %v, want %v", c.tooth, got, c.grooves)
		}
		if got := CuspSites(tooth); !same(got, c.cusps) {
			t.Errorf("%s has the cusps %v, want %v", c.tooth, got, c.cusps)
		}
	}
}

func same(a, b []Site) bool {
	a, b = slices.Clone(a), slices.Clone(b)
	slices.Sort(a)
	slices.Sort(b)
	return slices.Equal(a, b)
}

// Whatever place the drawing offers, its finding is sound and can be placed.
func TestEveryPlaceOnTheDrawingTakesItsFindings(t *testing.T) {
	for _, id := range []string{"16", "25", "34", "45", "46", "55", "84"} {
		tooth := notation.MustParse(id)
		m, err := anatomy.Build(tooth, anatomy.MeasuredSizes{}, 30, 0.25)
		if err != nil {
			t.Fatal(err)
		}
		for _, s := range PlacedSites(m) {
			if len(s.Kinds) == 0 {
				t.Errorf("%s: nothing can be found at %s", id, s.Site)
			}
			for _, k := range s.Kinds {
				f := Finding{Kind: k, Site: s.Site, Depth: "outer_dentin"}
				if faults := Validate(f, tooth); len(faults) > 0 {
					t.Errorf("%s: %s at %s is offered, and refused: %v", id, k, s.Site, faults)
				}
				if k == Crack || k == UnderminedCusp || f.OnCusp() { // judged in the cavity that others open
					continue
				}
				if l, err := New(m, f); err != nil || l.Volume() <= 0 {
					t.Errorf("%s: %s at %s cannot be placed: %v", id, k, s.Site, err)
				}
			}
		}
	}
}

func TestTheHornIsInTheWayOfAMesialBoxOfFirstPrimaryMolarsOnly(t *testing.T) {
	for _, c := range []struct {
		tooth string
		f     Finding
		want  bool
	}{
		{"54", Finding{Kind: ProximalCaries, Site: Mesial}, true},
		{"84", Finding{Kind: OldRestoration, Site: Mesial}, true},
		{"74", Finding{Kind: ProximalCaries, Site: Distal}, false},
		{"74", Finding{Kind: Crack, Site: Mesial}, false},
		{"75", Finding{Kind: ProximalCaries, Site: Mesial}, false},
		{"44", Finding{Kind: ProximalCaries, Site: Mesial}, false},
	} {
		if got := HornInTheWay([]Finding{c.f}, notation.MustParse(c.tooth)); got != c.want {
			t.Errorf("%s %s %s: %v", c.tooth, c.f.Kind, c.f.Site, got)
		}
	}
}

func TestUsualSizesOfOldFillings(t *testing.T) {
	m := oldTooth(t)
	if _, ok := DefaultSize(m, OldRestoration, "outer_enamel"); ok {
		t.Error("a filling within enamel has a usual size")
	}
	s, ok := DefaultSize(m, OldRestoration, "outer_dentin")
	l, err := NewOcclusal(m, Finding{Kind: OldRestoration, Site: Central, Depth: "outer_dentin"})
	if err != nil || !ok || s.Width != l.Width() || s.Length < 3 {
		t.Errorf("the usual size is %+v, the filling placed is %.2f wide: %v", s, l.Width(), err)
	}
}
