package solid

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/parallel"
)

// DistanceToMesh samples the signed distance (mm) to the surface of a closed mesh, or
// to the part of it that lies about the grid, and names for every sample the triangle
// that is nearest. inside tells where the distance is negative; it is asked only where
// the nearest place is an edge or a corner.
func DistanceToMesh(g Grid, m *Mesh, inside func(r3.Vec) bool) (*Dense, []int32) {
	points := make([]r3.Vec, 0, len(m.Vertices)+len(m.Triangles))
	points = append(points, m.Vertices...)
	for n := range m.Triangles {
		points = append(points, m.Centroid(n))
	}
	about := newAround(m)
	nearest, _ := nearestPoints(g, points)
	d := &Dense{Grid: g, Values: make([]float32, g.Len())}
	parallel.Each(g.N[2], func(k int) {
		for j := range g.N[1] {
			for i := range g.N[0] {
				n, p := g.Index(i, j, k), g.Point(i, j, k)
				best, at, flat := math.Inf(1), int32(-1), false
				for _, t := range about.of(nearest[n]) {
					a, b, c := m.corners(t)
					if foot, face := nearestOnTriangle(p, a, b, c); r3.Norm2(r3.Sub(p, foot)) < best {
						best, at, flat = r3.Norm2(r3.Sub(p, foot)), t, face
					}
				}
				far := math.Sqrt(best)
				negative := false
				if flat {
					negative = r3.Dot(r3.Sub(p, m.Vertices[m.Triangles[at][0]]), m.AreaVector(int(at))) < 0
				} else {
					negative = inside(p)
				}
				if negative {
					far = -far
				}
				d.Values[n], nearest[n] = float32(far), at
			}
		}
	})
	return d, nearest
}

func (m *Mesh) corners(n int32) (a, b, c r3.Vec) {
	t := m.Triangles[n]
	return m.Vertices[t[0]], m.Vertices[t[1]], m.Vertices[t[2]]
}

// around finds the triangles about a place of a mesh: those that meet at a vertex, and
// for the centre of a triangle those that meet at its corners.
type around struct {
	mesh  *Mesh
	first []int32 // of the vertex's triangles in list; one more than there are vertices
	list  []int32
}

func newAround(m *Mesh) *around {
	a := &around{mesh: m, first: make([]int32, len(m.Vertices)+1), list: make([]int32, 3*len(m.Triangles))}
	for _, t := range m.Triangles {
		for _, v := range t {
			a.first[v+1]++
		}
	}
	for v := range m.Vertices {
		a.first[v+1] += a.first[v]
	}
	next := append([]int32(nil), a.first...)
	for n, t := range m.Triangles {
		for _, v := range t {
			a.list[next[v]] = int32(n)
			next[v]++
		}
	}
	return a
}

// of lists the triangles about a vertex, or, counted on from the vertices, the centre of
// a triangle.
func (a *around) of(place int32) []int32 {
	if v := int(place); v < len(a.mesh.Vertices) {
		return a.list[a.first[v]:a.first[v+1]]
	}
	t := place - int32(len(a.mesh.Vertices))
	all := make([]int32, 0, 18)
	for _, v := range a.mesh.Triangles[t] {
		all = append(all, a.list[a.first[v]:a.first[v+1]]...)
	}
	return all
}

// nearestOnTriangle is the place of a triangle nearest to p; face tells that it lies
// within it, not on its border.
func nearestOnTriangle(p, a, b, c r3.Vec) (foot r3.Vec, face bool) {
	ab, ac, ap := r3.Sub(b, a), r3.Sub(c, a), r3.Sub(p, a)
	d1, d2 := r3.Dot(ab, ap), r3.Dot(ac, ap)
	if d1 <= 0 && d2 <= 0 {
		return a, false
	}
	bp := r3.Sub(p, b)
	d3, d4 := r3.Dot(ab, bp), r3.Dot(ac, bp)
	if d3 >= 0 && d4 <= d3 {
		return b, false
	}
	cp := r3.Sub(p, c)
	d5, d6 := r3.Dot(ab, cp), r3.Dot(ac, cp)
	if d6 >= 0 && d5 <= d6 {
		return c, false
	}
	vc := d1*d4 - d3*d2
	if vc <= 0 && d1 >= 0 && d3 <= 0 {
		return r3.Add(a, r3.Scale(d1/(d1-d3), ab)), false
	}
	vb := d5*d2 - d1*d6
	if vb <= 0 && d2 >= 0 && d6 <= 0 {
		return r3.Add(a, r3.Scale(d2/(d2-d6), ac)), false
	}
	va := d3*d6 - d5*d4
	if va <= 0 && d4-d3 >= 0 && d5-d6 >= 0 {
		return r3.Add(b, r3.Scale((d4-d3)/(d4-d3+d5-d6), r3.Sub(c, b))), false
	}
	v, w := vb/(va+vb+vc), vc/(va+vb+vc)
	return r3.Add(a, r3.Add(r3.Scale(v, ab), r3.Scale(w, ac))), true
}
