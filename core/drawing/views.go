package drawing

import (
	"math"
	"slices"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/anatomy"
	"obturon/core/cavity"
	"obturon/core/notation"
	"obturon/core/parallel"
	"obturon/core/solid"
)

const (
	sectionStep = 0.06 // mm between samples of a section
	airBand     = 0.25 // mm beyond a surface within which its field must be exact
	below       = 3.0  // mm of root shown under the cervical plane
)

// occlusalViews are the plan, every box from its neighbour's side, and the two
// sections.
func occlusalViews(s Subject) []View {
	m := s.Prepared.Model
	views := make([]View, 3+len(s.Cavity.Boxes))
	across, along := &views[len(views)-2], &views[len(views)-1]
	var drawn parallel.Group
	drawn.Go(func() {
		views[0] = planView(s)
		views[0].tagPlan(s)
	})
	for n, side := range s.Cavity.Boxes {
		drawn.Go(func() {
			views[n+1] = proximal(s, side)
			views[n+1].tagProximal(s, side)
		})
	}
	drawn.Go(func() {
		*across = buccolingual(s)
		across.tagAcross(s)
	})
	drawn.Go(func() {
		*along = mesiodistal(s)
		along.tagAlong(s)
	})
	drawn.Wait()
	tagPulp(s, m, across, along)
	for n := range views {
		views[n].layOutLabels()
	}
	return views
}

// facing orients a view as the dentist sees the mouth: the midline lies to
// the right of right teeth, and the cheek is up on upper teeth.
func facing(m *anatomy.Model) (mesialRight, facialUp float64) {
	mesialRight, facialUp = 1, 1
	if !m.Tooth.Right() {
		mesialRight = -1
	}
	if !m.Tooth.Upper() {
		facialUp = -1
	}
	return mesialRight, facialUp
}

// blankPlan is the uncut tooth seen along the bur.
func blankPlan(m *anatomy.Model) View {
	mesialRight, facialUp := facing(m)
	v := View{
		ID: "plan", Title: "Plan, along the bur", Up: "lingual", Right: "mesial", Left: "distal",
		Plane: solid.Plane{Origin: m.Table.Origin, U: r3.Scale(mesialRight, m.Table.U), V: r3.Scale(facialUp, m.Table.V)},
	}
	if facialUp > 0 {
		v.Up = "facial"
	}
	if mesialRight < 0 {
		v.Right, v.Left = "distal", "mesial"
	}
	v.add(Crown, turned(m.Silhouette(), mesialRight, facialUp))
	relief := make([]solid.Polyline, len(m.Relief()))
	for n, line := range m.Relief() {
		relief[n] = turned(line, mesialRight, facialUp)
	}
	v.add(Relief, relief...)
	var grooves []solid.Polyline
	for _, g := range m.Grooves {
		line := solid.Polyline{}
		for _, p := range g.Points {
			line.Points = append(line.Points, v.Plane.Project(p))
		}
		grooves = append(grooves, line)
	}
	v.add(Groove, grooves...)
	return v
}

func planView(s Subject) View {
	m := s.Prepared.Model
	mesialRight, facialUp := facing(m)
	v := blankPlan(m)
	mesh := s.Prepared.Mesh
	v.add(Cavity, v.loops(mesh, func(n int) bool { return mesh.Labels[n] != 0 })...)
	v.add(Bevel, v.borders(mesh, func(n int) bool { return mesh.Labels[n]&cavity.BevelFlag != 0 })...)
	v.add(Floor, v.borders(mesh, func(n int) bool {
		l := mesh.Labels[n]
		return l == cavity.Floor || l == cavity.Excavation || l == cavity.GingivalFloor
	})...)
	for _, l := range s.fillings() {
		v.add(Filling, shadow(l, v.Plane)...)
	}
	for _, l := range s.Cavity.Caries() {
		v.add(Lesion, shadow(l, v.Plane)...)
	}
	for _, line := range s.Cavity.Sealed {
		v.add(Seal, v.outsideMargin(s, line)...)
	}
	v.fit(0.8)
	v.addNeighbours(s)
	for _, c := range s.Cavity.Contacts {
		v.add(Bite, ring(solid.Point2{X: mesialRight * c.X, Y: facialUp * c.Y}))
	}
	return v
}

