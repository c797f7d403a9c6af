package instrument

import (
	"math"

	"obturon/core/solid"
)

// Ball is one of those that stand for a head: on its axis, or one of a ring about it.
// Lengths are millimetres.
type Ball struct {
	Off    float64 // of its centre from the axis
	Turn   float64 // radians about the axis
	Height float64 // of its centre over the tip
	Radius float64
}

// Balls are balls within the head that together come to within tolerance (mm) of its
// surface: where none of them touches, the head does not reach deeper than that. Those
// that hold most come first.
func (h *Head) Balls(tolerance float64) []Ball {
	head := h.Solid()
	balls := onAxis(head)
	rings := map[[2]float64]bool{}
	for _, p := range surface(head) {
		if uncovered(p, balls, tolerance) {
			off, height, radius := within(head, p, tolerance)
			if key := [2]float64{off, height}; !rings[key] {
				rings[key] = true
				balls = append(balls, ring(off, height, radius, tolerance)...)
			}
		}
	}
	return balls
}

// onAxis are balls along the axis, close enough together for straight sides.
func onAxis(head solid.Revolution) []Ball {
	const apart = 0.15 // mm
	steps := int(math.Ceil(head.Length() / apart))
	var balls []Ball
	for n := 1; n < steps; n++ {
		z := head.Length() * float64(n) / float64(steps)
		if d, _, _ := head.Profile(0, z); d < 0 {
			balls = append(balls, Ball{Height: z, Radius: -d})
		}
	}
	return balls
}

// place is one of a head's half outline with the direction out of it.
type place struct{ rho, z, outRho, outZ float64 }

// surface lists places of the half outline, from the tip up.
func surface(head solid.Revolution) []place {
	const apart = 0.02 // mm
	var all []place
	add := func(rho, z float64) {
		_, outRho, outZ := head.Profile(rho+1e-6, z)
		all = append(all, place{rho, z, outRho, outZ})
	}
	for _, end := range [2]float64{0, head.Length()} { // what is flat of the ends
		for rho := 0.0; rho < across(head, end); rho += apart {
			_, _, out := head.Profile(rho, end)
			all = append(all, place{rho, end, 0, out})
		}
	}
	for z := apart / 4; z < head.Length(); z += apart {
		add(across(head, z), z)
	}
	return all
}

func uncovered(p place, balls []Ball, tolerance float64) bool {
	for _, b := range balls {
		if math.Hypot(p.rho-b.Off, p.z-b.Height)-b.Radius <= tolerance {
			return false
		}
	}
	return true
}

// within is the largest ball inside a head that comes to within tolerance of a place of
// its surface.
func within(head solid.Revolution, p place, tolerance float64) (off, height, radius float64) {
	low, high := 0.0, head.Radius()
	for range 24 {
		deep := (low + high) / 2
		rho, z := p.rho-deep*p.outRho, p.z-deep*p.outZ
		d, _, _ := head.Profile(math.Abs(rho), z)
		if rho >= 0 && deep+d <= tolerance*0.9 {
			low, off, height, radius = deep, rho, z, -d
		} else {
			high = deep
		}
	}
	return off, height, math.Max(radius, 0)
}

// ring sets balls about the axis, so close that between them no more than tolerance of
// the surface that they turn out is missed.
func ring(off, height, radius, tolerance float64) []Ball {
	if off < 1e-3 {
		return []Ball{{Height: height, Radius: radius}}
	}
	half := math.Sqrt(2 * tolerance * math.Max(radius, tolerance) / (off * (off + radius)))
	n := max(4, int(math.Ceil(math.Pi/math.Min(half, math.Pi/4))))
	balls := make([]Ball, n)
	for i := range balls {
		balls[i] = Ball{Off: off, Turn: 2 * math.Pi * float64(i) / float64(n), Height: height, Radius: radius}
	}
	return balls
}
