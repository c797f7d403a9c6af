package measure

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/anatomy"
	"obturon/core/cavity"
	"obturon/core/solid"
)

// AxialIntoDentin is the least dentin between the axial wall and the
// dentino-enamel junction over the middle of the box, along the way out to the
// neighbour: negative where the wall still stands in enamel.
func (b Box) AxialIntoDentin() (r Reading, ok bool) {
	const share, reach, step = 0.5, 4.0, 0.05 // mm
	dentin := b.Model.Dentin()
	r.Value = math.Inf(1)
	for _, m := range b.spread(b.middleOf(b.margin(cavity.GingivalFloor), share)) {
		felt, hit := b.feelAxial(m.At)
		wall := felt.at
		if !hit || b.excavated(wall) {
			continue
		}
		way, sign := b.Outward(), 1.0
		if dentin.Distance(wall) > 0 {
			way, sign = r3.Scale(-1, way), -1
		}
		if t, hit := dentin.RootAlong(wall, way, 0, reach, step); hit && sign*t < r.Value {
			r.Value, r.Where = sign*t, Place{"axial wall, " + b.Side.String(), wall}
		}
	}
	r.Uncertainty = 0.05
	return r, !math.IsInf(r.Value, 1)
}

// Opening is how wide the box is mesiodistally at its top: over the middle of
// the box, from the axial wall's plane out to where the uncut surface was, a
// little under the occlusal surface over the seat.
func (b Box) Opening() (r Reading, ok bool) {
	const below, share, reach, step = 0.5, 0.3, 5.0, 0.1 // mm
	up, out := b.Model.Table.W, b.Outward()
	r.Value = math.Inf(1)
	for _, m := range b.spread(b.middleOf(b.margin(cavity.GingivalFloor), share)) {
		felt, hit := b.feelAxial(m.At)
		if !hit {
			continue
		}
		over := r3.Add(felt.at, r3.Scale(felt.depth/2, out))
		top, under := b.Model.Surface.RootAlong(over, up, 0.1, 9, step)
		if !under {
			continue
		}
		at := r3.Add(over, r3.Scale(top-below, up))
		if beyond, hitOut := b.Model.Surface.RootAlong(at, out, 0, reach, step); hitOut && felt.depth/2+beyond < r.Value {
			r.Value, r.Where = felt.depth/2+beyond, Place{"top of the box, " + b.Side.String(), at}
		}
	}
	r.Uncertainty = 0.25 * b.Model.Surface.H
	return r, !math.IsInf(r.Value, 1)
}

// Room is the least distance from the axial wall to the adjacent tooth, seen from
// the seat up: the way in for a blade.
func (b Box) Room(facing *anatomy.AdjacentSurface) (r Reading, ok bool) {
	const share, low, high, step = 0.4, 0.3, 1.5, 0.3 // mm over the seat's margin
	r.Value = math.Inf(1)
	for _, m := range b.spread(b.middleOf(b.margin(cavity.GingivalFloor), share)) {
		for z := low; z <= high; z += step {
			_, at, felt := b.wallFrom(m.At, z)
			if !felt {
				continue
			}
			if d, found := facing.Clearance(at); found && d < r.Value {
				r.Value, r.Where = d, Place{"between axial wall and adjacent tooth, " + b.Side.String(), at}
			}
		}
	}
	r.Uncertainty = 0.25 * b.Model.Surface.H
	return r, !math.IsInf(r.Value, 1)
}

// OverCervicalLine is the least height of the gingival margin above the CEJ,
// mm along the tooth: negative on the root.
func (b Box) OverCervicalLine() (r Reading, ok bool) {
	neck := b.Model.CervicalLine()
	r.Value = math.Inf(1)
	for _, m := range b.margin(cavity.GingivalFloor) {
		best, height := math.Inf(1), 0.0
		for _, c := range neck {
			if !b.here(c) {
				continue
			}
			if d := math.Hypot(c.X-m.At.X, c.Y-m.At.Y); d < best {
				best, height = d, c.Z
			}
		}
		if over := m.At.Z - height; !math.IsInf(best, 1) && over < r.Value {
			r.Value, r.Where = over, Place{"gingival margin, " + b.Side.String(), m.At}
		}
	}
	r.Uncertainty = 0.1
	return r, !math.IsInf(r.Value, 1)
}

