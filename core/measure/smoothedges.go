package measure

import (
	"cmp"
	"math"
	"slices"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/anatomy"
	"obturon/core/cavity"
	"obturon/core/solid"
)

// TowardsFar is the least tooth left behind the wall at which the bur stops,
// out to the surface beyond it; ok is false where the cavity has broken through.
func (f Smooth) TowardsFar() (r Reading, ok bool) {
	const faces, beside = 0.8, 0.5 // of the box's reach: further out any wall ends in the proximal surface
	reach, known := f.Reach()
	if !known {
		return r, false
	}
	r.Value = math.Inf(1)
	for _, end := range []uint16{cavity.FacialWall, cavity.LingualWall} {
		for _, n := range f.ofFeature[end] {
			if r3.Dot(f.Mesh.Normal(n), f.Frame.W) < faces {
				continue
			}
			c := f.Mesh.Centroid(n)
			if out, hit := f.through(c, f.Frame.U); !hit || out < beside*reach.Value {
				continue
			}
			if t, hit := f.through(c, r3.Scale(-1, f.Frame.W)); hit && t < r.Value {
				r.Value, r.Where = t, Place{"tooth behind the " + cavity.FeatureName(end), c}
			}
		}
	}
	r.Uncertainty = 0.2 * f.Model.Surface.H
	return r, !math.IsInf(r.Value, 1)
}

// IncisalBridge is the least tooth left between the cavity and the incisal
// edge, along the crown.
func (f Smooth) IncisalBridge() (r Reading, ok bool) {
	const inside = 0.45 // mm from any surface: at its own margin every wall ends in one
	r.Value = math.Inf(1)
	for _, n := range f.ofFeature[cavity.IncisalWall] {
		c := f.Mesh.Centroid(n)
		if f.depthAt(c) < inside {
			continue
		}
		if t, hit := f.through(c, r3.Vec{Z: 1}); hit && t < r.Value {
			r.Value, r.Where = t, Place{"tooth under the incisal angle", c}
		}
	}
	r.Uncertainty = 0.2 * f.Model.Surface.H
	return r, !math.IsInf(r.Value, 1)
}

// Clearance is the least distance between the cavity's margin and the tooth
// beside: over one wall, or with feature 0 over all of them. ok is false where
// there is no such margin, or no tooth.
func (f Smooth) Clearance(feature uint16, beside *anatomy.AdjacentSurface) (r Reading, ok bool) {
	if beside == nil {
		return r, false
	}
	const proximal = 0.35 // share of the way out along the arch that a margin faces
	r.Value = math.Inf(1)
	for _, m := range f.Margin.Points {
		if feature != 0 && m.Feature != feature || r3.Dot(m.Outer, f.Frame.U) < proximal {
			continue
		}
		if mm, near := beside.Clearance(m.At); near && mm < r.Value {
			r.Value, r.Where = mm, Place{"margin over the " + cavity.FeatureName(m.Feature), m.At}
		}
	}
	r.Uncertainty = 0.2 * f.Model.Surface.H
	return r, !math.IsInf(r.Value, 1)
}

// EnamelToBevel reports a margin towards the biting side that lies on enamel
// thick enough for a bevel: on the root there is none.
func (f Smooth) EnamelToBevel() bool {
	const thick = 0.3 // mm
	dentin := f.Model.Dentin()
	return slices.ContainsFunc(f.Margin.Points, func(m MarginPoint) bool {
		return (m.Feature == cavity.IncisalWall || m.Feature == cavity.OcclusalWall) && dentin.Distance(m.At) > thick
	})
}

// ContactLeft is how much of a contact area still stands, 0 to 1.
func (f Smooth) ContactLeft(c anatomy.Contact) float64 {
	const ways, under = 9, 0.05 // places each way; mm under the surface
	across := r3.Unit(r3.Vec{X: -c.Normal.Y, Y: c.Normal.X})
	stands, all := 0.0, 0.0
	for i := range ways {
		for j := range ways {
			a, b := 2*float64(i)/(ways-1)-1, 2*float64(j)/(ways-1)-1
			if a*a+b*b > 1 {
				continue
			}
			near := r3.Add(c.At, r3.Add(r3.Scale(a*c.Width/2, across), r3.Vec{Z: b * c.Height / 2}))
			foot, normal, _ := f.Model.OuterSurface().Over(near)
			all++
			if f.Workpiece.Distance(r3.Sub(foot, r3.Scale(under, normal))) < 0 {
				stands++
			}
		}
	}
	return stands / all
}

