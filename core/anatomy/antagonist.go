package anatomy

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"
)

// AntagonistPlane stands in for the opposing teeth: square to the bur, resting
// on the highest cusp tip or the incisal edge. Occlusal space is measured
// against it.
func (m *Model) AntagonistPlane() Frame {
	highest := math.Inf(-1)
	top := m.Table.Origin
	for _, tips := range [][]r3.Vec{places(m.CuspTips), m.IncisalEdge} {
		for _, p := range tips {
			if h := r3.Dot(p, m.Table.W); h > highest {
				highest, top = h, p
			}
		}
	}
	f := m.Table
	f.Origin = r3.Add(f.Origin, r3.Scale(r3.Dot(r3.Sub(top, f.Origin), f.W), f.W))
	return f
}

func places(named []Named) []r3.Vec {
	points := make([]r3.Vec, len(named))
	for n, p := range named {
		points[n] = p.At
	}
	return points
}