// outsideMargin is what of a line on the tooth was not cut away.
func (v *View) outsideMargin(s Subject, line []r3.Vec) []solid.Polyline {
	var runs []solid.Polyline
	var run solid.Polyline
	keep := func() {
		if len(run.Points) > 1 {
			runs = append(runs, run)
		}
		run = solid.Polyline{}
	}
	for _, at := range line {
		if s.Prepared.InsideMargin(at) {
			keep()
			continue
		}
		run.Points = append(run.Points, v.Plane.Project(at))
	}
	keep()
	return runs
}

// ring marks a contact.
func ring(at solid.Point2) solid.Polyline {
	const points, radius = 20, 0.3 // mm
	line := solid.Polyline{Closed: true}
	for n := range points {
		sin, cos := math.Sincos(2 * math.Pi * float64(n) / points)
		line.Points = append(line.Points, solid.Point2{X: at.X + radius*cos, Y: at.Y + radius*sin})
	}
	return line
}

// Chart is the uncut tooth as the plan view shows it, for findings to be placed on.
func Chart(m *anatomy.Model) View {
	v := blankPlan(m)
	v.fit(1.0)
	return v
}

// addNeighbours outlines the teeth beside, as far as they come into the view.
func (v *View) addNeighbours(s Subject) {
	for _, side := range []notation.Side{notation.Mesial, notation.Distal} {
		n := s.Neighbours[side]
		if n == nil || !slices.Contains(s.Cavity.Boxes, side) {
			continue
		}
		v.add(Neighbour, clipped(v.outline(n), v.Bounds)...)
	}
}

// outline is a neighbour seen along the view's direction.
func (v *View) outline(n *anatomy.Neighbour) []solid.Polyline {
	const step = 0.12 // mm
	mesh := n.Turning().Uncut().Mesh()
	b := Bounds{math.Inf(1), math.Inf(1), math.Inf(-1), math.Inf(-1)}
	seen := make([]solid.Point2, len(mesh.Vertices))
	for k, q := range mesh.Vertices {
		p := v.Plane.Project(n.Into(q))
		seen[k] = p
		b.MinX, b.MinY = min(b.MinX, p.X), min(b.MinY, p.Y)
		b.MaxX, b.MaxY = max(b.MaxX, p.X), max(b.MaxY, p.Y)
	}
	const around = 0.3 // mm
	covered := solid.NewSheet(b.MinX-around, b.MinY-around, b.MaxX+around, b.MaxY+around, step)
	for k := range covered.Values {
		covered.Values[k] = 1
	}
	for _, t := range mesh.Triangles {
		cover(covered, seen[t[0]], seen[t[1]], seen[t[2]])
	}
	return covered.Blur(step).Contours(0)
}

// cover marks the samples inside a triangle.
func cover(sheet *solid.Sheet, a, b, c solid.Point2) {
	area := (b.X-a.X)*(c.Y-a.Y) - (c.X-a.X)*(b.Y-a.Y)
	if math.Abs(area) < 1e-12 {
		return
	}
	at := func(v, origin float64) int { return int(math.Ceil((v - origin) / sheet.H)) }
	for j := at(min(a.Y, b.Y, c.Y), sheet.Y0); j < at(max(a.Y, b.Y, c.Y), sheet.Y0); j++ {
		for i := at(min(a.X, b.X, c.X), sheet.X0); i < at(max(a.X, b.X, c.X), sheet.X0); i++ {
			x, y := sheet.X0+float64(i)*sheet.H, sheet.Y0+float64(j)*sheet.H
			u := ((b.X-x)*(c.Y-y) - (c.X-x)*(b.Y-y)) / area
			w := ((c.X-x)*(a.Y-y) - (a.X-x)*(c.Y-y)) / area
			if u >= 0 && w >= 0 && u+w <= 1 {
				sheet.Values[j*sheet.NX+i] = -1
			}
		}
	}
}

