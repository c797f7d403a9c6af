package anatomy

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"
)

// Facing is the face that a neighbouring tooth turns towards the one at hand:
// points of its surface with their normals, in the frame of the tooth at hand.
// The zero Facing is no neighbour.
type Facing struct {
	points, normals []r3.Vec
}

// Facing takes the part of the neighbour within reach mm of the plane that the
// two share.
func (n *Neighbour) Facing(contact Contact, reach float64) *Facing {
	f := &Facing{}
	mesh := n.Surface.Uncut().Mesh()
	for _, v := range mesh.Vertices {
		p := n.Into(v)
		if r3.Dot(r3.Sub(p, contact.At), contact.Normal) > reach {
			continue
		}
		f.points = append(f.points, p)
		f.normals = append(f.normals, r3.Unit(n.Placement.Turn(n.Surface.Gradient(v))))
	}
	return f
}

// Nearest is the point of the neighbour's surface nearest p, to the spacing of
// its points; ok is false when there is no surface.
func (f *Facing) Nearest(p r3.Vec) (at r3.Vec, ok bool) {
	squared := math.Inf(1)
	for _, q := range f.points {
		if d := r3.Norm2(r3.Sub(p, q)); d < squared {
			squared, at, ok = d, q, true
		}
	}
	return at, ok
}

// Clearance is the least distance (mm) from p to the neighbour's surface;
// negative where p lies inside it. ok is false when there is no surface.
func (f *Facing) Clearance(p r3.Vec) (mm float64, ok bool) {
	squared := math.Inf(1)
	for _, at := range f.points {
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
	for n, at := range f.points {
		if d := r3.Sub(p, at); r3.Norm2(d) < (nearest+about)*(nearest+about) {
			mm = math.Max(mm, r3.Dot(d, f.normals[n]))
		}
	}
	return math.Min(mm, nearest), true
}
