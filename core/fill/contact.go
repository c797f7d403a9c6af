package fill

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/anatomy"
)

// outer visits the places of the part's outer surface, some of them several times.
func (p *Part) outer(visit func(at r3.Vec)) {
	for n, label := range p.Mesh.Labels {
		if label != 0 {
			continue
		}
		for _, v := range p.Mesh.Triangles[n] {
			visit(p.Mesh.Vertices[v])
		}
	}
}

// Contact is how near (mm) the filling's outer surface comes to the tooth beside, and where;
// ok is false where it has none there, or no tooth stands beside it.
func (p *Part) Contact(beside *anatomy.AdjacentSurface) (mm float64, at r3.Vec, ok bool) {
	if beside == nil {
		return 0, at, false
	}
	mm = math.Inf(1)
	p.outer(func(q r3.Vec) {
		if d, near := beside.Clearance(q); near && d < mm {
			mm, at, ok = d, q, true
		}
	})
	return mm, at, ok
}
