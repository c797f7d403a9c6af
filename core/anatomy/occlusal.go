package anatomy

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/solid"
)

// The occlusal surface is a network of ridges, not a set of bumps: a rim
// through cusp tips and marginal ridges, triangular and crossing ridges
// inside it, a fossa floor below, and grooves carved into the result.

const (
	ridgeStep  = 0.1  // mm between samples of the ridge network
	grooveStep = 0.05 // mm between samples of the carved surface; fissures are narrow
	ridgeBlend = 0.07 // mm over which ridges and floor flow together
	ridgeBlur  = 0.16 // mm
)

// occlusal holds the surface's height over the cervical plane, in mm.
type occlusal struct {
	smooth *solid.Sheet // before the grooves, ridgeStep apart
	carved *solid.Sheet
	denom  *solid.Sheet // sqrt(1+|grad|²) of carved: heights to distances

	rounding float64 // mm over which it meets the side surfaces
}

// above is how far a point lies over the occlusal surface, to first order (mm).
func (o *occlusal) above(p r3.Vec) float64 {
	return (p.Z - o.carved.At(p.X, p.Y)) / o.denom.At(p.X, p.Y)
}

// summit is the highest point of the surface near (x, y).
func (o *occlusal) summit(x, y float64) r3.Vec {
	const reach, step = 0.6, 0.1 // mm
	top := r3.Vec{Z: math.Inf(-1)}
	for dy := -reach; dy <= reach; dy += step {
		for dx := -reach; dx <= reach; dx += step {
			if z := o.carved.At(x+dx, y+dy); z > top.Z {
				top = r3.Vec{X: x + dx, Y: y + dy, Z: z}
			}
		}
	}
	return top
}

// crestLine is one ridge: its crest and how it falls away.
type crestLine struct {
	curve  []r3.Vec
	slope  float64
	radius float64
}

// height is the ridge's surface over (x, y): every part of the crest falls away
// evenly, and the highest of these slopes counts.
func (l *crestLine) height(x, y, slope float64) float64 {
	highest := math.Inf(-1)
	for n := 1; n < len(l.curve); n++ {
		a, b := l.curve[n-1], l.curve[n]
		squared, t := segment2D(a, b, x, y)
		d := math.Sqrt(squared+l.radius*l.radius) - l.radius
		highest = math.Max(highest, mix(a.Z, b.Z, t)-slope*d)
	}
	return highest
}

// newOcclusal shapes the surface over [x0,x1] x [y0,y1].
func newOcclusal(c *crown, x0, y0, x1, y1 float64) *occlusal {
	rim, inner := ridgeNetwork(c)
	rise := c.FossaRise
	if rise == 0 {
		rise = 0.03
	}
	rimOutline := solid.Polyline{Closed: true}
	for _, p := range rim.curve[:len(rim.curve)-1] {
		rimOutline.Points = append(rimOutline.Points, solid.Point2{X: p.X, Y: p.Y})
	}
	network := solid.NewSheet(x0, y0, x1, y1, ridgeStep).Fill(func(x, y float64) float64 {
		d, _ := nearest2D(rim.curve, x, y)
		signed := d
		if rimOutline.Contains(solid.Point2{X: x, Y: y}) {
			signed = -d
		}
		slope := mix(c.InnerSlope, 1.0, solid.Smoothstep(-0.4, 0.4, signed))
		sum := blendTerm(rim.height(x, y, slope) - c.Height)
		for _, l := range inner {
			sum += blendTerm(l.height(x, y, l.slope) - c.Height)
		}
		sum += blendTerm(-c.FossaFloorDrop + rise*(x*x+y*y))
		return c.Height + ridgeBlend*math.Log(sum)
	}).Blur(ridgeBlur)

	o := &occlusal{rounding: 0.6}
	if c.Primary {
		o.rounding = 0.5
	}
	o.smooth = network
	carver := newGrooveCarver(c)
	o.carved = solid.NewSheet(x0, y0, x1, y1, grooveStep).Fill(func(x, y float64) float64 {
		return network.Smooth(x, y) - carver.depth(x, y)
	})
	o.denom = steepness(o.carved)
	return o
}

