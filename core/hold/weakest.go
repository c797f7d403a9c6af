package hold

import (
	"cmp"
	"math"
	"slices"

	"gonum.org/v1/gonum/spatial/r3"
)

// Weakest is the straight pull against which the tooth stands over the filling least. Of the
// way that the walls let go best, the way out (a unit vector) and some two hundred within a
// right angle of it, those that the walls bar least are pulled.
func (b *Bed) Weakest(tooth func(r3.Vec) float64, out r3.Vec, travel float64) (along r3.Vec, u Undercut) {
	const pulled, every, widest = 10, 6, -0.01 // of ways; of those tried; cosine of a right angle
	type way struct {
		along  r3.Vec
		barred float64
	}
	candidates := []way{{along: b.Release().Along}, {along: out}}
	for n := 0; n < len(tries); n += every {
		if r3.Dot(tries[n], out) > widest {
			candidates = append(candidates, way{along: tries[n]})
		}
	}
	for n := range candidates {
		for _, f := range b.facings() {
			candidates[n].barred = math.Max(candidates[n].barred, -r3.Dot(f.normal, candidates[n].along))
		}
	}
	slices.SortStableFunc(candidates, func(a, b way) int { return cmp.Compare(a.barred, b.barred) })
	u.Depth = math.Inf(1)
	for _, c := range candidates[:min(pulled, len(candidates))] {
		if one := b.Undercut(tooth, c.along, travel); one.Depth < u.Depth {
			along, u = c.along, one
		}
	}
	return along, u
}
