package solid

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"
)

const (
	brickSide  = 8
	brickCells = brickSide * brickSide * brickSide
)

// Tool is a solid that cuts or clips a workpiece.
type Tool interface {
	// Distance is the signed distance to the tool's surface in millimetres,
	// exact in sign; negative inside.
	Distance(p r3.Vec) float64
	// Feature names the part of the tool's surface nearest p. It must be at
	// least 1: 0 is the blank itself.
	Feature(p r3.Vec) uint16
	// Bounds holds everything the tool can remove.
	Bounds() Box
}

// Blank is an uncut solid. It is immutable and safe to share.
type Blank struct {
	*Dense
	bricks [3]int
	meshed []*brickMesh // surface of each brick, nil where none
	volume float64
}

// Volume is the uncut solid's volume in mm³.
func (b *Blank) Volume() float64 { return b.volume }

// NewBlank prepares a sampled solid for cutting; it takes ownership of d.
func NewBlank(d *Dense) *Blank {
	b := &Blank{Dense: d}
	for axis := range b.bricks {
		b.bricks[axis] = (d.N[axis] - 1) / brickSide
	}
	b.meshed = make([]*brickMesh, b.brickCount())
	whole := &Workpiece{Blank: b, cut: make([]*brick, b.brickCount())}
	parallel(b.brickCount(), func(n int) { b.meshed[n] = whole.meshBrick(n) })
	b.volume = whole.Mesh().Volume()
	return b
}

// Coarser is the same solid with samples twice as far apart, lightly averaged:
// a quarter of the triangles, for the screen. Cuts in it stay exact, because
// crossings are found on the tools themselves.
func (b *Blank) Coarser() *Blank {
	last := b.Point(b.N[0]-1, b.N[1]-1, b.N[2]-1)
	h := b.H
	return NewBlank(Sample(NewGrid(Box{Min: b.Origin, Max: last}, 2*h), func(p r3.Vec) float64 {
		const centre = 0.5 // weight of the sample itself; its six neighbours share the rest
		sum := centre * b.Distance(p)
		for _, d := range [6]r3.Vec{{X: h}, {X: -h}, {Y: h}, {Y: -h}, {Z: h}, {Z: -h}} {
			sum += (1 - centre) / 6 * b.Distance(r3.Add(p, d))
		}
		return sum
	}))
}

// Workpiece is a blank with cuts. Cutting returns a new workpiece that shares
// the unchanged bricks, so every earlier state stays valid.
type Workpiece struct {
	*Blank
	tools []shaping
	cut   []*brick // nil where the blank is unchanged
}

// brick holds the samples of one cube of 8x8x8 lattice points.
type brick struct {
	distance [brickCells]float32
	tool     [brickCells]uint8 // 0 the blank, n the n-th tool
}

// shaping is a tool with its sense: -1 removes the tool's inside, +1 keeps only it.
type shaping struct {
	Tool
	sense float64
}

func (s shaping) distance(p r3.Vec) float64 { return s.sense * s.Distance(p) }

// Uncut starts a workpiece.
func (b *Blank) Uncut() *Workpiece {
	return &Workpiece{Blank: b, cut: make([]*brick, b.brickCount())}
}

// Carve removes the inside of the tool.
func (w *Workpiece) Carve(tool Tool) *Workpiece { return w.shape(shaping{tool, -1}) }

// Clip keeps only what lies inside the tool.
func (w *Workpiece) Clip(tool Tool) *Workpiece { return w.shape(shaping{tool, +1}) }

func (w *Workpiece) shape(s shaping) *Workpiece {
	next := &Workpiece{Blank: w.Blank, tools: append(append([]shaping{}, w.tools...), s), cut: make([]*brick, len(w.cut))}
	copy(next.cut, w.cut)
	number := uint8(len(next.tools))
	lo, hi := w.brickRange(s.Bounds())
	if s.sense > 0 { // a clip leaves nothing outside the tool's bounds
		for n := range next.cut {
			next.cut[n] = emptyBrick
		}
	}
	size := [3]int{hi[0] - lo[0] + 1, hi[1] - lo[1] + 1, hi[2] - lo[2] + 1}
	if size[0] <= 0 || size[1] <= 0 || size[2] <= 0 {
		return next
	}
	parallel(size[0]*size[1]*size[2], func(n int) {
		bx, by, bz := lo[0]+n%size[0], lo[1]+n/size[0]%size[1], lo[2]+n/(size[0]*size[1])
		at := w.brickIndex(bx, by, bz)
		next.cut[at] = w.shapeBrick(at, bx, by, bz, s, number)
	})
	return next
}

