package drawing

import (
	"slices"

	"obturon/core/solid"
)

const (
	labelRoom = 3.6  // mm kept beside a view for its labels
	labelStep = 1.25 // mm between neighbouring labels
)

// layOutLabels sets every tag's label beside the view, on the nearer side and
// in the order of the handles, so that no two labels and no two leaders cross.
func (v *View) layOutLabels() {
	middle := (v.Bounds.MinX + v.Bounds.MaxX) / 2
	var left, right []int
	for n, t := range v.Tags {
		if t.Handle.X < middle {
			left = append(left, n)
		} else {
			right = append(right, n)
		}
	}
	if len(left) > 0 {
		v.placeColumn(left, v.Bounds.MinX)
		v.Bounds.MinX -= labelRoom
	}
	if len(right) > 0 {
		v.placeColumn(right, v.Bounds.MaxX)
		v.Bounds.MaxX += labelRoom
	}
}

// placeColumn spreads labels at x, as near to their handles' heights as the
// spacing and the view allow.
func (v *View) placeColumn(tags []int, x float64) {
	slices.SortFunc(tags, func(a, b int) int {
		if v.Tags[a].Handle.Y < v.Tags[b].Handle.Y {
			return -1
		}
		return 1
	})
	heights := make([]float64, len(tags))
	sum := 0.0
	for n, t := range tags {
		heights[n] = v.Tags[t].Handle.Y
		if n > 0 {
			heights[n] = max(heights[n], heights[n-1]+labelStep)
		}
		sum += heights[n] - v.Tags[t].Handle.Y
	}
	shift := sum / float64(len(tags)) // share the push between up and down
	low, high := heights[0]-shift, heights[len(heights)-1]-shift
	shift -= max(v.Bounds.MinY+labelStep-low, 0)
	shift += max(high-(v.Bounds.MaxY-labelStep), 0)
	for n, t := range tags {
		v.Tags[t].LabelAt = solid.Point2{X: x, Y: heights[n] - shift}
		v.Tags[t].LabelRight = v.Tags[t].LabelAt.X > v.Tags[t].Handle.X
	}
}