// GrooveDepth is how far the shallower of the retention grooves reaches into
// its side wall, felt level at grooveFeel over the seat's margin, or lower where a groove
// runs out under that: the wall is followed inwards from where no groove is.
func (b Box) GrooveDepth() (r Reading, ok bool) {
	const grooveFeel, reach, step = 0.5, 5.0, 0.05 // mm
	const near, far = 0.55, 0.8                    // mm outside the groove's middle where the wall is felt
	middle := b.middleOf(b.margin(cavity.GingivalFloor), 0.2)
	if len(middle) == 0 {
		return r, false
	}
	table, out := b.Model.Table, b.Outward()
	r.Value = math.Inf(1)
	for _, sign := range []float64{1, -1} {
		way := r3.Scale(sign, table.V)
		base := r3.Add(middle[0].At, r3.Scale(b.grooveHeight(middle[0].At, way, grooveFeel), table.W))
		deepest, at := math.Inf(-1), r3.Vec{}
		for _, n := range b.ofFeature[cavity.RetentionGroove] {
			c := b.Mesh.Centroid(n)
			if !b.here(c) || math.Abs(r3.Dot(r3.Sub(c, base), table.W)) > 0.3 {
				continue
			}
			if d := r3.Dot(r3.Sub(c, base), way); d > deepest && d > 0 {
				deepest, at = d, c
			}
		}
		if math.IsInf(deepest, -1) {
			return Reading{Where: Place{"side walls of the box, " + b.Side.String(), base}}, true
		}
		inner := r3.Dot(r3.Sub(at, base), out)
		// From beside the groove: in the middle the axial wall stands before it.
		const beside = 0.6 // mm
		start := math.Max(deepest-beside, 0)
		felt := func(n float64) (float64, bool) {
			from := r3.Add(base, r3.Add(r3.Scale(inner+n, out), r3.Scale(start, way)))
			return solid.RootAlong(b.Workpiece.Distance, from, way, 0, reach, step)
		}
		wNear, hitNear := felt(near)
		wFar, hitFar := felt(far)
		groove, hit := felt(0)
		if !hitNear || !hitFar || !hit {
			continue
		}
		wall := wNear - (wFar-wNear)/(far-near)*near
		if depth := groove - wall; depth < r.Value {
			r.Value, r.Where = depth, Place{"retention groove", at}
		}
	}
	r.Uncertainty = 0.04
	return r, !math.IsInf(r.Value, 1)
}

// grooveHeight is at what height (mm) over a place the groove on a side is felt: as asked
// where it is as high, else at its own middle.
func (b Box) grooveHeight(over, way r3.Vec, asked float64) float64 {
	const clear = 0.3 // mm of groove over where it is felt
	low, high := math.Inf(1), math.Inf(-1)
	for _, n := range b.ofFeature[cavity.RetentionGroove] {
		if from := r3.Sub(b.Mesh.Centroid(n), over); b.here(b.Mesh.Centroid(n)) && r3.Dot(from, way) > 0 {
			height := r3.Dot(from, b.Model.Table.W)
			low, high = math.Min(low, height), math.Max(high, height)
		}
	}
	if high < low || high >= asked-clear {
		return asked
	}
	return (low + high) / 2
}

// AxialHeight is how high the axial wall stands between pulpal floor and seat, along the
// bur at the middle of the box: the step that makes a seat of its own. ok is false without
// a floor beside the box.
func (b Box) AxialHeight() (r Reading, ok bool) {
	end, found := b.floorEnd()
	seat := b.middleOf(b.margin(cavity.GingivalFloor), 0.3)
	if !found || len(seat) == 0 {
		return r, false
	}
	up := b.Model.Table.W
	lowest := math.Inf(1)
	for _, m := range seat {
		lowest = math.Min(lowest, r3.Dot(m.At, up))
	}
	return Reading{
		Value:       r3.Dot(end, up) - lowest,
		Where:       Place{"axial wall, " + b.Side.String(), end},
		Uncertainty: 0.5 * b.Model.Surface.H,
	}, true
}
