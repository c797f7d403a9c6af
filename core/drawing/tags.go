package drawing

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/anatomy"
	"obturon/core/cavity"
	"obturon/core/measure"
	"obturon/core/notation"
	"obturon/core/school"
	"obturon/core/solid"
)

// tagPlan dimensions the view from above where the gauges read it.
func (v *View) tagPlan(s Subject) {
	p, m := s.Prepared, s.Prepared.Model
	mesialRight, facialUp := facing(m)
	inPlan := func(q r3.Vec) solid.Point2 { return v.Plane.Project(m.Table.From(q)) }
	isthmus, hasIsthmus := p.IsthmusWidth()
	if hasIsthmus {
		q := m.Table.To(isthmus.Where.At)
		a := inPlan(r3.Vec{X: q.X, Y: q.Y + isthmus.Value/2, Z: q.Z})
		b := inPlan(r3.Vec{X: q.X, Y: q.Y - isthmus.Value/2, Z: q.Z})
		v.tag(
			Tag{
				CheckID:   school.OutlineIsthmusWidth,
				Dimension: "isthmus_width",
				Label:     "isthmus",
				Value:     isthmus.Value,
				Unit:      "mm",
				From:      a,
				To:        b,
				Handle:    a,
				Pull:      solid.Point2{Y: facialUp},
				Gain:      2,
			},
		)
	}
	for _, sign := range []float64{+1, -1} {
		if dovetail, ok := p.EndWidth(sign); ok && s.Cavity.Dovetail {
			q := m.Table.To(dovetail.Where.At)
			a := inPlan(r3.Vec{X: q.X, Y: q.Y - dovetail.Value/2, Z: q.Z})
			b := inPlan(r3.Vec{X: q.X, Y: q.Y + dovetail.Value/2, Z: q.Z})
			v.tag(
				Tag{
					CheckID:   school.OutlineDovetailRatio,
					Dimension: "dovetail_width",
					Label:     "dovetail",
					Value:     dovetail.Value,
					Unit:      "mm",
					From:      b,
					To:        a,
					Handle:    a,
					Pull:      solid.Point2{Y: -facialUp},
					Gain:      2,
				},
			)
			break
		}
	}
	for _, side := range []struct {
		feature   uint16
		dimension string
		sign      float64
	}{{cavity.WallMesial, "mesial_ridge", 1}, {cavity.WallDistal, "distal_ridge", -1}} {
		if r, ok := p.RidgeKept(side.feature); ok {
			q := m.Table.To(r.Where.At)
			a := inPlan(q)
			b := inPlan(r3.Vec{X: q.X + side.sign*r.Value, Y: q.Y, Z: q.Z})
			v.tag(
				Tag{
					CheckID:   school.OutlineMarginalRidge,
					Dimension: side.dimension,
					Label:     "ridge",
					Value:     r.Value,
					Unit:      "mm",
					From:      a,
					To:        b,
					Handle:    a,
					Pull:      solid.Point2{X: -side.sign * mesialRight},
					Gain:      1,
				},
			)
		}
	}
	for _, g := range m.Grooves {
		side := g.Side()
		if !g.Extends() {
			continue
		}
		if r, _, ok := p.GrooveReach(g, isthmus.Value); ok && hasIsthmus && r.Value > 0.05 {
			v.tag(grooveTag(v, g, side, r, isthmus.Value))
		}
	}
	v.tagBevel(p)
	for _, side := range s.Cavity.Boxes {
		v.tagClearance(s, side, cavity.BoxBuccal, school.BoxClearanceBuccal, "_box_buccal", facialUp)
		v.tagClearance(s, side, cavity.BoxLingual, school.BoxClearanceLingual, "_box_lingual", -facialUp)
	}
}

// tagBevel runs from the wall's upper end to the margin.
func (v *View) tagBevel(p *measure.Prepared) {
	m, ok := p.BevelAt()
	if !ok {
		return
	}
	wall, margin := v.Plane.Project(m.Wall), v.Plane.Project(m.At)
	across := math.Hypot(margin.X-wall.X, margin.Y-wall.Y)
	if across < 1e-3 { // steep as the bur: nothing shows from above
		return
	}
	v.tag(
		Tag{
			CheckID:   school.RetainBevelWidth,
			Dimension: "bevel_width",
			Label:     "bevel",
			Value:     m.Bevel,
			Unit:      "mm",
			From:      wall,
			To:        margin,
			Handle:    margin,
			Pull:      solid.Point2{X: (margin.X - wall.X) / across, Y: (margin.Y - wall.Y) / across},
			Gain:      m.Bevel / across,
		},
	)
}

