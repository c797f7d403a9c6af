package resist

import "math"

// Closed forms for a cusp as a post on a flat floor: thickness at its base, height of its
// wall and radius of the line angle between, all in mm. They were fitted to finer and finer
// plane sections (errors up to 3 %) within ranges, past which the nearest end is taken.

// CuspGive is how far the tip of a cusp goes under a load across it, in units of load over
// modulus: compare two cusps by it. Height over thickness counts from a half to twice.
func CuspGive(height, thickness float64) float64 {
	x := math.Max(0.5, math.Min(2, height/thickness))
	return 4*x*x*x + 7.3*x*x + 6.5*x + 2.7
}

// LineAngle is what a cusp hands down to the line angle at its base, for each mm of its
// length: N across and outwards, N·mm that bend it outwards, N down along it.
type LineAngle struct{ Out, Bend, Down float64 }

// Tension is the largest (MPa) in the surface of the line angle, over a cusp of a height and
// a thickness, rounded by a radius. Radius over thickness counts from 0.02 to 0.2.
func (l LineAngle) Tension(height, thickness, radius float64) float64 {
	h := thickness * math.Max(0.5, math.Min(2, height/thickness))
	r := math.Max(0.02, math.Min(0.2, radius/thickness))
	out := 6 * l.Out / (thickness * thickness) * (0.74*h + 0.26*thickness) * math.Pow(r, -0.47)
	bend := 6 * l.Bend / (thickness * thickness) * (0.525 + 0.563*math.Pow(r, -0.5))
	down := -l.Down / thickness * 1.085 * math.Pow(r, -0.272)
	return out + bend + down
}

// RidgeBend is the tension (MPa) under a filling at its isthmus, where a load on its marginal
// ridge (N for each mm of width) lies a lever (mm) away and the seat of the box does not
// carry it: the worst case. On a sound seat it hardly depends on the bulk (mm).
func RidgeBend(load, lever, bulk float64) float64 {
	return 6 * load * (lever + 0.15*bulk) / (bulk * bulk)
}
