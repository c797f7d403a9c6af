package solid

import "math"

// SmoothMax blends max(a, b) over a band of width k (mm): the edge where two
// surfaces meet becomes a fillet, and nothing outside the band changes.
func SmoothMax(a, b, k float64) float64 {
	d := a - b
	if d >= k {
		return a
	}
	if d <= -k {
		return b
	}
	if d < 0 {
		a, d = b, -d
	}
	overlap := k - d
	return a + overlap*overlap/(4*k)
}

// SmoothMin is the blended union: SmoothMax mirrored.
func SmoothMin(a, b, k float64) float64 { return -SmoothMax(-a, -b, k) }

// RoundedIntersection intersects two distances with a concave fillet of
// radius r along their common edge; exact where the surfaces meet at 90 degrees.
func RoundedIntersection(a, b, r float64) float64 {
	if r <= 0 || a <= -r || b <= -r { // clear of the corner
		return max(a, b)
	}
	u, v := a+r, b+r
	return math.Sqrt(u*u+v*v) - r
}

// Occupied is the share (0 to 1) of a sample's cell of side h that lies inside a
// field with that distance at the sample.
func Occupied(distance, h float64) float64 { return min(max(0.5-distance/h, 0), 1) }

// Smoothstep rises from 0 at edge0 to 1 at edge1 with level ends.
func Smoothstep(edge0, edge1, x float64) float64 {
	t := (x - edge0) / (edge1 - edge0)
	if t <= 0 {
		return 0
	}
	if t >= 1 {
		return 1
	}
	return t * t * (3 - 2*t)
}
