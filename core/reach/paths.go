package reach

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/solid"
)

// Spacing of a bur's ways, mm.
const (
	ringsApart  = 0.3   // of the rounds along the walls, in height
	rowsApart   = 0.3   // of the rows between the walls
	floorApart  = 0.25  // of the rows over the floor
	rowsPerHead = 0.8   // of the head's length between rows one over the other
	chord       = 0.008 // that a thinned line may lie off
)

// Useful are the samples where the bur may stand and its head takes some of what is
// wanted.
func (s *Stands) Useful(wanted func(n int) bool) []bool {
	useful, marked := make([]bool, s.Len()), make([]bool, s.Len())
	for n := range marked {
		marked[n] = wanted(n)
	}
	bounds, any := s.BoxOf(func(n int) bool { return marked[n] })
	if !any {
		return useful
	}
	radius, _ := s.Tool.Extent()
	far := solid.DistancesToSamples(s.Grid, marked, radius+2*s.H)
	enough := float32(0.3 * s.H)
	from, to := s.touching(bounds)
	s.eachIn(from, to, func(n, i, j, k int) {
		if !s.Allowed[n] {
			return
		}
		for b := 0; b < s.ofHead; b++ {
			about := &s.bundles[b].about
			if v, ok := about.read(&s.Grid, far, i, j, k); ok && v >= about.radius {
				b += s.bundles[b].within
				continue
			}
			for t := range s.bundles[b].taps {
				tap := &s.bundles[b].taps[t]
				if v, ok := tap.read(&s.Grid, far, i, j, k); ok && v < tap.radius-enough {
					useful[n] = true
					return
				}
			}
		}
	})
	return useful
}

// touching are the samples with the tip at which the head may touch a box.
func (s *Stands) touching(b solid.Box) (from, to [3]int) {
	low, high := r3.Vec{}, r3.Vec{} // of the head about its tip
	for _, bundle := range s.bundles[:s.ofHead] {
		r := r3.Vec{X: float64(bundle.about.radius), Y: float64(bundle.about.radius), Z: float64(bundle.about.radius)}
		ball := solid.Box{Min: r3.Sub(bundle.about.offset, r), Max: r3.Add(bundle.about.offset, r)}
		low = r3.Vec{X: math.Min(low.X, ball.Min.X), Y: math.Min(low.Y, ball.Min.Y), Z: math.Min(low.Z, ball.Min.Z)}
		high = r3.Vec{X: math.Max(high.X, ball.Max.X), Y: math.Max(high.Y, ball.Max.Y), Z: math.Max(high.Z, ball.Max.Z)}
	}
	first, last := r3.Sub(r3.Sub(b.Min, high), s.Origin), r3.Sub(r3.Sub(b.Max, low), s.Origin)
	for n, end := range [3][2]float64{{first.X, last.X}, {first.Y, last.Y}, {first.Z, last.Z}} {
		from[n], to[n] = max(int(end[0]/s.H), 0), min(int(end[1]/s.H)+2, s.N[n])
	}
	return from, to
}

// Way is a line that the tip of a bur follows, mm in the bur's frame.
type Way []r3.Vec

// Ways lead the tip through all useful samples: in rows and rounds from above down, and
// at last over the floor.
func (s *Stands) Ways(useful []bool) []Way {
	top, bottom := s.layersOf(useful)
	if top < 0 {
		return nil
	}
	var ways []Way
	floor := s.floorOf(useful)
	rings := max(1, int(math.Round(ringsApart/s.H)))
	_, length := s.Tool.Extent()
	rows := max(rings, int(rowsPerHead*length/s.H)/rings*rings)
	for k := top; k >= bottom; k-- {
		if (top-k)%rows == 0 {
			ways = append(ways, s.rowsAt(k, useful)...)
		}
		ways = append(ways, s.roundsAt(k, useful, floor, (top-k)%rings == 0)...)
	}
	return append(ways, s.rowsOver(floor)...)
}

