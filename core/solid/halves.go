package solid

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"
)

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
	crossed, whole := m.crossedBy(b)
	split := crossed.SplitWhere(b.Field, func(int) bool { return true })
	within, rest = &Mesh{Vertices: split.Vertices}, &Mesh{Vertices: split.Vertices}
	inside := make([]bool, len(split.Triangles))
	for n, t := range split.Triangles {
		inside[n] = b.Field(split.Centroid(n)) < 0
		of(within, rest, inside[n]).add(t, split.Labels[n])
	}
	for _, one := range whole {
		of(within, rest, one.within).add(m.Triangles[one.triangle], m.Labels[one.triangle])
	}
	var around []int32 // corners of the face, through all its lines
	var lines [][]Point2
	rim := map[[2]int32]bool{}
	for _, loop := range within.rims(split) {
		line := make([]Point2, 0, len(loop))
		for n := range loop { // the other way round: the part's own triangles lie outside the face
			v := loop[len(loop)-1-n]
			around, line = append(around, v), append(line, b.Flat(split.Vertices[v]))
			rim[edgeOf(v, loop[(len(loop)-n)%len(loop)])] = true
		}
		lines = append(lines, line)
	}
	face := &Mesh{Vertices: split.Vertices}
	for _, t := range triangulated(lines) {
		one, two, three := around[t[0]], around[t[1]], around[t[2]]
		if one != two && two != three && three != one { // lines that touch share a corner
			face.add([3]int32{one, two, three}, 0)
		}
	}
	face = face.laidOn(b, rim)
	within.Vertices, rest.Vertices = face.Vertices, face.Vertices
	for _, t := range face.Triangles {
		within.add(t, shows)
		rest.add([3]int32{t[0], t[2], t[1]}, restShows)
	}
	return within, rest
}

// laidOn divides a face within its rim until it follows the border that it lies in.
func (m *Mesh) laidOn(b *Border, rim map[[2]int32]bool) *Mesh {
	const off, short, rounds = 0.01, 0.2, 6 // mm; how often at the most
	for range rounds {
		finer := splitting{cuts: map[[2]int32]int32{}}
		finer.to = &Mesh{Vertices: m.Vertices[:len(m.Vertices):len(m.Vertices)]}
		for _, t := range m.Triangles { // in their order, so that the same face comes out alike
			for e := range 3 {
				edge := edgeOf(t[e], t[(e+1)%3])
				from, to := m.Vertices[edge[0]], m.Vertices[edge[1]]
				middle := r3.Scale(0.5, r3.Add(from, to))
				if _, done := finer.cuts[edge]; done || rim[edge] || !(r3.Norm(r3.Sub(to, from)) > short) || !(math.Abs(b.Field(middle)) > off) {
					continue
				}
				if at, ok := b.onto(middle); ok {
					finer.cuts[edge] = int32(len(finer.to.Vertices))
					finer.to.Vertices = append(finer.to.Vertices, at)
				}
			}
		}
		if len(finer.cuts) == 0 {
			break
		}
		for n, t := range m.Triangles {
			finer.divide(t, m.Labels[n])
		}
		m = finer.to
	}
	return m
}

// onto moves a place near the border onto it; ok is false where the border is not found near by.
func (b *Border) onto(p r3.Vec) (at r3.Vec, ok bool) {
	const step, rounds = 0.01, 3 // mm
	const near = 1.0             // mm
	from := p
	for range rounds {
		slope := r3.Scale(1/(2*step), r3.Vec{
			X: b.Field(r3.Add(p, r3.Vec{X: step})) - b.Field(r3.Sub(p, r3.Vec{X: step})),
			Y: b.Field(r3.Add(p, r3.Vec{Y: step})) - b.Field(r3.Sub(p, r3.Vec{Y: step})),
			Z: b.Field(r3.Add(p, r3.Vec{Z: step})) - b.Field(r3.Sub(p, r3.Vec{Z: step})),
		})
		if steep := r3.Norm2(slope); steep > 0 {
			p = r3.Sub(p, r3.Scale(b.Field(p)/steep, slope))
		}
	}
	return p, r3.Norm(r3.Sub(p, from)) < near && math.Abs(b.Field(p)) < math.Abs(b.Field(from))
}

func of(within, rest *Mesh, inside bool) *Mesh {
	if inside {
		return within
	}
	return rest
}

func (m *Mesh) add(t [3]int32, label uint16) {
	m.Triangles, m.Labels = append(m.Triangles, t), append(m.Labels, label)
}

// wholeTriangle is one that a border leaves whole, and the side that it lies on.
type wholeTriangle struct {
	triangle int
	within   bool
}

// crossedBy parts the triangles that a border runs through from the others.
func (m *Mesh) crossedBy(b *Border) (crossed *Mesh, whole []wholeTriangle) {
	const unknown, negative, positive = 0, 1, 2
	sides := make([]uint8, len(m.Vertices))
	side := func(v int32) uint8 {
		if sides[v] == unknown {
			sides[v] = positive
			if b.Field(m.Vertices[v]) < 0 {
				sides[v] = negative
			}
		}
		return sides[v]
	}
	crossed = &Mesh{Vertices: m.Vertices}
	for n, t := range m.Triangles {
		if one := side(t[0]); one == side(t[1]) && one == side(t[2]) {
			whole = append(whole, wholeTriangle{n, one == negative})
		} else {
			crossed.add(t, m.Labels[n])
		}
	}
	return crossed, whole
}

// rims chains the edges at which the mesh ends, which all lie among the corners of the triangles
// along a cut, walking with it on the left, into lines that pass no corner twice. Faces of
// earlier cuts may have left edges that more than two triangles share: they count as often as
// they are there.
func (m *Mesh) rims(cut *Mesh) [][]int32 {
	near := make([]bool, len(m.Vertices))
	for _, t := range cut.Triangles {
		near[t[0]], near[t[1]], near[t[2]] = true, true, true
	}
	open := map[[2]int32]int{}
	var order [][2]int32
	for _, t := range m.Triangles {
		for e := range 3 {
			a, b := t[e], t[(e+1)%3]
			if !near[a] || !near[b] {
				continue
			}
			if back := [2]int32{b, a}; open[back] > 0 {
				open[back]--
				continue
			}
			open[[2]int32{a, b}]++
			order = append(order, [2]int32{a, b})
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
