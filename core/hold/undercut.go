package hold

import (
	"cmp"
	"math"
	"slices"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/parallel"
	"obturon/core/solid"
)

// Undercut is how far (mm) the tooth stands over a filling that is pulled one way: how far
// it would have to give way sideways, with the place of the wall that is held most. Moves
// is how far the filling goes before a wall stops it, infinite where none does.
type Undercut struct {
	Depth, Moves float64
	At           r3.Vec
}

// UndercutOf pulls a filling within walls along a unit vector out of a tooth, whose distance
// (mm) is negative within it, for as far as travel (mm).
func UndercutOf(walls []Wall, tooth func(r3.Vec) float64, along r3.Vec, travel float64) Undercut {
	const stops = 0.02 // mm into the tooth that stops a filling: what a wall's noise comes to
	ways := make([]swept, len(walls))
	parallel.Each(len(walls), func(n int) { ways[n] = sweep(&walls[n], tooth, along, travel, stops) })
	u := Undercut{Moves: math.Inf(1)}
	for n := range ways {
		u.Moves = math.Min(u.Moves, ways[n].moves)
	}
	// The deepest first: most of the others are soon known to be held less.
	order := make([]int, len(walls))
	for n := range order {
		order[n] = n
	}
	slices.SortStableFunc(order, func(a, b int) int { return cmp.Compare(ways[b].depth, ways[a].depth) })
	e1, e2 := solid.Across(along)
	for _, n := range order {
		if ways[n].depth <= 0 {
			break
		}
		for _, p := range []r3.Vec{ways[n].deepest, ways[n].last} {
			if d := aside(tooth, p, e1, e2, u.Depth); d > u.Depth {
				u.Depth, u.At = d, walls[n].At
			}
		}
	}
	return u
}

// swept is the way of one place of a filling: how deep it comes to lie within the tooth,
// where, where it lies there last, and how far (mm) it goes before.
type swept struct {
	depth, moves  float64
	deepest, last r3.Vec
}

func sweep(w *Wall, tooth func(r3.Vec) float64, along r3.Vec, travel, stops float64) swept {
	const inset, step = 0.01, 0.1 // mm off the wall, where the filling begins; mm between looks
	s := swept{moves: math.Inf(1)}
	from := r3.Add(w.At, r3.Scale(inset, w.Normal))
	for t := step; t <= travel; {
		p := r3.Add(from, r3.Scale(t, along))
		d := tooth(p)
		if -d > s.depth {
			s.depth, s.deepest = -d, p
		}
		if d < 0 {
			s.last = p
		}
		if d < -stops {
			s.moves = math.Min(s.moves, t-step)
		}
		t += math.Max(d, step) // nothing stands nearer than d
	}
	return s
}

// aside is how far (mm) it is from a place within the tooth to free space, square to the way
// that e1 and e2 stand across; something up to enough as soon as it is that little.
func aside(tooth func(r3.Vec) float64, p, e1, e2 r3.Vec, enough float64) float64 {
	const around, least, far = 16, 0.01, 3.0 // ways looked; mm a look goes on by at least, and ends at
	nearest := far
	for n := range around {
		sin, cos := math.Sincos(2 * math.Pi * float64(n) / around)
		way := r3.Add(r3.Scale(cos, e1), r3.Scale(sin, e2))
		before := 0.0
		for at := 0.0; at < nearest; {
			d := tooth(r3.Add(p, r3.Scale(at, way)))
			if d >= 0 {
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

// TippingOf is how far (mm) walls stand in the way of a filling that turns a little about a
// line through pivot along a unit vector, its place that moves furthest by moved (mm): 0
// where none does.
func TippingOf(walls []Wall, pivot, about r3.Vec, moved float64) (mm float64, at r3.Vec) {
	furthest := 0.0
	for _, w := range walls {
		furthest = math.Max(furthest, r3.Norm(r3.Cross(about, r3.Sub(w.At, pivot))))
	}
	if furthest == 0 {
		return 0, pivot
	}
	for _, w := range walls {
		by := r3.Scale(moved/furthest, r3.Cross(about, r3.Sub(w.At, pivot)))
		if d := -r3.Dot(w.Normal, by); d > mm {
			mm, at = d, w.At
		}
	}
	return mm, at
}
