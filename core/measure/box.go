package measure

import (
	"cmp"
	"math"
	"slices"

	"gonum.org/v1/gonum/mat"
	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/notation"
	"obturon/core/prep"
	"obturon/core/solid"
)

// Box gauges the proximal box on one side of a prepared tooth.
type Box struct {
	*Prepared
	Side notation.Side
}

// Box is the mesial or distal box. Its gauges say ok false where there is none.
func (p *Prepared) Box(side notation.Side) Box { return Box{p, side} }

// outward is the direction from the tooth's middle to the box's neighbour.
func (b Box) outward() r3.Vec {
	if b.Side == notation.Distal {
		return r3.Scale(-1, b.Model.Table.U)
	}
	return b.Model.Table.U
}

// here reports a point on the box's side of the tooth.
func (b Box) here(at r3.Vec) bool {
	return r3.Dot(r3.Sub(at, b.Model.Table.Origin), b.outward()) > 0
}

// margin lists the margin points over one of the box's walls.
func (b Box) margin(feature uint16) []MarginPoint {
	var points []MarginPoint
	for _, m := range b.Margin.Points {
		if m.Feature == feature && b.here(m.At) {
			points = append(points, m)
		}
	}
	return points
}

// middleOf keeps the points in the middle share of their own buccolingual
// spread: the ends turn into the corners.
func (b Box) middleOf(points []MarginPoint, share float64) []MarginPoint {
	low, high := math.Inf(1), math.Inf(-1)
	across := func(m MarginPoint) float64 { return b.Model.Table.To(m.At).Y }
	for _, m := range points {
		low, high = math.Min(low, across(m)), math.Max(high, across(m))
	}
	middle, half := (low+high)/2, share*(high-low)/2
	return slices.DeleteFunc(points, func(m MarginPoint) bool { return math.Abs(across(m)-middle) > half })
}

// Heights over the gingival margin, mm, at which the axial wall is felt: clear
// of any line angle.
const lowFeel, highFeel = 0.5, 0.8

// AxialDepth is the least width of the gingival seat from its margin inwards
// to the axial wall, over the middle of the box: as a blade of known width
// laid on the seat finds it.
func (b Box) AxialDepth() (r Reading, ok bool) {
	const share = 0.7
	r.Value = math.Inf(1)
	for _, m := range b.middleOf(b.margin(prep.GingivalFloor), share) {
		low, felt := b.wallFrom(m.At, lowFeel)
		high, felt2 := b.wallFrom(m.At, highFeel)
		if !felt || !felt2 {
			continue
		}
		// The wall is followed down to the seat behind its line angle.
		if depth := low + (low-high)*lowFeel/(highFeel-lowFeel); depth < r.Value {
			r.Value, r.Where = depth, Place{"gingival seat, " + b.Side.String(), m.At}
		}
	}
	r.Uncertainty = 0.25 * b.Model.Surface.H
	return r, !math.IsInf(r.Value, 1)
}

// wallFrom is how far inwards the cut surface lies from a point, at a height
// over it.
func (b Box) wallFrom(at r3.Vec, height float64) (mm float64, ok bool) {
	const reach, step = 4, 0.1 // mm
	from := r3.Add(at, r3.Scale(height, b.Model.Table.W))
	return solid.RootAlong(b.Workpiece.Distance, from, r3.Scale(-1, b.outward()), 0, reach, step)
}

// AxialConvexity is by how much (mm) the axial wall bulges towards the
// neighbour over the middle of the box; outer is how much the uncut surface
// does over the same width. Equal figures mean that the wall follows it.
func (b Box) AxialConvexity() (r Reading, outer float64, ok bool) {
	const share, feels, beyond, reach, step = 0.7, 11, 1.5, 7.0, 0.1 // mm
	margin := b.middleOf(b.margin(prep.GingivalFloor), share)
	if len(margin) < 3 {
		return r, 0, false
	}
	table := b.Model.Table
	low, high, level := math.Inf(1), math.Inf(-1), 0.0
	for _, m := range margin {
		q := table.To(m.At)
		low, high, level = math.Min(low, q.Y), math.Max(high, q.Y), level+q.Z/float64(len(margin))
	}
	x := math.Abs(table.To(margin[0].At).X) + beyond
	sense := r3.Dot(b.outward(), table.U)
	inward := r3.Scale(-1, b.outward())
	var across, wall, surface []float64
	for n := range feels {
		y := low + (high-low)*float64(n)/(feels-1)
		from := table.From(r3.Vec{X: sense * x, Y: y, Z: level + lowFeel})
		cut, hitCut := solid.RootAlong(b.Workpiece.Distance, from, inward, 0, reach, step)
		uncut, hitUncut := b.Model.Surface.RootAlong(from, inward, 0, reach, step)
		if hitCut && hitUncut {
			across, wall, surface = append(across, y), append(wall, -cut), append(surface, -uncut)
		}
	}
	if len(across) < 5 {
		return r, 0, false
	}
	width := across[len(across)-1] - across[0]
	r.Value, outer = sagitta(across, wall, width), sagitta(across, surface, width)
	r.Where = Place{"axial wall, " + b.Side.String(), table.From(r3.Vec{X: sense * (x + wall[len(wall)/2]), Y: across[len(across)/2], Z: level + lowFeel})}
	r.Uncertainty = 0.2 * b.Model.Surface.H
	return r, outer, true
}

