package drawing

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/anatomy"
	"obturon/core/measure"
	"obturon/core/prep"
	"obturon/core/solid"
)

// tagClassI dimensions the views where the gauges read them.
func tagClassI(s Subject, m *anatomy.Model, views []View) {
	p := s.Prepared
	plan, across, along := &views[0], &views[1], &views[2]
	inPlan := func(q r3.Vec) solid.Point2 { return plan.Plane.Project(m.Table.From(q)) }
	mesialRight, facialUp := facing(m)

	isthmus, hasIsthmus := p.IsthmusWidth()
	if hasIsthmus {
		q := m.Table.To(isthmus.Where.At)
		a := inPlan(r3.Vec{X: q.X, Y: q.Y + isthmus.Value/2, Z: q.Z})
		b := inPlan(r3.Vec{X: q.X, Y: q.Y - isthmus.Value/2, Z: q.Z})
		plan.tag(Tag{CheckID: "outline.isthmus_width", Dimension: "isthmus_width", Label: "isthmus", Value: isthmus.Value, Unit: "mm", From: a, To: b, Handle: a,
			Pull: solid.Point2{Y: facialUp}, Gain: 2})
	}
	if dovetail, ok := p.EndWidth(+1); ok && s.Dovetail {
		q := m.Table.To(dovetail.Where.At)
		a := inPlan(r3.Vec{X: q.X, Y: q.Y - dovetail.Value/2, Z: q.Z})
		b := inPlan(r3.Vec{X: q.X, Y: q.Y + dovetail.Value/2, Z: q.Z})
		plan.tag(Tag{CheckID: "outline.dovetail_ratio", Dimension: "dovetail_width", Label: "dovetail", Value: dovetail.Value, Unit: "mm", From: b, To: a, Handle: a,
			Pull: solid.Point2{Y: -facialUp}, Gain: 2})
	}
	for _, side := range []struct {
		feature   uint16
		dimension string
		sense     float64
	}{{prep.WallMesial, "mesial_ridge", 1}, {prep.WallDistal, "distal_ridge", -1}} {
		if r, ok := p.RidgeKept(side.feature); ok {
			q := m.Table.To(r.Where.At)
			a := inPlan(q)
			b := inPlan(r3.Vec{X: q.X + side.sense*r.Value, Y: q.Y, Z: q.Z})
			plan.tag(Tag{CheckID: "outline.marginal_ridge", Dimension: side.dimension, Label: "ridge", Value: r.Value, Unit: "mm", From: a, To: b, Handle: a,
				Pull: solid.Point2{X: -side.sense * mesialRight}, Gain: 1})
		}
	}
	for _, g := range m.Grooves {
		side := prep.GrooveSide(g.Name)
		if side == "" || !g.Fissured || g.Supplemental {
			continue
		}
		if r, _, ok := p.GrooveReach(g, isthmus.Value); ok && r.Value > 0.05 {
			plan.tag(grooveTag(plan, g, side, r, isthmus.Value))
		}
	}
	if depth, ok := p.PulpalDepth(); ok {
		for _, v := range []*View{across, along} {
			foot := depth.Where.At
			if v == across && foot.X != across.Plane.Origin.X {
				continue // the section lies elsewhere
			}
			a, b := v.Plane.Project(foot), v.Plane.Project(r3.Add(foot, r3.Scale(depth.Value, m.Table.W)))
			v.tag(Tag{CheckID: "resist.pulpal_depth", Dimension: "pulpal_depth", Label: "depth", Value: depth.Value, Unit: "mm", From: a, To: b, Handle: a,
				Pull: solid.Point2{Y: -1}, Gain: 1})
		}
	}
	if lean, ok := p.WallLean(prep.WallBuccal); ok {
		across.tag(leanTag(across, lean, "retain.convergence", "wall_convergence", m.Table.V))
	}
	if lean, ok := p.WallLean(prep.WallMesial); ok {
		along.tag(leanTag(along, lean, "retain.ridge_wall", "ridge_divergence", m.Table.U))
	}
	if pulp, ok := p.PulpDistance(); ok {
		toward := r3.Scale(-pulp.Value, r3.Unit(m.Pulp().Gradient(pulp.Where.At)))
		// Shown in the section that passes nearer to it; far from both it
		// would float in the dentin, and the check points at it instead.
		const nearby = 0.8 // mm
		v, off := along, math.Abs(pulp.Where.At.Y-along.Plane.Origin.Y)
		if d := math.Abs(pulp.Where.At.X - across.Plane.Origin.X); d < off {
			v, off = across, d
		}
		if off < nearby {
			a, b := v.Plane.Project(pulp.Where.At), v.Plane.Project(r3.Add(pulp.Where.At, toward))
			v.tag(Tag{CheckID: "resist.pulp_distance", Label: "to pulp", Value: pulp.Value, Unit: "mm", From: a, To: b, Handle: b})
		}
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
		CheckID: "outline.groove_extension", Dimension: side + "_extension", Label: "extension", Value: r.Value, Unit: "mm",
		From: from, To: end, Handle: end, Pull: pull, Gain: 1,
	}
}

// leanTag marks a wall's lean by a line along it.
func leanTag(v *View, r measure.Reading, check, dimension string, outward r3.Vec) Tag {
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
