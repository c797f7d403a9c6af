package drawing

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/cavity"
	"obturon/core/measure"
	"obturon/core/school"
	"obturon/core/solid"
)

// reading tags a measured distance that runs from a place along a direction.
func (v *View) reading(s Subject, t Tag, r measure.Reading, along r3.Vec, pull r3.Vec) {
	from := r.Where.At
	to := r3.Add(from, r3.Scale(r.Value, along))
	v.span(s, t, r, from, to, pull)
}

// span tags a measured distance between two places; pull is the way that makes
// the figure grow, zero where none is moved.
func (v *View) span(s Subject, t Tag, r measure.Reading, from, to r3.Vec, pull r3.Vec) {
	t.Side, t.Value, t.Unit = s.Cavity.Name, r.Value, "mm"
	t.From, t.To = v.Plane.Project(from), v.Plane.Project(to)
	t.Handle = t.From
	if t.Dimension != "" {
		t.Dimension = s.Cavity.Prefix + t.Dimension
		a, b := v.Plane.Project(r3.Vec{}), v.Plane.Project(pull)
		t.Pull = solid.Point2{X: b.X - a.X, Y: b.Y - a.Y}
		if size := math.Hypot(t.Pull.X, t.Pull.Y); size > 1e-6 {
			t.Pull = solid.Point2{X: t.Pull.X / size, Y: t.Pull.Y / size}
		}
		if t.Gain == 0 {
			t.Gain = 1
		}
	}
	v.tag(t)
}

// tagSeen dimensions the view of a surface.
func (v *View) tagSeen(s Subject) {
	switch s.Cavity.Kind {
	case cavity.Proximal:
		if r, ok := s.Smooth().Extent(); ok {
			v.tagHeight(s, r, school.AnteriorBoxHeight)
		}
		if r, ok := s.Smooth().IncisalBridge(); ok {
			v.reading(s, Tag{CheckID: school.AnteriorIncisalBridge, Label: "corner"}, r, r3.Vec{Z: 1}, r3.Vec{})
		}
		v.tagReach(s)
	case cavity.IncisalAngle:
		v.tagBevelOf(s, v.ID == "facial")
	case cavity.Cervical:
		if r, ok := s.Smooth().Extent(); ok {
			v.tagHeight(s, r, "")
		}
		if r, ok := s.Smooth().OverGingiva(s.Gingival()); ok {
			v.span(s, Tag{CheckID: school.NeckGingiva, Label: "above gingiva"}, r, r.Where.At, r3.Sub(r.Where.At, r3.Vec{Z: r.Value}), r3.Vec{})
		}
	default:
		if r, ok := s.Smooth().Extent(); ok {
			v.tagHeight(s, r, school.PitWidth)
		}
	}
}

// tagHeight runs between the gingival and the upper wall.
func (v *View) tagHeight(s Subject, r measure.Reading, check school.CriterionID) {
	up := s.Cavity.Frame.V
	top := r3.Add(r.Where.At, r3.Scale(r.Value/2, up))
	v.span(s, Tag{CheckID: check, Dimension: "height", Label: "height", Gain: 2}, r, top, r3.Sub(r.Where.At, r3.Scale(r.Value/2, up)), up)
}

// tagBevelOf dimensions the bevel of one face of a broken incisal angle, along the
// surface away from the break.
func (v *View) tagBevelOf(s Subject, facial bool) {
	t := Tag{CheckID: school.CornerLingualBevel, Dimension: "lingual_bevel", Label: "bevel"}
	where := measure.LingualMargin
	if facial {
		t.CheckID, t.Dimension = school.CornerFacialBevel, "bevel_width"
		where = measure.FacialMargin
	}
	b, ok := s.Smooth().FinishedMargin(where)
	if !ok {
		return
	}
	v.span(s, t, b.Width, b.Width.Where.At, b.Wall, r3.Sub(b.Width.Where.At, b.Wall))
}

// tagReach runs from the axial wall of a box out to the proximal surface.
func (v *View) tagReach(s Subject) {
	if r, ok := s.Smooth().Reach(); ok {
		out := s.Cavity.Frame.U
		v.reading(s, Tag{CheckID: school.AnteriorBoxWidth, Dimension: "width", Label: "in"}, r, out, r3.Scale(-1, out))
	}
}

// tagLevel dimensions the section across the crown.
func (v *View) tagLevel(s Subject) {
	if s.Cavity.Kind == cavity.Proximal {
		v.tagReach(s)
	}
	v.tagPulpDistance(s, func(at r3.Vec) float64 { return math.Abs(at.Z - v.Plane.Origin.Z) })
}

// tagAlongTheBur dimensions the section along the tooth.
func (v *View) tagAlongTheBur(s Subject) {
	w := s.Cavity.Frame.W
	switch s.Cavity.Kind {
	case cavity.Proximal:
		if r, ok := s.Smooth().Sunk(); ok {
			v.reading(s, Tag{CheckID: school.AnteriorBoxDepth, Dimension: "depth", Label: "depth"}, r, w, r3.Scale(-1, w))
		}
		if r, ok := s.Smooth().TowardsFar(); ok {
			v.reading(s, Tag{CheckID: school.AnteriorFacialTooth, Label: "left"}, r, r3.Scale(-1, w), r3.Vec{})
		}
	default:
		check := school.NeckDepth
		if s.Cavity.Kind == cavity.Pit {
			check = school.PitDepth
		}
		if r, ok := s.Smooth().Depth(); ok {
			out := s.Smooth().OutAt(r.Where.At)
			v.reading(s, Tag{CheckID: check, Dimension: "depth", Label: "depth"}, r, out, r3.Scale(-1, out))
		}
	}
	v.tagPulpDistance(s, func(at r3.Vec) float64 { return math.Abs(at.X - v.Plane.Origin.X) })
}

// tagBreak dimensions the section across a fracture surface.
func (v *View) tagBreak(s Subject) {
	v.tagPulpDistance(s, func(at r3.Vec) float64 { return math.Abs(s.Cavity.Frame.To(at).Y) })
}

// tagPulpDistance shows the dentin left where the section passes near it.
func (v *View) tagPulpDistance(s Subject, off func(at r3.Vec) float64) {
	const nearby = 1.2 // mm
	r, ok := s.Smooth().PulpDistance()
	if !ok || off(r.Where.At) > nearby {
		return
	}
	toward := r3.Scale(-1, r3.Unit(s.Prepared.Model.Pulp().Gradient(r.Where.At)))
	v.reading(s, Tag{CheckID: school.ResistPulpDistance, Label: "to pulp"}, r, toward, r3.Vec{})
}
