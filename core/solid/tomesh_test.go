package solid

import (
	"math"
	"testing"

	"gonum.org/v1/gonum/spatial/r3"
)

// cubeMesh is a closed cube of a side about the origin.
func cubeMesh(side float64) *Mesh {
	m := &Mesh{}
	for n := range 8 {
		at := func(bit int) float64 { return side * (float64(n>>bit&1) - 0.5) }
		m.Vertices = append(m.Vertices, r3.Vec{X: at(0), Y: at(1), Z: at(2)})
	}
	for _, q := range [6][4]int32{{0, 2, 3, 1}, {4, 5, 7, 6}, {0, 1, 5, 4}, {2, 6, 7, 3}, {0, 4, 6, 2}, {1, 3, 7, 5}} {
		m.Triangles = append(m.Triangles, [3]int32{q[0], q[1], q[2]}, [3]int32{q[0], q[2], q[3]})
	}
	m.Labels = make([]uint16, len(m.Triangles))
	return m
}

// refined halves every edge, so that a nearest corner tells the nearest triangle.
func refined(m *Mesh, times int) *Mesh {
	for range times {
		next := &Mesh{Vertices: m.Vertices}
		middles := map[[2]int32]int32{}
		middle := func(a, b int32) int32 {
			key := [2]int32{min(a, b), max(a, b)}
			if at, ok := middles[key]; ok {
				return at
			}
			next.Vertices = append(next.Vertices, r3.Scale(0.5, r3.Add(m.Vertices[a], m.Vertices[b])))
			middles[key] = int32(len(next.Vertices) - 1)
			return middles[key]
		}
		for _, t := range m.Triangles {
			ab, bc, ca := middle(t[0], t[1]), middle(t[1], t[2]), middle(t[2], t[0])
			next.Triangles = append(next.Triangles, [3]int32{t[0], ab, ca}, [3]int32{ab, t[1], bc}, [3]int32{ca, bc, t[2]}, [3]int32{ab, bc, ca})
		}
		next.Labels = make([]uint16, len(next.Triangles))
		m = next
	}
	return m
}

// The distance to a cube is known everywhere, beside its edges and corners as well.
func TestDistanceToMeshIsThatOfACube(t *testing.T) {
	const side = 2.0
	cube := func(p r3.Vec) float64 {
		x, y, z := math.Abs(p.X)-side/2, math.Abs(p.Y)-side/2, math.Abs(p.Z)-side/2
		out := r3.Norm(r3.Vec{X: math.Max(x, 0), Y: math.Max(y, 0), Z: math.Max(z, 0)})
		return out + math.Min(math.Max(x, math.Max(y, z)), 0)
	}
	m := refined(cubeMesh(side), 4)
	if !m.Closed() || math.Abs(m.Volume()-8) > 1e-9 {
		t.Fatalf("the cube is no cube: %.3f", m.Volume())
	}
	g := NewGrid(Box{Min: r3.Vec{X: -1.93, Y: -1.87, Z: -1.91}, Max: r3.Vec{X: 1.9, Y: 1.9, Z: 1.9}}, 0.1)
	d, nearest := DistanceToMesh(g, m, func(p r3.Vec) bool { return cube(p) < 0 })
	worst := 0.0
	for k := range g.N[2] {
		for j := range g.N[1] {
			for i := range g.N[0] {
				n, p := g.Index(i, j, k), g.Point(i, j, k)
				worst = math.Max(worst, math.Abs(float64(d.Values[n])-cube(p)))
				a, b, c := m.corners(nearest[n])
				if foot, _ := nearestOnTriangle(p, a, b, c); math.Abs(r3.Norm(r3.Sub(p, foot))-math.Abs(float64(d.Values[n]))) > 1e-5 {
					t.Fatalf("%v is said to lie nearest to another triangle", p)
				}
			}
		}
	}
	if worst > 0.01 {
		t.Errorf("off by %.4f at worst", worst)
	}
}
