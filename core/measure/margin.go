package measure

import (
	"cmp"
	"math"
	"slices"
	"sort"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/anatomy"
	"obturon/core/cavity"
	"obturon/core/parallel"
	"obturon/core/solid"
)

// Margin is the cavosurface margin: the closed curves where cut and uncut
// surface meet, one for each cavity.
type Margin struct {
	Points []MarginPoint // of all curves, one after the other
	loops  []marginLoop
}

// Loops are the closed curves of the margin, in the tooth frame.
func (m *Margin) Loops() [][]r3.Vec {
	curves := make([][]r3.Vec, len(m.loops))
	for n, l := range m.loops {
		for _, p := range l.points {
			curves[n] = append(curves[n], p.At)
		}
	}
	return curves
}

// marginLoop is one closed curve of the margin.
type marginLoop struct {
	points []MarginPoint
	flat   solid.Polyline // in the plane of the occlusal table
	// The rectangle about flat.
	low, high solid.Point2
}

// setFlat projects the loop's points into the plane of the occlusal table.
func (l *marginLoop) setFlat(table anatomy.Frame) {
	l.flat = solid.Polyline{Closed: true}
	l.low, l.high = solid.Point2{X: math.Inf(1), Y: math.Inf(1)}, solid.Point2{X: math.Inf(-1), Y: math.Inf(-1)}
	for _, at := range l.points {
		q := table.To(at.At)
		l.flat.Points = append(l.flat.Points, solid.Point2{X: q.X, Y: q.Y})
		l.low = solid.Point2{X: min(l.low.X, q.X), Y: min(l.low.Y, q.Y)}
		l.high = solid.Point2{X: max(l.high.X, q.X), Y: max(l.high.Y, q.Y)}
	}
}

// contains reports a place of the table's plane inside the loop.
func (l *marginLoop) contains(q solid.Point2) bool {
	return q.X >= l.low.X && q.X <= l.high.X && q.Y >= l.low.Y && q.Y <= l.high.Y && l.flat.Contains(q)
}

// MarginPoint is a place on the margin with what lies on either side.
type MarginPoint struct {
	At      r3.Vec
	Feature uint16  // the wall below the margin here
	Outer   r3.Vec  // unit normal of the uncut surface here, out of the tooth
	Angle   float64 // cavosurface angle, through the tooth, degrees
	// Bevel is the width (mm) of the bevel that ends here, 0 where there is
	// none; Wall is where the wall itself ends: under the bevel, or at the margin.
	Bevel float64
	Wall  r3.Vec
	// FromCorner is how far (mm) along the margin another wall begins.
	FromCorner float64
}

// leastLoop (mm) is the length of a curve under which it is a speck.
const leastLoop = 1.5

// findMargin chains the margin from the mesh and measures the cavosurface
// angle along it.
func findMargin(p *Prepared) Margin {
	m := p.Mesh
	var margin Margin
	for _, loop := range m.Boundary(func(n int) bool { return m.Labels[n] != 0 }) {
		if length(m, loop) < leastLoop {
			continue
		}
		walls := wallFeatures(m, loop)
		l := marginLoop{points: make([]MarginPoint, len(loop))}
		parallel.Each(len(loop), func(n int) { l.points[n] = p.feelMargin(m.Vertices[loop[n]], walls[loop[n]]) })
		l.measureCorners()
		l.setFlat(p.Model.Table)
		margin.loops = append(margin.loops, l)
		margin.Points = append(margin.Points, l.points...)
	}
	return margin
}

func length(m *solid.Mesh, loop []int32) float64 {
	sum := 0.0
	for n, v := range loop {
		sum += r3.Norm(r3.Sub(m.Vertices[v], m.Vertices[loop[(n+1)%len(loop)]]))
	}
	return sum
}

// contains reports a place of the table's plane inside the margin.
func (m *Margin) contains(q solid.Point2) bool {
	for n := range m.loops {
		if m.loops[n].contains(q) {
			return true
		}
	}
	return false
}

// feelMargin measures the margin at a mesh point of it.
func (p *Prepared) feelMargin(at r3.Vec, feature uint16) MarginPoint {
	m := p.onBothSurfaces(at, cavity.WallOf(feature))
	m.Wall = m.At
	if feature&cavity.BevelFlag != 0 {
		if width, edge, ok := p.feelBevel(m); ok {
			m.Bevel, m.Wall = width, edge
		}
	}
	return m
}

