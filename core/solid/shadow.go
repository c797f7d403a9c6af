package solid

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"
)

// Shadow is the area that the triangles accepted by shown cover, seen square to a
// plane, on a lattice step apart: where its border runs is known to a step only.
// Trace finds it more exactly.
func (m *Mesh) Shadow(plane Plane, step float64, shown func(n int) bool) []Polyline {
	return m.Sight(plane, r3.Cross(plane.U, plane.V), step, shown).Area(func(uint16) bool { return true })
}

// Sight is what of a mesh is seen square to a plane.
type Sight struct {
	// Depths is how far from the plane towards the viewer the nearest triangle lies,
	// mm; NothingSeen where there is none.
	Depths *Sheet
	labels []uint16 // of that triangle
}

// NothingSeen stands where a line of sight meets nothing.
const NothingSeen = -1e3

// Sight looks, on a lattice step apart, at the triangles accepted by shown from the
// direction towards, a unit vector square to the plane.
func (m *Mesh) Sight(plane Plane, towards r3.Vec, step float64, shown func(n int) bool) *Sight {
	around := 4 * step
	inf := math.Inf(1)
	low, high := Point2{inf, inf}, Point2{-inf, -inf}
	var seen []int32
	for n, t := range m.Triangles {
		if !shown(n) {
			continue
		}
		seen = append(seen, int32(n))
		for _, vertex := range t {
			p := plane.Project(m.Vertices[vertex])
			low = Point2{min(low.X, p.X), min(low.Y, p.Y)}
			high = Point2{max(high.X, p.X), max(high.Y, p.Y)}
		}
	}
	if len(seen) == 0 {
		low, high = Point2{}, Point2{}
	}
	s := &Sight{Depths: NewSheet(low.X-around, low.Y-around, high.X+around, high.Y+around, step)}
	for k := range s.Depths.Values {
		s.Depths.Values[k] = NothingSeen
	}
	s.labels = make([]uint16, len(s.Depths.Values))
	for _, n := range seen {
		var face [3]raised
		for k, vertex := range m.Triangles[n] {
			at := m.Vertices[vertex]
			face[k] = raised{plane.Project(at), r3.Dot(r3.Sub(at, plane.Origin), towards)}
		}
		s.raise(face, m.Labels[n])
	}
	return s
}

// Area is where triangles are seen whose labels wanted accepts, to a step of the
// lattice.
func (s *Sight) Area(wanted func(label uint16) bool) []Polyline {
	covered := s.Depths.Like()
	for n, depth := range s.Depths.Values {
		covered.Values[n] = 1
		if depth > NothingSeen && wanted(s.labels[n]) {
			covered.Values[n] = -1
		}
	}
	return covered.Blur(covered.H).Contours(0)
}

// raised is a corner of a triangle over a plane.
type raised struct {
	Point2
	height float64
}

// raise lifts the samples under a triangle to it.
func (s *Sight) raise(face [3]raised, label uint16) {
	sheet := s.Depths
	a, b, c := face[0], face[1], face[2]
	area := (b.X-a.X)*(c.Y-a.Y) - (c.X-a.X)*(b.Y-a.Y)
	if math.Abs(area) < 1e-12 {
		return
	}
	at := func(v, origin float64) int { return int(math.Ceil((v - origin) / sheet.H)) }
	left, right := at(min(a.X, b.X, c.X), sheet.X0), at(max(a.X, b.X, c.X), sheet.X0)
	top := at(max(a.Y, b.Y, c.Y), sheet.Y0)
	for j := at(min(a.Y, b.Y, c.Y), sheet.Y0); j < top; j++ {
		for i := left; i < right; i++ {
			x, y := sheet.X0+float64(i)*sheet.H, sheet.Y0+float64(j)*sheet.H
			u := ((b.X-x)*(c.Y-y) - (c.X-x)*(b.Y-y)) / area
			w := ((c.X-x)*(a.Y-y) - (a.X-x)*(c.Y-y)) / area
			if u >= 0 && w >= 0 && u+w <= 1 {
				height := float32(u*a.height + w*b.height + (1-u-w)*c.height)
				if n := j*sheet.NX + i; height > sheet.Values[n] {
					sheet.Values[n], s.labels[n] = height, label
				}
			}
		}
	}
}

// Around is the least and the greatest of the four samples about a place that
// lie above least; ok is false where none does.
func (s *Sheet) Around(p Point2, least float64) (low, high float64, ok bool) {
	i, _ := s.Cell(p.X, 0)
	j, _ := s.Cell(p.Y, 1)
	low, high = math.Inf(1), math.Inf(-1)
	for corner := range 4 {
		if v := float64(s.Values[(j+corner>>1)*s.NX+i+corner&1]); v > least {
			low, high = min(low, v), max(high, v)
		}
	}
	return low, high, high > least
}
