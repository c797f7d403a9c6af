// Package reach finds where a bur or a blade may stand in a cavity that is still to be cut, and
// what it takes from there. It knows lengths only: fields of distances sampled in the
// bur's frame, whose z points out of the tooth, and heads as balls that fill them.
//
// A bur may stand where its head enters nothing that must stay by more than is allowed,
// and where it can be brought to from outside without doing so on the way.
package reach

import (
	"math"
	"slices"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/instrument"
	"obturon/core/parallel"
	"obturon/core/solid"
)

// barred (mm) stands where nobody looks.
const barred = 5.0

// FillingTolerance (mm) is how much of a head's surface its balls may miss.
const FillingTolerance = 0.012

// Tool is a head or a blade, as balls that fill it; lengths are millimetres.
type Tool interface {
	Balls(tolerance float64) []instrument.Ball
	// Extent is how far it goes off its axis, and how far up from its tip.
	Extent() (radius, length float64)
	// Neck is the radius of what joins it to its shank.
	Neck() float64
}

// Stands is where the tip of a bur may stand, on the lattice of the obstacles' field.
type Stands struct {
	solid.Grid
	// Enters is how deep (mm) the bur enters what must stay with its tip at a sample.
	// It is exact where the bur may stand and one step beyond, a lower bound elsewhere.
	Enters []float32
	// Allowed are the samples that can be come to from above.
	Allowed []bool
	// Overcut (mm) is what the bur may enter what must stay by.
	Overcut float64
	Tool    Tool
	Axis    r3.Vec   // from the tip to the shank, a unit vector
	bundles []bundle // of the head, then of its neck
	ofHead  int      // how many of them are the head's
	whole   tap      // about the whole head

	obstacles *solid.Dense
}

// bundle is a few taps with one about them all: where that is clear of what is looked
// for, none of them needs to be read.
type bundle struct {
	about  tap
	lowest int // how many samples over the tip the lowest tap reads
	taps   []tap
	within int // how many of the bundles that follow lie in the ball about this one
}

// tap reads a field on a lattice at a fixed offset from a sample, by trilinear
// interpolation.
type tap struct {
	offset     r3.Vec // mm
	di, dj, dk int    // of the lower corner of the cell
	weight     [8]float32
	radius     float32
}

func newTap(offset r3.Vec, radius, h float64) tap {
	t := tap{offset: offset, radius: float32(radius)}
	var f [3]float64
	for n, v := range [3]float64{offset.X / h, offset.Y / h, offset.Z / h} {
		low := math.Floor(v)
		f[n] = v - low
		*[3]*int{&t.di, &t.dj, &t.dk}[n] = int(low)
	}
	for c := range t.weight {
		w := 1.0
		for n := range 3 {
			if c>>n&1 == 1 {
				w *= f[n]
			} else {
				w *= 1 - f[n]
			}
		}
		t.weight[c] = float32(w)
	}
	return t
}

// ofHead are the taps of a head's balls: some along the axis, and each ring in arcs.
func ofHead(head Tool, axis r3.Vec, h float64) []bundle {
	const onAxis, onArc = 3, 8 // balls in a bundle
	e1, e2 := solid.Across(axis)
	var bundles []bundle
	balls := head.Balls(FillingTolerance)
	for len(balls) > 0 {
		first := balls[0]
		n := 1
		for n < len(balls) && (balls[n].Off == 0) == (first.Off == 0) && (first.Off == 0 || balls[n].Height == first.Height) {
			n++
		}
		var own []tap
		for _, b := range balls[:n] {
			sin, cos := math.Sincos(b.Turn)
			own = append(own, newTap(r3.Add(r3.Scale(b.Height, axis), r3.Scale(b.Off, r3.Add(r3.Scale(cos, e1), r3.Scale(sin, e2)))), b.Radius, h))
		}
		balls = balls[n:]
		if first.Off == 0 {
			for part := range slices.Chunk(own, onAxis) {
				bundles = append(bundles, newBundle(part, h))
			}
			continue
		}
		ring := newBundle(own, h)
		ring.taps, ring.within = nil, (n+onArc-1)/onArc
		bundles = append(bundles, ring)
		for part := range slices.Chunk(own, onArc) {
			bundles = append(bundles, newBundle(part, h))
		}
	}
	return bundles
}

