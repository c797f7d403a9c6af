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

// Axiopulpal is the width of the bevel or rounding between pulpal floor and
// axial wall: from where the surface leaves the floor to where it meets the
// wall, the median over the middle of the isthmus. A sharp edge reads 0. Where
// caries was followed into the wall, or too little floor is left to be told from a
// rounded trough, there is no such edge.
func (b Box) Axiopulpal() (Reading, bool) {
	return b.once("axiopulpal "+b.Side.String(), b.feelAxiopulpal)
}

func (b Box) feelAxiopulpal() (r Reading, ok bool) {
	const places, apart = 5, 0.1 // mm
	edge, found := b.floorEnd()
	if !found || !b.endsAtBox(edge) {
		return r, false
	}
	var widths []float64
	for n := range places {
		if width, felt := b.feelEdge(r3.Add(edge, r3.Scale(apart*float64(n-places/2), b.Model.Table.V))); felt {
			widths = append(widths, width)
		}
	}
	if len(widths) == 0 {
		return r, false
	}
	return Reading{Value: quantile(widths, 0.5), Where: Place{"axiopulpal line angle, " + b.Side.String(), edge}, Uncertainty: 0.03}, true
}

// endsAtBox reports a floor that ends at the axial wall or its rounded edge: where
// caries or an old filling took the step between them, there is no edge to feel.
func (b Box) endsAtBox(floorEnd r3.Vec) bool {
	const beside = 0.8 // mm, more than any rounding and a triangle
	for _, feature := range []uint16{cavity.AxiopulpalEdge, cavity.AxialWall} {
		for _, n := range b.ofFeature[feature] {
			if c := b.Mesh.Centroid(n); b.here(c) && r3.Norm(r3.Sub(c, floorEnd)) < beside {
				return true
			}
		}
	}
	return false
}

// floorEnd is the middle of the pulpal floor's end at the box.
func (b Box) floorEnd() (end r3.Vec, ok bool) {
	const strip = 0.3 // mm of floor that counts as its end
	var furthest, sum r3.Vec
	most, area := math.Inf(-1), 0.0
	each := func(visit func(c r3.Vec, a float64)) {
		for _, f := range b.floors() {
			for _, n := range f.facets {
				if c := b.Mesh.Centroid(n); b.here(c) {
					visit(c, b.Mesh.Area(n))
				}
			}
		}
	}
	each(func(c r3.Vec, _ float64) {
		if d := r3.Dot(c, b.Outward()); d > most {
			most, furthest = d, c
		}
	})
	if math.IsInf(most, -1) {
		return end, false
	}
	each(func(c r3.Vec, a float64) {
		if r3.Dot(r3.Sub(c, furthest), b.Outward()) > -strip {
			sum, area = r3.Add(sum, r3.Scale(a, c)), area+a
		}
	})
	return r3.Scale(1/area, sum), true
}

// feelEdge measures the edge in the section through at that holds the bur and
// the way out: the floor is followed outwards, the axial wall upwards, to where
// each leaves its straight course.
func (b Box) feelEdge(at r3.Vec) (width float64, ok bool) {
	const (
		back, ahead = 0.6, 1.2 // mm of section before and past the floor's end
		course      = 0.2      // mm that say how the floor runs
		clear       = 0.55     // mm from the corner that no rounding reaches
		step        = 0.005    // mm
		leaves      = 0.001    // mm off the straight course
		march       = 0.2      // mm, less than any tooth there is thick
		over, reach = 0.8, 3.0 // mm
	)
	up, out := b.Model.Table.W, b.Outward()
	// Heights of the cut surface under a line over the floor, by the way out.
	floorAt := func(n float64) (float64, bool) {
		from := r3.Add(at, r3.Add(r3.Scale(n, out), r3.Scale(over, up)))
		t, hit := solid.RootAlong(b.Workpiece.Distance, from, r3.Scale(-1, up), 0, reach, march)
		return over - t, hit
	}
	wallAt := func(z float64) (float64, bool) {
		from := r3.Add(at, r3.Add(r3.Scale(ahead+1, out), r3.Scale(z, up)))
		t, hit := solid.RootAlong(b.Workpiece.Distance, from, r3.Scale(-1, out), 0, reach, march)
		return ahead + 1 - t, hit
	}
	// Where caries was followed into the floor, or a cusp reduced to below it, it runs no
	// further.
	floor, floorFrom, level := straightRun(0.05, func(in float64) (z float64, hit bool) {
		z, hit = floorAt(-in)
		made := b.Workpiece.Feature(r3.Add(at, r3.Add(r3.Scale(-in, out), r3.Scale(z, up))))
		return z, hit && made != cavity.Excavation && made != cavity.CuspReduction
	})
	if !level {
		return 0, false
	}
	line := func(n float64) float64 { return floor(-n) }
	wall, straightAt, straight := straightRun(0.2, func(down float64) (float64, bool) { return wallAt(line(0) - down) })
	if !straight {
		return 0, false
	}
	for _, down := range []float64{0.2, 0.3, 0.45} {
		if n, hit := wallAt(line(0) - down); hit && b.excavated(r3.Add(at, r3.Add(r3.Scale(n, out), r3.Scale(line(0)-down, up)))) {
			return 0, false
		}
	}
	n0 := wall(0)
	corner := wall(line(0) - line(n0))
	start, end := corner, line(corner)
	for n := -floorFrom; n < corner; n += step {
		if z, hit := floorAt(n); hit && line(n)-z > leaves {
			start = n
			break
		}
	}
	for z := line(0) - straightAt; z < line(corner); z += step {
		if n, hit := wallAt(z); hit && wall(line(0)-z)-n > leaves {
			end = z
			break
		}
	}
	return math.Hypot(corner-start, line(corner)-end), true
}

