package reach

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"
)

// Settle moves each place of some ways to where the bur enters least close by, and leaves
// out those where it still enters by more than most (mm): in a groove just as wide as its
// bur hardly a sample of the lattice lies on the line that its tip has to follow.
func (s *Stands) Settle(ways []Way, most float64) []Way {
	var settled []Way
	for _, w := range ways {
		var run Way
		for _, p := range w.filled(s.H) {
			at, enters := s.settled(p)
			if enters <= most {
				run = append(run, at)
				continue
			}
			if len(run) > 0 {
				settled = append(settled, run.Thinned(chord))
			}
			run = nil
		}
		if len(run) > 0 {
			settled = append(settled, run.Thinned(chord))
		}
	}
	return settled
}

// settled is where the bur enters least within a step of a place, and by how much.
func (s *Stands) settled(p r3.Vec) (at r3.Vec, enters float64) {
	const finest = 0.01 // mm
	at, enters = p, s.entersAt(p, math.Inf(1))
	for step := s.H / 2; step >= finest; {
		moved := false
		for _, by := range [6]r3.Vec{{X: step}, {X: -step}, {Y: step}, {Y: -step}, {Z: step}, {Z: -step}} {
			next := r3.Add(at, by)
			if r3.Norm(r3.Sub(next, p)) > s.H {
				continue
			}
			if e := s.entersAt(next, enters); e < enters-1e-4 {
				at, enters, moved = next, e, true
			}
		}
		if !moved {
			step /= 2
		}
	}
	return at, enters
}

// filled adds places so that none lie further apart than step.
func (w Way) filled(step float64) Way {
	if len(w) == 0 {
		return nil
	}
	full := Way{w[0]}
	for n := 1; n < len(w); n++ {
		way := r3.Sub(w[n], w[n-1])
		pieces := max(1, int(math.Ceil(r3.Norm(way)/step)))
		for i := 1; i <= pieces; i++ {
			full = append(full, r3.Add(w[n-1], r3.Scale(float64(i)/float64(pieces), way)))
		}
	}
	return full
}