// emptyBrick is air throughout.
var emptyBrick = func() *brick {
	b := &brick{}
	for n := range b.distance {
		b.distance[n] = airBand
	}
	return b
}()

// shapeBrick returns the brick after the cut: the old one where nothing changes.
func (w *Workpiece) shapeBrick(at, bx, by, bz int, s shaping, number uint8) *brick {
	old := w.cut[at]
	if s.sense < 0 {
		// A brick that lies wholly outside the tool stays as it is.
		const reach = brickSide * 0.9 // half the diagonal and a margin, in samples
		half := float64(brickSide-1) / 2 * w.H
		centre := r3.Add(w.Point(bx*brickSide, by*brickSide, bz*brickSide), r3.Vec{X: half, Y: half, Z: half})
		if s.Distance(centre) > reach*w.H {
			return old
		}
	}
	var out *brick
	n := 0
	for k := range brickSide {
		for j := range brickSide {
			for i := range brickSide {
				x, y, z := bx*brickSide+i, by*brickSide+j, bz*brickSide+k
				before := float32(0)
				if old != nil {
					before = old.distance[n]
				} else {
					before = w.Values[w.Index(x, y, z)]
				}
				// Air well clear of the surface stays air whatever is cut.
				if before < airBand {
					if d := float32(s.distance(w.Point(x, y, z))); d > before {
						if out == nil {
							out = w.copyBrick(old, bx, by, bz)
						}
						out.distance[n], out.tool[n] = d, number
					}
				}
				n++
			}
		}
	}
	if out == nil {
		return old
	}
	return out
}

// airBand (mm): samples further out than this never touch a surface cell.
const airBand = 2.0

func (w *Workpiece) copyBrick(old *brick, bx, by, bz int) *brick {
	if old != nil {
		c := *old
		return &c
	}
	c := &brick{}
	n := 0
	for k := range brickSide {
		for j := range brickSide {
			for i := range brickSide {
				c.distance[n] = w.Values[w.Index(bx*brickSide+i, by*brickSide+j, bz*brickSide+k)]
				n++
			}
		}
	}
	return c
}

// Distance is the workpiece's field at any point: the blank's samples joined
// with the tools themselves, so that cut edges stay sharp.
func (w *Workpiece) Distance(p r3.Vec) float64 {
	d := w.Blank.Distance(p)
	for _, s := range w.tools {
		d = math.Max(d, s.distance(p))
	}
	return d
}

// sample reads lattice point (i,j,k) and which tool made it.
func (w *Workpiece) sample(i, j, k int) (float32, uint8) {
	bx, by, bz := i/brickSide, j/brickSide, k/brickSide
	if bx < w.bricks[0] && by < w.bricks[1] && bz < w.bricks[2] {
		if b := w.cut[w.brickIndex(bx, by, bz)]; b != nil {
			n := (k%brickSide*brickSide+j%brickSide)*brickSide + i%brickSide
			return b.distance[n], b.tool[n]
		}
	}
	return w.Values[w.Index(i, j, k)], 0
}

func (b *Blank) brickCount() int { return b.bricks[0] * b.bricks[1] * b.bricks[2] }

func (b *Blank) brickIndex(x, y, z int) int { return (z*b.bricks[1]+y)*b.bricks[0] + x }

// brickRange gives the bricks that a box can touch, with a margin of two samples.
func (b *Blank) brickRange(box Box) (lo, hi [3]int) {
	mins := [3]float64{box.Min.X - b.Origin.X, box.Min.Y - b.Origin.Y, box.Min.Z - b.Origin.Z}
	maxs := [3]float64{box.Max.X - b.Origin.X, box.Max.Y - b.Origin.Y, box.Max.Z - b.Origin.Z}
	for axis := range 3 {
		lo[axis] = max(0, int(math.Floor((mins[axis]/b.H-2)/brickSide)))
		hi[axis] = min(b.bricks[axis]-1, int(math.Floor((maxs[axis]/b.H+2)/brickSide)))
	}
	return lo, hi
}