func (s *Stands) layersOf(useful []bool) (top, bottom int) {
	layer := s.N[0] * s.N[1]
	top, bottom = -1, s.N[2]
	for n, is := range useful {
		if is {
			top, bottom = max(top, n/layer), min(bottom, n/layer)
		}
	}
	return top, bottom
}

// rowsAt are rows along the lattice at one height.
func (s *Stands) rowsAt(k int, useful []bool) []Way {
	var ways []Way
	for j := 0; j < s.N[1]; j += max(1, int(math.Round(rowsApart/s.H))) {
		start := -1
		for i := 0; i <= s.N[0]; i++ {
			is := i < s.N[0] && useful[s.Index(i, j, k)]
			if is && start < 0 {
				start = i
			}
			if !is && start >= 0 {
				ways = append(ways, Way{s.Point(start, j, k), s.Point(i-1, j, k)})
				start = -1
			}
		}
	}
	return ways
}

// roundsAt follow the border of where the bur may stand at one height: all of it, or what
// runs at the foot of the walls, down on the floor.
func (s *Stands) roundsAt(k int, useful []bool, floor []float64, all bool) []Way {
	layer := s.N[0] * s.N[1]
	sheet := &solid.Sheet{X0: s.Origin.X, Y0: s.Origin.Y, H: s.H, NX: s.N[0], NY: s.N[1], Values: make([]float32, layer)}
	for n := range layer {
		at := k*layer + n
		sheet.Values[n] = s.Enters[at] - float32(s.Overcut)
		if !s.Allowed[at] {
			sheet.Values[n] = max(sheet.Values[n], float32(s.H)/100)
		}
	}
	z := s.Point(0, 0, k).Z
	var ways []Way
	for _, contour := range sheet.Contours(0) {
		places := make(Way, len(contour.Points)) // at +Inf where the bur is of no use
		for n, p := range contour.Points {
			places[n] = r3.Vec{X: p.X, Y: p.Y, Z: math.Inf(1)}
			if s.usefulAbout(p.X, p.Y, k, useful) {
				places[n].Z = s.footAt(p, z, floor)
			}
		}
		for _, run := range solid.Runs(places, contour.Closed, func(p r3.Vec) bool { return p.Z < z || all && p.Z == z }) {
			way := Way(run)
			if contour.Closed && len(run) == len(places) {
				way = append(way, way[0])
			}
			ways = append(ways, way.Thinned(chord))
		}
	}
	return ways
}

// footAt is how far down the bur goes at a place of a round, where the floor beside it lies
// less than a step under z: onto the floor, or onto the fillet before it; else z itself.
func (s *Stands) footAt(p solid.Point2, z float64, floor []float64) float64 {
	i, j, _ := s.CellAbout(r3.Vec{X: p.X + s.H/2, Y: p.Y + s.H/2}) // the sample nearest to it
	foot := math.Inf(-1)
	for y := max(j-1, 0); y <= j+1; y++ {
		for x := max(i-1, 0); x <= i+1; x++ {
			if low := floor[y*s.N[0]+x]; low <= z {
				foot = math.Max(foot, low)
			}
		}
	}
	if z-foot > 1.01*s.H {
		return z
	}
	const halvings, noise = 3, 0.005 // mm that reading between samples may be off
	fits := func(at float64) bool {
		return s.entersAt(r3.Vec{X: p.X, Y: p.Y, Z: at}, s.Overcut+noise) <= s.Overcut+noise
	}
	if fits(foot) {
		return foot
	}
	for range halvings {
		if middle := (foot + z) / 2; fits(middle) {
			z = middle
		} else {
			foot = middle
		}
	}
	return z
}

// usefulAbout reports a useful sample at a corner of the cell about (x, y).
func (s *Stands) usefulAbout(x, y float64, k int, useful []bool) bool {
	i, j, _ := s.CellAbout(r3.Vec{X: x, Y: y})
	n := s.Index(i, j, k)
	return useful[n] || useful[n+1] || useful[n+s.N[0]] || useful[n+s.N[0]+1]
}