// tagClearance runs from the margin of a box's wall to the adjacent tooth, where the
// gauge finds them nearest.
func (v *View) tagClearance(s Subject, side notation.Side, feature uint16, check school.CriterionID, dimension string, up float64) {
	beside := s.Cavity.Adjacent[side]
	if beside == nil {
		return
	}
	r, ok := s.Prepared.Box(side).Clearance(feature, beside)
	to, found := beside.Nearest(r.Where.At)
	if !ok || !found {
		return
	}
	a, b := v.Plane.Project(r.Where.At), v.Plane.Project(to)
	v.tag(Tag{CheckID: check, Side: side.String(), Dimension: side.String() + dimension, Label: "clear", Value: r.Value, Unit: "mm",
		From: a, To: b, Handle: a, Pull: solid.Point2{Y: up}, Gain: 1})
}

// tagAcross dimensions the buccolingual section.
func (v *View) tagAcross(s Subject) {
	p, m := s.Prepared, s.Prepared.Model
	v.tagDepth(s, func(at r3.Vec) bool { return at.X == v.Plane.Origin.X })
	if lean, ok := p.WallLean(cavity.WallBuccal); ok {
		v.tag(leanTag(v, lean, school.RetainConvergence, "wall_convergence", m.Table.V))
	}
}

// tagAlong dimensions the mesiodistal section.
func (v *View) tagAlong(s Subject) {
	const near = 1.0 // mm from the section within which a reading belongs to it
	p, m := s.Prepared, s.Prepared.Model
	v.tagDepth(s, func(at r3.Vec) bool { return math.Abs(m.Table.To(at).Y-v.At) < near })
	for _, wall := range []struct {
		feature uint16
		outward r3.Vec
	}{{cavity.WallMesial, m.Table.U}, {cavity.WallDistal, r3.Scale(-1, m.Table.U)}} {
		if lean, ok := p.WallLean(wall.feature); ok {
			v.tag(leanTag(v, lean, school.RetainRidgeWall, "ridge_divergence", wall.outward))
			break
		}
	}
	for _, side := range s.Cavity.Boxes {
		v.tagSeat(s, side)
	}
}

func (v *View) tagDepth(s Subject, here func(at r3.Vec) bool) {
	depth, ok := s.Prepared.PulpalDepth()
	if !ok || !here(depth.Where.At) {
		return // the section lies elsewhere
	}
	foot := depth.Where.At
	a, b := v.Plane.Project(foot), v.Plane.Project(r3.Add(foot, r3.Scale(depth.Value, s.Prepared.Model.Table.W)))
	v.tag(
		Tag{
			CheckID:   school.ResistPulpalDepth,
			Dimension: "pulpal_depth",
			Label:     "depth",
			Value:     depth.Value,
			Unit:      "mm",
			From:      a,
			To:        b,
			Handle:    a,
			Pull:      solid.Point2{Y: -1},
			Gain:      1,
		},
	)
}

// tagSeat dimensions a box in the mesiodistal section: the seat's width, its
// clearance, and the edge to the pulpal floor.
func (v *View) tagSeat(s Subject, side notation.Side) {
	b, name := s.Prepared.Box(side), side.String()
	table := s.Prepared.Model.Table
	outward := table.U
	if side == notation.Distal {
		outward = r3.Scale(-1, outward)
	}
	out := v.Plane.Project(r3.Add(v.Plane.Origin, outward))
	sign := math.Copysign(1, out.X)
	if r, ok := b.AxialDepth(); ok {
		margin := v.Plane.Project(r.Where.At)
		inner := v.Plane.Project(r3.Sub(r.Where.At, r3.Scale(r.Value, outward)))
		v.tag(Tag{CheckID: school.BoxAxialDepth, Side: name, Dimension: name + "_axial_depth", Label: "axial", Value: r.Value, Unit: "mm",
			From: inner, To: margin, Handle: inner, Pull: solid.Point2{X: -sign}, Gain: 1})
	}
	if beside := s.Cavity.Adjacent[side]; beside != nil {
		if r, ok := b.Clearance(cavity.GingivalFloor, beside); ok {
			if to, found := beside.Nearest(r.Where.At); found {
				at := v.Plane.Project(r.Where.At)
				v.tag(Tag{CheckID: school.BoxClearanceGingival, Side: name, Dimension: name + "_box_depth", Label: "clear", Value: r.Value, Unit: "mm",
					From: at, To: v.Plane.Project(to), Handle: at, Pull: solid.Point2{Y: -1}, Gain: 1})
			}
		}
	}
	if r, ok := b.Axiopulpal(); ok {
		at := v.Plane.Project(r.Where.At)
		half := r.Value / 2 * math.Sqrt2 / 2
		v.tag(Tag{CheckID: school.ResistAxiopulpal, Side: name, Dimension: "axiopulpal", Label: "rounding", Value: r.Value, Unit: "mm",
			From: solid.Point2{X: at.X - sign*half, Y: at.Y + half}, To: solid.Point2{X: at.X + sign*half, Y: at.Y - half}, Handle: at,
			Pull: solid.Point2{X: -sign * math.Sqrt2 / 2, Y: -math.Sqrt2 / 2}, Gain: 2})
	}
}

