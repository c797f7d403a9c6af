package face

import (
	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/anatomy"
	"obturon/core/prep"
	"obturon/core/solid"
)

// CuspBevel is the bevel on the facial and lingual faces below covered cusps:
// scalloped on the facial side, so that no line of light betrays it, straight
// and as heavy on the lingual one (operative dentistry convention).
type CuspBevel struct {
	covered *prep.Cavity
	surface *solid.Blank
	skin    *anatomy.Skin
	bevel   *bevel
	bounds  solid.Box
}

// NewCuspBevel bevels so wide (mm) round the covered cusps of a cavity; nil where
// nothing is bevelled.
func NewCuspBevel(m *anatomy.Model, covered *prep.Cavity, width float64) *CuspBevel {
	if width < leastReach {
		return nil
	}
	side := func(sense float64) func(foot, normal r3.Vec) float64 {
		return func(_, normal r3.Vec) float64 {
			// Where the surface turns up to the biting side the cover has no margin
			// of its own.
			const up, upright = 0.8, 0.5
			return solid.Smoothstep(0, 0.4, sense*normal.Y) * (1 - solid.Smoothstep(upright, up, normal.Z))
		}
	}
	c := &CuspBevel{covered: covered, surface: m.Surface, skin: m.Skin()}
	c.bevel = &bevel{dentin: m.Dentin(), skin: m.Skin(), zones: []zone{
		scalloped(chamfer(width, usualAngle, side(+1)), r3.Vec{X: 1}), chamfer(width, usualAngle, side(-1)),
	}}
	c.bounds = covered.Bounds()
	grow := r3.Vec{X: width, Y: width, Z: width}
	c.bounds = solid.Box{Min: r3.Sub(c.bounds.Min, grow), Max: r3.Add(c.bounds.Max, grow)}
	return c
}

// covers adapts covered cusps to what a bevel runs along.
type covers struct {
	body
	*prep.Cavity
}

func (c covers) over(foot, _ r3.Vec) float64 { return c.OverCusps(foot) }

// Distance is the signed distance (mm) to the bevel's face near it.
func (c *CuspBevel) Distance(p r3.Vec) float64 {
	at := placeOf(p, c.skin, c.surface)
	return min(c.bevel.distance(&at, covers{Cavity: c.covered}), away)
}

// Feature names the bevel.
func (c *CuspBevel) Feature(r3.Vec) uint16 { return prep.CuspReduction | prep.BevelFlag }

// Bounds holds everything the bevel can remove.
func (c *CuspBevel) Bounds() solid.Box { return c.bounds }
