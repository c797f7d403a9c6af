package anatomy

import (
	"math"

	"gonum.org/v1/gonum/spatial/kdtree"
	"gonum.org/v1/gonum/spatial/r3"
)

// surfacePoint is a place of a surface with its outward unit normal, as a tree of places
// holds it.
type surfacePoint struct{ at, normal r3.Vec }

func along(v r3.Vec, d kdtree.Dim) float64 {
	switch d {
	case 0:
		return v.X
	case 1:
		return v.Y
	default:
		return v.Z
	}
}

// Compare is how far the point lies past another one along an axis.
func (p surfacePoint) Compare(other kdtree.Comparable, d kdtree.Dim) float64 {
	return along(p.at, d) - along(other.(surfacePoint).at, d)
}

// Dims is how many axes there are.
func (p surfacePoint) Dims() int { return 3 }

// Distance is the square of the distance to another point.
func (p surfacePoint) Distance(other kdtree.Comparable) float64 {
	return r3.Norm2(r3.Sub(p.at, other.(surfacePoint).at))
}

// surfacePoints are places that a tree is made of; making it sorts them.
type surfacePoints []surfacePoint

// Index is a point.
func (s surfacePoints) Index(n int) kdtree.Comparable { return s[n] }

// Len is how many points there are.
func (s surfacePoints) Len() int { return len(s) }

// Slice is some of the points, one after the other.
func (s surfacePoints) Slice(start, end int) kdtree.Interface { return s[start:end] }

// Pivot divides the points along an axis by one in their middle, and says where it is.
func (s surfacePoints) Pivot(d kdtree.Dim) int {
	alongAxis := surfacePointsAlong{s, d}
	return kdtree.Partition(alongAxis, kdtree.MedianOfMedians(alongAxis))
}

// surfacePointsAlong are points to be sorted along an axis.
type surfacePointsAlong struct {
	surfacePoints
	axis kdtree.Dim
}

// Less, Swap and Slice are those of a kdtree.SortSlicer.
func (s surfacePointsAlong) Less(i, j int) bool {
	return along(s.surfacePoints[i].at, s.axis) < along(s.surfacePoints[j].at, s.axis)
}

func (s surfacePointsAlong) Swap(i, j int) {
	s.surfacePoints[i], s.surfacePoints[j] = s.surfacePoints[j], s.surfacePoints[i]
}

func (s surfacePointsAlong) Slice(start, end int) kdtree.SortSlicer {
	return surfacePointsAlong{s.surfacePoints[start:end], s.axis}
}

// Bounds is the box that holds the points.
func (s surfacePoints) Bounds() *kdtree.Bounding {
	low, high := r3.Vec{X: math.Inf(1), Y: math.Inf(1), Z: math.Inf(1)}, r3.Vec{X: math.Inf(-1), Y: math.Inf(-1), Z: math.Inf(-1)}
	for _, p := range s {
		low = r3.Vec{X: min(low.X, p.at.X), Y: min(low.Y, p.at.Y), Z: min(low.Z, p.at.Z)}
		high = r3.Vec{X: max(high.X, p.at.X), Y: max(high.Y, p.at.Y), Z: max(high.Z, p.at.Z)}
	}
	return &kdtree.Bounding{Min: surfacePoint{at: low}, Max: surfacePoint{at: high}}
}

// highestPlane meets all points of a tree within a distance of a place, and keeps how far
// the place lies over the highest of their planes. It is a kdtree.Keeper that holds nothing.
type highestPlane struct {
	within float64 // square of the distance
	over   r3.Vec
	mm     float64
}

// Keep takes a point that the tree has found.
func (h *highestPlane) Keep(c kdtree.ComparableDist) {
	if c.Dist < h.within {
		p := c.Comparable.(surfacePoint)
		h.mm = math.Max(h.mm, r3.Dot(r3.Sub(h.over, p.at), p.normal))
	}
}

// Max tells the tree how far to look.
func (h *highestPlane) Max() kdtree.ComparableDist {
	return kdtree.ComparableDist{Comparable: surfacePoint{}, Dist: h.within}
}

// The rest of a kdtree.Keeper's heap has nothing to order.
func (h *highestPlane) Len() int           { return 0 }
func (h *highestPlane) Less(int, int) bool { return false }
func (h *highestPlane) Swap(int, int)      {}
func (h *highestPlane) Push(any)           {}
func (h *highestPlane) Pop() any           { return nil }