// floorOf is for each column the lowest place where the bur may stand, mm; +Inf where it
// is of no use there.
func (s *Stands) floorOf(useful []bool) []float64 {
	layer := s.N[0] * s.N[1]
	floor := make([]float64, layer)
	for c := range floor {
		floor[c] = math.Inf(1)
		for k := range s.N[2] {
			n := k*layer + c
			if !s.Allowed[n] {
				continue
			}
			if useful[n] {
				floor[c] = s.Point(0, 0, k).Z
				if k > 0 {
					if a, b := float64(s.Enters[n])-s.Overcut, float64(s.Enters[n-layer])-s.Overcut; a < 0 && b > 0 {
						floor[c] -= s.H * a / (a - b)
					}
				}
			}
			break
		}
	}
	return floor
}

// rowsOver are rows over the floor.
func (s *Stands) rowsOver(floor []float64) []Way {
	const steepest = 2 // of a row's rise
	var ways []Way
	for j := 0; j < s.N[1]; j += max(1, int(math.Round(floorApart/s.H))) {
		var way Way
		end := func() {
			if len(way) > 0 {
				ways = append(ways, way.Thinned(chord))
			}
			way = nil
		}
		for i := range s.N[0] {
			z := floor[j*s.N[0]+i]
			if math.IsInf(z, 1) || (len(way) > 0 && math.Abs(z-way[len(way)-1].Z) > steepest*s.H) {
				end()
			}
			if !math.IsInf(z, 1) {
				p := s.Point(i, j, 0)
				p.Z = z
				way = append(way, p)
			}
		}
		end()
	}
	return ways
}

// Thinned leaves out places that lie within tolerance (mm) of the line without them.
func (w Way) Thinned(tolerance float64) Way {
	if len(w) < 3 {
		return w
	}
	far, at := 0.0, 0
	a, b := w[0], w[len(w)-1]
	along := r3.Sub(b, a)
	square := r3.Norm2(along)
	for n := 1; n < len(w)-1; n++ {
		p := r3.Sub(w[n], a)
		if square > 0 {
			p = r3.Sub(p, r3.Scale(math.Min(math.Max(r3.Dot(p, along)/square, 0), 1), along))
		}
		if d := r3.Norm(p); d > far {
			far, at = d, n
		}
	}
	if far <= tolerance {
		return Way{a, b}
	}
	return append(w[:at+1:at+1].Thinned(tolerance), w[at:].Thinned(tolerance)[1:]...)
}

// Length of the way, mm.
func (w Way) Length() float64 {
	sum := 0.0
	for n := 1; n < len(w); n++ {
		sum += r3.Norm(r3.Sub(w[n], w[n-1]))
	}
	return sum
}

// Plunge is one way straight in from above, among the useful samples: where the bur gets
// deepest or, where ways are nearly as deep, where cost (of a foot) is least; none where it
// cannot come straight in.
func (s *Stands) Plunge(useful []bool, cost func(foot r3.Vec) float64) []Way {
	const nearly = 0.15 // mm less deep
	layer := s.N[0] * s.N[1]
	straight := func(c int, from float64) bool {
		for k := s.N[2] - 1; k >= 0 && s.Point(0, 0, k).Z >= from; k-- {
			if !s.Allowed[k*layer+c] {
				return false
			}
		}
		return true
	}
	floor := s.floorOf(useful)
	deepest := math.Inf(1)
	var feet []r3.Vec
	for c, z := range floor {
		if !math.IsInf(z, 1) && straight(c, z) {
			foot := s.Point(c%s.N[0], c/s.N[0], 0)
			foot.Z = z
			feet, deepest = append(feet, foot), math.Min(deepest, z)
		}
	}
	least, best := math.Inf(1), -1
	for n, foot := range feet {
		if foot.Z > deepest+nearly {
			continue
		}
		if own := cost(foot); own < least {
			least, best = own, n
		}
	}
	if best < 0 {
		return nil
	}
	down := feet[best]
	top, _ := s.layersOf(useful)
	down.Z = s.Point(0, 0, top).Z
	return []Way{{down, feet[best]}}
}
