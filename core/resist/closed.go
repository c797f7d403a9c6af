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

// AngleStress is the largest tension in the line angle under a load across the cusp, of the
// load's own 6·height/thickness² per mm. Radius over thickness counts from 0.02 to 0.2.
func AngleStress(height, thickness, radius float64) float64 {
	h := math.Max(0.5, math.Min(2, height/thickness))
	r := math.Max(0.02, math.Min(0.2, radius/thickness))
	return (0.74*h + 0.26) / h * math.Pow(r, -0.47)
}