// blendTerm is one term of the smooth maximum, with a floor against overflow.
func blendTerm(height float64) float64 { return math.Exp(math.Max(height, -20) / ridgeBlend) }

func ridgeNetwork(c *crown) (rim crestLine, inner []crestLine) {
	place := func(p crest) r3.Vec { return r3.Vec{X: c.x(p.X), Y: c.y(p.Y), Z: c.Height - p.Drop} }
	var points []r3.Vec
	for _, p := range c.Rim {
		points = append(points, place(p))
	}
	rim = crestLine{curve: spline(points, true), radius: 0.38}
	if !c.molar() {
		rim.radius = 0.48
	}
	for _, cusp := range c.Cusps {
		if cusp.NoTriangularRidge {
			continue
		}
		foot := place(crest{cusp.RidgeX, cusp.RidgeY, cusp.RidgeDrop})
		tip := place(cusp.crest)
		inner = append(inner, crestLine{curve: spline([]r3.Vec{tip, foot}, false), slope: 0.62, radius: 0.38})
	}
	for _, r := range c.Ridges {
		var points []r3.Vec
		for _, p := range r.Points {
			points = append(points, place(p))
		}
		inner = append(inner, crestLine{curve: spline(points, false), slope: r.Slope, radius: r.CrestRadius})
	}
	return rim, inner
}

// grooveCarver knows the grooves and pits of the occlusal surface.
type grooveCarver struct {
	grooves []carvedGroove
	pits    []pit // x, y in mm
}

type carvedGroove struct {
	groove
	curve     []r3.Vec
	low, high r3.Vec // bounds of what it carves
}

const (
	fissureHalfWidth = 0.13 // mm
	pitRadius        = 0.34 // mm
)

func newGrooveCarver(c *crown) *grooveCarver {
	carver := &grooveCarver{}
	for _, g := range c.Grooves {
		cg := carvedGroove{groove: g, curve: grooveCurve(c, g)}
		cg.low, cg.high = chainBounds(cg.curve, 4*g.HalfWidth)
		carver.grooves = append(carver.grooves, cg)
	}
	for _, p := range c.Pits {
		radius := p.Radius
		if radius == 0 {
			radius = pitRadius
		}
		carver.pits = append(carver.pits, pit{Name: p.Name, X: c.x(p.X), Y: c.y(p.Y), Depth: p.Depth, Radius: radius})
	}
	return carver
}

// grooveCurve is the groove's course in the plane, mm; Z is unused.
func grooveCurve(c *crown, g groove) []r3.Vec {
	var points []r3.Vec
	for _, p := range g.Points {
		points = append(points, r3.Vec{X: c.x(p[0]), Y: c.y(p[1])})
	}
	return spline(points, false)
}

// depth is how far the surface is carved at (x, y): the deepest groove and a
// quarter of the next, then fissures and pits.
func (gc *grooveCarver) depth(x, y float64) float64 {
	deepest, second, fissure := 0.0, 0.0, 0.0
	for n := range gc.grooves {
		g := &gc.grooves[n]
		if x < g.low.X || x > g.high.X || y < g.low.Y || y > g.high.Y {
			continue
		}
		d, along := nearest2D(g.curve, x, y)
		e := d / g.HalfWidth
		depth := g.Depth * math.Exp(-1.3*(math.Sqrt(e*e+0.09)-0.3))
		if depth > deepest {
			deepest, second = depth, deepest
		} else if depth > second {
			second = depth
		}
		if g.Fissure > 0 {
			fade := solid.Smoothstep(0, 0.12, along) * solid.Smoothstep(0, 0.12, 1-along)
			f := d / fissureHalfWidth
			fissure = math.Max(fissure, g.Fissure*fade*math.Exp(-f*f))
		}
	}
	total := deepest + second/4 + fissure
	for _, p := range gc.pits {
		r := math.Hypot(x-p.X, y-p.Y) / p.Radius
		total += p.Depth * math.Exp(-r*r)
	}
	return total
}
