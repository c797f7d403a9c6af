package drawing

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/anatomy"
	"obturon/core/solid"
)

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
	for _, l := range s.Kept() {
		v.add(Kept, v.cut(l, sectionStep)...)
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
