package solid

import (
	"math"
	"math/rand/v2"
	"testing"

	"gonum.org/v1/gonum/spatial/r3"
)

// Close by, the bounded distances are those that are known all over the grid; further off
// they stop at the reach, and within at nothing.
func TestDistancesWithinReach(t *testing.T) {
	const reach = 0.8
	pick := rand.New(rand.NewPCG(4, 1))
	var points []r3.Vec
	for range 40 {
		points = append(points, r3.Vec{X: 3 * pick.Float64(), Y: 2 * pick.Float64(), Z: 2 * pick.Float64()})
	}
	g := NewGrid(Enclosing(points...), 0.1)
	within := func(n int) bool { return n%g.N[0] == 0 }
	all, near := DistanceToPoints(g, points), DistancesWithin(g, points, within, reach)
	for n, d := range near {
		want := math.Min(float64(all.Values[n]), reach)
		if within(n) {
			want = 0
		}
		if math.Abs(float64(d)-want) > 0.01 {
			t.Fatalf("sample %d: %.3f, want %.3f", n, d, want)
		}
	}
}

// Distances to samples are those to their places.
func TestDistancesToSamples(t *testing.T) {
	pick := rand.New(rand.NewPCG(5, 1))
	g := NewGrid(Box{Max: r3.Vec{X: 2, Y: 1.5, Z: 1.2}}, 0.1)
	for _, reach := range []float64{0.25, 0.7, 3} {
		marked := make([]bool, g.Len())
		var points []r3.Vec
		for range 12 {
			i, j, k := pick.IntN(g.N[0]), pick.IntN(g.N[1]), pick.IntN(g.N[2])
			marked[g.Index(i, j, k)] = true
			points = append(points, g.Point(i, j, k))
		}
		for n, d := range DistancesToSamples(g, marked, reach) {
			at, want := g.Point(n%g.N[0], n/g.N[0]%g.N[1], n/(g.N[0]*g.N[1])), reach
			for _, p := range points {
				want = math.Min(want, r3.Norm(r3.Sub(at, p)))
			}
			if math.Abs(float64(d)-want) > 1e-5 {
				t.Fatalf("reach %.2f, sample %d: %.4f, want %.4f", reach, n, d, want)
			}
		}
	}
}

func TestEnclosing(t *testing.T) {
	b := Enclosing(r3.Vec{X: 1, Y: -2, Z: 3}, r3.Vec{X: -1, Y: 5, Z: 0}, r3.Vec{Z: 1})
	if want := (Box{Min: r3.Vec{X: -1, Y: -2}, Max: r3.Vec{X: 1, Y: 5, Z: 3}}); b != want {
		t.Errorf("%v, want %v", b, want)
	}
}

func TestBoxOfSamples(t *testing.T) {
	g := NewGrid(Box{Max: r3.Vec{X: 1, Y: 1, Z: 1}}, 0.1)
	marked := map[int]bool{g.Index(2, 7, 4): true, g.Index(5, 3, 4): true}
	b, ok := g.BoxOf(func(n int) bool { return marked[n] })
	if want := (Box{Min: g.Point(2, 3, 4), Max: g.Point(5, 7, 4)}); !ok || b != want {
		t.Errorf("%v, %v, want %v", b, ok, want)
	}
	if b, ok := g.BoxOf(func(int) bool { return false }); ok {
		t.Errorf("of none: %v", b)
	}
}

func TestAcrossIsSquare(t *testing.T) {
	for _, axis := range []r3.Vec{{X: 1}, {Y: -1}, {Z: 1}, r3.Unit(r3.Vec{X: 1, Y: 1, Z: 0.1}), r3.Unit(r3.Vec{X: -1, Y: 2, Z: 3})} {
		e1, e2 := Across(axis)
		if worst := math.Abs(r3.Dot(e1, axis)) + math.Abs(r3.Dot(e2, axis)) + math.Abs(r3.Dot(e1, e2)) + math.Abs(r3.Norm(e1)-1) + math.Abs(r3.Norm(e2)-1); worst > 1e-9 {
			t.Errorf("%v: %v, %v", axis, e1, e2)
		}
	}
}
