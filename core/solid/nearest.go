package solid

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/parallel"
)

// DistanceToPoints samples the distance to the nearest of the points (mm, not
// negative). It seeds the cells that hold points and carries the index of the
// nearest one across the grid in alternating sweeps, then measures exactly to
// it; on a cloud much denser than the grid the result is the distance to the
// sampled surface.
func DistanceToPoints(g Grid, points []r3.Vec) *Dense {
	_, squared := nearestPoints(g, points)
	d := &Dense{Grid: g, Values: make([]float32, g.Len())}
	for n, b := range squared {
		d.Values[n] = float32(math.Sqrt(b))
	}
	return d
}

// DistanceToSurface samples the signed distance (mm) to a solid's surface that
// is given by points and their outward unit normals; inside tells where it is
// negative. Between the points the surface is taken as flat, but for places that
// lie far from all and aside of the nearest one's normal, as under a crease.
func DistanceToSurface(g Grid, points, normals []r3.Vec, inside func(r3.Vec) bool) *Dense {
	const close, aside = 0.25, 0.93 // mm; cosine to the normal under which a place lies aside
	nearest, squared := nearestPoints(g, points)
	d := &Dense{Grid: g, Values: make([]float32, g.Len())}
	parallel.Each(g.N[2], func(k int) {
		for j := range g.N[1] {
			for i := range g.N[0] {
				n, p := g.Index(i, j, k), g.Point(i, j, k)
				at, far := nearest[n], math.Sqrt(squared[n])
				value := r3.Dot(r3.Sub(p, points[at]), normals[at])
				if far >= close && math.Abs(value) < aside*far {
					value = far
					if inside(p) {
						value = -far
					}
				}
				d.Values[n] = float32(value)
			}
		}
	})
	return d
}

// nearestPoints finds for every sample the nearest point, and the square of its
// distance.
func nearestPoints(g Grid, points []r3.Vec) (nearest []int32, squared []float64) {
	nearest = make([]int32, g.Len())
	for n := range nearest {
		nearest[n] = -1
	}
	best := make([]float64, g.Len())
	for n := range best {
		best[n] = math.Inf(1)
	}
	offer := func(n int, at r3.Vec, candidate int32) {
		if candidate < 0 {
			return
		}
		if d := r3.Norm2(r3.Sub(points[candidate], at)); d < best[n] {
			best[n], nearest[n] = d, candidate
		}
	}
	for c, p := range points {
		i, j, k := g.CellAbout(p)
		for corner := range 8 {
			x, y, z := i+corner&1, j+corner>>1&1, k+corner>>2&1
			offer(g.Index(x, y, z), g.Point(x, y, z), int32(c))
		}
	}
	for direction := range 8 {
		sweep(g, direction, nearest, offer)
	}
	return nearest, best
}

// sweep visits the grid towards one octant and offers each sample the points
// of the neighbours already visited.
func sweep(g Grid, direction int, nearest []int32, offer func(n int, at r3.Vec, candidate int32)) {
	along := func(n, axis int) (from, to, step int) {
		if direction>>axis&1 == 0 {
			return 0, n, 1
		}
		return n - 1, -1, -1
	}
	x0, x1, dx := along(g.N[0], 0)
	y0, y1, dy := along(g.N[1], 1)
	z0, z1, dz := along(g.N[2], 2)
	for k := z0; k != z1; k += dz {
		for j := y0; j != y1; j += dy {
			for i := x0; i != x1; i += dx {
				n, at := g.Index(i, j, k), g.Point(i, j, k)
				first := [3]bool{i == x0, j == y0, k == z0}
				for _, b := range behind {
					if !(first[0] && b[0] != 0) && !(first[1] && b[1] != 0) && !(first[2] && b[2] != 0) {
						offer(n, at, nearest[n-b[0]*dx-(b[1]*dy+b[2]*dz*g.N[1])*g.N[0]])
					}
				}
			}
		}
	}
}

// behind lists the neighbours that a sweep has already visited, in its steps.
var behind = [7][3]int{{1, 0, 0}, {0, 1, 0}, {1, 1, 0}, {0, 0, 1}, {1, 0, 1}, {0, 1, 1}, {1, 1, 1}}
