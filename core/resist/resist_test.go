package resist

import (
	"context"
	"errors"
	"math"
	"strings"
	"testing"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/anatomy"
	"obturon/core/notation"
	"obturon/core/solid"
)

// Kt of plane sections by height and radius over thickness: 6H/t²·h, 6M/t² and V/t times the
// figure are the tension of the line angle.
func TestLineAnglesAgreeWithPlaneSections(t *testing.T) {
	const thickness = 2.0 // mm
	for _, c := range []struct{ h, r, want float64 }{
		{0.75, 0.05, 4.457}, {0.75, 0.10, 3.217}, {0.75, 0.20, 2.296},
		{1, 0.05, 4.069}, {1, 0.10, 2.940}, {1, 0.20, 2.102},
		{2, 0.05, 3.519}, {2, 0.10, 2.573}, {2, 0.20, 1.883},
	} {
		got := LineAngle{Out: thickness / (6 * c.h)}.Tension(thickness*c.h, thickness, thickness*c.r)
		if math.Abs(got/c.want-1) > 0.03 {
			t.Errorf("across, height %.2f, radius %.2f: %.3f, want %.3f", c.h, c.r, got, c.want)
		}
	}
	for r, want := range map[float64][2]float64{0.05: {3.042, -2.42}, 0.10: {2.302, -2.007}, 0.20: {1.789, -1.68}} {
		bend := LineAngle{Bend: thickness * thickness / 6}.Tension(2, thickness, thickness*r)
		down := LineAngle{Down: thickness}.Tension(2, thickness, thickness*r)
		if math.Abs(bend/want[0]-1) > 0.03 || math.Abs(down/want[1]-1) > 0.03 {
			t.Errorf("radius %.2f: bending %.3f, along %.3f, want %v", r, bend, down, want)
		}
	}
	across := LineAngle{Out: 1}
	if rounded := across.Tension(2, 2, 0.4) / across.Tension(2, 2, 0.1); math.Abs(rounded-0.52) > 0.01 {
		t.Errorf("from 0.05 to 0.2 of thickness the stress falls to %.2f, want 0.52", rounded)
	}
	if further := across.Tension(4, 4, 0.8*4) / across.Tension(4, 4, 0.2*4); math.Abs(further-1) > 1e-9 {
		t.Errorf("past what was fitted it goes on to %.2f", further)
	}
	if low, thin := CuspGive(1, 2), CuspGive(3, 2); thin < 3*low || CuspGive(9, 1) != CuspGive(2, 1) {
		t.Errorf("a cusp three times as high gives way %.1f times as far", thin/low)
	}
}

// A ridge that nothing carries bends its filling as a beam does: by the lever, and by the
// square of the bulk.
func TestRidgesBendThinFillings(t *testing.T) {
	if thin, thick := RidgeBend(10, 2, 1), RidgeBend(10, 2, 2); math.Abs(thin-129) > 1e-9 || math.Abs(thick-34.5) > 1e-9 {
		t.Errorf("bulks of 1 and 2 mm are pulled by %.2f and %.2f MPa, want 129 and 34.5", thin, thick)
	}
}

func TestConstantsAreThePracticesOwn(t *testing.T) {
	usual := Usual()
	if usual.Enamel != 84000 || usual.Dentin != 18000 || usual.Pulp != 2 || usual.Composite != 12000 || usual.Poisson != 0.3 || usual.Check() != nil {
		t.Errorf("usually %+v", usual)
	}
	own, err := Assume([]Figure{{"composite", 9, "its sheet"}, {"bite", 150, "our own readings"}})
	if err != nil || own.Composite != 9000 || own.Enamel != usual.Enamel {
		t.Errorf("%+v: %v", own, err)
	}
	if b := own.Bite(true, nil); b.Newtons != 300 || b.Grinding != 2 || b.Place != Between {
		t.Errorf("who grinds is loaded by %+v", b)
	}
	_, err = Assume([]Figure{{"gold", 1, "?"}, {"dentin", math.NaN(), "?"}, {"pulp", 2, " "}, {"poisson", 0.3, "?"}, {"poisson", 0.3, "?"}})
	for _, named := range []string{"gold", "Modulus of dentin", "8 to 30 GPa", "Modulus of the pulp has no source", "Poisson's ratio is given twice"} {
		if err == nil || !strings.Contains(err.Error(), named) {
			t.Errorf("%q is not named: %v", named, err)
		}
	}
	for _, c := range Constants() {
		if c.Source == "" || !(c.Least <= c.Value && c.Value <= c.Most) {
			t.Errorf("%+v", c)
		}
	}
}

