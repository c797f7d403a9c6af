package anatomy

import (
	"math"
	"testing"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/notation"
)

func build(t *testing.T, id string, age, h float64) *Model {
	t.Helper()
	m, err := Build(notation.MustParse(id), MeasuredSizes{}, age, h)
	if err != nil {
		t.Fatal(err)
	}
	return m
}

func TestLandmarksLieWhereAnatomyPutsThem(t *testing.T) {
	m := build(t, "46", 34, 0.15)
	for _, l := range append(append([]Named{}, m.CuspTips...), m.Pits...) {
		if d := m.Surface.Distance(l.At); math.Abs(d) > 0.1 {
			t.Errorf("%s lies %.2f off the surface", l.Name, d)
		}
	}
	central, _ := m.Pit("central pit")
	for _, tip := range m.CuspTips {
		if tip.At.Z < central.Z+1.5 {
			t.Errorf("cusp %s rises only %.2f over the central pit", tip.Name, tip.At.Z-central.Z)
		}
	}
	if m.MesialRidge.X < 3 || m.DistalRidge.X > -3 || m.MesialRidge.Z < central.Z+0.8 {
		t.Errorf("ridges %v %v", m.MesialRidge, m.DistalRidge)
	}
	if m.Table.W.Y >= 0 {
		t.Errorf("the bur leans lingually with a lower molar's crown: axis %v", m.Table.W)
	}
	line := m.CentralLine()
	if len(line) < 10 || line[0].X < line[len(line)-1].X {
		t.Errorf("the central line runs mesial to distal: %d points", len(line))
	}
}

func TestEnamelCoversTheCrownOnly(t *testing.T) {
	m := build(t, "46", 34, 0.15)
	thickness := func(from, dir r3.Vec) float64 {
		outer, ok := m.Surface.RootAlong(from, dir, 0, 20, 0.1)
		inner, ok2 := m.Dentin().RootAlong(from, dir, 0, 20, 0.1)
		if !ok || !ok2 {
			t.Fatalf("no surface from %v", from)
		}
		return inner - outer
	}
	for name, c := range map[string]struct {
		from, dir r3.Vec
		want      float64
	}{
		"mesial below the contact": {r3.Vec{X: 9, Y: 0, Z: 3.5}, r3.Vec{X: -1}, 1.0},
		"buccal":                   {r3.Vec{X: 0, Y: 9, Z: 4}, r3.Vec{Y: -1}, 1.2},
		"functional cusp":          {r3.Add(m.CuspTips[1].At, r3.Vec{Z: 2}), r3.Vec{Z: -1}, 2.0},
		"root":                     {r3.Vec{X: 9, Y: 0, Z: -2}, r3.Vec{X: -1}, 0},
	} {
		if got := thickness(c.from, c.dir); math.Abs(got-c.want) > 0.3 {
			t.Errorf("enamel %s %.2f mm, want about %.1f", name, got, c.want)
		}
	}
}

func TestPulpRecedesWithAge(t *testing.T) {
	base := build(t, "46", 50, 0.3)
	tip := func(age float64) float64 {
		m, err := base.WithAge(age)
		if err != nil {
			t.Fatal(err)
		}
		if fresh := build(t, "46", age, 0.3); fresh.Horns[0] != m.Horns[0] || fresh.Pulp().Distance(r3.Vec{Z: 3}) != m.Pulp().Distance(r3.Vec{Z: 3}) {
			t.Errorf("at %v years a tooth made older differs from one built so", age)
		}
		return m.Horns[0].At.Z
	}
	young, adult, old := tip(16), tip(35), tip(75)
	if !(young > adult && adult > old) {
		t.Errorf("horn tips at %.2f, %.2f, %.2f", young, adult, old)
	}
}

func TestBuildRefuses(t *testing.T) {
	for name, c := range map[string]struct {
		own    MeasuredSizes
		age, h float64
	}{
		"a negative age":         {MeasuredSizes{}, -1, 0.1},
		"no age":                 {MeasuredSizes{}, math.NaN(), 0.1},
		"no grid step":           {MeasuredSizes{}, 34, 0},
		"a coarse grid":          {MeasuredSizes{}, 34, 9},
		"a giant's crown":        {MeasuredSizes{Height: 15}, 34, 0.1},
		"a dwarf's crown":        {MeasuredSizes{Mesiodistal: 4}, 34, 0.1},
		"a size that is none":    {MeasuredSizes{Buccolingual: math.NaN()}, 34, 0.1},
		"enamel through to pulp": {MeasuredSizes{EnamelAtContact: 4}, 34, 0.1},
	} {
		if _, err := Build(notation.MustParse("46"), c.own, c.age, c.h); err == nil {
			t.Errorf("%s was built", name)
		}
	}
}

func TestOtherSideSharesTheModel(t *testing.T) {
	right := build(t, "46", 34, 0.3)
	left := right.For(notation.MustParse("36"))
	if left.Surface != right.Surface || left.Tooth.String() != "36" || right.Tooth.String() != "46" {
		t.Error("the left tooth does not share the right one's samples")
	}
}
