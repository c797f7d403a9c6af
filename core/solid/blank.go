package solid

import (
	"math"
	"sync"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/parallel"
)

// Blank is an uncut solid. It is immutable and safe to share. Samples are held
// only in the bricks its surface passes; all others are known to be inside or
// outside.
type Blank struct {
	Grid
	bricks [3]int
	stored []*[brickCells]float32 // nil where no surface is near
	inside []bool                 // of bricks without samples
	far    float32                // stands for the distance where none is stored

	surface func() []*brickMesh // each brick's part of the surface, nil where none
	volume  func() float64
}

const (
	brickSide  = 8
	brickCells = brickSide * brickSide * brickSide
	blockSide  = 4 // bricks are culled in blocks of this many samples a side
)

// steepest is by how much a sampled field may overstate a distance: implicit
// shapes are distances only to first order.
const steepest = 1.5

// NewBlank samples the solid where f is negative. f must have the right sign
// everywhere, be positive on the grid's border, and nowhere exceed steepest
// times the true distance.
func NewBlank(g Grid, f func(r3.Vec) float64) *Blank {
	return newBlank(g, f, func(centre r3.Vec, radius float64) (near, inside bool) {
		d := f(centre)
		return math.Abs(d) <= steepest*radius, d < 0
	})
}

// newBlank samples f in the blocks that near accepts.
func newBlank(g Grid, f func(r3.Vec) float64, near func(centre r3.Vec, radius float64) (near, inside bool)) *Blank {
	b := &Blank{Grid: g, far: float32(farFrom(g.H))}
	for axis := range b.bricks {
		b.bricks[axis] = (g.N[axis] - 1) / brickSide
	}
	b.stored = make([]*[brickCells]float32, b.brickCount())
	b.inside = make([]bool, b.brickCount())
	parallel.Each(b.brickCount(), func(n int) { b.stored[n], b.inside[n] = b.sampleBrick(n, f, near) })
	b.surface = sync.OnceValue(func() []*brickMesh {
		whole := &Workpiece{Blank: b, cut: make([]*brick, b.brickCount())}
		meshed := make([]*brickMesh, b.brickCount())
		parallel.Each(len(meshed), func(n int) {
			if b.stored[n] != nil || b.borders(n) {
				meshed[n] = whole.meshBrick(n)
			}
		})
		return meshed
	})
	b.volume = sync.OnceValue(func() float64 { return b.Uncut().Mesh().Volume() })
	return b
}

// farFrom is the distance (mm) that stands for "no surface near" on a grid.
func farFrom(h float64) float64 { return max(0.25, 4*h) }

// band is within how many steps of the surface all samples are stored: what
// crossings and their gradients need. Further away only the sign of a reading
// counts.
const band = 2

func (b *Blank) sampleBrick(n int, f func(r3.Vec) float64, near func(r3.Vec, float64) (bool, bool)) (*[brickCells]float32, bool) {
	x0, y0, z0 := b.brickOrigin(n)
	middle := func(x, y, z, side int) r3.Vec {
		half := float64(side-1) / 2 * b.H
		return r3.Add(b.Point(x, y, z), r3.Vec{X: half, Y: half, Z: half})
	}
	reach := func(side int) float64 { return (float64(side-1)/2*math.Sqrt(3) + band) * b.H }
	close, inside := near(middle(x0, y0, z0, brickSide), reach(brickSide))
	if !close {
		return nil, inside
	}
	values := new([brickCells]float32)
	kept, needed := false, float32(band*b.H)
	for block := range 8 {
		i0, j0, k0 := block&1*blockSide, block>>1&1*blockSide, block>>2&1*blockSide
		close, inside := near(middle(x0+i0, y0+j0, z0+k0, blockSide), reach(blockSide))
		for n := range blockSide * blockSide * blockSide {
			i, j, k := i0+n%blockSide, j0+n/blockSide%blockSide, k0+n/(blockSide*blockSide)
			v := b.far
			if close {
				v = min(max(float32(f(b.Point(x0+i, y0+j, z0+k))), -b.far), b.far)
				kept = kept || (v < needed && v > -needed)
			} else if inside {
				v = -b.far
			}
			values[(k*brickSide+j)*brickSide+i] = v
		}
	}
	if !kept {
		return nil, values[0] < 0
	}
	return values, false
}

// Volume is the uncut solid's volume in mm³.
func (b *Blank) Volume() float64 { return b.volume() }

