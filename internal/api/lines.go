package api

import (
	"math"

	"github.com/paulmach/orb"
	"github.com/paulmach/orb/simplify"

	"obturon/core/solid"
)

// withoutLoss (mm) is how far a line may run off the points that are left out of
// it: a tenth of what a screen shows.
const withoutLoss = 0.0045

// lineAnswer packs a line for the wire: the points that shape it, as steps.
func lineAnswer(points []solid.Point2, closed bool) Line {
	return coarseLine(points, closed, withoutLoss)
}

// coarseLine packs a line that may run so far (mm) off what it leaves out.
func coarseLine(points []solid.Point2, closed bool, off float64) Line {
	drawn := make(orb.LineString, len(points))
	for n, p := range points {
		drawn[n] = orb.Point{p.X, p.Y}
	}
	drawn = simplify.DouglasPeucker(off).LineString(drawn)
	l := Line{Closed: closed, Steps: make([]int, 0, 2*len(drawn))}
	var x, y int
	for _, p := range drawn {
		toX, toY := int(math.Round(1000*p.X())), int(math.Round(1000*p.Y()))
		l.Steps = append(l.Steps, toX-x, toY-y)
		x, y = toX, toY
	}
	return l
}
