package drawing

import (
	"slices"

	"obturon/core/solid"
)

// addRoot parts the root from the crown in a view from the side: what of the
// outline lies under the cervical line, which runs across it.
func (v *View) addRoot(cervical []solid.Polyline) {
	k := slices.IndexFunc(v.Layers, func(l Layer) bool { return l.Kind == Crown })
	if k < 0 || len(cervical) == 0 {
		return
	}
	outline, ok := solid.Largest(v.Layers[k].Lines)
	line := longest(cervical).Points
	if !ok || len(line) < 2 {
		return
	}
	if line[0].X > line[len(line)-1].X {
		line = slices.Clone(line)
		slices.Reverse(line)
	}
	under := longest(outline.Runs(func(p solid.Point2) bool { return p.Y < heightOn(line, p.X) })).Points
	if len(under) < 2 {
		return
	}
	root := solid.Polyline{Closed: true, Points: slices.Clone(under)}
	if under[0].X < under[len(under)-1].X { // back along the line to where it began
		line = slices.Clone(line)
		slices.Reverse(line)
	}
	root.Points = append(root.Points, line...)
	v.Layers = slices.Insert(v.Layers, k+1, Layer{Root, []solid.Polyline{root}})
}

// heightOn is a line's height over x; level beyond its ends.
func heightOn(line []solid.Point2, x float64) float64 {
	if x <= line[0].X {
		return line[0].Y
	}
	for n := 1; n < len(line); n++ {
		if a, b := line[n-1], line[n]; x <= b.X && b.X > a.X {
			return a.Y + (b.Y-a.Y)*(x-a.X)/(b.X-a.X)
		}
	}
	return line[len(line)-1].Y
}

func longest(lines []solid.Polyline) (most solid.Polyline) {
	for _, line := range lines {
		if len(line.Points) > len(most.Points) {
			most = line
		}
	}
	return most
}
