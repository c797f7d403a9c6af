package anatomy

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"
)

// canal is a root canal: a tapering tube, or a ribbon as far as it is drawn out across.
type canal struct {
	roundCone
	across float64 // mm to either side along y
}

func (c *canal) distance(p r3.Vec) float64 {
	// The tube's nearest copy along the ribbon.
	share := (p.Z - c.base.Z) / (c.tip.Z - c.base.Z)
	middle := c.base.Y + share*(c.tip.Y-c.base.Y)
	p.Y -= clamp(p.Y-middle, c.across)
	return c.roundCone.distance(p)
}

// canals run from the chamber's floor down the middle of each root.
func canals(s *shape, chamber *posteriorChamber, k float64) []canal {
	wide, narrow := 0.5, 0.26 // mm
	inside := 0.7             // of the chamber's half width
	switch {
	case s.c.Primary:
		wide, narrow, inside = 0.34, 0.22, 0.55
	case !s.c.molar():
		wide, narrow = 0.4, 0.22
	}
	const above = 0.3
	end := rootStub - 1.0 // past the cut end of the stub
	tube := func(x0, y0, x1, y1, across float64) canal {
		return canal{roundCone{r3.Vec{X: x0, Y: y0, Z: chamber.floor + above}, r3.Vec{X: x1, Y: y1, Z: end}, wide * k, narrow * k}, across * k}
	}
	if len(s.c.Roots) == 0 {
		// One root of a premolar holds a ribbon, which the chamber narrows to without a
		// shoulder: it starts well inside, nearly as broad.
		const inside, share = 1.1, 0.78 // mm over the floor; of the chamber's half widths
		c := tube(0, chamber.centreY, 0, chamber.centreY, 0.55*chamber.halfY)
		c.base.Z = chamber.floor + inside
		c.baseRadius = math.Max(c.baseRadius, share*chamber.halfX)
		return []canal{c}
	}
	var all []canal
	for _, r := range s.c.Roots {
		x1, y1 := s.rootMiddle(r, end)
		// A canal leaves the chamber inside its corner.
		x0, y0 := s.rootMiddle(r, chamber.floor)
		x0, y0 = clamp(x0, inside*chamber.halfX), chamber.centreY+clamp(y0-chamber.centreY, inside*chamber.halfY)
		broad := s.c.molar() && !s.c.Upper // roots of lower molars are broad across
		switch {
		case broad && r.X > 0 && !s.c.Primary: // the mesial one holds two canals
			for _, side := range [2]float64{1, -1} {
				all = append(all, tube(x0, y0+side*inside*0.75*chamber.halfY, x1, y1+side*inside*0.75*chamber.halfY, 0))
			}
		case broad:
			all = append(all, tube(x0, y0, x1, y1, 0.25*chamber.halfY))
		default:
			all = append(all, tube(x0, y0, x1, y1, 0))
		}
	}
	return all
}

// roundCone is the hull of two balls.
type roundCone struct {
	base, tip             r3.Vec
	baseRadius, tipRadius float64
}

// distance is exact where it is positive.
func (c roundCone) distance(p r3.Vec) float64 {
	axis := r3.Sub(c.tip, c.base)
	length := r3.Norm(axis)
	if length <= math.Abs(c.baseRadius-c.tipRadius) {
		return r3.Norm(r3.Sub(p, c.base)) - c.baseRadius
	}
	axis = r3.Scale(1/length, axis)
	q := r3.Sub(p, c.base)
	along := r3.Dot(q, axis)
	rho := math.Sqrt(math.Max(r3.Norm2(q)-along*along, 0))
	b := (c.baseRadius - c.tipRadius) / length
	a := math.Sqrt(1 - b*b)
	switch k := a*along - b*rho; {
	case k < 0:
		return math.Hypot(rho, along) - c.baseRadius
	case k > a*length:
		return math.Hypot(rho, along-length) - c.tipRadius
	default:
		return a*rho + b*along - c.baseRadius
	}
}