// ofNeck are the taps of what joins head and shank.
func ofNeck(head Tool, axis r3.Vec, h float64) []bundle {
	const apart, perBundle = 0.3, 6 // mm
	var bundles []bundle
	_, from := head.Extent()
	for z := from; z < instrument.ShankFrom; {
		var own []tap
		for ; len(own) < perBundle && z < instrument.ShankFrom; z += apart {
			own = append(own, newTap(r3.Scale(z, axis), head.Neck(), h))
		}
		bundles = append(bundles, newBundle(own, h))
	}
	return bundles
}

// newBundle lays a ball about some taps.
func newBundle(taps []tap, h float64) bundle {
	var middle r3.Vec
	for _, t := range taps {
		middle = r3.Add(middle, r3.Scale(1/float64(len(taps)), t.offset))
	}
	reach := 0.0
	for _, t := range taps {
		reach = math.Max(reach, r3.Norm(r3.Sub(t.offset, middle))+float64(t.radius))
	}
	lowest := taps[0].dk
	for _, t := range taps {
		lowest = min(lowest, t.dk)
	}
	return bundle{about: newTap(middle, reach, h), taps: taps, lowest: lowest}
}

// read is the field at the tap of sample (i, j, k), beside and under the lattice that of
// its border; ok is false above it, where nothing is in the way.
func (t *tap) read(g *solid.Grid, values []float32, i, j, k int) (v float32, ok bool) {
	i, j, k = min(max(i+t.di, 0), g.N[0]-2), min(max(j+t.dj, 0), g.N[1]-2), max(k+t.dk, 0)
	if k >= g.N[2]-1 {
		return 0, false
	}
	dy, dz := g.N[0], g.N[0]*g.N[1]
	at := k*dz + j*dy + i
	low, high := values[at:at+dy+2], values[at+dz:at+dz+dy+2]
	w := &t.weight
	return w[0]*low[0] + w[1]*low[1] + w[2]*low[dy] + w[3]*low[dy+1] +
		w[4]*high[0] + w[5]*high[1] + w[6]*high[dy] + w[7]*high[dy+1], true
}

// Where finds where a bur may stand, its shank along a unit vector, among obstacles: a
// field of exact distances (mm) to all that must stay, positive outside it. The lattice
// has to reach past all that is cut by the head's radius, and above the tooth. Only what
// lies in the box about what has to go is looked at to be touched, and the way to it from
// above.
func Where(obstacles *solid.Dense, head Tool, axis r3.Vec, overcut float64, about solid.Box) *Stands {
	radius, length := head.Extent()
	own := ofHead(head, axis, obstacles.H)
	s := &Stands{
		Grid: obstacles.Grid, Enters: make([]float32, obstacles.Len()), Overcut: overcut, Tool: head, Axis: axis, obstacles: obstacles,
		bundles: append(own, ofNeck(head, axis, obstacles.H)...), ofHead: len(own),
		whole: newTap(r3.Scale(length/2, axis), math.Hypot(length/2, radius), obstacles.H),
	}
	for n := range s.Enters {
		s.Enters[n] = barred
	}
	from, to := s.touching(about)
	to[2] = s.N[2]
	s.eachIn(from, to, func(n, i, j, k int) { s.Enters[n] = s.enters(i, j, k, float32(overcut)) })
	s.flood()
	s.makeExactBeside()
	return s
}

func (s *Stands) eachSample(visit func(n, i, j, k int)) { s.eachIn([3]int{}, s.N, visit) }

// eachIn visits the samples from some on up to some, which are left out.
func (s *Stands) eachIn(from, to [3]int, visit func(n, i, j, k int)) {
	parallel.Each(max(to[2]-from[2], 0), func(layer int) {
		k := from[2] + layer
		for j := from[1]; j < to[1]; j++ {
			n := s.Index(0, j, k)
			for i := from[0]; i < to[0]; i++ {
				visit(n+i, i, j, k)
			}
		}
	})
}

// enters is how deep the bur enters the obstacles; it stops at the first ball that
// enters by more than enough.
func (s *Stands) enters(i, j, k int, enough float32) float32 {
	most := float32(math.Inf(-1))
	clear := func(about *tap) bool {
		v, ok := about.read(&s.Grid, s.obstacles.Values, i, j, k)
		bound := about.radius - v
		if !ok || bound > max(most, -2*float32(s.H)) {
			return false
		}
		most = max(most, bound) // further off than a step, no sample beside can be forbidden
		return true
	}
	first := 0
	if clear(&s.whole) {
		first = s.ofHead
	}
	for n := first; n < len(s.bundles); n++ {
		b := &s.bundles[n]
		if k+b.lowest >= s.N[2]-1 { // nothing is in the way above the lattice
			continue
		}
		if clear(&b.about) {
			n += b.within
			continue
		}
		for m := range b.taps {
			t := &b.taps[m]
			if v, ok := t.read(&s.Grid, s.obstacles.Values, i, j, k); ok && t.radius-v > most {
				if most = t.radius - v; most > enough {
					return most
				}
			}
		}
	}
	return most
}

