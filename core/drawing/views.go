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
	sectionStep = 0.1  // mm between the samples that a section's curves are first found on
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
	seen := v.gazing(s, m.Table.W)
	v.add(Cavity, seen.opening()...)
	v.add(Bevel, seen.surfaces(isBevel)...)
	v.add(Floor, seen.surfaces(isOcclusalFloor)...)
	for _, l := range s.fillings() {
		v.add(Filling, v.shadow(l)...)
	}
	for _, l := range s.Cavity.Caries() {
		v.add(Lesion, v.shadow(l)...)
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

func isBevel(feature uint16) bool { return feature&cavity.BevelFlag != 0 }

func isOcclusalFloor(feature uint16) bool {
	return feature == cavity.Floor || feature == cavity.Excavation || feature == cavity.GingivalFloor
}

// outsideMargin is what of a line on the tooth was not cut away.
func (v *View) outsideMargin(s Subject, line []r3.Vec) []solid.Polyline {
	kept := solid.Runs(line, false, func(at r3.Vec) bool { return !s.Prepared.InsideMargin(at) })
	return v.open(kept)
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

// addNeighbours outlines the adjacent teeth, as far as they come into the view.
func (v *View) addNeighbours(s Subject) {
	for _, side := range []notation.Side{notation.Mesial, notation.Distal} {
		n := s.Neighbours[side]
		if n == nil || !slices.Contains(s.Cavity.Boxes, side) {
			continue
		}
		v.addNeighbour(n)
	}
}

// addNeighbour outlines an adjacent tooth, as far as it comes into the view.
func (v *View) addNeighbour(n *anatomy.Neighbour) {
	v.add(Neighbour, clipped(v.projected(n.Outline(v.sight())), v.Bounds)...)
}

// clipped cuts lines off at the bounds, leaving them open there.
func clipped(lines []solid.Polyline, b Bounds) []solid.Polyline {
	var out []solid.Polyline
	for _, line := range lines {
		out = append(out, line.Runs(func(p solid.Point2) bool {
			return p.X >= b.MinX && p.X <= b.MaxX && p.Y >= b.MinY && p.Y <= b.MaxY
		})...)
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
	return even(solid.NewSheet(low.X-around, low.Y-around, high.X+around, high.Y+around, step).
		Fill(func(x, y float64) float64 { return l.Distance(v.Plane.At(x, y)) }).Contours(0))
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
	surface := func(p r3.Vec) float64 {
		d := m.Surface.Distance(p)
		if math.Abs(d) < 2*sectionStep { // where the outline passes, draw the shape itself
			return m.SurfaceShape(p)
		}
		return d
	}
	left := func(p r3.Vec) float64 { return prepared(p, surface(p)) }
	dentin := func(p r3.Vec, left float64) float64 { return max(m.Dentin().Distance(p), left) }
	pulp := func(p r3.Vec, left float64) float64 {
		d := max(m.Pulp().Distance(p), left)
		if math.Abs(d) < airBand { // the shape itself is costly
			d = max(m.PulpShape(p), left)
		}
		return d
	}
	sampled := [4]*solid.Sheet{blank.Like(), blank.Like(), blank.Like(), blank.Like()}
	blank.Each(func(n int, x, y float64) {
		p := v.Plane.At(x, y)
		outer := surface(p)
		cut := prepared(p, outer)
		values := [4]float64{outer, cut, outer, outer}
		if outer < airBand { // else there is no tissue to tell apart
			values[2], values[3] = dentin(p, cut), pulp(p, cut)
		}
		for k, d := range values {
			sampled[k].Values[n] = float32(d)
		}
	})
	v.add(Uncut, traced(sampled[0].Contours(0), v.across(surface))...)
	v.add(Enamel, v.solidArea(sampled[1], left)...)
	v.add(Dentin, v.solidArea(sampled[2], func(p r3.Vec) float64 { return dentin(p, left(p)) })...)
	v.add(Pulp, v.solidArea(sampled[3], func(p r3.Vec) float64 { return pulp(p, left(p)) })...)
}

// across is a field of space in the view's plane.
func (v *View) across(field func(r3.Vec) float64) func(solid.Point2) float64 {
	return func(p solid.Point2) float64 { return field(v.Plane.At(p.X, p.Y)) }
}

// solidArea contours a field as closed areas, first on its samples: where the
// solid runs off them, their border closes it.
func (v *View) solidArea(sampled *solid.Sheet, field func(r3.Vec) float64) []solid.Polyline {
	s := sampled
	for i := range s.NX {
		s.Values[i] = 1
		s.Values[(s.NY-1)*s.NX+i] = 1
	}
	low, high := s.Y0+s.H/2, s.Y0+(float64(s.NY)-1.5)*s.H
	return traced(s.Contours(0), func(p solid.Point2) float64 {
		return max(field(v.Plane.At(p.X, p.Y)), low-p.Y, p.Y-high)
	})
}

func (v *View) add(kind string, lines ...solid.Polyline) {
	if len(lines) > 0 {
		v.Layers = append(v.Layers, Layer{kind, lines})
	}
}

// shadow is the outline of a solid seen along the view's lines of sight.
func (v *View) shadow(l solid.Tool) []solid.Polyline {
	const around = 0.2 // mm
	low, high := v.extent(l.Bounds())
	seen := newPiercing(l, v.Plane)
	rough := solid.NewSheet(low.X-around, low.Y-around, high.X+around, high.Y+around, curveStep).
		Fill(func(x, y float64) float64 { d, _ := seen.roughly(solid.Point2{X: x, Y: y}); return d }).Contours(0)
	return even(traced(rough, seen.least))
}

// piercing runs lines of sight through a solid.
type piercing struct {
	solid.Tool
	plane     solid.Plane
	sight     r3.Vec
	near, far float64 // mm from the plane along the sight that the solid takes up
}

func newPiercing(l solid.Tool, plane solid.Plane) piercing {
	p := piercing{l, plane, r3.Cross(plane.U, plane.V), math.Inf(1), math.Inf(-1)}
	for _, corner := range solid.Corners(l.Bounds()) {
		at := r3.Dot(r3.Sub(corner, plane.Origin), p.sight)
		p.near, p.far = min(p.near, at), max(p.far, at)
	}
	return p
}

const piercingStep = 0.3 // mm

// roughly is the least distance to the solid along the line of sight through a place,
// to a step, and where it lies.
func (p piercing) roughly(at solid.Point2) (least, where float64) {
	least = math.Inf(1)
	for h := p.near; h < p.far+piercingStep; h += piercingStep {
		if d := p.distance(at, h); d < least {
			least, where = d, h
		}
	}
	return least, where
}

// least is the least distance to the solid along the line of sight through a place.
func (p piercing) least(at solid.Point2) float64 {
	const enough = 0.01 // mm
	best, where := p.roughly(at)
	for half := piercingStep / 2; half > enough; half /= 2 {
		for _, h := range [2]float64{where - half, where + half} {
			if d := p.distance(at, h); d < best {
				best, where = d, h
			}
		}
	}
	return best
}

func (p piercing) distance(at solid.Point2, h float64) float64 {
	return p.Distance(r3.Add(p.plane.At(at.X, at.Y), r3.Scale(h, p.sight)))
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
