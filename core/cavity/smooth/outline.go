package smooth

import (
	"math"

	"obturon/core/solid"
)

// outlineForm is a cavity's outline in the plane that touches the surface: its
// signed distance (mm), sampled once.
type outlineForm struct{ sheet *solid.Sheet }

const outlineStep = 0.06 // mm between samples

// newOutline samples an outline and reach mm around it.
func newOutline(line solid.Polyline, reach float64) outlineForm {
	low, high := extentOf(line)
	sheet := solid.NewSheet(low.X-reach, low.Y-reach, high.X+reach, high.Y+reach, outlineStep)
	return outlineForm{sheet.Fill(func(x, y float64) float64 { return fromLine(line, solid.Point2{X: x, Y: y}) })}
}

// extentOf is the rectangle about a line.
func extentOf(line solid.Polyline) (low, high solid.Point2) {
	low, high = solid.Point2{X: math.Inf(1), Y: math.Inf(1)}, solid.Point2{X: math.Inf(-1), Y: math.Inf(-1)}
	for _, p := range line.Points {
		low = solid.Point2{X: math.Min(low.X, p.X), Y: math.Min(low.Y, p.Y)}
		high = solid.Point2{X: math.Max(high.X, p.X), Y: math.Max(high.Y, p.Y)}
	}
	return low, high
}

// at is the distance (mm) from the outline, negative inside.
func (o outlineForm) at(x, y float64) float64 { return o.sheet.Smooth(x, y) }

// slope is the direction in which a wall of the outline faces out at (x, y).
func (o outlineForm) slope(x, y float64) (dx, dy float64) { return o.sheet.Slope(x, y) }

// fromLine is the signed distance from a closed line.
func fromLine(line solid.Polyline, p solid.Point2) float64 {
	least := math.Inf(1)
	for n, a := range line.Points {
		b := line.Points[(n+1)%len(line.Points)]
		least = math.Min(least, squaredToSegment(p, a, b))
	}
	if line.Contains(p) {
		return -math.Sqrt(least)
	}
	return math.Sqrt(least)
}

func squaredToSegment(p, a, b solid.Point2) float64 {
	dx, dy := b.X-a.X, b.Y-a.Y
	x, y := p.X-a.X, p.Y-a.Y
	if length := dx*dx + dy*dy; length > 0 {
		t := math.Min(math.Max((x*dx+y*dy)/length, 0), 1)
		x, y = x-t*dx, y-t*dy
	}
	return x*x + y*y
}

// band is an outline between a lower and an upper edge, its ends rounded: the
// rounder, the smaller the exponent (2 draws an ellipse).
func band(width float64, lower, upper func(x float64) float64, exponent float64) solid.Polyline {
	const points = 48
	line := solid.Polyline{Closed: true}
	add := func(angle float64) {
		// Points crowd where the outline turns.
		share := math.Cos(angle)
		x := share * width / 2
		full := math.Pow(math.Max(1-math.Pow(math.Abs(share), exponent), 0), 1/exponent)
		low, high := lower(x), upper(x)
		middle, half := (low+high)/2, (high-low)/2
		y := middle + full*half
		if math.Sin(angle) < 0 {
			y = middle - full*half
		}
		line.Points = append(line.Points, solid.Point2{X: x, Y: y})
	}
	for n := range points {
		add(2 * math.Pi * (float64(n) + 0.5) / points)
	}
	return line
}
