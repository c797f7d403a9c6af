package anatomy

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/solid"
)

// axialGrooves carves the buccal, lingual and proximal surfaces. A negative depth
// is a bulge, such as the mesiobuccal cervical ridge of primary first molars.
type axialGrooves []axialGroove

type axialGroove struct {
	outerGroove
	facial bool    // runs on the buccal or lingual surface, else proximal
	sign   float64 // +1 buccal or mesial, -1 lingual or distal
	curve  []r3.Vec
	// low and high bound the part of the surface that the groove changes.
	low, high r3.Vec
}

func newAxialGrooves(c *crown) axialGrooves {
	var all axialGrooves
	for _, o := range c.OuterGrooves {
		f := axialGroove{outerGroove: o, facial: o.Side == "B" || o.Side == "L", sign: 1}
		if o.Side == "L" || o.Side == "D" {
			f.sign = -1
		}
		var points []r3.Vec
		for _, p := range o.Points {
			across := c.x(p[0])
			if !f.facial {
				across = c.y(p[0])
			}
			points = append(points, r3.Vec{X: across, Y: p[1] * c.Height})
		}
		f.curve = spline(points, false)
		f.low, f.high = chainBounds(f.curve, 2.5*o.HalfWidth+endPitRadius)
		all = append(all, f)
	}
	return all
}

const endPitRadius = 0.3 // mm

// depth is the carving in mm at p, whose normalised section position is (u, v).
func (fs axialGrooves) depth(p r3.Vec, u, v float64) float64 {
	sum := 0.0
	r := math.Hypot(u, v)
	if r < 1e-6 {
		return 0
	}
	for n := range fs {
		f := &fs[n]
		across, towards := p.X, f.sign*v/r
		if !f.facial {
			across, towards = p.Y, f.sign*u/r
		}
		if across < f.low.X || across > f.high.X || p.Z < f.low.Y || p.Z > f.high.Y {
			continue
		}
		onAxialSurface := solid.Smoothstep(0.15, 0.55, towards)
		if onAxialSurface == 0 {
			continue
		}
		d, along := nearest2D(f.curve, across, p.Z)
		e := d / f.HalfWidth
		depth := f.Depth
		if f.Fades {
			depth *= solid.Smoothstep(0, 0.7, 1-along)
		}
		sum += onAxialSurface * depth * math.Exp(-e*e)
		if f.EndPit > 0 {
			end := f.curve[len(f.curve)-1]
			e := math.Hypot(across-end.X, p.Z-end.Y) / endPitRadius
			sum += onAxialSurface * f.EndPit * math.Exp(-e*e)
		}
	}
	return sum
}
