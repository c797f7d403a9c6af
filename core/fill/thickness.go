package fill

import (
	"math"
	"slices"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/solid"
)

// thickest is the longest way (mm) that a straight line along the axis goes within a closed
// mesh, looked for on a lattice across it.
func thickest(m *solid.Mesh, axis r3.Vec) float64 {
	most := 0.0
	for _, heights := range columns(m, axis) {
		if len(heights)%2 != 0 {
			continue // through an edge
		}
		slices.Sort(heights)
		for n := 1; n < len(heights); n += 2 {
			most = math.Max(most, heights[n]-heights[n-1])
		}
	}
	return most
}

// columns are the heights (mm) at which lines along the axis meet a mesh, by the line.
func columns(m *solid.Mesh, axis r3.Vec) map[[2]int][]float64 {
	const apart = 0.1                        // mm between lines
	const offset1, offset2 = 0.0137, 0.00711 // mm, so that lines pass by the lattice's own vertices
	e1, e2 := solid.Across(axis)
	met := map[[2]int][]float64{}
	for _, t := range m.Triangles {
		var x, y, h [3]float64
		for k, v := range t {
			p := m.Vertices[v]
			x[k], y[k], h[k] = (r3.Dot(p, e1)-offset1)/apart, (r3.Dot(p, e2)-offset2)/apart, r3.Dot(p, axis)
		}
		double := (x[1]-x[0])*(y[2]-y[0]) - (x[2]-x[0])*(y[1]-y[0])
		if double == 0 {
			continue
		}
		for j := int(math.Ceil(min(y[0], y[1], y[2]))); j <= int(math.Floor(max(y[0], y[1], y[2]))); j++ {
			for i := int(math.Ceil(min(x[0], x[1], x[2]))); i <= int(math.Floor(max(x[0], x[1], x[2]))); i++ {
				px, py := float64(i), float64(j)
				a := ((x[1]-px)*(y[2]-py) - (x[2]-px)*(y[1]-py)) / double
				b := ((x[2]-px)*(y[0]-py) - (x[0]-px)*(y[2]-py)) / double
				if c := 1 - a - b; a >= 0 && b >= 0 && c >= 0 {
					met[[2]int{i, j}] = append(met[[2]int{i, j}], a*h[0]+b*h[1]+c*h[2])
				}
			}
		}
	}
	return met
}
