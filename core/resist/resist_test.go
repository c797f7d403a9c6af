package resist

import (
	"context"
	"errors"
	"math"
	"testing"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/anatomy"
	"obturon/core/notation"
	"obturon/core/solid"
)

// Kt_H of plane sections by height and radius over thickness: (6H/t²)·h times the figure.
func TestAngleStressAgreesWithPlaneSections(t *testing.T) {
	for _, c := range []struct{ h, r, want float64 }{
		{0.75, 0.05, 4.457}, {0.75, 0.10, 3.217}, {0.75, 0.20, 2.296},
		{1, 0.05, 4.069}, {1, 0.10, 2.940}, {1, 0.20, 2.102},
		{2, 0.05, 3.519}, {2, 0.10, 2.573}, {2, 0.20, 1.883},
	} {
		if got := AngleStress(2*c.h, 2, 2*c.r); math.Abs(got/c.want-1) > 0.03 {
			t.Errorf("height %.2f, radius %.2f: %.3f, want %.3f", c.h, c.r, got, c.want)
		}
	}
	if rounded := AngleStress(2, 2, 0.4) / AngleStress(2, 2, 0.1); math.Abs(rounded-0.52) > 0.01 {
		t.Errorf("from 0.05 to 0.2 of thickness the stress falls to %.2f, want 0.52", rounded)
	}
	if low, thin := CuspGive(1, 2), CuspGive(3, 2); thin < 3*low || CuspGive(9, 1) != CuspGive(2, 1) {
		t.Errorf("a cusp three times as high gives way %.1f times as far", thin/low)
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

func part(t *testing.T, m *anatomy.Model, cut *solid.Workpiece, side float64) Compared {
	t.Helper()
	c, err := Part(context.Background(), m, cut, UsualBite(false), Usual(), side)
	if err != nil {
		t.Fatal(err)
	}
	return c
}

// What the figures must show: ridges matter most, then depth, then width; bonding gives
// most of it back (mechanics of cusps, 3-D solutions at 200 N: sound 0.6, MOD 6 to 13).
func TestWhatCavitiesCost(t *testing.T) {
	m := model(t, "25")
	shallow := part(t, m, cutThrough(m, 1.5, 1.5, true), 0.5)
	deep := part(t, m, cutThrough(m, 1.5, 3, true), 0.5)
	wide := part(t, m, cutThrough(m, 2.2, 1.5, true), 0.5)
	within := part(t, m, cutThrough(m, 1.5, 1.5, false), 0.5)
	if shallow.Sound.Opening < 0.3 || shallow.Sound.Opening > 3 {
		t.Errorf("sound cusps part by %.2f µm", shallow.Sound.Opening)
	}
	if deep.Empty.Opening < 1.6*shallow.Empty.Opening || wide.Empty.Opening < shallow.Empty.Opening || wide.Empty.Opening > deep.Empty.Opening {
		t.Errorf("parted by %.2f µm, deeper %.2f, wider %.2f", shallow.Empty.Opening, deep.Empty.Opening, wide.Empty.Opening)
	}
	if within.Empty.Opening > 0.7*shallow.Empty.Opening || within.Times(within.Empty) < 1 {
		t.Errorf("with its ridges parted by %.2f µm, without by %.2f", within.Empty.Opening, shallow.Empty.Opening)
	}
	back := (deep.Empty.Opening - deep.Filled.Opening) / (deep.Empty.Opening - deep.Sound.Opening)
	if back < 0.7 || back > 1 {
		t.Errorf("a bonded filling gives %.0f %% back", 100*back)
	}
}

// Finer cells change no opening by 5 %.
func TestPartingDoesNotHangOnTheCells(t *testing.T) {
	m := model(t, "25")
	cut := cutThrough(m, 1.5, 2.5, true)
	usual, fine := part(t, m, cut, 0.4), part(t, m, cut, 0.3)
	for name, p := range map[string][2]float64{"sound": {usual.Sound.Opening, fine.Sound.Opening}, "empty": {usual.Empty.Opening, fine.Empty.Opening}, "filled": {usual.Filled.Opening, fine.Filled.Opening}} {
		if math.Abs(p[1]/p[0]-1) > 0.05 {
			t.Errorf("%s: %.3f µm, on finer cells %.3f", name, p[0], p[1])
		}
	}
}

func TestTheLoadIsBorneWhole(t *testing.T) {
	m := model(t, "46")
	along := 0.0
	borne := UsualBite(false).on(m, m.Surface.Uncut())
	for _, b := range borne {
		along -= b.Force.Z
		if out := b.Force.Y * b.Cusp.At.Y; out < 0 {
			t.Errorf("the %s cusp is pressed inwards", b.Cusp.Name)
		}
	}
	if math.Abs(along-200) > 1e-9 || len(borne) != len(m.CuspTips) {
		t.Errorf("%d of %d cusps bear %.2f N", len(borne), len(m.CuspTips), along)
	}
}

func TestWrongLoadsAreRefused(t *testing.T) {
	m := model(t, "46")
	uncut := m.Surface.Uncut()
	soft := Usual()
	soft.Dentin = 0
	for name, c := range map[string]struct {
		bite      Bite
		stiffness Stiffness
	}{"no load": {Bite{}, Usual()}, "far": {Bite{Newtons: 200, DownTheIncline: 3}, Usual()}, "not a number": {Bite{Newtons: math.NaN(), DownTheIncline: 0.7}, Usual()}, "no dentin": {UsualBite(false), soft}} {
		if _, err := Part(context.Background(), m, uncut, c.bite, c.stiffness, 0.5); err == nil {
			t.Errorf("%s: taken", name)
		}
	}
	if _, err := Part(context.Background(), model(t, "11"), model(t, "11").Surface.Uncut(), UsualBite(false), Usual(), 0.5); !errors.Is(err, ErrNoCusps) {
		t.Errorf("an incisor: %v", err)
	}
}

func slicing(t *testing.T, m *anatomy.Model, cut *solid.Workpiece, filling, side float64) Picture {
	t.Helper()
	plane := solid.Plane{Origin: r3.Vec{X: m.Table.Origin.X}, U: r3.Vec{Y: 1}, V: r3.Vec{Z: 1}}
	p, err := Slice(context.Background(), m, cut, plane, UsualBite(false), Usual(), filling, side)
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
		t.Errorf("parted by %.2f µm, deeper %.2f, wider %.2f, filled %.2f", shallow.Opening, deep.Opening, wide.Opening, filled.Opening)
	}
	if len(deep.Corners) != 2 || deep.Corners[0].MPa < 1.3*shallow.Corners[0].MPa || filled.Corners[0].MPa > deep.Corners[0].MPa {
		t.Errorf("tension %+v, shallower %+v, filled %+v", deep.Corners, shallow.Corners, filled.Corners)
	}
	if math.Abs(fine.Opening/deep.Opening-1) > 0.05 || math.Abs(fine.Corners[0].MPa/deep.Corners[0].MPa-1) > 0.1 {
		t.Errorf("on finer cells parted by %.2f µm instead of %.2f, tension %.2f instead of %.2f", fine.Opening, deep.Opening, fine.Corners[0].MPa, deep.Corners[0].MPa)
	}
	for _, l := range deep.Loads {
		if math.Abs(-l.Along.Y*l.NewtonsMM-20) > 0.01 || l.Along.X*l.At.X < 0 {
			t.Errorf("load %+v", l)
		}
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
		if _, err := Part(context.Background(), m, cut, UsualBite(false), Usual(), 0.4); err != nil {
			b.Fatal(err)
		}
	}
}