// clipped cuts lines off at the bounds, leaving them open there.
func clipped(lines []solid.Polyline, b Bounds) []solid.Polyline {
	var out []solid.Polyline
	for _, line := range lines {
		var run solid.Polyline
		points := line.Points
		if line.Closed && len(points) > 0 {
			points = append(slices.Clone(points), points[0])
		}
		for _, p := range points {
			if p.X >= b.MinX && p.X <= b.MaxX && p.Y >= b.MinY && p.Y <= b.MaxY {
				run.Points = append(run.Points, p)
				continue
			}
			if len(run.Points) > 1 {
				out = append(out, run)
			}
			run = solid.Polyline{}
		}
		if len(run.Points) > 1 {
			out = append(out, run)
		}
	}
	return out
}

func buccolingual(s Subject) View {
	m := s.Prepared.Model
	// Through the middle of the tooth, where pulp and cusps show, or beside it
	// through the shallowest point.
	const aside = 1.0 // mm
	at := m.Table.Origin
	if r, ok := s.Prepared.PulpalDepth(); ok && math.Abs(r.Where.At.X-at.X) < aside {
		at = r.Where.At
	}
	if s.AcrossAt != nil {
		at.X = *s.AcrossAt
	}
	_, facialUp := facing(m)
	// Facial lies on the side where the plan view has it when turned upright.
	v := View{
		ID: "buccolingual", Title: "Section, buccolingual", Section: Across, Least: -sectionReach, Most: sectionReach, Right: "facial", Left: "lingual", Up: "occlusal", At: at.X,
		Plane: solid.Plane{Origin: r3.Vec{X: at.X}, U: r3.Vec{Y: 1}, V: r3.Vec{Z: 1}},
	}
	if facialUp < 0 {
		v.Plane.U, v.Right, v.Left = r3.Vec{Y: -1}, "lingual", "facial"
	}
	v.section(s)
	return v
}

// mesiodistal cuts along the arch in the plane that holds the bur: through the
// isthmus where there is one, else through a box.
func mesiodistal(s Subject) View {
	m := s.Prepared.Model
	mesialRight, _ := facing(m)
	at := 0.0
	if r, ok := s.Prepared.IsthmusWidth(); ok {
		at = m.Table.To(r.Where.At).Y
	} else if r, ok := s.Prepared.PulpalDepth(); ok {
		at = m.Table.To(r.Where.At).Y
	} else {
		for _, side := range s.Cavity.Boxes {
			if r, ok := s.Prepared.Box(side).GingivalSlope(); ok {
				at = m.Table.To(r.Where.At).Y
				break
			}
		}
	}
	if s.AlongAt != nil {
		at = *s.AlongAt
	}
	v := View{
		ID: "mesiodistal", Title: "Section, mesiodistal", Section: Along, Least: -sectionReach, Most: sectionReach, Right: "mesial", Left: "distal", Up: "occlusal", At: at,
		Plane: solid.Plane{Origin: m.Table.From(r3.Vec{Y: at}), U: r3.Scale(mesialRight, m.Table.U), V: m.Table.W},
	}
	if mesialRight < 0 {
		v.Right, v.Left = "distal", "mesial"
	}
	v.section(s)
	return v
}

