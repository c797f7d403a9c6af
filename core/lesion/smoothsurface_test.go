package lesion

import (
	"math"
	"testing"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/anatomy"
	"obturon/core/notation"
)

func toothOf(t *testing.T, iso string) *anatomy.Model {
	t.Helper()
	m, err := anatomy.Build(notation.MustParse(iso), anatomy.MeasuredSizes{}, 30, 0.15)
	if err != nil {
		t.Fatal(err)
	}
	return m
}

// A lesion at the cervical line is half an ellipsoid under a surface that is nearly flat over it.
func TestALesionAtTheNeckHasItsVolume(t *testing.T) {
	m := toothOf(t, "16")
	f := Finding{Kind: CervicalCaries, Site: Buccal, Depth: "outer_dentin", Width: 3, Height: 1.6}
	l, err := NewSmoothSurface(m, f)
	if err != nil {
		t.Fatal(err)
	}
	_, deep := l.enamelAt(l.Frame.Origin)
	want := 2.0 / 3 * math.Pi * 1.5 * 0.8 * deep
	if got := l.Volume(); math.Abs(got-want) > 0.15*want {
		t.Errorf("%.2f mm³, want about %.2f", got, want)
	}
	if into := l.IntoDentin(); math.Abs(into-cervicalExtents["outer_dentin"].intoDentin) > 0.02 {
		t.Errorf("it goes %.2f mm into dentin", into)
	}
	if d := l.Distance(l.Deepest()); math.Abs(d) > 0.05 {
		t.Errorf("its deepest place lies %.3f mm off its border", d)
	}
}

func TestDeeperLesionsOfFacesAreLarger(t *testing.T) {
	for _, c := range []struct {
		tooth string
		f     Finding
	}{
		{"33", Finding{Kind: CervicalCaries, Site: Buccal}}, {"46", Finding{Kind: PitCaries, Site: BuccalPit}},
		{"12", Finding{Kind: PitCaries, Site: LingualPit}}, {"55", Finding{Kind: CervicalCaries, Site: Lingual}},
		{"22", Finding{Kind: Fracture, Site: MesialIncisalAngle}}, {"43", Finding{Kind: Fracture, Site: DistalIncisalAngle}},
	} {
		m := toothOf(t, c.tooth)
		before, into := 0.0, math.Inf(-1)
		for _, d := range Depths {
			c.f.Depth = d
			l, err := New(m, c.f)
			if err != nil {
				t.Fatalf("%s %s: %v", c.tooth, c.f.Site, err)
			}
			if l.Volume() <= before || l.IntoDentin() < into-0.01 {
				t.Errorf("%s %s %s: %.2f mm³ and %.2f mm into dentin after %.2f and %.2f", c.tooth, c.f.Site, d, l.Volume(), l.IntoDentin(), before, into)
			}
			before, into = l.Volume(), l.IntoDentin()
			b := l.Bounds()
			if !b.Contains(l.Middle()) {
				t.Errorf("%s %s %s: its middle lies outside its bounds", c.tooth, c.f.Site, d)
			}
		}
	}
}

func TestALesionAtTheNeckLiesWhereItIsSaidTo(t *testing.T) {
	m := toothOf(t, "23")
	usual, err := NewSmoothSurface(m, Finding{Kind: CervicalCaries, Site: Buccal, Depth: "outer_dentin"})
	if err != nil {
		t.Fatal(err)
	}
	neck, _ := m.OverCervicalLine(true, 0)
	for _, over := range []float64{-1, 0.5, 2} {
		l, err := NewSmoothSurface(m, Finding{Kind: CervicalCaries, Site: Buccal, Depth: "outer_dentin", OverCervicalLine: &over})
		if err != nil {
			t.Fatal(err)
		}
		if got := l.Middle().Z - neck.Z; math.Abs(got-over) > 0.02 {
			t.Errorf("said to lie %.1f mm above the CEJ, it lies %.2f", over, got)
		}
	}
	if rise := usual.Middle().Z - neck.Z; rise < 0.8 || rise > 2 {
		t.Errorf("the usual place is %.2f mm above the CEJ", rise)
	}
}

