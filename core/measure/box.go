package measure

import (
	"cmp"
	"fmt"
	"math"
	"slices"

	"gonum.org/v1/gonum/mat"
	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/anatomy"
	"obturon/core/cavity"
	"obturon/core/notation"
	"obturon/core/solid"
)

// Box gauges the proximal box on one side of a prepared tooth.
type Box struct {
	*Prepared
	Side notation.Side
}

// Box is the mesial or distal box. Its gauges say ok false where there is none.
func (p *Prepared) Box(side notation.Side) Box { return Box{p, side} }

// Outward is the direction from the tooth's middle to the box's neighbour.
func (b Box) Outward() r3.Vec {
	if b.Side == notation.Distal {
		return r3.Scale(-1, b.Model.Table.U)
	}
	return b.Model.Table.U
}

// here reports a point on the box's side of the tooth.
func (b Box) here(at r3.Vec) bool {
	return r3.Dot(r3.Sub(at, b.Model.Table.Origin), b.Outward()) > 0
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
	for _, m := range points {
		low, high = math.Min(low, b.across(m)), math.Max(high, b.across(m))
	}
	middle, half := (low+high)/2, share*(high-low)/2
	return slices.DeleteFunc(points, func(m MarginPoint) bool { return math.Abs(b.across(m)-middle) > half })
}

func (b Box) across(m MarginPoint) float64 { return b.Model.Table.To(m.At).Y }

// spread keeps of points in order as many as stand apart enough to tell
// something new.
func (b Box) spread(points []MarginPoint) []MarginPoint {
	const apart = 0.08 // mm
	slices.SortStableFunc(points, func(x, y MarginPoint) int { return cmp.Compare(b.across(x), b.across(y)) })
	last := math.Inf(-1)
	return slices.DeleteFunc(points, func(m MarginPoint) bool {
		if b.across(m)-last < apart {
			return true
		}
		last = b.across(m)
		return false
	})
}

// axialFelt is the axial wall as felt from a place of the seat's margin.
type axialFelt struct {
	depth  float64 // mm inwards, followed down to the seat behind the line angle
	height float64 // mm over the margin where it runs straightest
	at     r3.Vec  // on the wall there
}

// feelAxial feels inwards from a place of the seat's margin, at one height
// after the other, and takes the wall where it stands straightest: between the
// line angle at the seat and the edge to the pulpal floor.
func (b Box) feelAxial(margin r3.Vec) (axialFelt, bool) {
	type answer struct {
		felt axialFelt
		ok   bool
	}
	if known, ok := b.axials.Load(margin); ok {
		a := known.(answer)
		return a.felt, a.ok
	}
	felt, ok := b.feelAxialAnew(margin)
	b.axials.Store(margin, answer{felt, ok})
	return felt, ok
}

func (b Box) feelAxialAnew(margin r3.Vec) (felt axialFelt, ok bool) {
	const lowest, highest, step, steep = 0.2, 1.5, 0.05, 0.5 // mm over the margin; inwards per mm
	var depths []float64
	for h := lowest; h <= highest; h += step {
		d, _, hit := b.wallFrom(margin, h)
		if !hit {
			break
		}
		depths = append(depths, d)
	}
	straightest := steep
	for n := 1; n+1 < len(depths); n++ {
		lean := (depths[n+1] - depths[n-1]) / (2 * step)
		if math.Abs(lean) < straightest-1e-3 {
			straightest, ok = math.Abs(lean), true
			h := lowest + float64(n)*step
			felt = axialFelt{depth: depths[n] - lean*h, height: h}
			felt.at = r3.Add(margin, r3.Sub(r3.Scale(h, b.Model.Table.W), r3.Scale(depths[n], b.Outward())))
		}
	}
	return felt, ok
}

// AxialDepth is the least width of the gingival seat from its margin inwards
// to the axial wall, over the middle of the box: as a blade of known width
// laid on the seat finds it. Places where a side wall stands before it, or where
// caries was followed into it, are left out, unless there are no others.
func (b Box) AxialDepth() (Reading, bool) {
	return b.once("axial "+b.Side.String(), b.feelAxialDepth)
}

