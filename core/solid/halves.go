package solid

import "gonum.org/v1/gonum/spatial/r3"

// Border divides space where its field is zero: a plane, or a surface that lies over a plane
// like a relief.
type Border struct {
	// Field (mm, about a distance) is negative within.
	Field func(p r3.Vec) float64
	// Flat lays the border out in a plane, seen from the side on which the field is positive.
	Flat func(p r3.Vec) Point2
}

// PlaneBorder is the border at a height (mm) along a unit vector: within lies what is under it.
func PlaneBorder(axis r3.Vec, height float64) *Border {
	e1, e2 := Across(axis)
	return &Border{
		Field: func(p r3.Vec) float64 { return r3.Dot(p, axis) - height },
		Flat:  func(p r3.Vec) Point2 { return Point2{r3.Dot(p, e1), r3.Dot(p, e2)} },
	}
}

// Halves cuts a closed mesh along a border: what lies within it, and the rest, each closed by
// the same face, labelled as the part within shows it and as the rest does. Together they
// enclose what the mesh did. A part that is empty has no triangles.
func (m *Mesh) Halves(b *Border, shows, restShows uint16) (within, rest *Mesh) {
	split := m.SplitWhere(b.Field, func(int) bool { return true })
	inside := make([]bool, len(split.Triangles))
	for n := range inside {
		inside[n] = b.Field(split.Centroid(n)) < 0
	}
	within, rest = &Mesh{Vertices: split.Vertices}, &Mesh{Vertices: split.Vertices}
	for n, t := range split.Triangles {
		side := rest
		if inside[n] {
			side = within
		}
		side.Triangles, side.Labels = append(side.Triangles, t), append(side.Labels, split.Labels[n])
	}
	var around []int32 // corners of the face, through all its lines
	var lines [][]Point2
	for _, loop := range split.rims(inside) {
		line := make([]Point2, 0, len(loop))
		for n := range loop { // the other way round: the part's own triangles lie outside the face
			v := loop[len(loop)-1-n]
			around, line = append(around, v), append(line, b.Flat(split.Vertices[v]))
		}
		lines = append(lines, line)
	}
	for _, t := range triangulated(lines) {
		one, two, three := around[t[0]], around[t[1]], around[t[2]]
		within.Triangles, within.Labels = append(within.Triangles, [3]int32{one, two, three}), append(within.Labels, shows)
		rest.Triangles, rest.Labels = append(rest.Triangles, [3]int32{one, three, two}), append(rest.Labels, restShows)
	}
	return within, rest
}

// rims chains the edges where triangles inside meet the rest, walking with those inside on the
// left, into lines that pass no corner twice. Faces of earlier cuts may have left edges that
// more than two triangles share: they count as often as they are there.
func (m *Mesh) rims(inside []bool) [][]int32 {
	open := map[[2]int32]int{}
	var order [][2]int32
	for n, t := range m.Triangles {
		if !inside[n] {
			continue
		}
		for e := range 3 {
			edge := [2]int32{t[e], t[(e+1)%3]}
			if back := [2]int32{edge[1], edge[0]}; open[back] > 0 {
				open[back]--
				continue
			}
			open[edge]++
			order = append(order, edge)
		}
	}
	next := map[int32][]int32{}
	for _, edge := range order {
		if open[edge] > 0 {
			open[edge]--
			next[edge[0]] = append(next[edge[0]], edge[1])
		}
	}
	var loops [][]int32
	for _, edge := range order {
		var walked []int32
		place := map[int32]int{} // in what is walked
		for at := edge[0]; len(next[at]) > 0 || len(walked) > 0; {
			if from, again := place[at]; again {
				loops = append(loops, append([]int32{}, walked[from:]...))
				for _, v := range walked[from:] {
					delete(place, v)
				}
				walked = walked[:from]
				if len(next[at]) == 0 && from == 0 {
					break
				}
			}
			if len(next[at]) == 0 {
				break
			}
			place[at] = len(walked)
			walked = append(walked, at)
			last := len(next[at]) - 1
			at, next[at] = next[at][last], next[at][:last]
		}
	}
	return loops
}
