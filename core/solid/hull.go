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
