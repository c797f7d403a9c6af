package drawing

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/anatomy"
	"obturon/core/cavity"
	"obturon/core/notation"
	"obturon/core/parallel"
	"obturon/core/solid"
)

// smoothViews are the surface as the dentist looks at it, and the sections that
// show the cavity's depth.
func smoothViews(s Subject) []View {
	var makers []func() View
	seen := func(facial bool) func() View { return func() View { return s.seenFrom(facial) } }
	switch s.Cavity.Kind {
	case cavity.Proximal:
		makers = []func() View{seen(s.Cavity.Frame.W.Y > 0), s.level, s.alongTheBur}
	case cavity.IncisalAngle:
		makers = []func() View{seen(true), seen(false), s.acrossTheBreak}
	default:
		makers = []func() View{seen(s.Cavity.Frame.W.Y > 0), s.alongTheBur, s.level}
	}
	views := make([]View, len(makers))
	var drawn parallel.Group
	for n, draw := range makers {
		drawn.Go(func() {
			views[n] = draw()
			views[n].ID = s.Cavity.Prefix + views[n].ID
			views[n].layOutLabels()
		})
	}
	drawn.Wait()
	return views
}

// biting names the way towards the biting side.
func biting(m *anatomy.Model) string {
	if m.Tooth.Anterior() {
		return "incisal"
	}
	return "occlusal"
}

// upright is the uncut tooth as it is seen from its facial or its lingual side,
// and the direction towards the viewer.
func upright(m *anatomy.Model, facial bool) (v View, out r3.Vec) {
	name := "facial"
	out = r3.Vec{Y: 1}
	if !facial {
		name, out = "lingual", r3.Vec{Y: -1}
	}
	up := r3.Vec{Z: 1}
	v = View{
		ID: name, From: name, Title: "From " + name, Up: biting(m), Right: "mesial", Left: "distal",
		Plane: solid.Plane{U: rightwards(m, out, up), V: up},
	}
	if v.Plane.U.X < 0 {
		v.Right, v.Left = "distal", "mesial"
	}
	v.add(Crown, v.projected(m.Aspect(out).Outline())...)
	v.add(Relief, v.relief(m.Aspect(out))...)
	v.add(Crest, v.open(m.Aspect(out).Crest(0))...)
	return v, out
}

// showRoot ends a view of the whole tooth a little under the cervical line.
func (v *View) showRoot(margin float64) {
	const root = 2.5 // mm
	v.fit(margin)
	v.Bounds.MinY = max(v.Bounds.MinY, v.Plane.Project(r3.Vec{Z: -root}).Y)
	for k := range v.Layers {
		if kind := v.Layers[k].Kind; kind == Crown || kind == Root {
			v.Layers[k].Lines = cropped(v.Layers[k].Lines, v.Bounds.MinY)
		} else if kind == Relief || kind == Crest {
			v.Layers[k].Lines = clipped(v.Layers[k].Lines, v.Bounds)
		}
	}
}

// SurfaceChart is the uncut tooth from its facial or its lingual side, for findings
// to be placed on.
func SurfaceChart(m *anatomy.Model, facial bool) View {
	v, out := upright(m, facial)
	v.addCervicalLine(m, func(p r3.Vec) bool { return r3.Dot(p, out) > 0 })
	v.showRoot(1.5)
	return v
}

// seenFrom is the prepared tooth upright, from its facial or its lingual side.
func (s Subject) seenFrom(facial bool) View {
	m := s.Prepared.Model
	v, out := upright(m, facial)
	v.Plane.Origin.Y = s.Cavity.Frame.Origin.Y
	seen := v.gazing(s, out)
	v.add(Cavity, seen.opening()...)
	v.add(Bevel, seen.surfaces(isBevel)...)
	v.add(Floor, seen.surfaces(isFloor)...)
	for _, l := range s.fillings() {
		v.add(Filling, v.shadow(l)...)
	}
	for _, l := range s.Cavity.Caries() {
		v.add(Lesion, v.shadow(l)...)
	}
	for _, l := range s.Kept() {
		v.add(Kept, v.shadow(l)...)
	}
	here := func(p r3.Vec) bool { return r3.Dot(p, out) > 0 }
	v.addCervicalLine(m, here)
	v.add(Gingiva, v.along(s.Gingival(), here)...)
	v.showRoot(0.5)
	for _, side := range notation.Sides {
		if n := s.Neighbours[side]; n != nil {
			v.addNeighbour(n)
		}
	}
	v.tagSeen(s)
	return v
}

func isFloor(label uint16) bool {
	switch label {
	case cavity.AxialWall, cavity.FacialWall, cavity.LingualWall, cavity.FractureSurface, cavity.Excavation, cavity.LingualLock:
		return true
	}
	return false
}

// relief draws the uncut surface by lines of equal distance to the viewer, half
// a millimetre apart, as far as the middle of the tooth.
func (v *View) relief(aspect *anatomy.Aspect) []solid.Polyline {
	const apart = 0.5 // mm
	sheet := aspect.Nearest()
	nearest := math.Inf(-1)
	for _, depth := range sheet.Values {
		nearest = max(nearest, float64(depth))
	}
	var lines []solid.Polyline
	for level := nearest - apart; level > 0; level -= apart {
		for _, line := range sheet.Contours(level) {
			for _, run := range line.Runs(aspect.Covers) {
				for k, p := range run.Points {
					run.Points[k] = v.Plane.Project(aspect.Plane().At(p.X, p.Y))
				}
				lines = append(lines, run)
			}
		}
	}
	return lines
}

