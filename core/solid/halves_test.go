package solid

import (
	"math"
	"math/rand/v2"
	"testing"

	"gonum.org/v1/gonum/spatial/r3"
)

// surfaceOf is the closed surface of a field about the origin.
func surfaceOf(t *testing.T, field func(p r3.Vec) float64, reach float64) *Mesh {
	t.Helper()
	room := Box{Min: r3.Vec{X: -reach, Y: -reach, Z: -reach}, Max: r3.Vec{X: reach, Y: reach, Z: reach}}
	m := NewBlank(NewGrid(room, 0.1), field).Uncut().Mesh()
	if !m.Closed() {
		t.Fatal("the solid is not closed to begin with")
	}
	return m
}

func bar(p r3.Vec, x, y, z float64) float64 {
	return math.Max(math.Max(math.Abs(p.X)-x, math.Abs(p.Y)-y), math.Abs(p.Z)-z)
}

// Halves of closed solids are closed, hold what the solid held, and end in a face whose area
// is known.
func TestHalvesTileTheirSolid(t *testing.T) {
	ball := func(p r3.Vec) float64 { return r3.Norm(p) - 1.5 }
	frame := func(p r3.Vec) float64 { return math.Max(bar(p, 1.6, 1.4, 0.5), -bar(p, 0.6, 0.5, 2)) } // a bar with a window
	two := func(p r3.Vec) float64 {
		return math.Min(bar(r3.Sub(p, r3.Vec{X: 1}), 0.5, 1, 1), bar(r3.Add(p, r3.Vec{X: 1}), 0.4, 0.8, 1.2))
	}
	slope := &Border{ // rises from y = -0.6 at the bottom to 0.6 at the top, bent along x
		Field: func(p r3.Vec) float64 { return p.Y - 0.6*p.Z - 0.2*math.Sin(2*p.X) },
		Flat:  func(p r3.Vec) Point2 { return Point2{p.Z, p.X} },
	}
	// A ball of 1.2 mm about (0, 0, 1.3) takes a lens off the ball of 1.5: two caps.
	dome := &Border{
		Field: func(p r3.Vec) float64 { return 1.2 - r3.Norm(r3.Sub(p, r3.Vec{Z: 1.3})) },
		Flat:  func(p r3.Vec) Point2 { return Point2{p.X, p.Y} },
	}
	cap := func(r, h float64) float64 { return math.Pi * h * h * (3*r - h) / 3 }
	at := (1.3*1.3 + 1.5*1.5 - 1.2*1.2) / (2 * 1.3)
	lens := cap(1.5, 1.5-at) + cap(1.2, 1.2-(1.3-at))
	for name, c := range map[string]struct {
		field  func(r3.Vec) float64
		border *Border
		within float64 // mm³
		face   float64 // mm²; 0 where no closed form is at hand
	}{
		"a cap off a ball":        {ball, PlaneBorder(r3.Vec{Z: 1}, 0.73), 4.0/3*math.Pi*3.375 - math.Pi*0.77*0.77*(4.5-0.77)/3, math.Pi * (2.25 - 0.73*0.73)},
		"a window's frame, level": {frame, PlaneBorder(r3.Vec{Z: 1}, 0.13), 0.63 * (3.2*2.8 - 1.2*1.0), 3.2*2.8 - 1.2*1.0},
		"across the window":       {frame, PlaneBorder(r3.Vec{X: 1}, 0.21), 1.0 * (1.81*2.8 - 0.81*1.0), 1.0 * (2.8 - 1.0)},
		"two bodies":              {two, PlaneBorder(r3.Unit(r3.Vec{Z: 1}), 0.37), 1*2*1.37 + 0.8*1.6*1.57, 1*2 + 0.8*1.6},
		"one of two bodies":       {two, PlaneBorder(r3.Vec{X: 1}, 0), 0.8 * 1.6 * 2.4, 0},
		"bent, through a frame":   {frame, slope, 0, 0},
		"domed, through a ball":   {ball, dome, 4.0/3*math.Pi*3.375 - lens, 0},
		"all within":              {ball, PlaneBorder(r3.Vec{Z: 1}, 3), 4.0 / 3 * math.Pi * 3.375, 0},
	} {
		m := surfaceOf(t, c.field, 2.2)
		const shows, restShows = 7, 9
		within, rest := m.Halves(c.border, shows, restShows)
		for half, part := range map[string]*Mesh{"within": within, "the rest": rest} {
			if len(part.Triangles) > 0 && !part.Closed() {
				t.Errorf("%s: %s is not closed", name, half)
			}
		}
		if sum := within.Volume() + rest.Volume(); math.Abs(sum-m.Volume()) > 1e-6 {
			t.Errorf("%s: the halves hold %.4f mm³ of %.4f", name, sum, m.Volume())
		}
		if c.within > 0 && math.Abs(within.Volume()-c.within) > 0.004*c.within {
			t.Errorf("%s: within lie %.4f mm³, want %.4f", name, within.Volume(), c.within)
		}
		face, restFace := 0.0, 0.0
		for n, label := range within.Labels {
			if label == shows {
				face += within.Area(n)
			}
		}
		for n, label := range rest.Labels {
			if label == restShows {
				restFace += rest.Area(n)
			}
		}
		if math.Abs(face-restFace) > 1e-9 {
			t.Errorf("%s: the face measures %.4f mm² here, %.4f there", name, face, restFace)
		}
		if c.face > 0 && math.Abs(face-c.face) > 0.01*c.face {
			t.Errorf("%s: the face measures %.4f mm², want %.4f", name, face, c.face)
		}
	}
}

// Triangles of any line that does not cross itself, with holes or without, cover what it
// encloses once.
func TestTrianglesCoverWhatLinesEnclose(t *testing.T) {
	random := rand.New(rand.NewPCG(5, 8))
	ring := func(cx, cy, least, most float64, corners int, clockwise bool) []Point2 {
		line := make([]Point2, corners)
		for n := range line {
			turn := 2 * math.Pi * float64(n) / float64(corners)
			if clockwise {
				turn = -turn
			}
			r := least + (most-least)*random.Float64()
			line[n] = Point2{cx + r*math.Cos(turn), cy + r*math.Sin(turn)}
		}
		return line
	}
	for round := range 200 {
		lines := [][]Point2{ring(0, 0, 4, 6, 8+random.IntN(60), false)}
		for k := range random.IntN(4) {
			lines = append(lines, ring(2*math.Cos(float64(2*k)), 2*math.Sin(float64(2*k)), 0.2, 0.9, 3+random.IntN(20), true))
		}
		if random.IntN(3) == 0 {
			lines = append(lines, ring(20, 0, 1, 2, 7, false))
		}
		var at []Point2
		want := 0.0
		for _, line := range lines {
			ids := make([]int, len(line))
			for n := range ids {
				ids[n] = n
			}
			want += signedArea(line, ids)
			at = append(at, line...)
		}
		sum, least := 0.0, 0.0
		for _, tri := range triangulated(lines) {
			area := turn(at[tri[0]], at[tri[1]], at[tri[2]]) / 2
			sum, least = sum+area, math.Min(least, area)
		}
		if math.Abs(sum-want) > 1e-9*want || least < -1e-12 {
			t.Fatalf("round %d: triangles cover %.6f of %.6f, the least %.2g", round, sum, want, least)
		}
	}
}
