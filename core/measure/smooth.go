package measure

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/anatomy"
	"obturon/core/cavity"
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
