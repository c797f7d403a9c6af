package hold

import (
	"math"
	"slices"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/solid"
)

// Twist is a small motion of a filling: how its middle moves and how it turns, the turn
// measured at the place furthest off its middle. The greatest of the six figures is 1.
type Twist struct{ Move, Turn r3.Vec }

// Freedom is whether a filling can leave by any small motion, turned or not.
type Freedom struct {
	// Locked tells that each motion runs into a wall, by Least at the least (of a motion
	// of 1; under 0 or at it where there is a free one).
	Locked bool
	Least  float64
	// Free is a motion that no wall stands against, where there is one.
	Free Twist
	// Middle is what Free's turn is about, Reach (mm) how far off the furthest wall is.
	Middle r3.Vec
	Reach  float64
}

// lockedBy is what the walls have to stand in the way of a motion of 1 to lock it: less is
// what noise of the walls comes to (1.1 degrees).
const lockedBy = 0.02

// Freedom of a filling. A turn about the axis given alone is
// passed over: a round filling may spin in its place.
func (b *Bed) Freedom(axis r3.Vec) Freedom {
	walls := b.Walls
	f := Freedom{Least: math.Inf(1)}
	total := 0.0
	for _, w := range walls {
		f.Middle, total = r3.Add(f.Middle, r3.Scale(w.Area, w.At)), total+w.Area
	}
	if total == 0 {
		return Freedom{Least: math.Inf(-1)} // nothing stands in any way
	}
	f.Middle = r3.Scale(1/total, f.Middle)
	for _, w := range walls {
		f.Reach = math.Max(f.Reach, r3.Norm(r3.Sub(w.At, f.Middle)))
	}
	rows := f.rows(b)
	for _, way := range []float64{1, -1} {
		if standing(rows, Twist{Turn: r3.Scale(way, axis)}.figures()) < lockedBy {
			rows = append(rows, noSpin(axis)...)
			break
		}
	}
	// Every motion has a figure that is greatest: each is made 1 in turn.
	for face := range 12 {
		fixed, at := face/2, 1-2*float64(face%2)
		x, ok := slackest(rows, fixed, at)
		if ok && x[5] < f.Least {
			f.Least = x[5]
			t := slices.Insert(x[:5:5], fixed, at)
			f.Free = Twist{Move: r3.Vec{X: t[0], Y: t[1], Z: t[2]}, Turn: r3.Vec{X: t[3], Y: t[4], Z: t[5]}}
		}
	}
	f.Locked = f.Least > lockedBy
	return f
}

// slackest is the motion that walls stand against least, one of its figures being at 1 or
// -1, without that figure, and by how much they do; ok is false where none is possible. Few
// of the rows decide: those that what is found so far breaks most are taken in one by one.
func slackest(rows []constraint, fixed int, at float64) (x []float64, ok bool) {
	left := make([]constraint, len(rows))
	for n, r := range rows {
		left[n] = constraint{without(r.a, fixed), r.b - at*r.a[fixed]}
	}
	cost := []float64{0, 0, 0, 0, 0, 1}
	low, high := []float64{-1, -1, -1, -1, -1, -2}, []float64{1, 1, 1, 1, 1, 2}
	var deciding []constraint
	for range len(rows) + 1 {
		if x, ok = lowest(cost, low, high, deciding); !ok {
			break
		}
		n := mostBroken(left, x)
		if n < 0 {
			break
		}
		deciding = slices.Insert(deciding, 0, left[n]) // what decides last is likeliest to decide
	}
	return x, ok
}

// figures are the six of a twist.
func (t Twist) figures() []float64 {
	return []float64{t.Move.X, t.Move.Y, t.Move.Z, t.Turn.X, t.Turn.Y, t.Turn.Z, 0}
}

// standing is how much walls stand in the way of a motion.
func standing(rows []constraint, figures []float64) float64 {
	most := math.Inf(-1)
	for _, r := range rows {
		most = math.Max(most, dot(r.a, figures))
	}
	return most
}

// noSpin leaves out all turning about an axis.
func noSpin(axis r3.Vec) []constraint {
	return []constraint{
		{a: []float64{0, 0, 0, axis.X, axis.Y, axis.Z, 0}},
		{a: []float64{0, 0, 0, -axis.X, -axis.Y, -axis.Z, 0}},
	}
}

// rows are what the walls say: that no place of them moves into the tooth by more than the
// seventh variable, -(n·move + (p × n)·turn) <= s. Of the walls that look one way the
// outermost places say it all.
func (f *Freedom) rows(b *Bed) []constraint {
	const around = 16
	var rows []constraint
	for _, facing := range b.facings() {
		e1, e2 := solid.Across(facing.normal)
		outermost := map[int]bool{}
		for n := range around {
			sin, cos := math.Sincos(2 * math.Pi * float64(n) / around)
			way := r3.Add(r3.Scale(cos, e1), r3.Scale(sin, e2))
			best, far := -1, math.Inf(-1)
			for _, k := range facing.walls {
				if d := r3.Dot(b.Walls[k].At, way); d > far {
					best, far = k, d
				}
			}
			if outermost[best] {
				continue
			}
			outermost[best] = true
			turn := r3.Cross(r3.Scale(1/f.Reach, r3.Sub(b.Walls[best].At, f.Middle)), facing.normal)
			n := facing.normal
			rows = append(rows, constraint{a: []float64{-n.X, -n.Y, -n.Z, -turn.X, -turn.Y, -turn.Z, -1}})
		}
	}
	return rows
}
