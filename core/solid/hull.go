package solid

import (
	"cmp"
	"slices"
)

// ConvexHull is the smallest convex outline about points, counterclockwise, without those
// on its sides. It sorts the points.
func ConvexHull(points []Point2) []Point2 {
	slices.SortFunc(points, func(a, b Point2) int { return cmp.Or(cmp.Compare(a.X, b.X), cmp.Compare(a.Y, b.Y)) })
	points = slices.Compact(points)
	if len(points) < 3 {
		return points
	}
	half := func(points []Point2) []Point2 {
		var out []Point2
		for _, p := range points {
			for len(out) > 1 && !turnsLeft(out[len(out)-2], out[len(out)-1], p) {
				out = out[:len(out)-1]
			}
			out = append(out, p)
		}
		return out[:len(out)-1]
	}
	under := half(points)
	slices.Reverse(points)
	return append(under, half(points)...)
}

func turnsLeft(a, b, c Point2) bool {
	return (b.X-a.X)*(c.Y-a.Y)-(b.Y-a.Y)*(c.X-a.X) > 0
}

// ClipConvex cuts a convex outline off at a rectangle; nothing is left of one outside.
func ClipConvex(outline []Point2, low, high Point2) []Point2 {
	sides := []func(Point2) float64{
		func(p Point2) float64 { return p.X - low.X }, func(p Point2) float64 { return high.X - p.X },
		func(p Point2) float64 { return p.Y - low.Y }, func(p Point2) float64 { return high.Y - p.Y },
	}
	for _, inside := range sides {
		outline = CutConvex(outline, inside)
	}
	return outline
}

// CutConvex is what of a convex outline lies where a function that is linear over the plane
// is not negative.
func CutConvex(outline []Point2, inside func(Point2) float64) []Point2 {
	var kept []Point2
	for n, p := range outline {
		q := outline[(n+1)%len(outline)]
		a, b := inside(p), inside(q)
		if a >= 0 {
			kept = append(kept, p)
		}
		if (a < 0) != (b < 0) {
			t := a / (a - b)
			kept = append(kept, Point2{X: p.X + t*(q.X-p.X), Y: p.Y + t*(q.Y-p.Y)})
		}
	}
	return kept
}
