package anatomy

import (
	"math"
	"slices"
	"testing"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/notation"
)

func TestFacePitsLieInTheSurfaceWhereTheirTeethHaveThem(t *testing.T) {
	for iso, want := range map[string][]string{
		"46": {BuccalPit}, "16": {BuccalPit, LingualPit}, "55": {BuccalPit, LingualPit}, "85": {BuccalPit},
		"11": {LingualPit}, "12": {LingualPit}, "13": nil, "31": nil, "51": nil, "24": nil,
	} {
		tooth := notation.MustParse(iso)
		if got := Describe(tooth).SmoothSurfacePits; !slices.Equal(got, want) {
			t.Errorf("%s has pits %v, want %v", iso, got, want)
		}
		m, err := Build(tooth, MeasuredSizes{}, 30, 0.2)
		if err != nil {
			t.Fatal(err)
		}
		for _, name := range []string{BuccalPit, LingualPit} {
			at, ok := m.FacePit(name)
			if ok != slices.Contains(want, name) {
				t.Errorf("%s: %s is found: %v", iso, name, ok)
			}
			if !ok {
				continue
			}
			if d := m.Surface.Distance(at); math.Abs(d) > 0.02 {
				t.Errorf("%s: %s lies %.3f mm off the surface", iso, name, d)
			}
			if at.Z < 0.15*m.Sizes.Height || at.Z > 0.75*m.Sizes.Height || (at.Y > 0) != (name == BuccalPit) {
				t.Errorf("%s: %s lies at %.1f", iso, name, at)
			}
		}
	}
}

func TestAFrameOnAFaceLooksOutAndUp(t *testing.T) {
	m, err := Build(notation.MustParse("36"), MeasuredSizes{}, 30, 0.2)
	if err != nil {
		t.Fatal(err)
	}
	for name, c := range map[string]struct{ dir, along r3.Vec }{
		"facial": {r3.Vec{Y: 1}, r3.Vec{X: 1}}, "lingual": {r3.Vec{Y: -1}, r3.Vec{X: 1}},
		"mesial": {r3.Vec{X: 1}, r3.Vec{Y: 1}}, "distal": {r3.Vec{X: -1}, r3.Vec{Y: 1}},
	} {
		at, ok := m.onAxialSurface(c.dir, 0, 2)
		if !ok {
			t.Fatal(name)
		}
		f := m.FrameAt(at)
		if r3.Dot(f.W, c.dir) < 0.7 || f.V.Z < 0.7 || r3.Dot(f.U, c.along) < 0.7 {
			t.Errorf("%s: %.2f", name, f)
		}
		for _, pair := range [][2]r3.Vec{{f.U, f.V}, {f.V, f.W}, {f.W, f.U}} {
			if math.Abs(r3.Dot(pair[0], pair[1])) > 1e-9 {
				t.Errorf("%s: its axes are not square", name)
			}
		}
		if foot, normal, _ := m.OuterSurface().Over(at); !f.OnItsSurface(foot, normal) {
			t.Errorf("%s: its own origin is not on the surface", name)
		}
		if far, ok := m.onAxialSurface(r3.Scale(-1, c.dir), 0, 2); ok {
			if foot, normal, _ := m.OuterSurface().Over(far); f.OnItsSurface(foot, normal) {
				t.Errorf("%s: the opposite surface counts as it", name)
			}
		}
	}
}

func TestTheEdgeFallsToItsCorners(t *testing.T) {
	m, err := Build(notation.MustParse("13"), MeasuredSizes{}, 30, 0.2)
	if err != nil {
		t.Fatal(err)
	}
	for _, sign := range []float64{1, -1} {
		reach, height := m.IncisalAngle(sign)
		if sign*reach < 2 || height > m.Sizes.Height-0.8 || height < 0.4*m.Sizes.Height {
			t.Errorf("side %+.0f: the incisal angle lies at %.1f, %.1f high of %.1f", sign, reach, height, m.Sizes.Height)
		}
	}
	if tip := m.EdgeHeight(0); m.Sizes.Height-tip > 0.6 {
		t.Errorf("the tip stands %.1f of %.1f mm high", tip, m.Sizes.Height)
	}
}
