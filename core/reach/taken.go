package reach

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/solid"
)

// Beyond is how far (mm) each of the wanted samples lies beyond what the bur reaches from
// all places where it may stand: negative where it is taken. Other samples hold +Inf.
func (s *Stands) Beyond(wanted func(n int) bool) []float32 {
	radius, _ := s.Tool.Extent()
	far := s.fromAllowed(radius + 2*s.H)
	away := ofHead(s.Tool, r3.Scale(-1, s.Axis), s.H) // from a place to the tips with a ball's middle there
	beyond := make([]float32, s.Len())
	s.eachSample(func(n, i, j, k int) {
		beyond[n] = float32(math.Inf(1))
		if !wanted(n) {
			return
		}
		for b := 0; b < len(away); b++ {
			if v, ok := away[b].about.read(&s.Grid, far, i, j, k); ok && v-away[b].about.radius >= beyond[n] {
				b += away[b].within
				continue
			}
			for t := range away[b].taps {
				tap := &away[b].taps[t]
				if v, ok := tap.read(&s.Grid, far, i, j, k); ok && v-tap.radius < beyond[n] {
					if beyond[n] = v - tap.radius; beyond[n] < -float32(s.H) {
						return
					}
				}
			}
		}
	})
	return beyond
}

// fromAllowed is the distance (mm) to the places where the bur may stand, as far as
// reach; what lies further holds reach.
func (s *Stands) fromAllowed(reach float64) []float32 {
	return solid.DistancesWithin(s.Grid, s.border(), func(n int) bool { return s.Allowed[n] }, reach)
}
