package solid

import "obturon/core/parallel"

// Closed fills what a disc of the given radius (mm) cannot reach from above:
// valleys narrower than it, but no slope that is wider.
func (s *Sheet) Closed(radius float64) *Sheet {
	reach := int(radius / s.H)
	half := make([]int, 2*reach+1) // samples to either side, by row of the disc
	for j := range half {
		for (half[j]+1)*(half[j]+1)+(j-reach)*(j-reach) <= reach*reach {
			half[j]++
		}
	}
	pass := func(in *Sheet, keep func(a, b float32) float32) *Sheet {
		out := in.Like()
		parallel.Each(in.NY, func(j int) {
			for i := range in.NX {
				v := in.Values[j*in.NX+i]
				for dj, h := range half {
					row := min(max(j+dj-reach, 0), in.NY-1) * in.NX
					for _, w := range in.Values[row+max(i-h, 0) : row+min(i+h, in.NX-1)+1] {
						v = keep(v, w)
					}
				}
				out.Values[j*in.NX+i] = v
			}
		})
		return out
	}
	higher := func(a, b float32) float32 { return max(a, b) }
	lower := func(a, b float32) float32 { return min(a, b) }
	return pass(pass(s, higher), lower)
}
