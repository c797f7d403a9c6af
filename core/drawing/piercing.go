package drawing

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/solid"
)

// shadow is the outline of a solid seen along the view's lines of sight.
func (v *View) shadow(l solid.Tool) []solid.Polyline {
	const around = 0.2 // mm
	low, high := v.extent(l.Bounds())
	seen := newPiercing(l, v.Plane)
	rough := solid.NewSheet(low.X-around, low.Y-around, high.X+around, high.Y+around, curveStep).
		Fill(func(x, y float64) float64 { d, _ := seen.roughly(solid.Point2{X: x, Y: y}); return d }).Contours(0)
	return even(traced(rough, seen.least))
}

// piercing runs lines of sight through a solid.
type piercing struct {
	solid.Tool
	plane     solid.Plane
	sight     r3.Vec
	near, far float64 // mm from the plane along the sight that the solid takes up
}

func newPiercing(l solid.Tool, plane solid.Plane) piercing {
	p := piercing{l, plane, r3.Cross(plane.U, plane.V), math.Inf(1), math.Inf(-1)}
	for _, corner := range solid.Corners(l.Bounds()) {
		at := r3.Dot(r3.Sub(corner, plane.Origin), p.sight)
		p.near, p.far = min(p.near, at), max(p.far, at)
	}
	return p
}

const piercingStep = 0.3 // mm

// roughly is the least distance to the solid along the line of sight through a place,
// to a step, and where it lies.
func (p piercing) roughly(at solid.Point2) (least, where float64) {
	least = math.Inf(1)
	for h := p.near; h < p.far+piercingStep; h += piercingStep {
		if d := p.distance(at, h); d < least {
			least, where = d, h
		}
	}
	return least, where
}

// least is the least distance to the solid along the line of sight through a place.
func (p piercing) least(at solid.Point2) float64 {
	const enough = 0.01 // mm
	best, where := p.roughly(at)
	for half := piercingStep / 2; half > enough; half /= 2 {
		for _, h := range [2]float64{where - half, where + half} {
			if d := p.distance(at, h); d < best {
				best, where = d, h
			}
		}
	}
	return best
}

func (p piercing) distance(at solid.Point2, h float64) float64 {
	return p.Distance(r3.Add(p.plane.At(at.X, at.Y), r3.Scale(h, p.sight)))
}