// OverGingiva is the height of the gingival margin over the free gingival
// margin, mm: negative under it, where it comes lowest over the middle half of
// the cavity: its ends rise by themselves.
func (f Smooth) OverGingiva(line []r3.Vec) (r Reading, ok bool) {
	r.Value = math.Inf(1)
	widest := 0.0
	for _, m := range f.Margin.Points {
		widest = math.Max(widest, math.Abs(f.Frame.To(m.At).X))
	}
	for _, m := range f.Margin.Points {
		if m.Feature != cavity.GingivalWall || math.Abs(f.Frame.To(m.At).X) > widest/2 {
			continue
		}
		level, near := anatomy.LevelBeside(line, m.At)
		if over := m.At.Z - level; near && over < r.Value {
			r.Value, r.Where = over, Place{"gingival margin", m.At}
		}
	}
	r.Uncertainty = 0.2 * f.Model.Surface.H
	return r, !math.IsInf(r.Value, 1)
}

// GrooveDepth is how far retention grooves reach into the walls beside them: a
// probe is drawn along the wall into the groove. It is the depth that two fifths of the
// groove exceed, of the wall where that is less: grooves run out at their ends.
func (f Smooth) GrooveDepth() (r Reading, ok bool) {
	const over, back = 0.32, 0.5 // mm beside the groove, where the wall is plain, and off the wall
	type felt struct {
		deep float64
		at   r3.Vec
	}
	feltOn := map[bool][]felt{}
	for _, n := range f.ofFeature[cavity.RetentionGroove] {
		at := f.Mesh.Centroid(n)
		normal := f.Mesh.Normal(n)
		up := f.outOf(at)
		into := r3.Scale(-1, r3.Sub(normal, r3.Scale(r3.Dot(normal, up), up)))
		if r3.Norm(into) < 0.9 { // the groove's bottom faces along the wall
			continue
		}
		into = r3.Unit(into)
		// From inside the cavity beside the groove, how far off is the wall?
		eye := r3.Add(at, r3.Sub(r3.Scale(over, f.besideGroove(at)), r3.Scale(back, into)))
		if f.Workpiece.Distance(eye) < 0 || f.depthAt(eye) < 0 {
			continue
		}
		const far, step = 1.5, 0.05 // mm
		if wall, hit := solid.RootAlong(f.Workpiece.Distance, eye, into, 0, far, step); hit {
			upper := r3.Dot(into, f.Frame.V) > 0
			feltOn[upper] = append(feltOn[upper], felt{back - wall, at})
		}
	}
	r.Value = math.Inf(1)
	for _, side := range feltOn {
		slices.SortFunc(side, func(a, b felt) int { return cmp.Compare(a.deep, b.deep) })
		if g := side[len(side)*6/10]; g.deep < r.Value {
			r.Value, r.Where, ok = g.deep, Place{cavity.FeatureName(cavity.RetentionGroove), g.at}, true
		}
	}
	r.Uncertainty = 0.04
	return r, ok
}

// besideGroove is the way from a groove to where the wall it runs in is plain:
// out of a cavity that keeps to a surface, and towards the proximal surface in a box.
func (f Smooth) besideGroove(at r3.Vec) r3.Vec {
	if f.boxed() {
		return f.Frame.U
	}
	return f.OutAt(at)
}

// boxed reports a cavity with a wall at which the bur stops.
func (f Smooth) boxed() bool {
	return len(f.ofFeature[cavity.FacialWall])+len(f.ofFeature[cavity.LingualWall]) > 0
}

// outOf is the direction out of a cavity over a place: along the bur in a box,
// square to the surface elsewhere.
func (f Smooth) outOf(at r3.Vec) r3.Vec {
	if f.boxed() {
		return f.Frame.W
	}
	return f.OutAt(at)
}

// SunkIntoBreak is how deep a groove goes under a fracture surface, at its median
// along the groove's bottom; ok is false where none was cut.
func (f Smooth) SunkIntoBreak() (r Reading, ok bool) {
	var levels []float64
	for _, n := range f.ofFeature[cavity.FractureSurface] {
		levels = append(levels, f.Frame.To(f.Mesh.Centroid(n)).Z)
	}
	if len(levels) == 0 {
		return r, false
	}
	level := quantile(levels, 0.5)
	const bottom = 0.85 // of the way along the surface's normal that a groove's bottom faces
	var depths []float64
	for _, n := range f.ofFeature[cavity.RetentionGroove] {
		if at := f.Mesh.Centroid(n); r3.Dot(f.Mesh.Normal(n), f.Frame.W) > bottom {
			depths = append(depths, level-f.Frame.To(at).Z)
			r.Where = Place{cavity.FeatureName(cavity.RetentionGroove), at}
		}
	}
	if len(depths) == 0 {
		return r, false
	}
	r.Value, r.Uncertainty = quantile(depths, 0.8), 0.03
	return r, true
}
