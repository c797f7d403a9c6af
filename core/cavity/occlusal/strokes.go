package occlusal

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/anatomy"
	"obturon/core/lesion"
	"obturon/core/solid"
)

// strokes draws the outline's parts; the isthmus comes first. Ends are the
// round ends of the course that are drawn wider, at most one a side.
func (s stretch) strokes(table anatomy.Frame, d Design, course, ends []solid.Point2, end, distalEnd, mesialEnd float64) []stroke {
	all := []stroke{{points: course, half: d.IsthmusWidth / 2}}
	for _, at := range ends {
		all = append(all, stroke{points: []solid.Point2{at}, half: end})
	}
	for _, g := range s.grooves {
		length := d.BuccalExtension
		if g.Side() == "lingual" {
			length = d.LingualExtension
		}
		if st, ok := extensionStroke(table, g, d.IsthmusWidth, length, distalEnd, mesialEnd); ok {
			all = append(all, st)
		}
	}
	for _, l := range s.lesions {
		half := s.cover.half(l)
		switch {
		case l.Branches():
			all = append(all, stroke{points: flat(l.Path()), half: s.branchHalf(l), branch: true})
		case s.cover[l] > 0, l.IntoDentin() > 0 && half > d.IsthmusWidth/2:
			all = append(all, stroke{points: flat(l.Path()), half: half})
		}
	}
	return all
}

// branchHalf is half the width (mm) cut along a carious side groove; flowing it
// into the outline takes some of its end.
func (s stretch) branchHalf(l *lesion.Occlusal) float64 {
	const rounding = 0.1 // mm
	return math.Max(s.cover.half(l)+rounding, burRadius)
}

// clipCourse keeps the course between two x, mesial first, with its ends
// exactly there.
func clipCourse(course []solid.Point2, from, to float64) []solid.Point2 {
	at := func(x float64) solid.Point2 {
		for n := 1; n < len(course); n++ {
			a, b := course[n-1], course[n]
			if (a.X-x)*(b.X-x) <= 0 && a.X != b.X {
				return solid.Point2{X: x, Y: a.Y + (b.Y-a.Y)*(x-a.X)/(b.X-a.X)}
			}
		}
		if x > course[0].X {
			return solid.Point2{X: x, Y: course[0].Y}
		}
		return solid.Point2{X: x, Y: course[len(course)-1].Y}
	}
	out := []solid.Point2{at(to)}
	for _, p := range course {
		if p.X < to-0.02 && p.X > from+0.02 {
			out = append(out, p)
		}
	}
	return append(out, at(from))
}

// extensionStroke runs along a side groove until its rounded end lies length
// past the isthmus wall.
func extensionStroke(table anatomy.Frame, g anatomy.GrooveLine, isthmus, length, distalX, mesialX float64) (stroke, bool) {
	if length <= 0 {
		return stroke{}, false
	}
	var inTable []r3.Vec
	for _, p := range g.Points {
		inTable = append(inTable, table.To(p))
	}
	path := flat(inTable)
	if path[0].X > mesialX || path[0].X < distalX { // starts beyond the outline
		return stroke{}, false
	}
	// The tip is made longer by what rounding takes from it. The pen starts at the isthmus wall so that it does not swell the wall opposite.
	from, to := math.Max(isthmus/2-0.1, 0), isthmus/2+length-extensionRadius+outlineBlur*outlineBlur/(2*extensionRadius)
	to = math.Max(to, from+0.01)
	s := stroke{half: extensionRadius, branch: true}
	walked := 0.0
	for n := 1; n < len(path); n++ {
		a, b := path[n-1], path[n]
		step := math.Hypot(b.X-a.X, b.Y-a.Y)
		for _, at := range []float64{from, to} {
			if at >= walked && at < walked+step {
				t := (at - walked) / step
				s.points = append(s.points, solid.Point2{X: a.X + t*(b.X-a.X), Y: a.Y + t*(b.Y-a.Y)})
			}
		}
		walked += step
		if walked > from && walked < to {
			s.points = append(s.points, b)
		}
	}
	return s, len(s.points) > 0
}

// flat drops the heights of points in the table's frame.
func flat(points []r3.Vec) []solid.Point2 {
	path := make([]solid.Point2, len(points))
	for n, p := range points {
		path[n] = solid.Point2{X: p.X, Y: p.Y}
	}
	return path
}
