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
	cells           map[[3]int32][]int32 // points by place, for speed
}

// facingCell (mm) is the size of the cells that points are found by.
const facingCell = 0.5

func facingCellOf(p r3.Vec) [3]int32 {
	return [3]int32{int32(math.Floor(p.X / facingCell)), int32(math.Floor(p.Y / facingCell)), int32(math.Floor(p.Z / facingCell))}
}

// near visits the points of the cells that lie so many cells from p's own.
func (f *Facing) near(p r3.Vec, ring int32, visit func(n int32)) {
	c := facingCellOf(p)
	for x := -ring; x <= ring; x++ {
		for y := -ring; y <= ring; y++ {
			for z := -ring; z <= ring; z++ {
				if max(x, -x, y, -y, z, -z) != ring {
					continue
				}
				for _, n := range f.cells[[3]int32{c[0] + x, c[1] + y, c[2] + z}] {
					visit(n)
				}
			}
		}
	}
}

// nearest finds the point nearest p; ok is false when there is none.
func (f *Facing) nearest(p r3.Vec) (at int32, squared float64, ok bool) {
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

// Facing takes the part of the neighbour within reach mm of the plane that the
// two share.
func (n *Neighbour) Facing(contact Contact, reach float64) *Facing {
	f := &Facing{cells: map[[3]int32][]int32{}}
	mesh := n.Surface.Uncut().Mesh()
	for _, v := range mesh.Vertices {
		p := n.Into(v)
		if r3.Dot(r3.Sub(p, contact.At), contact.Normal) > reach {
			continue
		}
		cell := facingCellOf(p)
		f.cells[cell] = append(f.cells[cell], int32(len(f.points)))
		f.points = append(f.points, p)
		f.normals = append(f.normals, r3.Unit(n.Placement.Turn(n.Surface.Gradient(v))))
	}
	return f
}

// Nearest is the point of the neighbour's surface nearest p, to the spacing of
// its points; ok is false when there is no surface.
func (f *Facing) Nearest(p r3.Vec) (at r3.Vec, ok bool) {
	n, _, ok := f.nearest(p)
	if !ok {
		return at, false
	}
	return f.points[n], true
}

// Clearance is the least distance (mm) from p to the neighbour's surface;
// negative where p lies inside it. ok is false when there is no surface.
func (f *Facing) Clearance(p r3.Vec) (mm float64, ok bool) {
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
