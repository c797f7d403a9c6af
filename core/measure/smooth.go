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

// Smooth gauges a cavity that opens on a smooth surface or an incisal edge: Class III,
// IV, V, and pits off the occlusal surface.
type Smooth struct {
	*Prepared
	// Frame is how the cavity is seen: W along the bur, V towards the biting side, U
	// out of the proximal surface, or mesially.
	Frame anatomy.Frame
}

// On looks at the cavity in a frame of its own.
func (p *Prepared) On(f anatomy.Frame) Smooth { return Smooth{p, f} }

// depthAt is how deep (mm) a cut place lies under the uncut surface.
func (f Smooth) depthAt(p r3.Vec) float64 { return f.Model.OuterSurface().Depth(p) }

// OutAt is the direction out of the uncut surface over a place.
func (f Smooth) OutAt(p r3.Vec) r3.Vec {
	_, normal, _ := f.Model.OuterSurface().Over(p)
	return normal
}

// floorFacets are the facets of a floor that keeps to the surface, without what
// turns up into the line angles.
func (f Smooth) floorFacets() []int {
	const level = 14.0 // degrees
	var facets []int
	for _, n := range f.ofFeature[cavity.AxialWall] {
		if at := f.Mesh.Centroid(n); r3.Dot(f.Mesh.Normal(n), f.OutAt(at)) >= cosDeg(level) {
			facets = append(facets, n)
		}
	}
	return facets
}

// Depth is the least depth of a floor under the surface, square to it.
func (f Smooth) Depth() (Reading, bool) { return f.once("face depth", f.feelDepth) }

func (f Smooth) feelDepth() (r Reading, ok bool) {
	r.Value = math.Inf(1)
	for _, n := range f.floorFacets() {
		at := f.Mesh.Centroid(n)
		if d := f.depthAt(at); d < r.Value {
			r.Value, r.Where = d, Place{cavity.FeatureName(cavity.AxialWall), at}
		}
	}
	r.Uncertainty = 0.1 * f.Model.Surface.H
	return r, !math.IsInf(r.Value, 1)
}

// Evenness is by how much the depth of a floor under the surface varies, leaving
// out its extreme fiftieths.
func (f Smooth) Evenness() (r Reading, ok bool) {
	var depths []float64
	deepest := math.Inf(-1)
	for _, n := range f.floorFacets() {
		at := f.Mesh.Centroid(n)
		d := f.depthAt(at)
		depths = append(depths, d)
		if d > deepest {
			deepest, r.Where = d, Place{cavity.FeatureName(cavity.AxialWall), at}
		}
	}
	const fewest = 20
	if len(depths) < fewest {
		return r, false
	}
	r.Value, r.Uncertainty = quantile(depths, 0.98)-quantile(depths, 0.02), 0.02
	return r, true
}

// IntoDentin is the least dentin over the floor: how far it lies under the
// dentino-enamel junction, negative where it is still in enamel. On the root,
// where there is none, ok is false.
func (f Smooth) IntoDentin() (r Reading, ok bool) {
	const bare = 0.12 // mm of enamel under which a place is root
	r.Value = math.Inf(1)
	dentin := f.Model.Dentin()
	for _, n := range f.floorFacets() {
		at := f.Mesh.Centroid(n)
		foot, _, _ := f.Model.OuterSurface().Over(at)
		if dentin.Distance(foot) < bare {
			continue
		}
		if into := -dentin.Distance(at); into < r.Value {
			r.Value, r.Where = into, Place{cavity.FeatureName(cavity.AxialWall), at}
		}
	}
	r.Uncertainty = 0.05
	return r, !math.IsInf(r.Value, 1)
}

// LineAngles is the median radius of the line angles round the floor, or round
// the wall at which the bur stops.
func (f Smooth) LineAngles() (Reading, bool) {
	for _, end := range []uint16{cavity.FacialWall, cavity.LingualWall} {
		if len(f.ofFeature[end]) > 0 {
			return f.lineAngles(end, func(r3.Vec) r3.Vec { return f.Frame.W })
		}
	}
	return f.lineAngles(cavity.AxialWall, f.OutAt)
}

