package fill

import (
	"math"
	"testing"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/solid"
)

// cuboid is a solid with flat sides.
type cuboid struct {
	solid.Box
	face uint16
}

func (c cuboid) Distance(p r3.Vec) float64 {
	return max(c.Min.X-p.X, p.X-c.Max.X, c.Min.Y-p.Y, p.Y-c.Max.Y, c.Min.Z-p.Z, p.Z-c.Max.Z)
}
func (c cuboid) Feature(r3.Vec) uint16 { return c.face }
func (c cuboid) Bounds() solid.Box     { return c.Box }

// ball is a solid.
type ball struct {
	at r3.Vec
	r  float64
}

func (b ball) Distance(p r3.Vec) float64 { return r3.Norm(r3.Sub(p, b.at)) - b.r }
func (b ball) Feature(r3.Vec) uint16     { return 1 }
func (b ball) Bounds() solid.Box {
	r := r3.Vec{X: b.r, Y: b.r, Z: b.r}
	return solid.Box{Min: r3.Sub(b.at, r), Max: r3.Add(b.at, r)}
}

var up = r3.Vec{Z: 1}

// block is a tooth that is a block 10 mm wide whose top lies at 0, 8 mm high.
func block() *solid.Blank {
	own := cuboid{Box: solid.Box{Min: r3.Vec{X: -5, Y: -5, Z: -8}, Max: r3.Vec{X: 5, Y: 5}}}
	room := solid.Box{Min: r3.Vec{X: -6.05, Y: -6.05, Z: -9.05}, Max: r3.Vec{X: 6, Y: 6, Z: 1}}
	return solid.NewBlank(solid.NewGrid(room, 0.1), own.Distance)
}

func prism(x0, x1, y0, y1, bottom float64) cuboid {
	return cuboid{solid.Box{Min: r3.Vec{X: x0, Y: y0, Z: bottom}, Max: r3.Vec{X: x1, Y: y1, Z: 3}}, 1}
}

func within(t *testing.T, what string, got, want, tolerance float64) {
	t.Helper()
	if math.Abs(got-want) > tolerance {
		t.Errorf("%s is %.4f, want %.4f", what, got, want)
	}
}

// What is bonded against what is free, by triangles, for solids that have a formula.
func TestCFactorOfKnownShapes(t *testing.T) {
	const w, l, d = 3.0, 4.0, 2.0
	box := prism(-2, 2, -1.5, 1.5, -d)
	slot := prism(2, 8, -1.5, 1.5, -4)
	cap := ball{r3.Vec{Z: 1.5}, 2.5} // opens at 0, its rim 53.13 degrees off its axis
	for _, c := range []struct {
		name         string
		tool         solid.Tool
		volume, want float64
	}{
		{"a box", box, w * l * d, (w*l + 2*d*(w+l)) / (w * l)},
		{"a slot open to one side", slot, 3 * 3 * 4, (3*3 + 2*3*4 + 3*4) / float64(3*3+3*4)},
		{"a cap", cap, math.Pi * 1 * (3*2.5 - 1) / 3, 2 / (1 + 1.5/2.5)},
	} {
		f := New(block(), c.tool, up)
		if len(f.Parts) != 1 || !f.Parts[0].Mesh.Closed() {
			t.Fatalf("%s: %d parts", c.name, len(f.Parts))
		}
		p := f.Parts[0]
		within(t, c.name+"'s volume", p.Volume, c.volume, 0.01*c.volume)
		within(t, c.name+"'s C-factor", CFactor(p.Bonded, p.Free), c.want, 0.02*c.want)
	}
}

// An MO that steps down into its box is laid box first, up to the pulpal floor, then over.
func TestIncrementsTileAnMO(t *testing.T) {
	mo := solid.Union([]solid.Tool{prism(-3, 6, -1, 1, -1.95), prism(3.5, 6, -2, 2, -4.5)})
	f := New(block(), mo, up)
	p := f.Parts[0]
	if len(p.Floors) != 2 {
		t.Fatalf("floors at %.2f", p.Floors)
	}
	within(t, "the gingival floor", p.Floors[0], -4.5, 0.02)
	within(t, "the pulpal floor", p.Floors[1], -1.95, 0.02)
	all := p.Increments(p.Horizontal(Layering{Most: 2, First: 1}))
	if len(all) != 3 {
		t.Fatalf("%d increments of floors at %.3f from %.3f to %.3f", len(all), p.Floors, p.Bottom, p.Top)
	}
	sum := 0.0
	for n, want := range []struct{ volume, thick, bonded, free float64 }{
		{1.5 * 4 * 1, 1, 1.5*4 + 1.5*2 + 4, 1.5*4 + 4},
		{1.5 * 4 * 1.55, 1.55, 1.5*4 + 1.5*1.55*2 + 4*1.55, 1.5*4 + 4*1.55},
		{1.5*4*1.95 + 2*6.5*1.95, 1.95, 1.5*4 + 1.5*1.95*2 + 2*1.95 + 6.5*2 + 6.5*1.95*2 + 2*1.95, 1.5*4 + 4*1.95 + 6.5*2},
	} {
		i := all[n]
		within(t, i.Name+"'s volume", i.Volume, want.volume, 0.02*want.volume)
		within(t, i.Name+"'s thickness", i.Thickest, want.thick, 0.06)
		within(t, i.Name+"'s bonded face", i.Bonded, want.bonded, 0.03*want.bonded)
		within(t, i.Name+"'s free face", i.Free, want.free, 0.03*want.free)
		if !i.Mesh.Closed() || len(i.Floating()) > 0 {
			t.Errorf("%s is closed: %t, floats: %.2f mm³", i.Name, i.Mesh.Closed(), i.Floating())
		}
		sum += i.Volume
	}
	within(t, "the sum of the increments", sum, p.Volume, 0.005*p.Volume)
}

// Two cavities of one tool are two fillings, each laid by its own floors.
func TestPartsAreLaidApart(t *testing.T) {
	f := New(block(), solid.Union([]solid.Tool{prism(-4, -1, -1, 1, -3), prism(1, 4, -1, 1, -1.5)}), up)
	if len(f.Parts) != 2 {
		t.Fatalf("%d parts", len(f.Parts))
	}
	for n, want := range []int{2, 1} {
		p := f.Parts[n]
		all := p.Increments(p.Horizontal(Layering{Most: 2}))
		sum := 0.0
		for _, i := range all {
			sum += i.Volume
		}
		if len(all) != want {
			t.Errorf("part %d is laid in %d", n, len(all))
		}
		within(t, "a part's sum", sum, p.Volume, 0.005*p.Volume)
	}
}
