package fill

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/anatomy"
)

// Contact is how near (mm) the filling's outer surface comes to the tooth beside, and where;
// ok is false where it has none there, or no tooth stands beside it.
func (p *Part) Contact(beside *anatomy.AdjacentSurface) (mm float64, at r3.Vec, ok bool) {
	if beside == nil {
		return 0, at, false
	}
	mm = math.Inf(1)
	for n, label := range p.Mesh.Labels {
		if label != 0 {
			continue
		}
		for _, v := range p.Mesh.Triangles[n] {
			if d, near := beside.Clearance(p.Mesh.Vertices[v]); near && d < mm {
				mm, at, ok = d, p.Mesh.Vertices[v], true
			}
		}
	}
	return mm, at, ok
}
