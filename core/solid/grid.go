// Package solid is the geometry kernel: sampled signed distances, cutting,
// sections, contours and closed labelled meshes.
//
// Distances are millimetres, negative inside the solid and positive in air.
// A Blank is a sampled solid that never changes; a Workpiece is a blank with
// cuts, which shares everything it does not change. Both keep samples in bricks
// of 8x8x8 along their surface only. A Dense field holds every sample of a
// grid, for what is read all through a tooth.
package solid

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/parallel"
)

// Box is an axis-aligned box in millimetres.
type Box = r3.Box

// Corners lists the eight corners of a box.
func Corners(b Box) [8]r3.Vec {
	var all [8]r3.Vec
	for n := range all {
		p := b.Min
		if n&1 > 0 {
			p.X = b.Max.X
		}
		if n&2 > 0 {
			p.Y = b.Max.Y
		}
		if n&4 > 0 {
			p.Z = b.Max.Z
		}
		all[n] = p
	}
	return all
}

// Enclosing is the smallest box that holds all of some points; there must be one.
func Enclosing(points ...r3.Vec) Box {
	b := Box{Min: points[0], Max: points[0]}
	for _, p := range points[1:] {
		b.Min = r3.Vec{X: min(b.Min.X, p.X), Y: min(b.Min.Y, p.Y), Z: min(b.Min.Z, p.Z)}
		b.Max = r3.Vec{X: max(b.Max.X, p.X), Y: max(b.Max.Y, p.Y), Z: max(b.Max.Z, p.Z)}
	}
	return b
}

// Grid is a regular lattice of samples: X fastest, then Y, then Z.
type Grid struct {
	Origin r3.Vec  // position of sample (0,0,0), mm
	H      float64 // spacing, mm
	N      [3]int  // samples along x, y, z
}

// NewGrid covers the box with samples h apart; each count is rounded up to a
// whole number of bricks plus one, so that every cell lies in a brick.
func NewGrid(b Box, h float64) Grid {
	g := Grid{Origin: b.Min, H: h}
	size := r3.Sub(b.Max, b.Min)
	for axis, length := range [3]float64{size.X, size.Y, size.Z} {
		bricks := int(math.Ceil(math.Ceil(length/h) / brickSide))
		g.N[axis] = bricks*brickSide + 1
	}
	return g
}

// Len is the number of samples.
func (g Grid) Len() int { return g.N[0] * g.N[1] * g.N[2] }

// Room is the box that the samples span.
func (g Grid) Room() Box { return Box{Min: g.Origin, Max: g.Point(g.N[0]-1, g.N[1]-1, g.N[2]-1)} }

// CellAbout is the cell that holds p, or the one nearest to it, by its lower corner.
func (g Grid) CellAbout(p r3.Vec) (i, j, k int) {
	at := func(v float64, n int) int { return min(max(int(math.Floor(v/g.H)), 0), n-2) }
	return at(p.X-g.Origin.X, g.N[0]), at(p.Y-g.Origin.Y, g.N[1]), at(p.Z-g.Origin.Z, g.N[2])
}

// Index is the place of sample (i,j,k) in storage.
func (g Grid) Index(i, j, k int) int { return (k*g.N[1]+j)*g.N[0] + i }

// Point is the position of sample (i,j,k) in millimetres.
func (g Grid) Point(i, j, k int) r3.Vec {
	return r3.Vec{X: g.Origin.X + float64(i)*g.H, Y: g.Origin.Y + float64(j)*g.H, Z: g.Origin.Z + float64(k)*g.H}
}

// Dense is a scalar field sampled on a grid.
type Dense struct {
	Grid
	Values []float32
}

// SampleRows fills a field row by row: row receives (j, k) and the row's
// storage. Rows are independent and run in parallel.
func SampleRows(g Grid, row func(j, k int, out []float32)) *Dense {
	d := &Dense{Grid: g, Values: make([]float32, g.Len())}
	parallel.Each(g.N[2], func(k int) {
		for j := range g.N[1] {
			start := g.Index(0, j, k)
			row(j, k, d.Values[start:start+g.N[0]])
		}
	})
	return d
}

// Sample fills a field from a function of position.
func Sample(g Grid, f func(r3.Vec) float64) *Dense {
	return SampleRows(g, func(j, k int, out []float32) {
		for i := range out {
			out[i] = float32(f(g.Point(i, j, k)))
		}
	})
}

