package anatomy

import (
	"math"

	"obturon/core/solid"
)

// enamelCover knows how thick enamel is over every part of the crown.
type enamelCover struct {
	c *crown
}

// lateral is the enamel's thickness (mm) on the side faces at height z, with
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
// occlusally on the proximal faces.
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
		over := e.c.EnamelCuspNonfunctional
		if e.c.functional(cusp) {
			over = e.c.EnamelCuspFunctional
		}
		r := math.Hypot(x-e.c.x(cusp.X), y-e.c.y(cusp.Y)) / 0.95
		t += (over - base) * math.Exp(-r*r)
	}
	return t
}

// functional cusps bite into the opposing fossae: lingual above, buccal below.
func (c *crown) functional(k cusp) bool { return (k.Y < 0) == c.Upper }

// dentinHeight is the height of the dentino-enamel junction under the
// occlusal surface. It follows the surface without its grooves, so enamel is
// thin under fissures by itself.
func dentinHeight(c *crown, o *occlusal) *solid.Sheet {
	cover := enamelCover{c}
	broad := o.smooth.Blur(0.25)
	return broad.Like().Fill(func(x, y float64) float64 {
		dx, dy := broad.Slope(x, y)
		steep := math.Sqrt(1+dx*dx+dy*dy) - 1
		under := broad.At(x, y) - cover.occlusal(x, y)*(1+0.6*steep)
		return math.Min(under, o.carved.At(x, y)-c.EnamelFissure)
	}).Blur(0.2)
}
