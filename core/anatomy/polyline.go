package anatomy

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"
)

// splineSteps is the number of straight pieces that stand for one span.
const splineSteps = 8

// spline draws a Catmull-Rom curve through the points. Heights are half
// straight and half curved, so that cusp tips stay pointed.
func spline(points []r3.Vec, closed bool) []r3.Vec {
	n := len(points)
	if n == 2 {
		return points // straight already
	}
	at := func(i int) r3.Vec {
		if closed {
			return points[(i+n)%n]
		}
		return points[min(max(i, 0), n-1)]
	}
	spans := n - 1
	if closed {
		spans = n
	}
	curve := make([]r3.Vec, 0, spans*splineSteps+1)
	for s := range spans {
		a, b, c, d := at(s-1), at(s), at(s+1), at(s+2)
		for step := range splineSteps {
			t := float64(step) / splineSteps
			t2, t3 := t*t, t*t*t
			p := r3.Add(
				r3.Add(r3.Scale((-t3+2*t2-t)/2, a), r3.Scale((3*t3-5*t2+2)/2, b)),
				r3.Add(r3.Scale((-3*t3+4*t2+t)/2, c), r3.Scale((t3-t2)/2, d)))
			p.Z = (p.Z + mix(b.Z, c.Z, t)) / 2
			curve = append(curve, p)
		}
	}
	return append(curve, at(spans))
}

// nearest2D is the distance in x, y from (x, y) to a chain, and how far along
// the chain the nearest place lies, 0 to 1.
func nearest2D(chain []r3.Vec, x, y float64) (distance, along float64) {
	best := math.Inf(1)
	for n := 1; n < len(chain); n++ {
		d, t := segment2D(chain[n-1], chain[n], x, y)
		if d < best {
			best = d
			along = (float64(n-1) + t) / float64(len(chain)-1)
		}
	}
	return math.Sqrt(best), along
}

// segment2D is the squared distance in x, y to a segment, and the place on it.
func segment2D(a, b r3.Vec, x, y float64) (squared, t float64) {
	dx, dy := b.X-a.X, b.Y-a.Y
	if l2 := dx*dx + dy*dy; l2 > 0 {
		t = math.Min(math.Max(((x-a.X)*dx+(y-a.Y)*dy)/l2, 0), 1)
	}
	ex, ey := x-a.X-t*dx, y-a.Y-t*dy
	return ex*ex + ey*ey, t
}

// chainBounds is the box in x, y around a chain, grown by reach.
func chainBounds(chain []r3.Vec, reach float64) (low, high r3.Vec) {
	low, high = chain[0], chain[0]
	for _, p := range chain {
		low.X, low.Y = math.Min(low.X, p.X), math.Min(low.Y, p.Y)
		high.X, high.Y = math.Max(high.X, p.X), math.Max(high.Y, p.Y)
	}
	grow := r3.Vec{X: reach, Y: reach}
	return r3.Sub(low, grow), r3.Add(high, grow)
}
