package solid

import (
	"cmp"
	"math"
	"slices"
)

// triangulated divides the areas that closed lines enclose into triangles with the lines'
// own corners: counter-clockwise lines run round areas, clockwise ones round holes in them.
// Triangles are counter-clockwise, and hold corners counted through all lines. Where lines
// cross themselves a little the triangles overlap as little, but every edge of a line is
// still one of a triangle. A clockwise line in no area is one seen from behind.
func triangulated(lines [][]Point2) [][3]int {
	var at []Point2
	var areas, holes [][]int
	for _, line := range lines {
		ring := make([]int, len(line))
		for n := range line {
			ring[n] = len(at) + n
		}
		at = append(at, line...)
		if signedArea(at, ring) >= 0 {
			areas = append(areas, ring)
		} else {
			holes = append(holes, ring)
		}
	}
	// From the hole that reaches furthest on, so that a bridge of one meets no other.
	furthest := func(ring []int) int {
		return slices.MaxFunc(ring, func(a, b int) int { return cmp.Compare(at[a].X, at[b].X) })
	}
	slices.SortStableFunc(holes, func(a, b []int) int { return cmp.Compare(at[furthest(b)].X, at[furthest(a)].X) })
	var all [][3]int
	for _, hole := range holes {
		from := furthest(hole)
		around := -1
		for n, area := range areas {
			if encloses(at, area, at[from]) && (around < 0 || signedArea(at, area) < signedArea(at, areas[around])) {
				around = n
			}
		}
		if around < 0 {
			slices.Reverse(hole)
			for _, t := range ears(at, hole) {
				all = append(all, [3]int{t[0], t[2], t[1]})
			}
			continue
		}
		areas[around] = bridged(at, areas[around], hole, from)
	}
	for _, area := range areas {
		all = append(all, ears(at, area)...)
	}
	return all
}

// turn is twice the area of a triangle, positive where it runs counter-clockwise.
func turn(a, b, c Point2) float64 { return (b.X-a.X)*(c.Y-a.Y) - (b.Y-a.Y)*(c.X-a.X) }

func signedArea(at []Point2, ring []int) (sum float64) {
	for n, a := range ring {
		b := ring[(n+1)%len(ring)]
		sum += at[a].X*at[b].Y - at[b].X*at[a].Y
	}
	return sum / 2
}

// encloses counts how often a line to the right of p crosses a ring.
func encloses(at []Point2, ring []int, p Point2) (is bool) {
	for n, i := range ring {
		a, b := at[i], at[ring[(n+1)%len(ring)]]
		if (a.Y > p.Y) != (b.Y > p.Y) && p.X < a.X+(p.Y-a.Y)/(b.Y-a.Y)*(b.X-a.X) {
			is = !is
		}
	}
	return is
}

// bridged is a ring that goes round an area and, over a bridge there and back, round a hole
// in it, from the hole's furthest corner.
func bridged(at []Point2, area, hole []int, from int) []int {
	p := at[from]
	// The edge that a line to the right meets first, and its end further right.
	best, meets := -1, math.Inf(1)
	for n, i := range area {
		a, b := at[i], at[area[(n+1)%len(area)]]
		if (a.Y > p.Y) == (b.Y > p.Y) {
			continue
		}
		if x := a.X + (p.Y-a.Y)/(b.Y-a.Y)*(b.X-a.X); x >= p.X && x < meets {
			meets, best = x, n
			if b.X > a.X {
				best = (n + 1) % len(area)
			}
		}
	}
	// A corner in the triangle between would stand in the way: the one least aside of the line.
	end, hit := at[area[best]], Point2{X: meets, Y: p.Y}
	least := math.Inf(1)
	chosen := best
	for n, i := range area {
		q := at[i]
		if q.X < p.X || n == best || !within(p, hit, end, q) || !opensTo(at, area, n, p) {
			continue
		}
		if aside := math.Abs(q.Y-p.Y) / math.Max(q.X-p.X, 1e-12); aside < least {
			least, chosen = aside, n
		}
	}
	start := slices.Index(hole, from)
	ring := append([]int{}, area[:chosen+1]...)
	ring = append(ring, hole[start:]...)
	ring = append(ring, hole[:start+1]...)
	return append(ring, area[chosen:]...)
}

// opensTo tells that a place lies within the angle of a ring's corner: where bridges pass, one
// place is several corners.
func opensTo(at []Point2, ring []int, n int, p Point2) bool {
	a, b, c := corners(at, ring, n)
	before, behind := turn(a, b, p) >= 0, turn(b, c, p) >= 0
	if turn(a, b, c) >= 0 {
		return before && behind
	}
	return before || behind
}

// within tells that q lies in a triangle of either sense, its border with it.
func within(a, b, c, q Point2) bool {
	u, v, w := turn(a, b, q), turn(b, c, q), turn(c, a, q)
	return (u >= 0 && v >= 0 && w >= 0) || (u <= 0 && v <= 0 && w <= 0)
}

// ears cuts a ring into triangles, corner by corner.
func ears(at []Point2, ring []int) [][3]int {
	ring = slices.Clone(ring)
	var all [][3]int
	for stuck := 0; len(ring) > 3; {
		cut := -1
		for n := range ring {
			if isEar(at, ring, n) {
				cut = n
				break
			}
		}
		if cut < 0 { // lines that cross themselves: the smallest corner goes
			least := math.Inf(1)
			for n := range ring {
				if t := math.Abs(turn(corners(at, ring, n))); t < least {
					least, cut = t, n
				}
			}
			stuck++
		}
		all = append(all, [3]int{ring[(cut+len(ring)-1)%len(ring)], ring[cut], ring[(cut+1)%len(ring)]})
		ring = slices.Delete(ring, cut, cut+1)
		// Go on beside it, so that the triangles do not all meet in one corner.
		if step := cut % max(len(ring), 1); step > 0 && stuck == 0 {
			ring = append(ring[step:], ring[:step]...)
		}
	}
	if len(ring) == 3 {
		all = append(all, [3]int{ring[0], ring[1], ring[2]})
	}
	return all
}

func corners(at []Point2, ring []int, n int) (a, b, c Point2) {
	return at[ring[(n+len(ring)-1)%len(ring)]], at[ring[n]], at[ring[(n+1)%len(ring)]]
}

func isEar(at []Point2, ring []int, n int) bool {
	a, b, c := corners(at, ring, n)
	if turn(a, b, c) <= 0 {
		return false
	}
	low, high := Point2{min(a.X, b.X, c.X), min(a.Y, b.Y, c.Y)}, Point2{max(a.X, b.X, c.X), max(a.Y, b.Y, c.Y)}
	for k := range len(ring) - 3 {
		other := (n + 2 + k) % len(ring)
		q := at[ring[other]]
		if q.X < low.X || q.X > high.X || q.Y < low.Y || q.Y > high.Y || q == a || !within(a, b, c, q) {
			continue
		}
		if turn(corners(at, ring, other)) <= 0 { // only what bends inwards can reach in
			return false
		}
	}
	return true
}
