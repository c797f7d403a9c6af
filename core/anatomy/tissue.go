package anatomy

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/solid"
)

// enamelCover knows how thick enamel is over every part of the crown.
type enamelCover struct {
	c *crown
}

// lateral is the enamel's thickness (mm) on the side surfaces at height z, with
// (u, v) the position normalised by the section's reach.
func (e enamelCover) lateral(u, v, z float64) float64 {
	r2 := u*u + v*v
	if r2 < 1e-9 {
		return 0
	}
	above := z - e.cervicalLine(u, v)
	if above <= 0 {
		return 0
	}
	side := mix(e.c.EnamelLingual, e.c.EnamelBuccal, solid.Smoothstep(-0.5, 0.5, v))
	full := mix(side, e.c.EnamelProximal, u*u/r2)
	return full * (1 - math.Exp(-above/e.c.EnamelTaper))
}

// cervicalLine is the height of the cemento-enamel junction, which arches
// occlusally on the proximal surfaces.
func (e enamelCover) cervicalLine(u, v float64) float64 {
	r2 := u*u + v*v
	if r2 < 1e-9 {
		return 0
	}
	curve := e.c.CEJCurveMesial
	if u < 0 {
		curve = e.c.CEJCurveDistal
	}
	return curve * math.Pow(u*u/r2, 1.15)
}

// occlusal is the enamel's thickness (mm) under the occlusal surface, more
// over the cusps, most over the functional ones.
func (e enamelCover) occlusal(x, y float64) float64 {
	base := 1.3
	if e.c.Primary {
		base = 0.9
	}
	t := base
	for _, cusp := range e.c.Cusps {
		over := e.over(cusp)
		r := math.Hypot(x-e.c.x(cusp.X), y-e.c.y(cusp.Y)) / 0.95
		t += (over - base) * math.Exp(-r*r)
	}
	return t
}

// over is the enamel's thickness (mm) on a cusp's tip.
func (e enamelCover) over(k cusp) float64 {
	if e.c.functional(k) {
		return e.c.EnamelCuspFunctional
	}
	return e.c.EnamelCuspNonfunctional
}

// incisal is the enamel's thickness (mm) at the incisal edge.
func (e enamelCover) incisal() float64 { return e.c.EnamelCuspFunctional }

// functional cusps bite into the opposing fossae: lingual above, buccal below.
func (c *crown) functional(k cusp) bool { return (k.Y < 0) == c.Upper }

// dentinRoof is the dentino-enamel junction under the occlusal surface.
type dentinRoof struct{ height, denom *solid.Sheet }

// newDentinRoof follows the surface without its grooves, so enamel is thin
// under fissures by itself.
func newDentinRoof(c *crown, o *occlusal) dentinRoof {
	cover := enamelCover{c}
	broad := o.smooth.Blur(0.25)
	height := broad.Like().Fill(func(x, y float64) float64 {
		dx, dy := broad.Slope(x, y)
		steep := math.Sqrt(1+dx*dx+dy*dy) - 1
		under := broad.At(x, y) - cover.occlusal(x, y)*(1+0.6*steep)
		return math.Min(under, o.carved.At(x, y)-c.EnamelFissure)
	}).Blur(0.2)
	return dentinRoof{height, steepness(height)}
}

// lift raises the junction under each cusp of the crown by so many mm.
func (r *dentinRoof) lift(c *crown, by []float64) {
	const reach = 0.8 // mm around the tip
	lower := r.height
	r.height = lower.Like().Fill(func(x, y float64) float64 {
		z := lower.At(x, y)
		for n, k := range c.Cusps {
			d := math.Hypot(x-c.x(k.X), y-c.y(k.Y)) / reach
			z += by[n] * math.Exp(-d*d)
		}
		return z
	})
	r.denom = steepness(r.height)
}

// steepness is sqrt(1+|grad|²) of a sheet: it turns heights into distances.
func steepness(s *solid.Sheet) *solid.Sheet {
	return s.Like().Fill(func(x, y float64) float64 {
		dx, dy := s.Slope(x, y)
		return math.Sqrt(1 + dx*dx + dy*dy)
	})
}

// above is how far a point lies over the junction, to first order (mm).
func (r dentinRoof) above(p r3.Vec) float64 {
	return (p.Z - r.height.At(p.X, p.Y)) / r.denom.At(p.X, p.Y)
}