// An incisal angle of so much height and width is broken off along a plane through both.
func TestACornerLosesItsHeightAndWidth(t *testing.T) {
	m := toothOf(t, "11")
	for _, sign := range []float64{1, -1} {
		site := MesialIncisalAngle
		if sign < 0 {
			site = DistalIncisalAngle
		}
		const height, width = 3.0, 2.5
		c, err := NewIncisalAngle(m, Finding{Kind: Fracture, Site: site, Depth: "outer_dentin", Height: height, Width: width})
		if err != nil {
			t.Fatal(err)
		}
		reach, top := m.IncisalAngle(sign)
		onEdge := r3.Vec{X: reach - sign*width, Y: c.At.Y, Z: m.EdgeHeight(reach - sign*width)}
		if off := c.Beyond(onEdge); math.Abs(off) > 0.02 {
			t.Errorf("%s: the plane leaves the edge %.2f mm aside", site, off)
		}
		beside, _ := m.OnProximal(sign, m.EdgeAt(onEdge.X).Y/2, top-height)
		if off := c.Beyond(r3.Vec{X: beside.X, Y: c.At.Y, Z: beside.Z}); math.Abs(off) > 0.25 {
			t.Errorf("%s: the plane leaves the proximal surface %.2f mm aside", site, off)
		}
		if c.Beyond(r3.Vec{X: reach, Y: c.At.Y, Z: top}) < 0.5 || c.Beyond(r3.Vec{Z: 2}) > 0 {
			t.Errorf("%s: the wrong side is lost", site)
		}
		if got := c.Distance(r3.Vec{X: 0.8 * reach, Y: m.EdgeAt(0.8 * reach).Y, Z: top - 0.4}); got > 0 {
			t.Errorf("%s: the incisal angle itself stands, %.2f", site, got)
		}
	}
	if _, err := NewIncisalAngle(m, Finding{Kind: Fracture, Site: MesialIncisalAngle, Depth: "deep"}); err == nil {
		t.Error("an unknown depth is taken")
	}
}

func TestFiguresOfFacesAreChecked(t *testing.T) {
	far, near := 40.0, 1.0
	for _, c := range []struct {
		tooth string
		f     Finding
		field string // "" where nothing is wrong
	}{
		{"33", Finding{Kind: CervicalCaries, Site: Buccal, Depth: "outer_dentin", OverCervicalLine: &near}, ""},
		{"33", Finding{Kind: CervicalCaries, Site: Buccal, Depth: "outer_dentin", OverCervicalLine: &far}, "over_neck_mm"},
		{"46", Finding{Kind: FissureCaries, Site: Central, Depth: "outer_dentin", OverCervicalLine: &near}, "over_neck_mm"},
		{"46", Finding{Kind: OldRestoration, Site: Lingual, Depth: "outer_dentin", OverCervicalLine: &near}, ""},
		{"12", Finding{Kind: ProximalCaries, Site: Mesial, Depth: "outer_dentin", Opens: Lingual}, ""},
		{"12", Finding{Kind: ProximalCaries, Site: Mesial, Depth: "outer_dentin", Opens: Mesial}, "opens"},
		{"15", Finding{Kind: ProximalCaries, Site: Mesial, Depth: "outer_dentin", Opens: Buccal}, "opens"},
		{"37", Finding{Kind: Fracture, Site: "distolingual", Depth: "outer_dentin"}, ""},
	} {
		faults := Validate(c.f, notation.MustParse(c.tooth))
		switch {
		case c.field == "" && len(faults) > 0:
			t.Errorf("%s %+v: %v", c.tooth, c.f, faults)
		case c.field != "" && (len(faults) != 1 || faults[0].Field != c.field):
			t.Errorf("%s %+v: %v, want a fault of %s", c.tooth, c.f, faults, c.field)
		}
	}
}
