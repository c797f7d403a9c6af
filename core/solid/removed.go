package solid

import (
	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/parallel"
)

// Volumes is how much was cut away, mm³: in all, and inside a tissue's border.
type Volumes struct{ Total, Inside float64 }

// Removed measures by samples what the cuts took from the blank. tissue is
// negative inside the tissue that is counted apart; it may be nil.
func (w *Workpiece) Removed(tissue func(r3.Vec) float64) Volumes {
	parts := make([]Volumes, len(w.cut))
	cell := w.H * w.H * w.H
	parallel.Each(len(w.cut), func(n int) {
		b := w.cut[n]
		if b == nil {
			return
		}
		x0, y0, z0 := w.brickOrigin(n)
		for at, tool := range b.tool {
			if tool == 0 && !b.empty {
				continue
			}
			i, j, k := x0+at%brickSide, y0+at/brickSide%brickSide, z0+at/(brickSide*brickSide)
			v := cell * (occupied(float64(w.value(i, j, k)), w.H) - occupied(float64(b.distance[at]), w.H))
			parts[n].Total += v
			if tissue != nil && v != 0 {
				parts[n].Inside += v * occupied(tissue(w.Point(i, j, k)), w.H)
			}
		}
	})
	var sum Volumes
	for _, p := range parts {
		sum.Total += p.Total
		sum.Inside += p.Inside
	}
	return sum
}

// occupied is the share of a cell h wide that lies inside a surface.
func occupied(distance, h float64) float64 { return min(max(0.5-distance/h, 0), 1) }
