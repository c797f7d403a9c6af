package solid

import (
	"math"
	"slices"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/parallel"
)

// Mesh is a triangle surface with outward normals (counter-clockwise seen
// from air), millimetres. Labels has one entry a triangle: 0 for the blank,
// else the feature of the tool that made it.
type Mesh struct {
	Vertices  []r3.Vec
	Triangles [][3]int32
	Labels    []uint16
}

// Mesh contours the workpiece. Bricks without cuts reuse the blank's surface.
func (w *Workpiece) Mesh() *Mesh {
	parts := w.brickMeshes()
	offsets := make([]int32, len(parts))
	vertices, quads := int32(0), 0
	for n, part := range parts {
		offsets[n] = vertices
		if part != nil {
			vertices += int32(len(part.vertices))
			quads += len(part.edges)
		}
	}
	mesh := &Mesh{
		Vertices:  make([]r3.Vec, 0, vertices),
		Triangles: make([][3]int32, 0, 2*quads),
		Labels:    make([]uint16, 0, 2*quads),
	}
	sharp := make([]bool, 0, vertices)
	for _, part := range parts {
		if part == nil {
			continue
		}
		for _, v := range part.vertices {
			mesh.Vertices = append(mesh.Vertices, v.p)
			sharp = append(sharp, v.feature)
		}
	}
	faces := make([]Mesh, len(parts))
	parallel.Each(len(parts), func(n int) {
		if part := parts[n]; part != nil {
			faces[n] = Mesh{Vertices: mesh.Vertices, Triangles: make([][3]int32, 0, 2*len(part.edges)), Labels: make([]uint16, 0, 2*len(part.edges))}
			for _, e := range part.edges {
				if quad, ok := w.quad(parts, offsets, n, e); ok {
					faces[n].addQuad(quad, sharp, e.label)
				}
			}
		}
	})
	for n := range faces {
		mesh.Triangles, mesh.Labels = append(mesh.Triangles, faces[n].Triangles...), append(mesh.Labels, faces[n].Labels...)
	}
	return mesh
}

// brickMeshes gives each brick's part of the surface. Only bricks that were
// cut since the last known surface, and those whose cells reach into them, are
// contoured.
func (w *Workpiece) brickMeshes() []*brickMesh {
	known := w.known.Load()
	if known == nil {
		known = &knownSurface{cut: make([]*brick, len(w.cut)), parts: w.surface()}
	}
	parts := slices.Clone(known.parts)
	stale := w.staleBricks(known)
	parallel.Each(len(stale), func(i int) { parts[stale[i]] = w.meshBrick(stale[i]) })
	w.known.Store(&knownSurface{cut: w.cut, parts: parts})
	return parts
}

// staleBricks lists the bricks whose surface is not the known one any more.
func (w *Workpiece) staleBricks(known *knownSurface) []int {
	marked := make([]bool, len(w.cut))
	var stale []int
	for n := range w.cut {
		if w.cut[n] == known.cut[n] {
			continue
		}
		x, y, z := n%w.bricks[0], n/w.bricks[0]%w.bricks[1], n/(w.bricks[0]*w.bricks[1])
		for c := range 8 { // cells of the bricks before reach into this one
			i, j, k := x-c&1, y-c>>1&1, z-c>>2
			if i < 0 || j < 0 || k < 0 {
				continue
			}
			if at := w.brickIndex(i, j, k); !marked[at] {
				marked[at] = true
				stale = append(stale, at)
			}
		}
	}
	return stale
}

