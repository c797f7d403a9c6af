package cavity

import (
	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/anatomy"
	"obturon/core/solid"
)

// CuspBevel is the bevel on the facial and lingual surfaces below covered cusps:
// scalloped on the facial side, so that no line of light betrays it, straight
// and as heavy on the lingual one, as the adhesive school finishes onlays.
type CuspBevel struct {
	covered Covered
	surface *solid.Blank
	outer   *anatomy.OuterSurface
	bevel   *Bevel
	bounds  solid.Box
}

// Covered is a cavity that covers cusps.
type Covered interface {
	// OverCusps is the distance (mm) of a place of the tooth to what is taken off
	// cusps; infinite where none is covered.
	OverCusps(p r3.Vec) float64
	Bounds() solid.Box
}

// NewCuspBevel bevels so wide (mm) round the covered cusps of a cavity; nil where
// nothing is bevelled.
func NewCuspBevel(m *anatomy.Model, covered Covered, width float64) *CuspBevel {
	if width < LeastBevel {
		return nil
	}
	side := func(sign float64) func(foot, normal r3.Vec) float64 {
		return func(_, normal r3.Vec) float64 {
			// Where the surface turns up to the biting side the cover has no margin
			// of its own.
			const up, upright = 0.8, 0.5
			return solid.Smoothstep(0, 0.4, sign*normal.Y) * (1 - solid.Smoothstep(upright, up, normal.Z))
		}
	}
	c := &CuspBevel{covered: covered, surface: m.Surface, outer: m.OuterSurface()}
	c.bevel = NewBevel(m, ScallopedZone(Chamfer(width, UsualBevelAngle, side(+1)), r3.Vec{X: 1}), Chamfer(width, UsualBevelAngle, side(-1)))
	c.bounds = covered.Bounds()
	grow := r3.Vec{X: width, Y: width, Z: width}
	c.bounds = solid.Box{Min: r3.Sub(c.bounds.Min, grow), Max: r3.Add(c.bounds.Max, grow)}
	return c
}

// coverEdge is the edge of what is taken off cusps.
type coverEdge struct{ Covered }

// Over is the distance (mm) of a place of the outer surface from the covers.
func (c coverEdge) Over(foot, _ r3.Vec) float64 { return c.OverCusps(foot) }

// Distance is the signed distance (mm) to the bevel's face near it.
func (c *CuspBevel) Distance(p r3.Vec) float64 {
	at := PlaceOf(p, c.outer, c.surface)
	return min(c.bevel.Distance(&at, coverEdge{c.covered}), farAway)
}

// farAway (mm) stands for "not near".
const farAway = 2.0

// Feature names the bevel.
func (c *CuspBevel) Feature(r3.Vec) uint16 { return CuspReduction | BevelFlag }

// Bounds holds everything the bevel can remove.
func (c *CuspBevel) Bounds() solid.Box { return c.bounds }
