package anatomy

import (
	"math"
	"slices"

	"gonum.org/v1/gonum/spatial/r3"
)

// AdjacentSurface is the surface that a neighbouring tooth turns towards the one at hand:
// points of its surface with their normals, in the frame of the tooth at hand.
// The zero AdjacentSurface is no neighbour.
type AdjacentSurface struct {
	points, normals []r3.Vec
	// Points by place, for speed: those of cell n are sorted[starts[n]:starts[n+1]].
	first, count   [3]int32 // the cells that hold points: the lowest, and how many
	starts, sorted []int32
}

// facingCell (mm) is the size of the cells that points are found by.
const facingCell = 0.5

func facingCellOf(p r3.Vec) [3]int32 {
	return [3]int32{int32(math.Floor(p.X / facingCell)), int32(math.Floor(p.Y / facingCell)), int32(math.Floor(p.Z / facingCell))}
}

// sortByPlace fills the cells once all points are known.
func (f *AdjacentSurface) sortByPlace() {
	if len(f.points) == 0 {
		return
	}
	last := facingCellOf(f.points[0])
	f.first = last
	for _, p := range f.points {
		for axis, at := range facingCellOf(p) {
			f.first[axis], last[axis] = min(f.first[axis], at), max(last[axis], at)
		}
	}
	for axis := range f.count {
		f.count[axis] = last[axis] - f.first[axis] + 1
	}
	f.starts = make([]int32, f.count[0]*f.count[1]*f.count[2]+1)
	for _, p := range f.points {
		f.starts[f.cell(facingCellOf(p))+1]++
	}
	for n := 1; n < len(f.starts); n++ {
		f.starts[n] += f.starts[n-1]
	}
	next := slices.Clone(f.starts)
	f.sorted = make([]int32, len(f.points))
	for n, p := range f.points {
		at := f.cell(facingCellOf(p))
		f.sorted[next[at]] = int32(n)
		next[at]++
	}
}

// cell is the place of a cell in starts.
func (f *AdjacentSurface) cell(c [3]int32) int32 {
	return ((c[2]-f.first[2])*f.count[1]+c[1]-f.first[1])*f.count[0] + c[0] - f.first[0]
}

// near visits the points of the cells that lie so many cells from p's own.
func (f *AdjacentSurface) near(p r3.Vec, ring int32, visit func(n int32)) {
	c := facingCellOf(p)
	var low, high [3]int32
	for axis := range c {
		low[axis] = max(c[axis]-ring, f.first[axis])
		high[axis] = min(c[axis]+ring, f.first[axis]+f.count[axis]-1)
	}
	for z := low[2]; z <= high[2]; z++ {
		for y := low[1]; y <= high[1]; y++ {
			onRing := max(z-c[2], c[2]-z, y-c[1], c[1]-y) == ring
			for x := low[0]; x <= high[0]; x++ {
				if !onRing && x != c[0]-ring && x != c[0]+ring {
					continue
				}
				at := f.cell([3]int32{x, y, z})
				for _, n := range f.sorted[f.starts[at]:f.starts[at+1]] {
					visit(n)
				}
			}
		}
	}
}

// nearest finds the point nearest p; ok is false when there is none.
func (f *AdjacentSurface) nearest(p r3.Vec) (at int32, squared float64, ok bool) {
	squared = math.Inf(1)
	const furthest = 20 // cells, beyond any tooth
	for ring := int32(0); ring <= furthest; ring++ {
		f.near(p, ring, func(n int32) {
			if d := r3.Norm2(r3.Sub(p, f.points[n])); d < squared {
				squared, at, ok = d, n, true
			}
		})
		// What lies in rings further out is at least this far away.
		if reached := float64(ring) * facingCell; ok && squared <= reached*reached {
			break
		}
	}
	return at, squared, ok
}

// AdjacentSurface takes the part of the neighbour within reach mm of the plane that the
// two share.
func (n *Neighbour) AdjacentSurface(contact Contact, reach float64) *AdjacentSurface {
	f := &AdjacentSurface{}
	mesh := n.Surface.Uncut().Mesh()
	for _, v := range mesh.Vertices {
		p := n.Into(v)
		if r3.Dot(r3.Sub(p, contact.At), contact.Normal) > reach {
			continue
		}
		f.points = append(f.points, p)
		f.normals = append(f.normals, r3.Unit(n.Placement.Turn(n.Surface.Gradient(v))))
	}
	f.sortByPlace()
	return f
}

// Nearest is the point of the neighbour's surface nearest p, to the spacing of
// its points; ok is false when there is no surface.
func (f *AdjacentSurface) Nearest(p r3.Vec) (at r3.Vec, ok bool) {
	n, _, ok := f.nearest(p)
	if !ok {
		return at, false
	}
	return f.points[n], true
}

// Clearance is the least distance (mm) from p to the neighbour's surface;
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
	within := (nearest + about) * (nearest + about)
	mm = math.Inf(-1)
	for ring := int32(0); ring <= int32((nearest+about)/facingCell)+1; ring++ {
		f.near(p, ring, func(n int32) {
			if d := r3.Sub(p, f.points[n]); r3.Norm2(d) < within {
				mm = math.Max(mm, r3.Dot(d, f.normals[n]))
			}
		})
	}
	return math.Min(mm, nearest), true
}