// straightRun finds how a surface runs from where it is straightest, felt at
// distances from an edge, the first one given: its place as a function of that
// distance.
func straightRun(first float64, at func(down float64) (float64, bool)) (wall func(down float64) float64, straightAt float64, ok bool) {
	const last, step, span, steep = 1.1, 0.05, 2, 0.4 // mm, mm, steps, out per mm
	var places []float64
	for down := first; down <= last; down += step {
		n, hit := at(down)
		if !hit {
			break
		}
		places = append(places, n)
	}
	least := steep
	for k := 0; k+span < len(places); k++ {
		lean := (places[k+span] - places[k]) / (span * step)
		if math.Abs(lean) < least-1e-3 {
			least, ok = math.Abs(lean), true
			foot, from := places[k], first+float64(k)*step
			straightAt = from
			wall = func(down float64) float64 { return foot + lean*(down-from) }
		}
	}
	return wall, straightAt, ok
}

// ReverseCurve is how far the buccal margin between isthmus and box cuts into
// the cusp: the furthest it comes outside the straight line from the isthmus to
// where it leaves the occlusal surface, seen along the bur. ok is false where
// the margin runs on nearly straight.
func (b Box) ReverseCurve() (r Reading, ok bool) {
	const back, turn = 0.6, 0.25 // mm of isthmus before the change; mm sideways under which there is no curve
	for _, l := range b.Margin.loops {
		run := l.buccalRun(b, back)
		if len(run) < 3 {
			continue
		}
		first, last := b.Model.Table.To(l.points[run[0]].At), b.Model.Table.To(l.points[run[len(run)-1]].At)
		dx, dy := last.X-first.X, last.Y-first.Y
		chord := math.Hypot(dx, dy)
		if chord < turn || math.Abs(dy) < turn {
			continue
		}
		for _, n := range run {
			q := b.Model.Table.To(l.points[n].At)
			// Buccal of the chord is into the cusp.
			out := ((q.Y-first.Y)*math.Abs(dx) - (q.X-first.X)*math.Copysign(1, dx)*dy) / chord
			if !ok || out > r.Value {
				r.Value, r.Where, ok = out, Place{"curve before the box, " + b.Side.String(), l.points[n].At}, true
			}
		}
	}
	r.Uncertainty = 0.2 * b.Model.Surface.H
	return r, ok
}

// ofBuccalSide reports a point of the margin on the way round the buccal corner of a
// box: where a steep curve meets the box, other walls come to its edge.
func (l *marginLoop) ofBuccalSide(n int) bool {
	switch l.points[n].Feature {
	case cavity.GingivalFloor, cavity.BoxLingual, cavity.WallLingual:
		return false
	}
	return true
}

// buccalRun lists the margin from a little before the isthmus's buccal wall turns into
// the box, to where it has turned down the proximal surface.
func (l *marginLoop) buccalRun(b Box, back float64) []int {
	n := len(l.points)
	for i := range l.points {
		for _, step := range []int{1, -1} {
			next := ((i+step)%n + n) % n
			if !b.here(l.points[i].At) || l.points[i].Feature != cavity.WallBuccal || l.points[next].Feature != cavity.BoxBuccal {
				continue
			}
			var run []int
			walked := 0.0
			for k := i; walked < back && l.points[k].Feature == cavity.WallBuccal; {
				run = append([]int{k}, run...)
				before := ((k-step)%n + n) % n
				walked += r3.Norm(r3.Sub(l.points[k].At, l.points[before].At))
				k = before
			}
			// To where it has turned down the proximal surface: the exit that the curve is
			// there for.
			const faces = 0.15 // share of the bur's direction in the surface's own
			for k := next; l.ofBuccalSide(k) && r3.Dot(l.points[k].Outer, b.Model.Table.W) > faces && len(run) <= n; k = ((k+step)%n + n) % n {
				run = append(run, k)
			}
			return run
		}
	}
	return nil
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
	return Reading{Value: r3.Dot(end, up) - lowest, Where: Place{"axial wall, " + b.Side.String(), end}, Uncertainty: 0.5 * b.Model.Surface.H}, true
}