func model(t *testing.T, tooth string) *anatomy.Model {
	t.Helper()
	m, err := anatomy.Build(notation.MustParse(tooth), anatomy.MeasuredSizes{}, 30, 0.2)
	if err != nil {
		t.Fatal(err)
	}
	return m
}

// slab is a flat-sided cut: all of the tooth between two planes across and over a floor.
type slab struct{ low, high r3.Vec }

func (s slab) Distance(p r3.Vec) float64 {
	d := r3.Vec{X: math.Max(s.low.X-p.X, p.X-s.high.X), Y: math.Max(s.low.Y-p.Y, p.Y-s.high.Y), Z: math.Max(s.low.Z-p.Z, p.Z-s.high.Z)}
	return math.Max(d.X, math.Max(d.Y, d.Z))
}
func (slab) Feature(r3.Vec) uint16 { return 1 }
func (s slab) Bounds() solid.Box   { return solid.Box{Min: s.low, Max: s.high} }

// cutThrough is a tooth with a slot so wide and deep (mm) under its fossa, through both
// ridges or neither.
func cutThrough(m *anatomy.Model, wide, deep float64, ridges bool) *solid.Workpiece {
	along := m.Sizes.Mesiodistal / 4
	if ridges {
		along = 8
	}
	o := m.Table.Origin
	return m.Surface.Uncut().Carve(slab{r3.Vec{X: o.X - along, Y: o.Y - wide/2, Z: o.Z - deep}, r3.Vec{X: o.X + along, Y: o.Y + wide/2, Z: o.Z + 6}})
}

func usualBite() Bite { return Usual().Bite(false, nil) }

func deflect(t *testing.T, m *anatomy.Model, cut *solid.Workpiece, side float64) Compared {
	t.Helper()
	c, err := Deflect(context.Background(), m, cut, usualBite(), Usual().Stiffness, side, nil)
	if err != nil {
		t.Fatal(err)
	}
	return c
}

// What the figures must show: ridges matter most, then depth, then width; bonding gives
// most of it back (mechanics of cusps, 3-D solutions at 200 N: sound 0.6, MOD 6 to 13).
func TestWhatCavitiesCost(t *testing.T) {
	m := model(t, "25")
	shallow := deflect(t, m, cutThrough(m, 1.5, 1.5, true), 0.5)
	deep := deflect(t, m, cutThrough(m, 1.5, 3, true), 0.5)
	wide := deflect(t, m, cutThrough(m, 2.2, 1.5, true), 0.5)
	within := deflect(t, m, cutThrough(m, 1.5, 1.5, false), 0.5)
	if shallow.Sound.Opening < 0.3 || shallow.Sound.Opening > 3 {
		t.Errorf("sound cusps deflect by %.2f µm", shallow.Sound.Opening)
	}
	if deep.Empty.Opening < 1.6*shallow.Empty.Opening || wide.Empty.Opening < shallow.Empty.Opening || wide.Empty.Opening > deep.Empty.Opening {
		t.Errorf("deflected by %.2f µm, deeper %.2f, wider %.2f", shallow.Empty.Opening, deep.Empty.Opening, wide.Empty.Opening)
	}
	if within.Empty.Opening > 0.7*shallow.Empty.Opening || within.Empty.Opening < within.Sound.Opening {
		t.Errorf("with its ridges deflected by %.2f µm, without by %.2f", within.Empty.Opening, shallow.Empty.Opening)
	}
	back := (deep.Empty.Opening - deep.Filled.Opening) / (deep.Empty.Opening - deep.Sound.Opening)
	if back < 0.7 || back > 1 {
		t.Errorf("a bonded filling gives %.0f %% back", 100*back)
	}
}

// Finer cells change no opening by 5 %.
func TestDeflectionDoesNotHangOnTheCells(t *testing.T) {
	m := model(t, "25")
	cut := cutThrough(m, 1.5, 2.5, true)
	usual, fine := deflect(t, m, cut, 0.4), deflect(t, m, cut, 0.3)
	for name, p := range map[string][2]float64{"sound": {usual.Sound.Opening, fine.Sound.Opening}, "empty": {usual.Empty.Opening, fine.Empty.Opening}, "filled": {usual.Filled.Opening, fine.Filled.Opening}} {
		if math.Abs(p[1]/p[0]-1) > 0.05 {
			t.Errorf("%s: %.3f µm, on finer cells %.3f", name, p[0], p[1])
		}
	}
}

