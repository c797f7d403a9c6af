package hold

import (
	"cmp"
	"math"
	"slices"
	"sync/atomic"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/parallel"
	"obturon/core/solid"
)

// Undercut is how far (mm) the tooth stands over a filling that is pulled one way: how far
// it would have to give way sideways, with the place of the wall that is held most. Moves
// is how far the filling goes before a wall stops it, infinite where none does. Feature is of
// the wall at At.
type Undercut struct {
	Depth, Moves float64
	At           r3.Vec
	Feature      uint16
}

// MostUndercut is the most (mm) that an undercut is measured to: no filling leaves past so
// much.
const MostUndercut = 0.5

// Undercut pulls a filling along a unit vector out of a tooth, whose distance
// (mm) is negative within it, for as far as travel (mm).
func (b *Bed) Undercut(tooth func(r3.Vec) float64, along r3.Vec, travel float64) Undercut {
	// A place that the filling draws away from runs into nothing that others do not before.
	const drawnFrom = 0.3 // of n·along
	walls := slices.DeleteFunc(slices.Clone(b.Walls), func(w Wall) bool { return r3.Dot(w.Normal, along) > drawnFrom })
	slices.SortStableFunc(walls, func(a, b Wall) int { return cmp.Compare(r3.Dot(a.Normal, along), r3.Dot(b.Normal, along)) })
	// Where walls face the pull squarely, they hold it and stop it by themselves.
	const squarest = 64
	if u := undercut(walls[:min(squarest, len(walls))], tooth, along, travel); u.Depth >= MostUndercut {
		return u
	}
	return undercut(walls, tooth, along, travel)
}

// undercut is that of some walls, in the order of how squarely they face the pull.
func undercut(walls []Wall, tooth func(r3.Vec) float64, along r3.Vec, travel float64) Undercut {
	ways := make([]swept, len(walls))
	parallel.Each(len(walls), func(n int) { ways[n] = sweep(&walls[n], tooth, along, travel) })
	u := Undercut{Moves: math.Inf(1)}
	var deciding []int
	deepest := 0.0
	for n := range ways {
		u.Moves, deepest = math.Min(u.Moves, ways[n].moves), math.Max(deepest, ways[n].depth)
	}
	for n := range ways {
		if ways[n].depth > worth*deepest {
			deciding = append(deciding, n)
		}
	}
	// The deepest first: most of the others are soon known to be held less.
	slices.SortStableFunc(deciding, func(a, b int) int { return cmp.Compare(ways[b].depth, ways[a].depth) })
	e1, e2 := solid.Across(along)
	asides := make([]float64, len(deciding))
	var most atomic.Uint64 // bits of the most yet: positive floats are in the order of their bits
	parallel.Each(len(deciding), func(n int) {
		enough := most.Load()
		asides[n] = ways[deciding[n]].aside(tooth, along, e1, e2, math.Float64frombits(enough))
		for now := math.Float64bits(asides[n]); now > enough && !most.CompareAndSwap(enough, now); {
			enough = most.Load()
		}
	})
	for n, d := range asides {
		if w := walls[deciding[n]]; d > u.Depth {
			u.Depth, u.At, u.Feature = d, w.At, w.Feature
		}
	}
	if u.Depth >= MostUndercut {
		// Much stands in the way alike: the wall that faces it squarely is named.
		n := slices.Min(deciding)
		u.At, u.Feature = walls[n].At, walls[n].Feature
	}
	return u
}

// Standing is how deep (mm) each wall's place comes to lie within the tooth as a filling is
// pulled along a unit vector for as far as travel (mm): where the tooth stands over it.
func (b *Bed) Standing(tooth func(r3.Vec) float64, along r3.Vec, travel float64) []float64 {
	depths := make([]float64, len(b.Walls))
	parallel.Each(len(b.Walls), func(n int) { depths[n] = sweep(&b.Walls[n], tooth, along, travel).depth })
	return depths
}

// swept is the way of one place of a filling: where it begins, how deep it comes to lie
// within the tooth, how far (mm) it goes before, and from where to where it may lie there.
type swept struct {
	from                      r3.Vec
	depth, moves, first, last float64
}

const (
	stride = 0.3  // mm between looks
	worth  = 0.5  // of what is known to be aside, that a place must lie deep to be further aside
	stops  = 0.02 // mm into the tooth that stops a filling: what a wall's noise comes to
)