// quad joins the four cells around a crossed lattice edge, counter-clockwise
// about the edge's axis. Edges on the border of the grid have no ring of cells.
func (w *Workpiece) quad(parts []*brickMesh, offsets []int32, n int, e crossedEdge) (quad [4]int32, ok bool) {
	at := [3]int{
		n%w.bricks[0]*brickSide + int(e.cell)%brickSide,
		n/w.bricks[0]%w.bricks[1]*brickSide + int(e.cell)/brickSide%brickSide,
		n/(w.bricks[0]*w.bricks[1])*brickSide + int(e.cell)/(brickSide*brickSide),
	}
	axis := int(e.axis)
	u, v := (axis+1)%3, (axis+2)%3
	for turn, step := range [4][2]int{{0, 0}, {1, 0}, {1, 1}, {0, 1}} {
		cell := at
		cell[u] -= step[0]
		cell[v] -= step[1]
		if cell[u] < 0 || cell[v] < 0 {
			return quad, false
		}
		part := parts[w.brickIndex(cell[0]/brickSide, cell[1]/brickSide, cell[2]/brickSide)]
		local := (cell[2]%brickSide*brickSide+cell[1]%brickSide)*brickSide + cell[0]%brickSide
		// The edge as this cell numbers it: the step bits in axis order.
		low, high := step[0], step[1]
		if u > v {
			low, high = high, low
		}
		sheet := cellConfigs[part.pattern[local]].sheet[4*axis+low+2*high]
		index := w.brickIndex(cell[0]/brickSide, cell[1]/brickSide, cell[2]/brickSide)
		quad[turn] = offsets[index] + int32(part.first[local]) + int32(sheet)
	}
	if !e.outward {
		quad[1], quad[3] = quad[3], quad[1]
	}
	return quad, true
}

// addQuad splits a quad along the diagonal that follows a line angle, or else
// the shorter one.
func (m *Mesh) addQuad(q [4]int32, sharp []bool, label uint16) {
	first := r3.Norm2(r3.Sub(m.Vertices[q[0]], m.Vertices[q[2]])) <= r3.Norm2(r3.Sub(m.Vertices[q[1]], m.Vertices[q[3]]))
	along02, along13 := sharp[q[0]] && sharp[q[2]], sharp[q[1]] && sharp[q[3]]
	if along02 != along13 {
		first = along02
	}
	if chosen := m.agreement(q, first); chosen < 0 && m.agreement(q, !first) > chosen {
		first = !first // rather off the line angle than folded over
	}
	if first {
		m.Triangles = append(m.Triangles, [3]int32{q[0], q[1], q[2]}, [3]int32{q[0], q[2], q[3]})
	} else {
		m.Triangles = append(m.Triangles, [3]int32{q[1], q[2], q[3]}, [3]int32{q[1], q[3], q[0]})
	}
	m.Labels = append(m.Labels, label, label)
}

// agreement is the cosine between the two halves of a quad split along its
// first or its second diagonal; below 0 one half turns back over the other.
func (m *Mesh) agreement(q [4]int32, first bool) float64 {
	a, b, c, d := m.Vertices[q[0]], m.Vertices[q[1]], m.Vertices[q[2]], m.Vertices[q[3]]
	if !first {
		a, b, c, d = b, c, d, a
	}
	diagonal := r3.Sub(c, a)
	x, y := r3.Cross(r3.Sub(b, a), diagonal), r3.Cross(diagonal, r3.Sub(d, a))
	size := math.Sqrt(r3.Norm2(x) * r3.Norm2(y))
	if size == 0 {
		return 1
	}
	return r3.Dot(x, y) / size
}

// TurnedOver is the mirror image in x, its normals outward again.
func (m *Mesh) TurnedOver() *Mesh {
	over := &Mesh{Vertices: make([]r3.Vec, len(m.Vertices)), Triangles: make([][3]int32, len(m.Triangles)), Labels: m.Labels}
	for n, v := range m.Vertices {
		over.Vertices[n] = r3.Vec{X: -v.X, Y: v.Y, Z: v.Z}
	}
	for n, t := range m.Triangles {
		over.Triangles[n] = [3]int32{t[0], t[2], t[1]}
	}
	return over
}

// Volume is the enclosed volume in mm³.
func (m *Mesh) Volume() float64 {
	sum := 0.0
	for _, t := range m.Triangles {
		sum += r3.Dot(m.Vertices[t[0]], r3.Cross(m.Vertices[t[1]], m.Vertices[t[2]]))
	}
	return sum / 6
}

