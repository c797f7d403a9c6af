package drawing

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/anatomy"
	"obturon/core/solid"
)

// curveTracing is how finely curves of cut surfaces are felt: their chords lie
// within half a hundredth of a millimetre.
var curveTracing = solid.Tracing{Spacing: 0.1, Reach: 0.24, Tolerance: 0.005}

const (
	curveStep = 0.16 // mm between the samples that a curve is first found on
	cutStep   = 0.08 // the same of cut surfaces, some of which are narrow
	leastLine = 0.6  // mm: shorter closed lines are specks where features meet
)

// gaze looks at a cut tooth along the view's lines of sight.
type gaze struct {
	Subject
	view   *View
	aspect *anatomy.Aspect
	cut    *solid.Sight // the cut surfaces that are seen
}

// gazing looks at a subject against the direction towards.
func (v *View) gazing(s Subject, towards r3.Vec) *gaze {
	const edgeOn = 0.05
	mesh := s.Prepared.Mesh
	cut := mesh.Sight(v.Plane, r3.Unit(towards), cutStep, func(n int) bool {
		if mesh.Labels[n] == 0 {
			return false
		}
		normal := mesh.AreaVector(n)
		along := r3.Dot(normal, towards)
		return along > 0 && along*along > edgeOn*edgeOn*r3.Norm2(normal)
	})
	return &gaze{s, v, s.Prepared.Model.Aspect(towards), cut}
}

// opened is negative where the surface that is seen there has been cut away.
func (g *gaze) opened(p solid.Point2) float64 {
	at, ok := g.aspect.Seen(g.view.Plane.At(p.X, p.Y))
	if !ok {
		return 1
	}
	return -g.Prepared.Workpiece.CutDistance(at)
}

// showing is -1 where a cut surface is seen whose feature wanted accepts, else 1.
func (g *gaze) showing(wanted func(feature uint16) bool) func(solid.Point2) float64 {
	return func(p solid.Point2) float64 {
		if at, ok := g.cutSurface(p); ok && wanted(g.Prepared.Workpiece.Feature(at)) {
			return -1
		}
		return 1
	}
}

// cutSurface is the place of a cut surface on the line of sight through p.
func (g *gaze) cutSurface(p solid.Point2) (at r3.Vec, ok bool) {
	const around, step = 0.15, 0.15 // mm
	far, near, ok := g.cut.Depths.Around(p, solid.NothingSeen)
	if !ok {
		return at, false
	}
	field := g.Prepared.Workpiece.Distance
	foot, towards := g.view.Plane.At(p.X, p.Y), g.aspect.Towards
	if near-far < around { // one surface: its field leads there
		depth := (near + far) / 2
		at = r3.Add(foot, r3.Scale(depth, towards))
		first := field(at)
		next := r3.Sub(at, r3.Scale(first, towards))
		second := field(next)
		if math.Abs(second) < math.Abs(first)/2 || math.Abs(second) < 1e-3 {
			return r3.Sub(next, r3.Scale(second*first/(first-second+1e-12), towards)), true
		}
	}
	// Past what leans over it, and the uncut surface over that, which a facet at the rim
	// may have pointed to.
	const past = 0.005 // mm
	from, away, reach := r3.Add(foot, r3.Scale(near+around, towards)), r3.Scale(-1, towards), near-far+2*around
	outside := field(from) >= 0
	for walked := 0.0; ; {
		t, hit := solid.RootAlong(field, from, away, walked, reach, step)
		if !hit {
			return at, false
		}
		at = r3.Sub(from, r3.Scale(t, towards))
		if outside && g.Prepared.Workpiece.Feature(at) != 0 {
			return at, true
		}
		walked, outside = t+past, !outside
	}
}

// opening is the area in which the surface that is seen has been cut away.
func (g *gaze) opening() []solid.Polyline {
	low, high := g.view.cutExtent(g.Prepared.Mesh)
	rough := solid.NewSheet(low.X, low.Y, high.X, high.Y, curveStep).
		Fill(func(x, y float64) float64 { return min(g.opened(solid.Point2{X: x, Y: y}), 1) }).Contours(0)
	return traced(rough, g.opened)
}

// surfaces is the area in which cut surfaces are seen whose feature wanted accepts.
func (g *gaze) surfaces(wanted func(feature uint16) bool) []solid.Polyline {
	return even(traced(g.cut.Area(wanted), g.showing(wanted)))
}

// traced moves rough closed lines onto the zero of a field; those that stand for
// nothing or for a speck are left out.
func traced(rough []solid.Polyline, field func(solid.Point2) float64) []solid.Polyline {
	var lines []solid.Polyline
	for _, line := range rough {
		if line.Length() < leastLine {
			continue
		}
		if line = solid.Trace(line, field, curveTracing); line.Length() >= leastLine {
			lines = append(lines, line)
		}
	}
	return lines
}

// even takes the last hundredth of a millimetre of unevenness out of closed lines
// that stand for something known no better: a lesion, or where two surfaces of a
// cavity flow into each other.
func even(lines []solid.Polyline) []solid.Polyline {
	const step, rounds = 0.05, 4 // mm
	for n, line := range lines {
		if line.Closed {
			lines[n] = line.Resample(step).Smoothed(rounds)
		}
	}
	return lines
}

// projected draws closed curves of space.
func (v *View) projected(curves [][]r3.Vec) []solid.Polyline {
	lines := make([]solid.Polyline, len(curves))
	for n, curve := range curves {
		lines[n].Closed = true
		for _, at := range curve {
			lines[n].Points = append(lines[n].Points, v.Plane.Project(at))
		}
	}
	return lines
}

// open draws curves of space that end.
func (v *View) open(curves [][]r3.Vec) []solid.Polyline {
	lines := v.projected(curves)
	for n := range lines {
		lines[n].Closed = false
	}
	return lines
}

// sight is the direction of the view's lines of sight, either way: the frames of
// some teeth are mirrored.
func (v *View) sight() r3.Vec { return r3.Cross(v.Plane.U, v.Plane.V) }
