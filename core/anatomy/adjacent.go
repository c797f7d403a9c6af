package anatomy

import (
	"math"

	"gonum.org/v1/gonum/spatial/kdtree"
	"gonum.org/v1/gonum/spatial/r3"
)

// AdjacentSurface is the surface that a neighbouring tooth turns towards the one at hand:
// points of its surface with their normals, in the frame of the tooth at hand.
// The zero AdjacentSurface is no neighbour.
type AdjacentSurface struct{ places *kdtree.Tree }

// AdjacentSurface takes the part of the adjacent tooth within reach mm of the plane that the
// two share.
func (n *Neighbour) AdjacentSurface(contact Contact, reach float64) *AdjacentSurface {
	var places surfacePoints
	mesh := n.Surface.Uncut().Mesh()
	for _, v := range mesh.Vertices {
		p := n.Into(v)
		if r3.Dot(r3.Sub(p, contact.At), contact.Normal) > reach {
			continue
		}
		places = append(places, surfacePoint{p, r3.Unit(n.Placement.Turn(n.Surface.Gradient(v)))})
	}
	return newAdjacentSurface(places)
}

func newAdjacentSurface(places surfacePoints) *AdjacentSurface {
	if len(places) == 0 {
		return &AdjacentSurface{}
	}
	return &AdjacentSurface{kdtree.New(places, true)}
}

// nearest finds the point nearest p; ok is false when there is none.
func (f *AdjacentSurface) nearest(p r3.Vec) (at surfacePoint, squared float64, ok bool) {
	if f.places == nil {
		return at, 0, false
	}
	found, squared := f.places.Nearest(surfacePoint{at: p})
	at, ok = found.(surfacePoint)
	return at, squared, ok
}

// Nearest is the point of the adjacent tooth's surface nearest p, to the spacing of
// its points; ok is false when there is no surface.
func (f *AdjacentSurface) Nearest(p r3.Vec) (at r3.Vec, ok bool) {
	n, _, ok := f.nearest(p)
	return n.at, ok
}

// Clearance is the least distance (mm) from p to the adjacent tooth's surface;
// negative where p lies inside it. ok is false when there is no surface.
func (f *AdjacentSurface) Clearance(p r3.Vec) (mm float64, ok bool) {
	_, squared, ok := f.nearest(p)
	if !ok {
		return 0, false
	}
	// Between its points the surface is flat, and bulges towards p: of the
	// planes through the points about the nearest, the furthest is the surface.
	const about = 0.15 // mm
	nearest := math.Sqrt(squared)
	over := highestPlane{within: (nearest + about) * (nearest + about), over: p, mm: math.Inf(-1)}
	f.places.NearestSet(&over, surfacePoint{at: p})
	return math.Min(over.mm, nearest), true
}