// entersAt is how deep (mm) the bur enters the obstacles with its tip anywhere on the
// lattice; it stops at the first ball that enters by more than enough.
func (s *Stands) entersAt(tip r3.Vec, enough float64) float64 {
	most := math.Inf(-1)
	top := s.Point(0, 0, s.N[2]-1).Z
	for n := range s.bundles {
		for m := range s.bundles[n].taps {
			t := &s.bundles[n].taps[m]
			if at := r3.Add(tip, t.offset); at.Z < top {
				if most = math.Max(most, float64(t.radius)-s.obstacles.Distance(at)); most > enough {
					return most
				}
			}
		}
	}
	return most
}

// flood keeps the free samples that hang together with the uppermost layer.
func (s *Stands) flood() {
	s.Allowed = make([]bool, s.Len())
	free := func(n int) bool { return s.Enters[n] <= float32(s.Overcut) && !s.Allowed[n] }
	var open []int32
	enter := func(n int) {
		if free(n) {
			s.Allowed[n] = true
			open = append(open, int32(n))
		}
	}
	layer := s.N[0] * s.N[1]
	for n := s.Len() - layer; n < s.Len(); n++ {
		enter(n)
	}
	for len(open) > 0 {
		n := int(open[len(open)-1])
		open = open[:len(open)-1]
		i, j, k := n%s.N[0], n/s.N[0]%s.N[1], n/layer
		if i > 0 {
			enter(n - 1)
		}
		if i < s.N[0]-1 {
			enter(n + 1)
		}
		if j > 0 {
			enter(n - s.N[0])
		}
		if j < s.N[1]-1 {
			enter(n + s.N[0])
		}
		if k > 0 {
			enter(n - layer)
		}
		if k < s.N[2]-1 {
			enter(n + layer)
		}
	}
}

// makeExactBeside works out how deep the bur enters where that is read between a sample
// where it may stand and one where it may not.
func (s *Stands) makeExactBeside() {
	s.eachSample(func(n, i, j, k int) {
		if !s.Allowed[n] && s.besideAllowed(n, i, j, k) {
			s.Enters[n] = s.enters(i, j, k, float32(math.Inf(1)))
		}
	})
}

// besideAllowed reports a sample next to one where the bur may stand, along an axis of the
// lattice: only between those is the border looked for.
func (s *Stands) besideAllowed(n, i, j, k int) bool {
	row, layer := s.N[0], s.N[0]*s.N[1]
	return i > 0 && s.Allowed[n-1] || i < s.N[0]-1 && s.Allowed[n+1] ||
		j > 0 && s.Allowed[n-row] || j < s.N[1]-1 && s.Allowed[n+row] ||
		k > 0 && s.Allowed[n-layer] || k < s.N[2]-1 && s.Allowed[n+layer]
}

// border lists the places where the bur only just may stand, between the samples.
func (s *Stands) border() []r3.Vec {
	layers := make([][]r3.Vec, s.N[2])
	step := [3]int{1, s.N[0], s.N[0] * s.N[1]}
	parallel.Each(s.N[2], func(k int) {
		for j := range s.N[1] {
			for i := range s.N[0] {
				n := s.Index(i, j, k)
				for axis, at := range [3]int{i, j, k} {
					if at == s.N[axis]-1 {
						continue
					}
					m := n + step[axis]
					if s.Allowed[n] == s.Allowed[m] {
						continue
					}
					p := s.Point(i, j, k)
					share := 0.5
					if a, b := float64(s.Enters[n])-s.Overcut, float64(s.Enters[m])-s.Overcut; a*b < 0 {
						share = a / (a - b)
					}
					switch axis {
					case 0:
						p.X += share * s.H
					case 1:
						p.Y += share * s.H
					default:
						p.Z += share * s.H
					}
					layers[k] = append(layers[k], p)
				}
			}
		}
	})
	var all []r3.Vec
	for _, l := range layers {
		all = append(all, l...)
	}
	return all
}