// Closed reports whether every directed edge is matched by its opposite, as
// in the surface of a solid.
func (m *Mesh) Closed() bool {
	count := make(map[[2]int32]int, 3*len(m.Triangles))
	for _, t := range m.Triangles {
		for e := range 3 {
			a, b := t[e], t[(e+1)%3]
			if a < b {
				count[[2]int32{a, b}]++
			} else {
				count[[2]int32{b, a}]--
			}
		}
	}
	for _, n := range count {
		if n != 0 {
			return false
		}
	}
	return true
}

// AreaVector is the normal of triangle n times twice its area.
func (m *Mesh) AreaVector(n int) r3.Vec {
	t := m.Triangles[n]
	a := m.Vertices[t[0]]
	return r3.Cross(r3.Sub(m.Vertices[t[1]], a), r3.Sub(m.Vertices[t[2]], a))
}

// Normal is the unit outward normal of triangle n.
func (m *Mesh) Normal(n int) r3.Vec { return r3.Unit(m.AreaVector(n)) }

// Area is the area of triangle n in mm².
func (m *Mesh) Area(n int) float64 { return r3.Norm(m.AreaVector(n)) / 2 }

// Centroid is the middle of triangle n.
func (m *Mesh) Centroid(n int) r3.Vec {
	t := m.Triangles[n]
	return r3.Scale(1.0/3, r3.Add(r3.Add(m.Vertices[t[0]], m.Vertices[t[1]]), m.Vertices[t[2]]))
}

// Boundary chains the edges where triangles accepted by inside meet the rest,
// walking with the accepted triangles on the left. Each loop is closed and
// lists vertex indices once.
func (m *Mesh) Boundary(inside func(n int) bool) [][]int32 {
	// Only edges between two vertices that touch both sides can lie on the border.
	const touchesInside, touchesRest = 1, 2
	touches := make([]uint8, len(m.Vertices))
	accepted := make([]bool, len(m.Triangles))
	for n, t := range m.Triangles {
		side := uint8(touchesRest)
		if accepted[n] = inside(n); accepted[n] {
			side = touchesInside
		}
		for _, v := range t {
			touches[v] |= side
		}
	}
	const both = touchesInside | touchesRest
	edges := map[[2]int32]bool{}
	var order [][2]int32
	for n, t := range m.Triangles {
		if !accepted[n] {
			continue
		}
		for e := range 3 {
			a, b := t[e], t[(e+1)%3]
			if touches[a] != both || touches[b] != both {
				continue
			}
			if edges[[2]int32{b, a}] {
				delete(edges, [2]int32{b, a})
				continue
			}
			edges[[2]int32{a, b}] = true
			order = append(order, [2]int32{a, b})
		}
	}
	next := map[int32][]int32{}
	for _, e := range order {
		if edges[e] {
			next[e[0]] = append(next[e[0]], e[1])
		}
	}
	var loops [][]int32
	for _, e := range order {
		start := e[0]
		if len(next[start]) == 0 {
			continue
		}
		var loop []int32
		for at := start; ; {
			ways := next[at]
			if len(ways) == 0 {
				break
			}
			loop = append(loop, at)
			to := ways[len(ways)-1]
			next[at] = ways[:len(ways)-1]
			at = to
		}
		if len(loop) > 2 {
			loops = append(loops, loop)
		}
	}
	return loops
}

// Patches splits the triangles that inside accepts into connected pieces, each
// a list of triangles, in the order of their first one.
func (m *Mesh) Patches(inside func(n int) bool) [][]int {
	root := make([]int32, len(m.Vertices))
	for n := range root {
		root[n] = int32(n)
	}
	find := func(v int32) int32 {
		for root[v] != v {
			root[v] = root[root[v]]
			v = root[v]
		}
		return v
	}
	var accepted []int
	for n, t := range m.Triangles {
		if !inside(n) {
			continue
		}
		accepted = append(accepted, n)
		root[find(t[1])] = find(t[0])
		root[find(t[2])] = find(t[0])
	}
	place := map[int32]int{}
	var patches [][]int
	for _, n := range accepted {
		at := find(m.Triangles[n][0])
		k, known := place[at]
		if !known {
			k = len(patches)
			place[at] = k
			patches = append(patches, nil)
		}
		patches[k] = append(patches[k], n)
	}
	return patches
}