// section cuts tooth, tissues, cavity and lesions by the view's plane.
func (v *View) section(s Subject) {
	m := s.Prepared.Model
	half := max(m.Sizes.Mesiodistal, m.Sizes.Buccolingual)/2 + 0.8
	// Heights in the view of the cervical line and of the highest cusp.
	foot := v.Plane.Project(r3.Vec{}).Y
	low := foot - below
	v.cutTooth(s, solid.NewSheet(-half, low, half, foot+m.Sizes.Height+0.8, sectionStep))
	v.Bounds.MinY = max(v.Bounds.MinY, low)
	for _, side := range s.Cavity.Boxes {
		if n := s.Neighbours[side]; n != nil {
			from, to := v.Bounds.MinX-besideRoom, v.Bounds.MaxX+besideRoom
			if v.ID == "mesiodistal" { // a neighbour stands on its own side
				if out := v.Plane.Project(r3.Add(m.Table.Origin, m.Contact(side).Normal)); out.X > 0 {
					from = 0
				} else {
					to = 0
				}
			}
			around := solid.NewSheet(from, v.Bounds.MinY, to, v.Bounds.MaxY, sectionStep)
			field := n.Field()
			cut := around.Fill(func(x, y float64) float64 { return field(v.Plane.At(x, y)) }).Contours(0)
			v.add(Neighbour, clipped(cut, Bounds{v.Bounds.MinX - besideRoom, v.Bounds.MinY, v.Bounds.MaxX + besideRoom, v.Bounds.MaxY})...)
		}
	}
}

// cutTooth draws tooth, tissues, cavity and lesions where the view's plane cuts
// them, over a blank sheet.
func (v *View) cutTooth(s Subject, blank *solid.Sheet) {
	bounds := s.Cut.Bounds()
	v.tissues(s.Prepared.Model, blank, func(p r3.Vec, surface float64) float64 {
		if surface >= airBand || !bounds.Contains(p) {
			return surface
		}
		if left, clear := s.Prepared.Workpiece.Clear(p); clear {
			return left
		}
		return max(surface, -s.Cut.Distance(p))
	})
	for _, l := range s.fillings() {
		v.add(Filling, v.cut(l, sectionStep)...)
	}
	for _, l := range s.Cavity.Caries() {
		v.add(Lesion, v.cut(l, sectionStep)...)
	}
	v.fit(0.6)
}

// cut is where the view's plane cuts a lesion.
func (v *View) cut(l solid.Tool, step float64) []solid.Polyline {
	low, high := v.extent(l.Bounds())
	const around = 0.2 // mm
	return solid.NewSheet(low.X-around, low.Y-around, high.X+around, high.Y+around, step).
		Fill(func(x, y float64) float64 { return l.Distance(v.Plane.At(x, y)) }).Contours(0)
}

// extent is the rectangle of the view that a box takes.
func (v *View) extent(b solid.Box) (low, high solid.Point2) {
	low, high = solid.Point2{X: math.Inf(1), Y: math.Inf(1)}, solid.Point2{X: math.Inf(-1), Y: math.Inf(-1)}
	for _, corner := range solid.Corners(b) {
		p := v.Plane.Project(corner)
		low = solid.Point2{X: min(low.X, p.X), Y: min(low.Y, p.Y)}
		high = solid.Point2{X: max(high.X, p.X), Y: max(high.Y, p.Y)}
	}
	return low, high
}

// besideRoom (mm) is how much of the neighbours a section shows.
const besideRoom = 0.8

// tissues cuts the tooth and its tissues by the view's plane; prepared gives
// the distance to the cut solid from that to the uncut one.
func (v *View) tissues(m *anatomy.Model, blank *solid.Sheet, prepared func(p r3.Vec, surface float64) float64) {
	uncut, cut, dentin, pulp := blank.Like(), blank.Like(), blank.Like(), blank.Like()
	blank.Each(func(n int, x, y float64) {
		p := v.Plane.At(x, y)
		surface := m.Surface.Distance(p)
		if math.Abs(surface) < 2*sectionStep { // where the outline passes, draw the shape itself
			surface = m.SurfaceShape(p)
		}
		left := prepared(p, surface)
		uncut.Values[n], cut.Values[n] = float32(surface), float32(left)
		if surface >= airBand { // no tissue to tell apart
			dentin.Values[n], pulp.Values[n] = float32(surface), float32(surface)
			return
		}
		dentin.Values[n] = float32(max(m.Dentin().Distance(p), left))
		pulp.Values[n] = float32(max(m.Pulp().Distance(p), left))
		if pulp.Values[n] < airBand { // the shape itself is costly
			pulp.Values[n] = float32(max(m.PulpShape(p), left))
		}
	})
	v.add(Uncut, uncut.Contours(0)...)
	v.add(Enamel, solidArea(blank, cut)...)
	v.add(Dentin, solidArea(blank, dentin)...)
	v.add(Pulp, solidArea(blank, pulp)...)
}

