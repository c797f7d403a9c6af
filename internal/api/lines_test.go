package api

import (
	"math"
	"testing"

	"obturon/core/solid"
)

// A packed line passes within a hundredth of a millimetre of every point it had.
func TestLinesKeepTheirShapeOnTheWire(t *testing.T) {
	var circle, straight []solid.Point2
	for n := range 400 {
		a := 2 * math.Pi * float64(n) / 400
		circle = append(circle, solid.Point2{X: 1 + 4*math.Cos(a), Y: -2 + 3*math.Sin(a)})
		straight = append(straight, solid.Point2{X: float64(n) / 40, Y: float64(n) / 80})
	}
	for name, k := range map[string]struct {
		points []solid.Point2
		most   int
	}{"circle": {circle, 150}, "straight": {straight, 2}, "a point": {circle[:1], 1}, "none": {nil, 0}} {
		line := lineAnswer(k.points, name == "circle")
		if len(line.Steps) > 2*k.most || line.Closed != (name == "circle") {
			t.Errorf("%s: %d figures", name, len(line.Steps))
		}
		var drawn []solid.Point2
		x, y := 0.0, 0.0
		for n := 0; n < len(line.Steps); n += 2 {
			x, y = x+float64(line.Steps[n])/1000, y+float64(line.Steps[n+1])/1000
			drawn = append(drawn, solid.Point2{X: x, Y: y})
		}
		for _, p := range k.points {
			if off := distanceToLine(p, drawn); off > 0.0055 {
				t.Errorf("%s: %v lies %.4f mm off the line", name, p, off)
			}
		}
	}
}

func distanceToLine(p solid.Point2, line []solid.Point2) float64 {
	least := math.Inf(1)
	for n := range line {
		a, b := line[n], line[(n+1)%len(line)]
		dx, dy := b.X-a.X, b.Y-a.Y
		along := 0.0
		if size := dx*dx + dy*dy; size > 0 {
			along = math.Min(math.Max(((p.X-a.X)*dx+(p.Y-a.Y)*dy)/size, 0), 1)
		}
		least = math.Min(least, math.Hypot(p.X-a.X-along*dx, p.Y-a.Y-along*dy))
	}
	return least
}
