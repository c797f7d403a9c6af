package measure

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/anatomy"
)

// Beside is the face that a neighbouring tooth turns towards the one gauged:
// points of its surface with their normals, in the gauged tooth's frame.
type Beside struct {
	points, normals []r3.Vec
}

// NewBeside takes the part of the neighbour within reach mm of the plane that
// the two share.
func NewBeside(n *anatomy.Neighbour, contact anatomy.Contact, reach float64) *Beside {
	b := &Beside{}
	mesh := n.Surface.Uncut().Mesh()
	for _, v := range mesh.Vertices {
		p := n.Into(v)
		if r3.Dot(r3.Sub(p, contact.At), contact.Normal) > reach {
			continue
		}
		b.points = append(b.points, p)
		b.normals = append(b.normals, r3.Unit(n.Placement.Turn(n.Surface.Gradient(v))))
	}
	return b
}

// Clearance is the least distance (mm) from p to the neighbour's surface;
// negative where p lies inside it. ok is false when there is no surface.
func (b *Beside) Clearance(p r3.Vec) (mm float64, ok bool) {
	squared := math.Inf(1)
	for _, at := range b.points {
		squared = math.Min(squared, r3.Norm2(r3.Sub(p, at)))
	}
	if math.IsInf(squared, 1) {
		return 0, false
	}
	// Between its points the surface is flat, and bulges towards p: of the
	// planes through the points about the nearest, the furthest is the surface.
	const about = 0.15 // mm
	nearest := math.Sqrt(squared)
	mm = math.Inf(-1)
	for n, at := range b.points {
		if d := r3.Sub(p, at); r3.Norm2(d) < (nearest+about)*(nearest+about) {
			mm = math.Max(mm, r3.Dot(d, b.normals[n]))
		}
	}
	return math.Min(mm, nearest), true
}