// level is the section across the crown through the middle of the cavity, from
// the biting side.
func (s Subject) level() View {
	m := s.Prepared.Model
	right, up := facing(m)
	at := s.Cavity.Frame.Origin.Z
	if r, ok := s.Smooth().Reach(); ok {
		at = r.Where.At.Z
	} else if r, ok := s.Smooth().Depth(); ok {
		at = r.Where.At.Z
	}
	if s.AcrossAt != nil {
		at = *s.AcrossAt
	}
	v := View{
		ID: "level", Title: "Section, across the crown", Section: Across, Most: highestLevel, Up: "facial", Right: "mesial", Left: "distal", At: at,
		Plane: solid.Plane{Origin: r3.Vec{Z: at}, U: r3.Vec{X: right}, V: r3.Vec{Y: up}},
	}
	if up < 0 {
		v.Up = "lingual"
	}
	if right < 0 {
		v.Right, v.Left = "distal", "mesial"
	}
	half := max(m.Sizes.Mesiodistal, m.Sizes.Buccolingual)/2 + 0.8
	v.cutTooth(s, solid.NewSheet(-half, -half-1, half, half+1, sectionStep))
	for _, side := range notation.Sides {
		n := s.Neighbours[side]
		if n != nil {
			v.cutNeighbour(n, side, right)
		}
	}
	v.tagLevel(s)
	return v
}

// cutNeighbour draws where the view's plane cuts an adjacent tooth.
func (v *View) cutNeighbour(n *anatomy.Neighbour, side notation.Side, mesialRight float64) {
	b := v.Bounds
	b.MinX, b.MaxX = b.MinX-besideRoom, b.MaxX+besideRoom
	from, to := 0.0, b.MaxX
	if (side == notation.Mesial) != (mesialRight > 0) {
		from, to = b.MinX, 0.0
	}
	field := n.Field()
	around := solid.NewSheet(from, b.MinY, to, b.MaxY, sectionStep)
	v.add(Neighbour, clipped(around.Fill(func(x, y float64) float64 { return field(v.Plane.At(x, y)) }).Contours(0), b)...)
}

// alongTheBur is the section along the tooth that holds the bur, through the
// middle of the cavity.
func (s Subject) alongTheBur() View {
	m := s.Prepared.Model
	at := s.Cavity.Frame.Origin.X
	if r, ok := s.Smooth().Sunk(); ok {
		at = r.Where.At.X
	}
	if s.AlongAt != nil {
		at = *s.AlongAt
	}
	_, facialUp := facing(m)
	v := View{
		ID: "along", Title: "Section, along the tooth", Section: Along, Least: -sectionReach, Most: sectionReach, Right: "facial", Left: "lingual", Up: biting(m), At: at,
		Plane: solid.Plane{Origin: r3.Vec{X: at}, U: r3.Vec{Y: facialUp}, V: r3.Vec{Z: 1}},
	}
	if facialUp < 0 {
		v.Right, v.Left = "lingual", "facial"
	}
	v.uprightSection(s)
	v.tagAlongTheBur(s)
	return v
}

// acrossTheBreak is the section square to a fracture surface, from facial to lingual.
func (s Subject) acrossTheBreak() View {
	m := s.Prepared.Model
	_, facialUp := facing(m)
	f := s.Cavity.Frame
	v := View{
		ID: "across_break", Title: "Section, across the fracture surface", Right: "facial", Left: "lingual", Up: "lost", At: 0,
		Plane: solid.Plane{Origin: f.Origin, U: r3.Vec{Y: facialUp}, V: f.W},
	}
	if facialUp < 0 {
		v.Right, v.Left = "lingual", "facial"
	}
	half := m.Sizes.Buccolingual/2 + 1
	const under, over = 4.5, 2.5 // mm
	v.cutTooth(s, solid.NewSheet(-half, -under, half, over, sectionStep))
	v.tagBreak(s)
	return v
}

// uprightSection cuts the tooth along its axis.
func (v *View) uprightSection(s Subject) {
	m := s.Prepared.Model
	half := m.Sizes.Buccolingual/2 + 1.2
	v.cutTooth(s, solid.NewSheet(-half, -below, half, m.Sizes.Height+0.8, sectionStep))
	v.Bounds.MinY = max(v.Bounds.MinY, -below)
	facialRight := v.Plane.U.Y > 0
	for _, p := range s.crossings(s.Gingival(), v.Plane.Origin.X) {
		out := 0.9 // mm: a short stroke outside the tooth
		if (p.Y > 0) != facialRight {
			out = -out
		}
		q := v.Plane.Project(p)
		v.add(Gingiva, solid.Polyline{Points: []solid.Point2{q, {X: q.X + out, Y: q.Y}}})
	}
}

// crossings are where a line around the tooth passes a plane at x.
func (s Subject) crossings(line []r3.Vec, x float64) []r3.Vec {
	var at []r3.Vec
	for n, a := range line {
		b := line[(n+1)%len(line)]
		if (a.X-x)*(b.X-x) <= 0 && a.X != b.X {
			t := (x - a.X) / (b.X - a.X)
			at = append(at, r3.Add(a, r3.Scale(t, r3.Sub(b, a))))
		}
	}
	return at
}