// WallOpening is by how much (degrees) the walls open outwards against square
// to the surface: the mean over the occlusal and the gingival one, whichever opens
// less. Facets near line angles are left out.
func (f Smooth) WallOpening() (r Reading, ok bool) {
	const upper, lower = 0.30, 0.75 // shares of the depth between which walls are felt
	deep, known := f.Depth()
	if !known {
		return r, false
	}
	r.Value = math.Inf(1)
	for _, wall := range []uint16{cavity.OcclusalWall, cavity.IncisalWall, cavity.GingivalWall} {
		var sum, area float64
		var where r3.Vec
		for _, n := range f.ofFeature[wall] {
			at := f.Mesh.Centroid(n)
			if d := f.depthAt(at) / deep.Value; d < upper || d > lower {
				continue
			}
			a := f.Mesh.Area(n)
			sum += a * degrees(math.Asin(math.Min(math.Max(r3.Dot(f.Mesh.Normal(n), f.OutAt(at)), -1), 1)))
			area += a
			where = at
		}
		if area < 0.05 {
			continue
		}
		if opening := sum / area; opening < r.Value {
			r.Value, r.Where, ok = opening, Place{cavity.FeatureName(wall), where}, true
		}
	}
	r.Uncertainty = 1
	return r, ok
}

// Extent is how far the cavity's walls lie apart along V: the height of a box or
// pit between its gingival and its occlusal or incisal wall, as a calliper
// finds it at their middle.
func (f Smooth) Extent() (r Reading, ok bool) {
	low, okLow := f.wallLevel(cavity.GingivalWall, f.Frame.V)
	for _, upper := range []uint16{cavity.IncisalWall, cavity.OcclusalWall} {
		if top, okTop := f.wallLevel(upper, f.Frame.V); okLow && okTop {
			r.Value, r.Uncertainty = top.Value-low.Value, 0.2*f.Model.Surface.H
			r.Where = Place{"height of the cavity", r3.Scale(0.5, r3.Add(low.Where.At, top.Where.At))}
			return r, true
		}
	}
	return r, false
}

// wallLevel is where a wall lies along a direction: the median over its facets
// that surface along it.
func (f Smooth) wallLevel(feature uint16, along r3.Vec) (r Reading, ok bool) {
	const faces = 0.85
	var levels []float64
	var at []r3.Vec
	for _, n := range f.ofFeature[feature] {
		if math.Abs(r3.Dot(f.Mesh.Normal(n), along)) > faces {
			c := f.Mesh.Centroid(n)
			levels = append(levels, r3.Dot(r3.Sub(c, f.Frame.Origin), along))
			at = append(at, c)
		}
	}
	if len(levels) == 0 {
		return r, false
	}
	r.Value = quantile(levels, 0.5)
	r.Where = Place{cavity.FeatureName(feature), at[0]}
	least := math.Inf(1)
	for n, level := range levels {
		if off := math.Abs(level - r.Value); off < least {
			least, r.Where.At = off, at[n]
		}
	}
	return r, true
}

// through marches from a cut place along a direction to where the uncut surface
// ends, mm.
func (f Smooth) through(at, dir r3.Vec) (float64, bool) {
	const reach, step = 12.0, 0.1 // mm
	return f.Model.Surface.RootAlong(at, dir, 0.02, reach, step)
}

// Reach is how far a box comes in from the proximal surface: from its axial wall
// out to where the surface was, the median over the wall.
func (f Smooth) Reach() (Reading, bool) {
	return f.median(cavity.AxialWall, "axial wall", f.Frame.U)
}

// Sunk is how deep the bur has gone: from the wall at which it stops out to
// where the surface was, the median over that wall.
func (f Smooth) Sunk() (Reading, bool) {
	for _, end := range []uint16{cavity.FacialWall, cavity.LingualWall} {
		if r, ok := f.median(end, cavity.FeatureName(end), f.Frame.W); ok {
			return r, true
		}
	}
	return Reading{}, false
}

// median is the median way (mm) from the facets of a wall along a direction to
// where the uncut surface was.
func (f Smooth) median(feature uint16, name string, along r3.Vec) (r Reading, ok bool) {
	const faces = 0.93
	var ways []float64
	var at []r3.Vec
	for _, n := range f.ofFeature[feature] {
		if r3.Dot(f.Mesh.Normal(n), along) < faces {
			continue
		}
		c := f.Mesh.Centroid(n)
		if t, hit := f.through(c, along); hit {
			ways, at = append(ways, t), append(at, c)
		}
	}
	if len(ways) == 0 {
		return r, false
	}
	r.Value, r.Uncertainty = quantile(ways, 0.5), 0.2*f.Model.Surface.H
	least := math.Inf(1)
	for n, w := range ways {
		if off := math.Abs(w - r.Value); off < least {
			least, r.Where = off, Place{name, at[n]}
		}
	}
	return r, true
}

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