func sweep(w *Wall, tooth func(r3.Vec) float64, along r3.Vec, travel float64) swept {
	const inset = 0.01 // mm off the wall, where the filling begins
	s := swept{moves: math.Inf(1), from: r3.Add(w.At, r3.Scale(inset, w.Normal))}
	before, at := inset, 0.0
	for t := stride; t <= travel; {
		d := tooth(r3.Add(s.from, r3.Scale(t, along)))
		if d < 0 {
			if s.depth == 0 {
				s.first = at
			}
			s.depth, s.last = math.Max(s.depth, -d), t+stride
		}
		if d < -stops && math.IsInf(s.moves, 1) {
			s.moves = at + (t-at)*(before+stops)/(before-d)
		}
		before, at = d, t
		t += math.Max(d, stride) // nothing stands nearer than d
	}
	return s
}

// aside is the most by which the place is aside of free space on its way, 0 where that is
// no more than enough.
func (s *swept) aside(tooth func(r3.Vec) float64, along, e1, e2 r3.Vec, enough float64) float64 {
	const step = 0.1 // mm
	most := enough
	for t := s.first + step; t < s.last && most < MostUndercut; t += step {
		p := r3.Add(s.from, r3.Scale(t, along))
		if d := tooth(p); -d > worth*most {
			most = math.Max(most, aside(tooth, p, d, e1, e2, most))
		}
	}
	if most == enough {
		return 0
	}
	return most
}

// aside is how far (mm) it is from a place within the tooth to free space, square to the way
// that e1 and e2 stand across; something up to enough as soon as it is that little. Distance
// (mm, negative) is the place's from the tooth's surface.
func aside(tooth func(r3.Vec) float64, p r3.Vec, distance float64, e1, e2 r3.Vec, enough float64) float64 {
	const around, least, apart = 16, 0.01, 0.01 // ways looked; mm a look goes on by at least; mm of the slope's ends
	// The way on which the tooth thins out is looked first: it mostly ends all others.
	out := math.Atan2(tooth(r3.Add(p, r3.Scale(apart, e2)))-distance, tooth(r3.Add(p, r3.Scale(apart, e1)))-distance)
	nearest := MostUndercut
	for n := range around {
		sin, cos := math.Sincos(out + 2*math.Pi*float64(n)/around)
		way := r3.Add(r3.Scale(cos, e1), r3.Scale(sin, e2))
		before := 0.0
		for at := -distance; at < nearest; {
			d := tooth(r3.Add(p, r3.Scale(at, way)))
			if d >= 0 {
				if at <= enough {
					return at
				}
				nearest = free(tooth, p, way, before, at)
				break
			}
			before = at
			at += math.Max(-d, least)
		}
		if nearest <= enough {
			return nearest
		}
	}
	return nearest
}

// free is where between two places on a way the tooth ends.
func free(tooth func(r3.Vec) float64, p, way r3.Vec, within, beyond float64) float64 {
	const halvings = 5
	for range halvings {
		middle := (within + beyond) / 2
		if tooth(r3.Add(p, r3.Scale(middle, way))) < 0 {
			within = middle
		} else {
			beyond = middle
		}
	}
	return beyond
}

// Tipping is how far (mm) the walls stand in the way of a filling that turns a little about
// a line through pivot along a unit vector, its place that moves furthest by moved (mm): 0
// where none does. Feature is of the wall that does most.
func (b *Bed) Tipping(pivot, about r3.Vec, moved float64) (mm float64, at r3.Vec, feature uint16) {
	at = pivot
	for n, d := range b.InTheWay(pivot, about, moved) {
		if d > mm {
			mm, at, feature = d, b.Walls[n].At, b.Walls[n].Feature
		}
	}
	return mm, at, feature
}

// InTheWay is how far (mm) each wall stands in the way of the same turn, by the way that the
// walls about it look: under 0 where it does not, and of walls that are noise.
func (b *Bed) InTheWay(pivot, about r3.Vec, moved float64) []float64 {
	furthest := 0.0
	for _, w := range b.Walls {
		furthest = math.Max(furthest, r3.Norm(r3.Cross(about, r3.Sub(w.At, pivot))))
	}
	all := make([]float64, len(b.Walls))
	for _, f := range b.facings() {
		for _, n := range f.walls {
			by := r3.Scale(moved/math.Max(furthest, 1e-9), r3.Cross(about, r3.Sub(b.Walls[n].At, pivot)))
			all[n] = -r3.Dot(f.normal, by)
		}
	}
	return all
}