func TestTheLoadIsBorneWhole(t *testing.T) {
	m := model(t, "46")
	uncut := m.Surface.Uncut()
	along := 0.0
	borne, _ := usualBite().on(m, uncut)
	for _, b := range borne {
		along -= b.Force.Z
		if b.Force.Y*b.out < 0 {
			t.Errorf("the cusp at %v is pressed inwards", b.At)
		}
	}
	if math.Abs(along-200) > 1e-9 || len(borne) != len(m.CuspTips) {
		t.Errorf("%d of %d cusps bear %.2f N", len(borne), len(m.CuspTips), along)
	}
	// Slanted, each bears as much, further outwards.
	slanting := usualBite()
	slanting.Slant = 20
	turned, _ := slanting.on(m, uncut)
	for n, b := range turned {
		cos := r3.Dot(b.Force, borne[n].Force) / r3.Norm2(borne[n].Force)
		if math.Abs(cos-math.Cos(20*math.Pi/180)) > 0.02 || b.out*b.Force.Y < b.out*borne[n].Force.Y {
			t.Errorf("slanted, %v becomes %v", borne[n].Force, b.Force)
		}
	}
}

// Marked contacts press where they are marked, square to the surface; those over the cavity
// are counted, not borne. A flat antagonist meets tips alone, square to itself.
func TestWhereALoadPresses(t *testing.T) {
	m := model(t, "46")
	tip := m.Table.To(m.CuspTips[0].At)
	marks := []solid.Point2{{X: tip.X, Y: tip.Y - math.Copysign(0.8, tip.Y)}, {X: 0, Y: 0}}
	bite := Usual().Bite(false, marks)
	cut := cutThrough(m, 1.5, 2, true)
	borne, missed := bite.on(m, cut)
	if bite.Place != Contacts || len(borne) != 1 || missed != 1 {
		t.Fatalf("%s: %d borne, %d on the filling", bite.Place, len(borne), missed)
	}
	at := m.Table.To(borne[0].At)
	if math.Hypot(at.X-marks[0].X, at.Y-marks[0].Y) > 0.01 || math.Abs(-borne[0].Force.Z-200) > 1e-9 {
		t.Errorf("pressed at %v by %v", at, borne[0].Force)
	}
	bite.Place = Plane
	borne, _ = bite.on(m, cut)
	if len(borne) == 0 || len(borne) > len(m.CuspTips) {
		t.Fatalf("%d tips meet the antagonist", len(borne))
	}
	for _, b := range borne {
		if r3.Dot(r3.Unit(b.Force), m.Table.W) > -0.999 {
			t.Errorf("a flat antagonist presses along %v", r3.Unit(b.Force))
		}
	}
	deflected := deflect(t, m, cut, 0.5)
	bite.Place = Contacts
	bite.Marked = marks[:1]
	one, err := Deflect(context.Background(), m, cut, bite, Usual().Stiffness, 0.5, nil)
	if err != nil || len(one.Cusps) != len(m.CuspTips) || one.Empty.Cusps[0] < 2*deflected.Empty.Cusps[0] {
		t.Errorf("a contact on one cusp moves it by %v, a load between them by %v: %v", one.Empty.Cusps, deflected.Empty.Cusps, err)
	}
	bite.Marked = marks[1:]
	if _, err := Deflect(context.Background(), m, cut, bite, Usual().Stiffness, 0.5, nil); !errors.Is(err, ErrNothingBears) {
		t.Errorf("all contacts on the filling: %v", err)
	}
}

func TestWrongLoadsAreRefused(t *testing.T) {
	m := model(t, "46")
	uncut := m.Surface.Uncut()
	soft := Usual().Stiffness
	soft.Dentin = 0
	with := func(change func(*Bite)) Bite {
		b := usualBite()
		change(&b)
		return b
	}
	for name, c := range map[string]struct {
		bite      Bite
		stiffness Stiffness
	}{
		"no load":      {Bite{}, Usual().Stiffness},
		"far":          {with(func(b *Bite) { b.DownTheIncline = 3 }), Usual().Stiffness},
		"not a number": {with(func(b *Bite) { b.Newtons = math.NaN() }), Usual().Stiffness},
		"lying down":   {with(func(b *Bite) { b.Slant = 60 }), Usual().Stiffness},
		"no slant":     {with(func(b *Bite) { b.Slant = math.NaN() }), Usual().Stiffness},
		"nowhere":      {with(func(b *Bite) { b.Place = "moon" }), Usual().Stiffness},
		"no contacts":  {with(func(b *Bite) { b.Place = Contacts }), Usual().Stiffness},
		"no dentin":    {usualBite(), soft},
	} {
		if _, err := Deflect(context.Background(), m, uncut, c.bite, c.stiffness, 0.5, nil); err == nil {
			t.Errorf("%s: taken", name)
		}
	}
	if _, err := Deflect(context.Background(), model(t, "11"), model(t, "11").Surface.Uncut(), usualBite(), Usual().Stiffness, 0.5, nil); !errors.Is(err, ErrNoCusps) {
		t.Errorf("an incisor: %v", err)
	}
}

