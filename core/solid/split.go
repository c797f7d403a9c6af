package solid

import "gonum.org/v1/gonum/spatial/r3"

// SplitWhere divides triangles along the zero of a field, so that what lies on its
// two sides can be told apart by whole triangles without steps. Only triangles that
// which accepts are looked at; those beside them are divided where they share a cut
// edge, so that the mesh stays closed. The mesh itself is not changed.
func (m *Mesh) SplitWhere(field func(p r3.Vec) float64, which func(n int) bool) *Mesh {
	s := splitting{from: m, field: field, values: map[int32]float64{}, cuts: map[[2]int32]int32{}}
	s.to = &Mesh{Vertices: m.Vertices[:len(m.Vertices):len(m.Vertices)]}
	for n, t := range m.Triangles {
		if which(n) {
			for e := range 3 {
				s.cut(t[e], t[(e+1)%3])
			}
		}
	}
	if len(s.cuts) == 0 {
		return m
	}
	s.to.Triangles = make([][3]int32, 0, len(m.Triangles)+2*len(s.cuts))
	s.to.Labels = make([]uint16, 0, len(m.Triangles)+2*len(s.cuts))
	for n, t := range m.Triangles {
		s.divide(t, m.Labels[n])
	}
	return s.to
}

// splitting is a mesh on its way from one to the other.
type splitting struct {
	from, to *Mesh
	field    func(p r3.Vec) float64
	values   map[int32]float64  // of the field at vertices
	cuts     map[[2]int32]int32 // vertices on edges, by the edge's ends in order
}

func (s *splitting) value(v int32) float64 {
	value, known := s.values[v]
	if !known {
		value = s.field(s.from.Vertices[v])
		s.values[v] = value
	}
	return value
}

func edgeOf(a, b int32) [2]int32 {
	if a > b {
		a, b = b, a
	}
	return [2]int32{a, b}
}

// cut sets a vertex where the field changes sign between two, if not all but at one
// of them.
func (s *splitting) cut(a, b int32) {
	const close = 0.04 // of the edge
	edge := edgeOf(a, b)
	if _, done := s.cuts[edge]; done {
		return
	}
	low, high := s.value(edge[0]), s.value(edge[1])
	if (low < 0) == (high < 0) {
		return
	}
	t := low / (low - high)
	if t < close || t > 1-close {
		return
	}
	from, to := s.from.Vertices[edge[0]], s.from.Vertices[edge[1]]
	at := func(t float64) r3.Vec { return r3.Add(from, r3.Scale(t, r3.Sub(to, from))) }
	// One step of false position: the field is no straight line along the edge.
	if middle := s.field(at(t)); (middle < 0) == (low < 0) {
		t += (1 - t) * middle / (middle - high)
	} else {
		t *= low / (low - middle)
	}
	s.cuts[edge] = int32(len(s.to.Vertices))
	s.to.Vertices = append(s.to.Vertices, at(min(max(t, close), 1-close)))
}

// divide adds a triangle in as many parts as its cut edges make.
func (s *splitting) divide(t [3]int32, label uint16) {
	var middles [3]int32
	count, last := 0, 0
	for e := range 3 {
		v, is := s.cuts[edgeOf(t[e], t[(e+1)%3])]
		middles[e] = -1
		if is {
			middles[e], count, last = v, count+1, e
		}
	}
	add := func(a, b, c int32) {
		s.to.Triangles = append(s.to.Triangles, [3]int32{a, b, c})
		s.to.Labels = append(s.to.Labels, label)
	}
	switch count {
	case 0:
		add(t[0], t[1], t[2])
	case 1:
		a, b, c, m := t[last], t[(last+1)%3], t[(last+2)%3], middles[last]
		add(a, m, c)
		add(m, b, c)
	case 2:
		whole := 0 // the edge that is not cut
		for middles[whole] >= 0 {
			whole++
		}
		a, b, c := t[whole], t[(whole+1)%3], t[(whole+2)%3]
		right, left := middles[(whole+1)%3], middles[(whole+2)%3]
		add(c, left, right)
		add(a, b, right)
		add(a, right, left)
	default:
		add(t[0], middles[0], middles[2])
		add(t[1], middles[1], middles[0])
		add(t[2], middles[2], middles[1])
		add(middles[0], middles[1], middles[2])
	}
}
