package solid

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/parallel"
)

// DistancesWithin is how far (mm) samples lie from the nearest of some points, as far as
// reach; 0 for those that within accepts. DistanceToPoints knows them all over the grid,
// and takes longer.
func DistancesWithin(g Grid, points []r3.Vec, within func(n int) bool, reach float64) []float32 {
	far := make([]float32, g.Len())
	for n := range far {
		if !within(n) {
			far[n] = float32(reach)
		}
	}
	w := &wave{grid: &g, points: points, far: far, nearest: make([]int32, g.Len()), width: g.H / 4}
	w.buckets = make([][]int32, int(reach/w.width)+2)
	for n, p := range points {
		i, j, k := g.CellAbout(p)
		for c := range 8 {
			w.offer(i+c&1, j+c>>1&1, k+c>>2&1, int32(n))
		}
	}
	w.run()
	return far
}

// wave carries the nearest of some points outwards over a lattice, the nearest samples
// first.
type wave struct {
	grid    *Grid
	points  []r3.Vec
	far     []float32
	nearest []int32
	width   float64 // mm of distance that a bucket holds
	buckets [][]int32
}

func (w *wave) offer(i, j, k int, point int32) {
	g := w.grid
	if uint(i) >= uint(g.N[0]) || uint(j) >= uint(g.N[1]) || uint(k) >= uint(g.N[2]) {
		return
	}
	n := g.Index(i, j, k)
	if w.far[n] == 0 { // within
		return
	}
	off := r3.Sub(w.points[point], g.Point(i, j, k))
	if d := float32(math.Sqrt(r3.Norm2(off))); d < w.far[n] {
		w.far[n], w.nearest[n] = max(d, 1e-6), point
		at := int(float64(d) / w.width)
		w.buckets[at] = append(w.buckets[at], int32(n))
	}
}

func (w *wave) run() {
	g := w.grid
	for b := range w.buckets {
		for at := 0; at < len(w.buckets[b]); at++ {
			n := int(w.buckets[b][at])
			if int(float64(w.far[n])/w.width) < b {
				continue // found nearer since
			}
			i, j, k := n%g.N[0], n/g.N[0]%g.N[1], n/(g.N[0]*g.N[1])
			point := w.nearest[n]
			for c := range 27 {
				if c != 13 {
					w.offer(i+c%3-1, j+c/3%3-1, k+c/9-1, point)
				}
			}
		}
		w.buckets[b] = nil
	}
}

// DistancesToSamples is how far (mm) samples lie from the nearest of those that are marked,
// as far as reach.
func DistancesToSamples(g Grid, marked []bool, reach float64) []float32 {
	around := int(math.Ceil(reach / g.H))
	none := float32(around*around + 1)
	square := make([]float32, g.Len()) // of the distance in steps
	for n := range square {
		square[n] = none
		if marked[n] {
			square[n] = 0
		}
	}
	strides := [3]int{1, g.N[0], g.N[0] * g.N[1]}
	for axis, stride := range strides {
		first, second := (axis+1)%3, (axis+2)%3
		parallel.Each(g.N[second], func(b int) {
			before := make([]float32, g.N[axis])
			for a := range g.N[first] {
				start := a*strides[first] + b*strides[second]
				if !anyWithin(square, start, stride, before, none) {
					continue
				}
				for i := range before {
					least := before[i]
					for d := 1; d <= around && float32(d*d) < least; d++ {
						if i >= d {
							least = min(least, before[i-d]+float32(d*d))
						}
						if i+d < len(before) {
							least = min(least, before[i+d]+float32(d*d))
						}
					}
					square[start+i*stride] = least
				}
			}
		})
	}
	for n, s := range square {
		square[n] = float32(min(math.Sqrt(float64(s))*g.H, reach))
	}
	return square
}

// anyWithin copies a row, and reports whether anything in it is nearer than none.
func anyWithin(values []float32, start, stride int, row []float32, none float32) bool {
	found := false
	for i := range row {
		row[i] = values[start+i*stride]
		found = found || row[i] < none
	}
	return found
}