func (b Box) feelAxialDepth() (r Reading, ok bool) {
	const share = 0.7
	r.Value = math.Inf(1)
	r.Uncertainty = 0.25 * b.Model.Surface.H
	for _, any := range []bool{false, true} {
		for _, m := range b.spread(b.middleOf(b.margin(cavity.GingivalFloor), share)) {
			felt, hit := b.feelAxial(m.At)
			if hit && (any || b.Workpiece.Feature(felt.at) == cavity.AxialWall) && felt.depth < r.Value {
				r.Value, r.Where = felt.depth, Place{"gingival seat, " + b.Side.String(), m.At}
			}
		}
		if !math.IsInf(r.Value, 1) {
			return r, true
		}
	}
	return r, false
}

// excavated reports a place of the cut surface where caries was followed.
func (b Box) excavated(at r3.Vec) bool { return b.Workpiece.Feature(at) == cavity.Excavation }

// axialHeight is the height over the seat's margin at which the axial wall
// stands straightest, mm; 0 where no wall is felt.
func (b Box) axialHeight(margin []MarginPoint) float64 {
	var heights []float64
	for _, m := range b.spread(slices.Clone(margin)) {
		if felt, hit := b.feelAxial(m.At); hit {
			heights = append(heights, felt.height)
		}
	}
	if len(heights) == 0 {
		return 0
	}
	return quantile(heights, 0.5)
}

// wallFrom is how far inwards the cut surface lies from a point, at a height
// over it, and where.
func (b Box) wallFrom(from r3.Vec, height float64) (mm float64, at r3.Vec, ok bool) {
	const reach, step = 4, 0.2 // mm
	from = r3.Add(from, r3.Scale(height, b.Model.Table.W))
	mm, ok = solid.RootAlong(b.Workpiece.Distance, from, r3.Scale(-1, b.Outward()), 0, reach, step)
	return mm, r3.Sub(from, r3.Scale(mm, b.Outward())), ok
}

