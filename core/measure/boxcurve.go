package measure

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/cavity"
	"obturon/core/solid"
)

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
