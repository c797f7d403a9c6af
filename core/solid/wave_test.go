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

func TestEnclosing(t *testing.T) {
	b := Enclosing(r3.Vec{X: 1, Y: -2, Z: 3}, r3.Vec{X: -1, Y: 5, Z: 0}, r3.Vec{Z: 1})
	if want := (Box{Min: r3.Vec{X: -1, Y: -2}, Max: r3.Vec{X: 1, Y: 5, Z: 3}}); b != want {
		t.Errorf("%v, want %v", b, want)
	}
}
