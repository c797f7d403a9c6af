package drawing

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/anatomy"
	"obturon/core/prep"
	"obturon/core/solid"
)

const (
	sectionStep = 0.06 // mm between samples of a section
	airBand     = 0.25 // mm beyond a surface within which its field must be exact
	below       = 3.0  // mm of root shown under the cervical plane
)

// ClassI draws the three views of an occlusal preparation.
func ClassI(s Subject) []View {
	m := s.Prepared.Model
	views := []View{planView(s), buccolingual(s), mesiodistal(s)}
	tagClassI(s, m, views)
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

func planView(s Subject) View {
	m := s.Prepared.Model
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
	mesh := s.Prepared.Mesh
	v.add(Cavity, v.loops(mesh, func(n int) bool { return mesh.Labels[n] != 0 })...)
	v.add(Floor, v.loops(mesh, func(n int) bool { return mesh.Labels[n] == prep.Floor || mesh.Labels[n] == prep.Excavation })...)
	for _, l := range s.Lesions {
		v.add(Lesion, shadow(l, v.Plane)...)
	}
	v.fit(0.8)
	return v
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
	_, facialUp := facing(m)
	// Facial lies on the side where the plan view has it when turned upright.
	v := View{
		ID: "buccolingual", Title: "Section, buccolingual", Right: "facial", Left: "lingual", Up: "occlusal",
		Plane: solid.Plane{Origin: r3.Vec{X: at.X}, U: r3.Vec{Y: 1}, V: r3.Vec{Z: 1}},
	}
	if facialUp < 0 {
		v.Plane.U, v.Right, v.Left = r3.Vec{Y: -1}, "lingual", "facial"
	}
	v.section(s)
	return v
}

func mesiodistal(s Subject) View {
	m := s.Prepared.Model
	mesialRight, _ := facing(m)
	at := m.Table.Origin
	if r, ok := s.Prepared.PulpalDepth(); ok {
		at = r.Where.At
	}
	v := View{
		ID: "mesiodistal", Title: "Section, mesiodistal", Right: "mesial", Left: "distal", Up: "occlusal",
		Plane: solid.Plane{Origin: r3.Vec{Y: at.Y}, U: r3.Vec{X: mesialRight}, V: r3.Vec{Z: 1}},
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
	half := math.Max(m.Sizes.Mesiodistal, m.Sizes.Buccolingual)/2 + 0.8
	blank := solid.NewSheet(-half, -below, half, m.Sizes.Height+0.4, sectionStep)
	bounds := s.Cavity.Bounds()
	v.tissues(m, blank, func(p r3.Vec, surface float64) float64 {
		if surface < airBand && bounds.Contains(p) {
			return math.Max(surface, -s.Cavity.Distance(p))
		}
		return surface
	})
	for _, l := range s.Lesions {
		lesion := blank.Like().Fill(func(x, y float64) float64 { return l.Distance(v.Plane.At(x, y)) })
		v.add(Lesion, lesion.Contours(0)...)
	}
	v.fit(0.6)
	v.Bounds.MinY = math.Max(v.Bounds.MinY, -below)
}

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
		dentin.Values[n] = float32(math.Max(m.Dentin().Distance(p), left))
		pulp.Values[n] = float32(math.Max(m.Pulp().Distance(p), left))
		if pulp.Values[n] < airBand { // the shape itself is costly
			pulp.Values[n] = float32(math.Max(m.PulpShape(p), left))
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
			least = math.Min(least, l.Distance(r3.Add(plane.At(x, y), r3.Scale(h, axis))))
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
				b.MinX, b.MinY = math.Min(b.MinX, p.X), math.Min(b.MinY, p.Y)
				b.MaxX, b.MaxY = math.Max(b.MaxX, p.X), math.Max(b.MaxY, p.Y)
			}
		}
	}
	v.Bounds = Bounds{b.MinX - margin, b.MinY - margin, b.MaxX + margin, b.MaxY + margin}
}