// Coarser is the same solid with samples twice as far apart, lightly averaged:
// a quarter of the triangles, for the screen. Cuts in it stay exact, because
// crossings are found on the tools themselves.
func (b *Blank) Coarser() *Blank {
	h := b.H
	last := b.Point(b.N[0]-1, b.N[1]-1, b.N[2]-1)
	averaged := func(p r3.Vec) float64 {
		const centre = 0.5 // weight of the sample itself; its six neighbours share the rest
		sum := centre * b.Distance(p)
		for _, d := range [6]r3.Vec{{X: h}, {X: -h}, {Y: h}, {Y: -h}, {Z: h}, {Z: -h}} {
			sum += (1 - centre) / 6 * b.Distance(r3.Add(p, d))
		}
		return sum
	}
	return newBlank(NewGrid(Box{Min: b.Origin, Max: last}, 2*h), averaged, func(centre r3.Vec, radius float64) (near, inside bool) {
		d := r3.Vec{X: radius, Y: radius, Z: radius}
		lo, hi := b.brickRange(Box{Min: r3.Sub(centre, d), Max: r3.Add(centre, d)})
		for z := lo[2]; z <= hi[2]; z++ {
			for y := lo[1]; y <= hi[1]; y++ {
				for x := lo[0]; x <= hi[0]; x++ {
					if b.stored[b.brickIndex(x, y, z)] != nil {
						return true, false
					}
				}
			}
		}
		return false, b.Distance(centre) < 0
	})
}

// Distance reads the field at p by trilinear interpolation. It is a distance
// near the surface; further away only its sign counts.
func (b *Blank) Distance(p r3.Vec) float64 {
	i, fx := b.cell(p.X-b.Origin.X, 0)
	j, fy := b.cell(p.Y-b.Origin.Y, 1)
	k, fz := b.cell(p.Z-b.Origin.Z, 2)
	var c [8]float64
	if i&7 != 7 && j&7 != 7 && k&7 != 7 { // all in one brick
		n := b.brickIndex(i>>3, j>>3, k>>3)
		s := b.stored[n]
		if s == nil {
			return b.uniform(n)
		}
		at := (k&7*brickSide+j&7)*brickSide + i&7
		c = [8]float64{
			float64(s[at]), float64(s[at+1]), float64(s[at+8]), float64(s[at+9]),
			float64(s[at+64]), float64(s[at+65]), float64(s[at+72]), float64(s[at+73]),
		}
	} else {
		for n := range c {
			c[n] = float64(b.value(i+n&1, j+n>>1&1, k+n>>2))
		}
	}
	return lerp(lerp(lerp(c[0], c[1], fx), lerp(c[2], c[3], fx), fy),
		lerp(lerp(c[4], c[5], fx), lerp(c[6], c[7], fx), fy), fz)
}

// Gradient is the field's gradient at p by central differences one sample wide.
func (b *Blank) Gradient(p r3.Vec) r3.Vec { return gradient(b.Distance, p, b.H) }

// RootAlong finds where the field along p + t·dir first changes its sign, t in
// [from, to], marching by step.
func (b *Blank) RootAlong(p, dir r3.Vec, from, to, step float64) (t float64, ok bool) {
	return RootAlong(b.Distance, p, dir, from, to, step)
}

// value is sample (i,j,k).
func (b *Blank) value(i, j, k int) float32 {
	if uint(i) >= uint(b.N[0]-1) || uint(j) >= uint(b.N[1]-1) || uint(k) >= uint(b.N[2]-1) {
		return b.far // the border is air
	}
	n := b.brickIndex(i>>3, j>>3, k>>3)
	if s := b.stored[n]; s != nil {
		return s[(k&7*brickSide+j&7)*brickSide+i&7]
	}
	return float32(b.uniform(n))
}

// latticeGradient is the gradient at a lattice point, by central differences.
func (b *Blank) latticeGradient(i, j, k int) r3.Vec {
	return r3.Vec{
		X: float64(b.value(i+1, j, k) - b.value(i-1, j, k)),
		Y: float64(b.value(i, j+1, k) - b.value(i, j-1, k)),
		Z: float64(b.value(i, j, k+1) - b.value(i, j, k-1)),
	}
}

func (b *Blank) uniform(n int) float64 {
	if b.inside[n] {
		return -float64(b.far)
	}
	return float64(b.far)
}

// borders reports whether a brick without samples touches one with some: its
// last cells may then be crossed.
func (b *Blank) borders(n int) bool {
	x, y, z := n%b.bricks[0], n/b.bricks[0]%b.bricks[1], n/(b.bricks[0]*b.bricks[1])
	for c := 1; c < 8; c++ {
		i, j, k := x+c&1, y+c>>1&1, z+c>>2
		if i < b.bricks[0] && j < b.bricks[1] && k < b.bricks[2] && b.stored[b.brickIndex(i, j, k)] != nil {
			return true
		}
	}
	return false
}

func (b *Blank) brickCount() int { return b.bricks[0] * b.bricks[1] * b.bricks[2] }

func (b *Blank) brickIndex(x, y, z int) int { return (z*b.bricks[1]+y)*b.bricks[0] + x }

// brickOrigin is the first lattice point of brick n.
func (b *Blank) brickOrigin(n int) (i, j, k int) {
	return n % b.bricks[0] * brickSide, n / b.bricks[0] % b.bricks[1] * brickSide, n / (b.bricks[0] * b.bricks[1]) * brickSide
}

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
