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

// IsthmusWidth is the least distance across between buccal and lingual wall at
// their upper ends, square to the bur, as a calliper finds it. A bevel over the
// walls does not count.
func (p *Prepared) IsthmusWidth() (Reading, bool) { return p.once("isthmus", p.feelIsthmus) }

func (p *Prepared) feelIsthmus() (r Reading, ok bool) {
	r.Value = math.Inf(1)
	for _, l := range p.Margin.loops {
		p.narrowest(l, &r)
	}
	r.Uncertainty = 0.2 * p.Model.Surface.H
	return r, !math.IsInf(r.Value, 1)
}

// narrowest lowers a reading to the least width across a loop.
func (p *Prepared) narrowest(l marginLoop, r *Reading) {
	table := p.Model.Table
	var buccal, lingual []r3.Vec
	low, high := extentX(l.flat)
	if high-low < l.high.Y-l.low.Y { // a cavity of a side groove alone
		return
	}
	for _, m := range l.points {
		q := table.To(m.Wall)
		if q.X > high-endZone || q.X < low+endZone { // the rounded ends close by themselves
			continue
		}
		switch m.Feature {
		case cavity.WallBuccal:
			buccal = append(buccal, q)
		case cavity.WallLingual:
			lingual = append(lingual, q)
		}
	}
	for _, a := range buccal {
		for _, b := range lingual {
			if d := math.Hypot(a.X-b.X, a.Y-b.Y); d < r.Value {
				r.Value = d
				r.Where = Place{"isthmus, buccal to lingual margin", table.From(r3.Scale(0.5, r3.Add(a, b)))}
			}
		}
	}
}

// endZone (mm) is the part of the outline that counts as its mesial or distal end.
const endZone = 0.9

func extentX(line solid.Polyline) (low, high float64) {
	low, high = math.Inf(1), math.Inf(-1)
	for _, q := range line.Points {
		low, high = math.Min(low, q.X), math.Max(high, q.X)
	}
	return low, high
}

// EndWidth is the greatest width within endZone of the margin's mesial (+1) or
// distal (-1) end, measured across; ok is false where a box ends it.
func (p *Prepared) EndWidth(sign float64) (r Reading, ok bool) {
	const step = 0.05
	var line solid.Polyline
	end := math.Inf(-1)
	for _, l := range p.Margin.loops {
		low, high := extentX(l.flat)
		if reach := math.Max(sign*low, sign*high); reach > end {
			end, line = reach, l.flat
		}
	}
	for _, m := range p.Margin.Points {
		if m.Feature >= cavity.BoxBuccal && sign*p.Model.Table.To(m.At).X > end-endZone {
			return r, false
		}
	}
	for d := step; d <= endZone; d += step {
		x := sign * (end - d)
		from, to, hit := span(line, x)
		if hit && to-from > r.Value {
			r.Value = to - from
			r.Where = Place{"dovetail", p.Model.Table.From(r3.Vec{X: x, Y: (from + to) / 2, Z: p.marginHeight(x, to)})}
			ok = true
		}
	}
	r.Uncertainty = 0.2 * p.Model.Surface.H
	return r, ok
}

// span is where the line x cuts a closed polyline, outermost.
func span(line solid.Polyline, x float64) (low, high float64, hit bool) {
	low, high = math.Inf(1), math.Inf(-1)
	for n, a := range line.Points {
		b := line.Points[(n+1)%len(line.Points)]
		if (a.X-x)*(b.X-x) > 0 || a.X == b.X {
			continue
		}
		y := a.Y + (b.Y-a.Y)*(x-a.X)/(b.X-a.X)
		low, high, hit = math.Min(low, y), math.Max(high, y), true
	}
	return low, high, hit
}

// marginHeight is the height of the margin point nearest (x, y) of the table.
func (p *Prepared) marginHeight(x, y float64) float64 {
	best, height := math.Inf(1), 0.0
	for _, m := range p.Margin.Points {
		q := p.Model.Table.To(m.At)
		if d := math.Hypot(q.X-x, q.Y-y); d < best {
			best, height = d, q.Z
		}
	}
	return height
}

