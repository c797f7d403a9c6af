package solid

import (
	"math"
	"math/rand/v2"
	"testing"

	"gonum.org/v1/gonum/spatial/r3"
)

// cube is a tool with sharp edges.
type cube struct{ half float64 }

func (c cube) Distance(p r3.Vec) float64 {
	return math.Max(math.Abs(p.X), math.Max(math.Abs(p.Y), math.Abs(p.Z))) - c.half
}
func (c cube) Feature(r3.Vec) uint16 { return 1 }
func (c cube) Bounds() Box {
	v := r3.Vec{X: c.half, Y: c.half, Z: c.half}
	return Box{Min: r3.Scale(-1, v), Max: v}
}

// What is read from samples instead of worked out must agree in sign everywhere.
func TestClearReadingsHaveTheSignOfTheSolid(t *testing.T) {
	const radius = 2.0
	ball := func(p r3.Vec) float64 { return r3.Norm(p) - radius }
	room := Box{Min: r3.Vec{X: -2.5, Y: -2.5, Z: -2.5}, Max: r3.Vec{X: 2.5, Y: 2.5, Z: 2.5}}
	hole := cube{0.9}
	w := NewBlank(NewGrid(room, 0.1), ball).Uncut().Carve(hole)
	random := rand.New(rand.NewPCG(1, 2))
	clear := 0
	for range 20_000 {
		p := r3.Vec{X: 5*random.Float64() - 2.5, Y: 5*random.Float64() - 2.5, Z: 5*random.Float64() - 2.5}
		exact := math.Max(ball(p), -hole.Distance(p))
		d, ok := w.Clear(p)
		if !ok {
			if math.Abs(exact) > 1.0 && inOneBrick(w, p) {
				t.Fatalf("%v lies %.2f from the surface and is not clear of it", p, exact)
			}
			continue
		}
		clear++
		if (d < 0) != (exact < 0) {
			t.Fatalf("%v reads %.3f, is %.3f", p, d, exact)
		}
	}
	if clear < 5000 {
		t.Errorf("only %d places are clear", clear)
	}
}

func inOneBrick(w *Workpiece, p r3.Vec) bool {
	i, _ := w.cell(p.X-w.Origin.X, 0)
	j, _ := w.cell(p.Y-w.Origin.Y, 1)
	k, _ := w.cell(p.Z-w.Origin.Z, 2)
	return i&7 != 7 && j&7 != 7 && k&7 != 7
}

func TestRootsAreFoundInCurvedAndJumpingFields(t *testing.T) {
	for _, c := range []struct {
		name string
		f    func(x float64) float64
		want float64
	}{
		{"line", func(x float64) float64 { return x - 0.731 }, 0.731},
		{"steep on one side", func(x float64) float64 { return math.Expm1(9 * (x - 0.42)) }, 0.42},
		{"flat at the root", func(x float64) float64 { return math.Pow(x-0.6, 3) }, 0.6},
		{"jump", func(x float64) float64 { return math.Copysign(1, x-0.317) }, 0.317},
	} {
		got, ok := RootAlong(func(p r3.Vec) float64 { return c.f(p.X) }, r3.Vec{}, r3.Vec{X: 1}, 0, 1, 0.2)
		tolerance := 1e-5
		if c.name == "flat at the root" {
			tolerance = 0.011 // where the field itself is under a millionth
		}
		if !ok || math.Abs(got-c.want) > tolerance {
			t.Errorf("%s: %.6f, want %.6f", c.name, got, c.want)
		}
	}
}

func TestCornersOfABox(t *testing.T) {
	b := Box{Min: r3.Vec{X: -1, Y: -2, Z: -3}, Max: r3.Vec{X: 1, Y: 2, Z: 3}}
	seen := map[r3.Vec]bool{}
	for _, p := range Corners(b) {
		seen[p] = true
		if math.Abs(p.X) != 1 || math.Abs(p.Y) != 2 || math.Abs(p.Z) != 3 {
			t.Errorf("%v is no corner", p)
		}
	}
	if len(seen) != 8 {
		t.Errorf("%d different corners", len(seen))
	}
}

func TestSmoothingKeepsACircleAndShedsSteps(t *testing.T) {
	const points, radius = 200, 3.0
	round, stepped := Polyline{Closed: true}, Polyline{Closed: true}
	for n := range points {
		sin, cos := math.Sincos(2 * math.Pi * float64(n) / points)
		off := radius + 0.05*float64(1-2*(n%2))
		round.Points = append(round.Points, Point2{radius * cos, radius * sin})
		stepped.Points = append(stepped.Points, Point2{off * cos, off * sin})
	}
	for _, line := range []Polyline{round, stepped} {
		for _, p := range line.Smoothed(8).Points {
			if r := math.Hypot(p.X, p.Y); math.Abs(r-radius) > 0.01 {
				t.Fatalf("a point lies %.4f from the middle, want %.1f", r, radius)
			}
		}
	}
}