// Distance reads the field at p by trilinear interpolation; outside the grid
// the nearest border value counts.
func (d *Dense) Distance(p r3.Vec) float64 {
	i, fx := d.cell(p.X-d.Origin.X, 0)
	j, fy := d.cell(p.Y-d.Origin.Y, 1)
	k, fz := d.cell(p.Z-d.Origin.Z, 2)
	at := d.Index(i, j, k)
	dy, dz := d.N[0], d.N[0]*d.N[1]
	v := d.Values
	c00 := lerp(float64(v[at]), float64(v[at+1]), fx)
	c10 := lerp(float64(v[at+dy]), float64(v[at+dy+1]), fx)
	c01 := lerp(float64(v[at+dz]), float64(v[at+dz+1]), fx)
	c11 := lerp(float64(v[at+dz+dy]), float64(v[at+dz+dy+1]), fx)
	return lerp(lerp(c00, c10, fy), lerp(c01, c11, fy), fz)
}

// Gradient is the field's gradient at p by central differences one sample wide.
func (d *Dense) Gradient(p r3.Vec) r3.Vec { return gradient(d.Distance, p, d.H) }

func gradient(f func(r3.Vec) float64, p r3.Vec, h float64) r3.Vec {
	at := func(dx, dy, dz float64) float64 {
		return f(r3.Vec{X: p.X + dx, Y: p.Y + dy, Z: p.Z + dz})
	}
	return r3.Scale(0.5/h, r3.Vec{
		X: at(h, 0, 0) - at(-h, 0, 0),
		Y: at(0, h, 0) - at(0, -h, 0),
		Z: at(0, 0, h) - at(0, 0, -h),
	})
}

// RootAlong finds where the field along p + t·dir changes from negative to
// positive (or back) for t in [from, to], marching by step and bisecting.
// It returns the first such t, or ok false.
func (d *Dense) RootAlong(p, dir r3.Vec, from, to, step float64) (t float64, ok bool) {
	return RootAlong(d.Distance, p, dir, from, to, step)
}

// RootAlong finds the first change of sign of f along p + t·dir, t in [from, to].
func RootAlong(f func(r3.Vec) float64, p, dir r3.Vec, from, to, step float64) (t float64, ok bool) {
	at := func(t float64) float64 { return f(r3.Add(p, r3.Scale(t, dir))) }
	a, fa := from, at(from)
	for a < to {
		b := min(a+step, to)
		fb := at(b)
		if (fa < 0) != (fb < 0) {
			return rootBetween(at, a, fa, b, fb), true
		}
		a, fa = b, fb
	}
	return 0, false
}

// rootBetween closes in on a change of sign between a and b by regula falsi
// with the usual halving of a stuck end, and by bisection where f jumps.
func rootBetween(f func(t float64) float64, a, fa, b, fb float64) float64 {
	const falsi, rounds = 8, 24
	const enough, near = 1e-6, 2e-6 // mm that f, or t, may be off
	side := 0
	for n := range rounds {
		t := (a*fb - b*fa) / (fb - fa)
		if n >= falsi || !(t > a && t < b) {
			t = (a + b) / 2
		}
		ft := f(t)
		if math.Abs(ft) < enough {
			return t
		}
		if (ft < 0) == (fa < 0) {
			a, fa = t, ft
			if side < 0 {
				fb /= 2
			}
			side = -1
		} else {
			b, fb = t, ft
			if side > 0 {
				fa /= 2
			}
			side = 1
		}
		if b-a < near {
			break
		}
	}
	return (a + b) / 2
}

// cell is the sample before an offset from the origin along an axis, and how
// far past it the offset lies, 0 to 1.
func (g Grid) cell(offset float64, axis int) (int, float64) {
	at := offset / g.H
	last := float64(g.N[axis] - 1)
	if !(at > 0) { // also catches NaN
		return 0, 0
	}
	if at >= last {
		return g.N[axis] - 2, 1
	}
	i := int(at)
	return i, at - float64(i)
}

func lerp(a, b, t float64) float64 { return a + (b-a)*t }

// BoxOf is the box about the places of some samples; ok is false of none.
func (g *Grid) BoxOf(marked func(n int) bool) (b Box, ok bool) {
	low, high := g.N, [3]int{-1, -1, -1}
	for n := range g.Len() {
		if !marked(n) {
			continue
		}
		for axis, at := range [3]int{n % g.N[0], n / g.N[0] % g.N[1], n / (g.N[0] * g.N[1])} {
			low[axis], high[axis] = min(low[axis], at), max(high[axis], at)
		}
	}
	if high[0] < 0 {
		return b, false
	}
	return Box{Min: g.Point(low[0], low[1], low[2]), Max: g.Point(high[0], high[1], high[2])}, true
}

// Across are two unit vectors square to a unit vector and to each other.
func Across(axis r3.Vec) (e1, e2 r3.Vec) {
	e1 = r3.Vec{X: 1}
	if math.Abs(axis.X) > math.Sqrt2/2 {
		e1 = r3.Vec{Y: 1}
	}
	e1 = r3.Unit(r3.Sub(e1, r3.Scale(r3.Dot(e1, axis), axis)))
	return e1, r3.Cross(axis, e1)
}