// What is told of the progress only grows, up to nearly all of the work.
func TestProgressIsTold(t *testing.T) {
	m := model(t, "25")
	last := 0.0
	_, err := Deflect(context.Background(), m, cutThrough(m, 1.5, 2, true), usualBite(), Usual().Stiffness, 0.5, func(share float64) {
		if share < last-0.05 || share > 1 {
			t.Errorf("%.2f of the work is done after %.2f", share, last)
		}
		last = share
	})
	if err != nil || last < 0.85 {
		t.Errorf("at the end %.2f: %v", last, err)
	}
}

func slicing(t *testing.T, m *anatomy.Model, cut *solid.Workpiece, filling, side float64) Picture {
	t.Helper()
	plane := solid.Plane{Origin: r3.Vec{X: m.Table.Origin.X}, U: r3.Vec{Y: 1}, V: r3.Vec{Z: 1}}
	p, err := Slice(context.Background(), m, cut, plane, usualBite(), Usual().Stiffness, filling, side)
	if err != nil {
		t.Fatal(err)
	}
	return p
}

// The figures of plane sections with cusps 5.8 apart under 20 N/mm: depth makes most of it,
// width little, and bonding gives nearly all of it back. What is read beside the corners
// does not hang on the cells.
func TestThePictureOfASection(t *testing.T) {
	m := model(t, "46")
	shallow := slicing(t, m, cutThrough(m, 1.5, 1.5, true), 0, 0.1)
	deep := slicing(t, m, cutThrough(m, 1.5, 3, true), 0, 0.1)
	wide := slicing(t, m, cutThrough(m, 2.2, 1.5, true), 0, 0.1)
	filled := slicing(t, m, cutThrough(m, 1.5, 3, true), Usual().Composite, 0.1)
	fine := slicing(t, m, cutThrough(m, 1.5, 3, true), 0, 0.05)
	if deep.Opening < 1.6*shallow.Opening || wide.Opening > 1.4*shallow.Opening || filled.Opening > 0.6*deep.Opening {
		t.Errorf("deflected by %.2f µm, deeper %.2f, wider %.2f, filled %.2f", shallow.Opening, deep.Opening, wide.Opening, filled.Opening)
	}
	if len(deep.Corners) != 2 || deep.Corners[0].MPa < 1.3*shallow.Corners[0].MPa || filled.Corners[0].MPa > deep.Corners[0].MPa {
		t.Errorf("tension %+v, shallower %+v, filled %+v", deep.Corners, shallow.Corners, filled.Corners)
	}
	if math.Abs(fine.Opening/deep.Opening-1) > 0.05 || math.Abs(fine.Corners[0].MPa/deep.Corners[0].MPa-1) > 0.1 {
		t.Errorf("on finer cells deflected by %.2f µm instead of %.2f, tension %.2f instead of %.2f", fine.Opening, deep.Opening, fine.Corners[0].MPa, deep.Corners[0].MPa)
	}
	for _, l := range deep.Loads {
		if math.Abs(-l.Along.Y*l.NewtonsMM-20) > 0.01 || l.Along.X*l.At.X < 0 {
			t.Errorf("load %+v", l)
		}
	}
	if len(deep.Enamel) == 0 || len(deep.Dentin) == 0 || len(deep.Pulp) == 0 {
		t.Errorf("outlines of %d, %d and %d parts", len(deep.Enamel), len(deep.Dentin), len(deep.Pulp))
	}
	if len(deep.Lines) != len(Levels) || len(deep.Lines[0].Lines) == 0 {
		t.Errorf("lines of %d levels", len(deep.Lines))
	}
}

func BenchmarkPart(b *testing.B) {
	m, err := anatomy.Build(notation.MustParse("46"), anatomy.MeasuredSizes{}, 30, 0.2)
	if err != nil {
		b.Fatal(err)
	}
	cut := cutThrough(m, 1.5, 2.5, true)
	for b.Loop() {
		if _, err := Deflect(context.Background(), m, cut, usualBite(), Usual().Stiffness, 0.4, nil); err != nil {
			b.Fatal(err)
		}
	}
}