// sagitta is the rise of the parabola fitted through the points over its
// chord of a width.
func sagitta(xs, ys []float64, width float64) float64 {
	a := mat.NewDense(len(xs), 3, nil)
	for n, x := range xs {
		a.SetRow(n, []float64{1, x, x * x})
	}
	var fit mat.VecDense
	if err := fit.SolveVec(a, mat.NewVecDense(len(ys), ys)); err != nil {
		return math.NaN()
	}
	return -fit.AtVec(2) * width * width / 4
}

// Clearance is the least distance between the box's margin over one wall
// (BoxBuccal, BoxLingual or GingivalFloor) and the neighbour, as an explorer
// tip or a pin passing through finds it.
func (b Box) Clearance(feature uint16, beside *Beside) (r Reading, ok bool) {
	r.Value = math.Inf(1)
	for _, m := range b.margin(feature) {
		if d, found := beside.Clearance(m.At); found && d < r.Value {
			r.Value, r.Where = d, Place{"margin of the " + prep.FeatureName(feature), m.At}
		}
	}
	r.Uncertainty = 0.25 * b.Model.Surface.H
	return r, !math.IsInf(r.Value, 1)
}

// ExitAngle is the angle through the tooth between a wall of the box and the
// outer surface, along its proximal margin: of all but the extreme tenth, the
// one furthest from 90 degrees.
func (b Box) ExitAngle(feature uint16) (r Reading, ok bool) {
	const upright, corner = 0.7, 0.2 // share of the bur's direction in the face's own; mm
	points := slices.DeleteFunc(b.margin(feature), func(m MarginPoint) bool {
		return math.Abs(r3.Dot(m.Outer, b.Model.Table.W)) > upright || m.FromCorner < corner
	})
	if len(points) == 0 {
		return r, false
	}
	slices.SortFunc(points, func(x, y MarginPoint) int { return cmp.Compare(math.Abs(x.Angle-90), math.Abs(y.Angle-90)) })
	worst := points[len(points)*9/10]
	return Reading{worst.Angle, Place{"proximal margin of the " + prep.FeatureName(feature), worst.At}, 1}, true
}

// WallAngle is the angle inside the cavity between a wall of the box and its
// gingival floor, degrees: 90 is square, less leans over the floor.
func (b Box) WallAngle(feature uint16) (r Reading, ok bool) {
	wall, at, hasWall := b.meanNormal(feature)
	floor, _, hasFloor := b.meanNormal(prep.GingivalFloor)
	if !hasWall || !hasFloor {
		return r, false
	}
	between := math.Acos(math.Min(math.Max(r3.Dot(wall, floor), -1), 1))
	return Reading{180 - degrees(between), Place{prep.FeatureName(feature), at}, 0.5}, true
}

// GingivalSlope is by how much the gingival floor falls outwards, degrees.
func (b Box) GingivalSlope() (r Reading, ok bool) {
	floor, at, ok := b.meanNormal(prep.GingivalFloor)
	if !ok {
		return r, false
	}
	fall := math.Atan2(r3.Dot(floor, b.outward()), r3.Dot(floor, b.Model.Table.W))
	return Reading{degrees(fall), Place{"gingival floor", at}, 0.5}, true
}

// meanNormal is the facing of a feature, from the facets that agree with its
// own mean within inPlane: line angles and corners drop out.
func (b Box) meanNormal(feature uint16) (normal, at r3.Vec, ok bool) {
	const least = 0.05 // mm²
	const rounds = 4
	within := 40.0
	for range rounds {
		var sum, middle r3.Vec
		area := 0.0
		for n, label := range b.Mesh.Labels {
			if label != feature || !b.here(b.Mesh.Centroid(n)) {
				continue
			}
			v := b.Mesh.AreaVector(n)
			a := r3.Norm(v)
			if a < 1e-12 || (normal != (r3.Vec{}) && r3.Dot(v, normal) < a*cosDeg(within)) {
				continue
			}
			sum, middle, area = r3.Add(sum, v), r3.Add(middle, r3.Scale(a, b.Mesh.Centroid(n))), area+a
		}
		if area < 2*least {
			return normal, at, false
		}
		normal, at = r3.Unit(sum), r3.Scale(1/area, middle)
		within = math.Max(inPlane, within/2.5)
	}
	return normal, at, true
}
