package anatomy

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/solid"
)

// furcation is the arch where a trunk parts into roots: a tunnel from each
// entrance to the middle, widening downwards like a parabola.
type furcation struct {
	roof      float64 // height of its top, mm, negative
	entrances []r3.Vec
}

// archRadius (mm) is the radius of the furcation's roof.
const archRadius = 0.42

func newFurcation(c *crown) *furcation {
	if len(c.Entrances) == 0 {
		return nil
	}
	f := &furcation{roof: -c.Furcation}
	for _, deg := range c.Entrances {
		sin, cos := math.Sincos(deg * math.Pi / 180)
		f.entrances = append(f.entrances, r3.Vec{X: cos, Y: sin})
	}
	return f
}

// part cuts the tunnels from the trunk, a distance at p.
func (f *furcation) part(p r3.Vec, trunk float64) float64 {
	if p.Z > f.roof+1.5 {
		return trunk
	}
	const blend, behind = 0.7, 0.6 // mm
	below := f.roof - p.Z
	tunnel := math.Inf(1)
	for _, e := range f.entrances {
		along := r3.Dot(p, e)
		across := math.Abs(p.Y*e.X - p.X*e.Y)
		if along < 0 { // behind the middle the tunnel ends round
			across = math.Hypot(across, along*behind)
		}
		// First-order distance to a parabola.
		d := (across*across - 2*archRadius*below) / (2 * math.Sqrt(across*across+archRadius*archRadius))
		tunnel = math.Min(tunnel, d)
	}
	return solid.SmoothMax(trunk, -tunnel, blend)
}

// rootMiddle is the middle of a root at a height, mm.
func (s *shape) rootMiddle(r root, z float64) (x, y float64) {
	at := s.body.section(z)
	x, y = r.X*at.mesial, at.centre+r.Y*(at.buccal-at.centre)
	if r.X < 0 {
		x = r.X * at.distal
	}
	return x, y
}