// tagProximal dimensions a box seen from its neighbour.
func (v *View) tagProximal(s Subject, side notation.Side) {
	b, name := s.Prepared.Box(side), side.String()
	table := s.Prepared.Model.Table
	upper := s.Prepared.Model.Tooth.Upper()
	for _, wall := range []struct {
		feature uint16
		outward r3.Vec
		buccal  bool
	}{{cavity.BoxBuccal, table.V, true}, {cavity.BoxLingual, r3.Scale(-1, table.V), false}} {
		r, ok := b.WallAngle(wall.feature)
		if !ok {
			continue
		}
		r.Value = 90 - r.Value
		check, dimension := school.BoxWallNonfunctional, "nonfunctional_lean"
		if wall.buccal != upper { // lingual cusps bite above, buccal ones below
			check, dimension = school.BoxWallFunctional, "functional_lean"
		}
		t := leanTag(v, r, check, dimension, wall.outward)
		t.Side = name
		v.tag(t)
	}
	if r, ok := b.OverCervicalLine(); ok {
		at := v.Plane.Project(r.Where.At)
		v.tag(Tag{CheckID: school.GingivaMargin, Side: name, Dimension: name + "_box_depth", Label: "above CEJ", Value: r.Value, Unit: "mm",
			From: at, To: solid.Point2{X: at.X, Y: at.Y - r.Value}, Handle: at, Pull: solid.Point2{Y: -1}, Gain: 1})
	}
}

// tagPulp shows the dentin left in the section that passes nearer to it; far
// from both it would float in the dentin, and the check points at it instead.
func tagPulp(s Subject, m *anatomy.Model, across, along *View) {
	const nearby = 0.8 // mm
	pulp, ok := s.Prepared.PulpDistance()
	if !ok {
		return
	}
	toward := r3.Scale(-pulp.Value, r3.Unit(m.Pulp().Gradient(pulp.Where.At)))
	v, off := along, math.Abs(m.Table.To(pulp.Where.At).Y-along.At)
	if d := math.Abs(pulp.Where.At.X - across.Plane.Origin.X); d < off {
		v, off = across, d
	}
	if off < nearby {
		a, b := v.Plane.Project(pulp.Where.At), v.Plane.Project(r3.Add(pulp.Where.At, toward))
		v.tag(Tag{CheckID: school.ResistPulpDistance, Label: "to pulp", Value: pulp.Value, Unit: "mm", From: a, To: b, Handle: b})
	}
}

func (v *View) tag(t Tag) { v.Tags = append(v.Tags, t) }

// grooveTag runs from the isthmus wall to the end of the extension.
func grooveTag(v *View, g anatomy.GrooveLine, side string, r measure.Reading, isthmus float64) Tag {
	end := v.Plane.Project(r.Where.At)
	start := v.Plane.Project(g.Points[0])
	dx, dy := end.X-start.X, end.Y-start.Y
	length := math.Max(math.Hypot(dx, dy), 1e-6)
	pull := solid.Point2{X: dx / length, Y: dy / length}
	from := solid.Point2{X: start.X + pull.X*isthmus/2, Y: start.Y + pull.Y*isthmus/2}
	return Tag{
		CheckID: school.OutlineGrooveExtension, Dimension: side + "_extension", Label: "extension", Value: r.Value, Unit: "mm",
		From: from, To: end, Handle: end, Pull: pull, Gain: 1,
	}
}

// leanTag marks a wall's lean by a line along it.
func leanTag(v *View, r measure.Reading, check school.CriterionID, dimension string, outward r3.Vec) Tag {
	at := v.Plane.Project(r.Where.At)
	out := v.Plane.Project(r3.Add(v.Plane.Origin, outward))
	sign := math.Copysign(1, out.X)
	sin, cos := math.Sincos(r.Value * math.Pi / 180)
	top := solid.Point2{X: at.X - sign*0.7*sin, Y: at.Y + 0.7*cos}
	foot := solid.Point2{X: at.X + sign*0.7*sin, Y: at.Y - 0.7*cos}
	const degreesPerMM = 10
	pull, value := solid.Point2{X: -sign}, r.Value
	if dimension == "ridge_divergence" { // counted outwards
		pull.X, value = sign, -r.Value
	}
	return Tag{
		CheckID: check, Dimension: dimension, Label: "lean", Value: value, Unit: "deg",
		From: foot, To: top, Handle: top, Pull: pull, Gain: degreesPerMM,
	}
}