// solidArea contours a field as closed areas: where the solid runs off the
// sheet, the border closes it.
func solidArea(blank, field *solid.Sheet) []solid.Polyline {
	closed := blank.Like()
	copy(closed.Values, field.Values)
	for i := range closed.NX {
		closed.Values[i] = 1
		closed.Values[(closed.NY-1)*closed.NX+i] = 1
	}
	return closed.Contours(0)
}

func (v *View) add(kind string, lines ...solid.Polyline) {
	if len(lines) > 0 {
		v.Layers = append(v.Layers, Layer{kind, lines})
	}
}

// loops projects the borders of a set of triangles.
func (v *View) loops(mesh *solid.Mesh, inside func(int) bool) []solid.Polyline {
	var lines []solid.Polyline
	for _, loop := range mesh.Boundary(inside) {
		if len(loop) < 12 { // specks where labels meet
			continue
		}
		line := solid.Polyline{Closed: true}
		for _, n := range loop {
			line.Points = append(line.Points, v.Plane.Project(mesh.Vertices[n]))
		}
		lines = append(lines, line)
	}
	return lines
}

// borders are loops between surfaces that flow into each other: where one ends
// is known to a facet only, so their steps are smoothed out.
func (v *View) borders(mesh *solid.Mesh, inside func(int) bool) []solid.Polyline {
	const step, rounds = 0.05, 8 // mm; about a tenth of a millimetre is smoothed
	lines := v.loops(mesh, inside)
	for n, line := range lines {
		lines[n] = line.Resample(step).Smoothed(rounds)
	}
	return lines
}

// shadow is the outline of a solid seen along the bur.
func shadow(l solid.Tool, plane solid.Plane) []solid.Polyline {
	b := l.Bounds()
	axis := r3.Cross(plane.U, plane.V)
	centre := plane.Project(r3.Scale(0.5, r3.Add(b.Min, b.Max)))
	size := r3.Sub(b.Max, b.Min)
	half := math.Hypot(size.X, size.Y)/2 + 0.2
	const step, rise = 0.1, 0.4 // mm
	return solid.NewSheet(centre.X-half, centre.Y-half, centre.X+half, centre.Y+half, step).Fill(func(x, y float64) float64 {
		least := math.Inf(1)
		for h := -3.5; h <= 1.5; h += rise {
			least = min(least, l.Distance(r3.Add(plane.At(x, y), r3.Scale(h, axis))))
		}
		return least
	}).Contours(0)
}

func turned(line solid.Polyline, x, y float64) solid.Polyline {
	out := solid.Polyline{Closed: line.Closed}
	for _, p := range line.Points {
		out.Points = append(out.Points, solid.Point2{X: p.X * x, Y: p.Y * y})
	}
	return out
}

// fit sets the bounds to what is drawn, with a margin.
func (v *View) fit(margin float64) {
	b := Bounds{math.Inf(1), math.Inf(1), math.Inf(-1), math.Inf(-1)}
	for _, l := range v.Layers {
		for _, line := range l.Lines {
			for _, p := range line.Points {
				b.MinX, b.MinY = min(b.MinX, p.X), min(b.MinY, p.Y)
				b.MaxX, b.MaxY = max(b.MaxX, p.X), max(b.MaxY, p.Y)
			}
		}
	}
	v.Bounds = Bounds{b.MinX - margin, b.MinY - margin, b.MaxX + margin, b.MaxY + margin}
}