// GrooveReach is how far the outline runs into a side groove: from the
// isthmus wall to the margin, along the groove. Length is what the groove
// offers from that wall. ok is false where the groove starts outside.
func (p *Prepared) GrooveReach(g anatomy.GrooveLine, isthmus float64) (r Reading, length float64, ok bool) {
	var walked, reached float64
	for n, at := range g.Points {
		q := p.Model.Table.To(at)
		if n > 0 {
			prev := p.Model.Table.To(g.Points[n-1])
			step := math.Hypot(q.X-prev.X, q.Y-prev.Y)
			// March finely, so that the margin is met to a hundredth.
			const fine = 12
			for s := 1; s <= fine; s++ {
				t := float64(s) / fine
				if p.Margin.contains(solid.Point2{X: prev.X + t*(q.X-prev.X), Y: prev.Y + t*(q.Y-prev.Y)}) {
					reached = walked + t*step
					r.Where = Place{g.Name, r3.Add(g.Points[n-1], r3.Scale(t, r3.Sub(at, g.Points[n-1])))}
				}
			}
			walked += step
		} else if !p.Margin.contains(solid.Point2{X: q.X, Y: q.Y}) {
			return r, 0, false
		}
	}
	r.Value, r.Uncertainty = math.Max(reached-isthmus/2, 0), 0.2*p.Model.Surface.H
	return r, walked - isthmus/2, true
}

// Smoothness is the smallest radius of the occlusal margin seen along the bur,
// over a third of a millimetre at a time. Where the margin runs down a proximal
// face it turns by itself, and where it crosses a fissure too narrow for a bur it
// dips: both are left out.
func (p *Prepared) Smoothness() (r Reading, ok bool) {
	r.Value = math.Inf(1)
	for _, l := range p.Margin.loops {
		p.tightest(l, &r)
	}
	r.Uncertainty = p.Model.Surface.H
	return r, !math.IsInf(r.Value, 1)
}

// tightest lowers a reading to the least radius of a loop.
func (p *Prepared) tightest(l marginLoop, r *Reading) {
	// noiseRounds sheds mesh noise and the nicks where a fissure crosses.
	const step, window, noiseRounds = 0.05, 7, 12
	if len(l.flat.Points) < 3 {
		return
	}
	sampled := l.flat.Resample(step).Points
	counts := make([]bool, len(sampled))
	for n, q := range sampled {
		counts[n] = l.facesBur(q, p.Model.Table.W) && !p.inFissure(q)
	}
	line := solid.Polyline{Points: sampled, Closed: true}.Smoothed(noiseRounds).Points
	n := len(line)
	for i := range line {
		before, after := (i+n-window)%n, (i+window)%n
		all := true
		for k := -window; k <= window; k++ {
			all = all && counts[(i+n+k)%n]
		}
		if !all {
			continue
		}
		if radius := circumradius(line[before], line[i], line[after]); radius < r.Value {
			r.Value = radius
			r.Where = Place{"margin", p.Model.Table.From(r3.Vec{X: line[i].X, Y: line[i].Y, Z: p.marginHeight(line[i].X, line[i].Y)})}
		}
	}
}

// inFissure reports a place of the table's plane in a fissure too narrow for a bur.
func (p *Prepared) inFissure(q solid.Point2) bool {
	const deep = 0.08 // mm under what a bur rides over
	return p.Model.RiddenHeights().At(q.X, q.Y)-p.Model.TableHeights().At(q.X, q.Y) > deep
}

// facesBur reports that the outer surface at the loop's point nearest q faces
// the bur rather than a neighbour, and is not the margin of a covered cusp, whose
// bevel is waved.
func (l *marginLoop) facesBur(q solid.Point2, up r3.Vec) bool {
	const least = 0.5
	best, faces := math.Inf(1), false
	for n, at := range l.flat.Points {
		if d := (at.X-q.X)*(at.X-q.X) + (at.Y-q.Y)*(at.Y-q.Y); d < best {
			best, faces = d, r3.Dot(l.points[n].Outer, up) > least && l.points[n].Feature != cavity.CuspReduction
		}
	}
	return faces
}

// circumradius of three points; infinite on a line.
func circumradius(a, b, c solid.Point2) float64 {
	ab, bc, ca := math.Hypot(a.X-b.X, a.Y-b.Y), math.Hypot(b.X-c.X, b.Y-c.Y), math.Hypot(c.X-a.X, c.Y-a.Y)
	area2 := math.Abs((b.X-a.X)*(c.Y-a.Y) - (c.X-a.X)*(b.Y-a.Y))
	if area2 < 1e-9 {
		return math.Inf(1)
	}
	return ab * bc * ca / (2 * area2)
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
