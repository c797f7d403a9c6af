package measure

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/cavity"
	"obturon/core/solid"
)

// AxialEvenness is by how much (mm) the depth of a box's axial wall under the proximal
// surface varies, square to the box's own way in; what turns into the line angles, and
// the extreme twentieths, are left out.
func (f Smooth) AxialEvenness() (r Reading, ok bool) {
	const facing, around, fewest = 35.0, 0.45, 12 // degrees; mm from other walls; facets
	var depths []float64
	deepest := math.Inf(-1)
	for _, n := range f.ofFeature[cavity.AxialWall] {
		at := f.Mesh.Centroid(n)
		if r3.Dot(f.Mesh.Normal(n), f.Frame.U) < cosDeg(facing) || f.nearOtherWall(at, around) {
			continue
		}
		depth, hit := f.outAlong(at, f.Frame.U)
		if !hit {
			continue
		}
		depths = append(depths, depth)
		if depth > deepest {
			deepest, r.Where = depth, Place{cavity.FeatureName(cavity.AxialWall), at}
		}
	}
	if len(depths) < fewest {
		return r, false
	}
	r.Value, r.Uncertainty = quantile(depths, 0.95)-quantile(depths, 0.05), 0.05
	return r, true
}

// nearOtherWall reports a place so near (mm) to a wall beside the axial one that the
// line angle between them may reach it.
func (f Smooth) nearOtherWall(at r3.Vec, near float64) bool {
	for _, wall := range []uint16{cavity.IncisalWall, cavity.GingivalWall, cavity.FacialWall, cavity.LingualWall, cavity.Excavation} {
		for _, n := range f.ofFeature[wall] {
			if r3.Norm(r3.Sub(f.Mesh.Centroid(n), at)) < near {
				return true
			}
		}
	}
	return false
}

// outAlong is how far (mm) the uncut surface lies from a place in a direction.
func (f Smooth) outAlong(at, way r3.Vec) (mm float64, ok bool) {
	const reach, step = 6.0, 0.1 // mm
	surface := f.Model.Surface
	if surface.Distance(at) > 0 {
		return 0, false
	}
	return surface.RootAlong(at, way, 0, reach, step)
}

// Hollow is how deep (mm) a floor's middle lies under the line between its edges, in
// the section along the crown: negative where the floor bulges as the surface does.
// Across the crown a floor follows the curve of the tooth.
func (f Smooth) Hollow() (r Reading, ok bool) {
	const reach, step, above = 6.0, 0.05, 2.0 // mm; mm; mm over the surface that a probe starts from
	const share, least = 0.75, 0.3            // of the way to each margin where an edge is felt; mm of way
	under := func(y float64) (float64, bool) {
		from := f.Frame.From(r3.Vec{Y: y, Z: above})
		return solid.RootAlong(f.Workpiece.Distance, from, r3.Scale(-1, f.Frame.W), 0, reach, step)
	}
	middle, hit := under(0)
	if !hit {
		return r, false
	}
	var depth, way [2]float64
	for k, sign := range []float64{-1, 1} {
		for cut := step; cut < reach && f.isCut(r3.Vec{Y: sign * cut}); cut += step {
			way[k] = cut
		}
		if depth[k], hit = under(sign * share * way[k]); !hit || way[k] < least {
			return r, false
		}
	}
	chord := depth[0] + (depth[1]-depth[0])*way[0]/(way[0]+way[1]) // over the middle
	return Reading{
		Value: middle - chord, Where: Place{cavity.FeatureName(cavity.AxialWall), f.Frame.From(r3.Vec{Z: above - middle})}, Uncertainty: 0.05,
	}, true
}

// isCut reports a place of the frame over which the surface has been cut away.
func (f Smooth) isCut(q r3.Vec) bool {
	const under = 0.08 // mm
	foot, normal, _ := f.Model.OuterSurface().Over(f.Frame.From(q))
	return f.Workpiece.Distance(r3.Sub(foot, r3.Scale(under, normal))) > 0
}