// AxialConvexity is by how much (mm) the axial wall bulges towards the
// neighbour over the middle of the box; outer is how much the uncut surface
// does over the same width. Equal figures mean that the wall follows it.
func (b Box) AxialConvexity() (r Reading, outer float64, ok bool) {
	const share, feels, beyond, reach, step = 0.7, 11, 1.5, 7.0, 0.1 // mm
	margin := b.middleOf(b.margin(cavity.GingivalFloor), share)
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
	height := b.axialHeight(margin)
	sign := r3.Dot(b.Outward(), table.U)
	inward := r3.Scale(-1, b.Outward())
	// The wall between its corners: where side walls lean in, they and their rounded line
	// angles stand before it over a part of the seat.
	const corner = 0.2 // mm
	feel := func(y float64) (cut, uncut float64, onWall bool) {
		from := table.From(r3.Vec{X: sign * x, Y: y, Z: level + height})
		cut, hitCut := solid.RootAlong(b.Workpiece.Distance, from, inward, 0, reach, step)
		uncut, hitUncut := b.Model.Surface.RootAlong(from, inward, 0, reach, step)
		return cut, uncut, hitCut && hitUncut && b.Workpiece.Feature(r3.Add(from, r3.Scale(cut, inward))) == cavity.AxialWall
	}
	var across, wall, surface []float64
	for n := range feels {
		y := low + (high-low)*float64(n)/(feels-1)
		cut, uncut, onWall := feel(y)
		_, _, before := feel(y - corner)
		_, _, after := feel(y + corner)
		if onWall && before && after {
			across, wall, surface = append(across, y), append(wall, -cut), append(surface, -uncut)
		}
	}
	if len(across) < 5 {
		return r, 0, false
	}
	width := across[len(across)-1] - across[0]
	r.Value, outer = sagitta(across, wall, width), sagitta(across, surface, width)
	r.Where = Place{
		"axial wall, " + b.Side.String(),
		table.From(r3.Vec{X: sign * (x + wall[len(wall)/2]), Y: across[len(across)/2], Z: level + height}),
	}
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
// (BoxBuccal, BoxLingual or GingivalFloor) and the adjacent tooth, as an explorer
// tip or a pin passing through finds it.
func (b Box) Clearance(feature uint16, beside *anatomy.AdjacentSurface) (Reading, bool) {
	return b.once(
		fmt.Sprintf("clearance %s %d %p", b.Side, feature, beside),
		func() (Reading, bool) { return b.feelClearance(feature, beside) },
	)
}

func (b Box) feelClearance(feature uint16, beside *anatomy.AdjacentSurface) (r Reading, ok bool) {
	r.Value = math.Inf(1)
	for _, m := range b.margin(feature) {
		if d, found := beside.Clearance(m.At); found && d < r.Value {
			r.Value, r.Where = d, Place{"margin of the " + cavity.FeatureName(feature), m.At}
		}
	}
	r.Uncertainty = 0.25 * b.Model.Surface.H
	return r, !math.IsInf(r.Value, 1)
}

// ExitAngle is the angle through the tooth between a wall of the box and the
// outer surface, along its proximal margin: where the surface faces the
// neighbour: its median there, shown where it is furthest from 90 degrees once
// the extreme tenth is left out.
func (b Box) ExitAngle(feature uint16) (r Reading, ok bool) {
	const upright, facing, corner = 0.3, 0.35, 0.2 // shares of the bur's and the adjacent tooth's direction; mm
	points := slices.DeleteFunc(b.margin(feature), func(m MarginPoint) bool {
		return math.Abs(r3.Dot(m.Outer, b.Model.Table.W)) > upright || r3.Dot(m.Outer, b.Outward()) < facing || m.FromCorner < corner
	})
	if len(points) == 0 {
		return r, false
	}
	slices.SortFunc(points, func(x, y MarginPoint) int { return cmp.Compare(x.Angle, y.Angle) })
	median := points[len(points)/2].Angle
	slices.SortFunc(points, func(x, y MarginPoint) int { return cmp.Compare(math.Abs(x.Angle-90), math.Abs(y.Angle-90)) })
	worst := points[len(points)*9/10]
	return Reading{Value: median, Where: Place{"proximal margin of the " + cavity.FeatureName(feature), worst.At}, Uncertainty: 1}, true
}

// WallAngle is the angle inside the cavity between a wall of the box and the
// inner part of its gingival floor, degrees: 90 is square, less leans over the
// floor.
func (b Box) WallAngle(feature uint16) (r Reading, ok bool) {
	wall, at, hasWall := b.meanNormal(b.facets(feature))
	floor, _, hasFloor := b.meanNormal(b.seat(0, innerSeat))
	if !hasWall || !hasFloor {
		return r, false
	}
	between := math.Acos(math.Min(math.Max(r3.Dot(wall, floor), -1), 1))
	return Reading{Value: 180 - degrees(between), Where: Place{cavity.FeatureName(feature), at}, Uncertainty: 0.5}, true
}

// The seat may be level within and fall away outside: shares of its width that
// are told apart.
const innerSeat, outerSeat = 0.35, 0.6

// GingivalSlope is by how much the outer part of the gingival floor falls
// outwards, degrees.
func (b Box) GingivalSlope() (r Reading, ok bool) {
	floor, at, ok := b.meanNormal(b.seat(outerSeat, 1))
	if !ok {
		return r, false
	}
	fall := math.Atan2(r3.Dot(floor, b.Outward()), r3.Dot(floor, b.Model.Table.W))
	return Reading{Value: degrees(fall), Where: Place{"gingival floor", at}, Uncertainty: 0.5}, true
}

// facets lists a feature's facets on the box's side.
func (b Box) facets(feature uint16) []int {
	var list []int
	for _, n := range b.ofFeature[feature] {
		if b.here(b.Mesh.Centroid(n)) {
			list = append(list, n)
		}
	}
	return list
}

// seat lists the facets of the gingival floor between two shares of its width,
// counted from the axial wall outwards.
func (b Box) seat(from, to float64) []int {
	facets := b.facets(cavity.GingivalFloor)
	low, high := math.Inf(1), math.Inf(-1)
	out := func(n int) float64 { return r3.Dot(b.Mesh.Centroid(n), b.Outward()) }
	for _, n := range facets {
		low, high = math.Min(low, out(n)), math.Max(high, out(n))
	}
	return slices.DeleteFunc(facets, func(n int) bool {
		share := (out(n) - low) / (high - low)
		return share < from || share > to
	})
}

// meanNormal is the facing of a surface, from the facets that agree with their
// own mean within inPlane: line angles and corners drop out.
func (b Box) meanNormal(facets []int) (normal, at r3.Vec, ok bool) {
	const least = 0.05 // mm²
	const rounds = 4
	within := 40.0
	for range rounds {
		var sum, middle r3.Vec
		area := 0.0
		for _, n := range facets {
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