// InsideMargin reports a place that the margin encloses, seen along the bur.
func (p *Prepared) InsideMargin(at r3.Vec) bool { return p.Margin.contains(p.flat(at)) }

// onBothSurfaces moves a mesh point to where outer and cut surface meet, by
// Newton's method on both fields, and measures the angle there.
func (p *Prepared) onBothSurfaces(at r3.Vec, feature uint16) MarginPoint {
	const rounds = 3
	h := p.Workpiece.H
	start := at
	outer := r3.Unit(p.Model.Surface.Gradient(at))
	cut := p.cutNormal(at)
	along := r3.Dot(outer, cut)
	for range rounds {
		f, g := p.Model.Surface.Distance(at), p.Workpiece.CutDistance(at)
		det := 1 - along*along
		if det < 0.05 || math.IsInf(g, 0) { // the surfaces graze each other: no sharper place
			break
		}
		a, b := (along*g-f)/det, (along*f-g)/det
		at = r3.Add(at, r3.Add(r3.Scale(a, outer), r3.Scale(b, cut)))
	}
	if r3.Norm(r3.Sub(at, start)) > h { // walked off, to another wall's margin
		at = start
	} else {
		outer, cut = r3.Unit(p.Model.Surface.Gradient(at)), p.cutNormal(at)
	}
	return MarginPoint{At: at, Feature: feature, Outer: outer, Angle: 180 - between(outer, cut)}
}

// cutNormal is the direction in which the cut surface faces at p, into the cavity.
func (p *Prepared) cutNormal(at r3.Vec) r3.Vec {
	const d = 2e-3 // mm
	var g r3.Vec
	for _, k := range [4]r3.Vec{{X: 1, Y: -1, Z: -1}, {X: -1, Y: -1, Z: 1}, {X: -1, Y: 1, Z: -1}, {X: 1, Y: 1, Z: 1}} {
		g = r3.Add(g, r3.Scale(p.Workpiece.CutDistance(r3.Add(at, r3.Scale(d, k))), k))
	}
	if length := r3.Norm(g); length > 0 && !math.IsInf(length, 0) && !math.IsNaN(length) {
		return r3.Scale(1/length, g)
	}
	return p.Model.Table.W
}

// measureCorners finds for each point how far away along the margin another
// wall begins.
func (m *marginLoop) measureCorners() {
	n := len(m.points)
	for i := range m.points {
		m.points[i].FromCorner = math.Inf(1)
	}
	for _, step := range []int{1, -1} {
		walked := math.Inf(1)
		for k := range 2 * n { // twice round, so that every point has seen a corner
			i := ((step*k)%n + n) % n
			last := ((i-step)%n + n) % n
			d := r3.Norm(r3.Sub(m.points[i].At, m.points[last].At))
			walked += d
			if m.points[i].Feature != m.points[last].Feature {
				walked = d / 2
			}
			m.points[i].FromCorner = math.Min(m.points[i].FromCorner, walked)
		}
	}
}

// wallFeatures names, for each vertex of a loop, the feature that has most of
// the cut surface around it.
func wallFeatures(m *solid.Mesh, loop []int32) map[int32]uint16 {
	onLoop := make([]bool, len(m.Vertices))
	for _, v := range loop {
		onLoop[v] = true
	}
	type share struct {
		feature uint16
		area    float64
	}
	shares := make(map[int32][]share, len(loop))
	for n, t := range m.Triangles {
		if m.Labels[n] == 0 {
			continue
		}
		for _, v := range t {
			if !onLoop[v] {
				continue
			}
			list := shares[v]
			i := slices.IndexFunc(list, func(s share) bool { return s.feature == m.Labels[n] })
			if i < 0 {
				i, list = len(list), append(list, share{feature: m.Labels[n]})
			}
			list[i].area += m.Area(n)
			shares[v] = list
		}
	}
	walls := make(map[int32]uint16, len(loop))
	for v, list := range shares {
		walls[v] = slices.MaxFunc(list, func(a, b share) int { return cmp.Compare(a.area, b.area) }).feature
	}
	return walls
}

func quantile(values []float64, q float64) float64 {
	sorted := append([]float64{}, values...)
	sort.Float64s(sorted)
	return sorted[int(q*float64(len(sorted)-1)+0.5)]
}

// flat is a place seen along the bur, in the plane of the occlusal table.
func (p *Prepared) flat(at r3.Vec) solid.Point2 {
	q := p.Model.Table.To(at)
	return solid.Point2{X: q.X, Y: q.Y}
}
