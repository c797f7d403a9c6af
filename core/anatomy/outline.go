package anatomy

import (
	"math"
	"slices"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/solid"
)

// outlineTracing is how finely an outline is felt: a chord may lie a third of a
// hundredth of a millimetre off the surface, less than a printed line is wide.
var outlineTracing = solid.Tracing{Spacing: 0.14, Reach: 0.24, Tolerance: 0.003}

// Outline is where the surface turns away from the viewer: closed curves on the
// surface, in the tooth frame.
func (a *Aspect) Outline() [][]r3.Vec { return a.outline() }

// Crest is the horizon of the part of the tooth that lies nearer to the viewer than
// a depth (mm from the middle of the tooth), where it stands before the rest: open
// curves on the surface, in the tooth frame.
func (a *Aspect) Crest(depth float64) [][]r3.Vec {
	a.crests.Lock()
	defer a.crests.Unlock()
	if a.crests.drawn == nil {
		a.crests.drawn = map[float64][][]r3.Vec{}
	}
	crest, ok := a.crests.drawn[depth]
	if !ok {
		crest = a.drawCrest(depth)
		a.crests.drawn[depth] = crest
	}
	return crest
}

func (a *Aspect) drawCrest(depth float64) [][]r3.Vec {
	const (
		inside   = 0.12 // mm that a crest keeps from the outline of the whole
		over     = 0.08 // mm over the depth: below it the part ends as if cut off
		leastRun = 6    // places
	)
	var whole []solid.Polyline
	for _, curve := range a.Outline() {
		line := solid.Polyline{Closed: true}
		for _, at := range curve {
			line.Points = append(line.Points, a.plane.Project(at))
		}
		whole = append(whole, line)
	}
	stands := func(at r3.Vec) bool {
		if a.depth(at) <= depth+over {
			return false
		}
		p := a.plane.Project(at)
		return !slices.ContainsFunc(whole, func(l solid.Polyline) bool { return l.Away(p) <= inside })
	}
	var crests [][]r3.Vec
	for _, curve := range a.drawOutline(depth) {
		for _, run := range solid.Runs(curve, true, stands) {
			if len(run) >= leastRun {
				crests = append(crests, run)
			}
		}
	}
	return crests
}

// drawOutline outlines the tooth above a depth (mm along the line of sight, from the
// middle of the tooth).
func (a *Aspect) drawOutline(lowest float64) [][]r3.Vec {
	const coarse = 0.12 // mm
	mesh := a.model.Turning().Uncut().Mesh()
	rim := newRim(a, mesh, lowest)
	var outline [][]r3.Vec
	for _, rough := range mesh.Shadow(a.plane, coarse, func(n int) bool { return a.depth(mesh.Centroid(n)) > lowest }) {
		line := solid.Trace(rough, func(p solid.Point2) float64 { d, _ := rim.nearest(p); return d }, outlineTracing)
		curve := make([]r3.Vec, len(line.Points))
		for n, p := range line.Points {
			_, depth := rim.nearest(p)
			curve[n] = a.model.ontoShape(a.at(p, depth))
		}
		outline = append(outline, curve)
	}
	return outline
}

// ontoShape moves a place of the samples' surface onto the shape that was sampled.
func (m *Model) ontoShape(at r3.Vec) r3.Vec {
	const most = 0.02 // mm
	normal := r3.Unit(m.Surface.Gradient(at))
	d := m.SurfaceShape(at)
	return r3.Sub(at, r3.Scale(math.Min(math.Max(d, -most), most), normal))
}

// rim finds how near a line of sight passes the surface, from the places of a
// mesh where that surface stands edge-on.
type rim struct {
	*Aspect
	lowest    float64              // mm: what lies deeper does not count
	stretches map[[2]int][]stretch // by where they are seen, with what is seen close by
}

// stretch is how far towards the viewer a part of the surface that stands edge-on lies, mm.
type stretch struct{ from, to float64 }

const rimCell = 0.3 // mm

func newRim(a *Aspect, mesh *solid.Mesh, lowest float64) *rim {
	const edgeOn = 0.5 // cosine between the surface and the line of sight
	const ending = 0.4 // mm over the lowest level, where the surface ends as if cut off
	r := &rim{a, lowest, map[[2]int][]stretch{}}
	depths := map[[2]int][]float64{}
	for n := range mesh.Triangles {
		at := mesh.Centroid(n)
		depth := a.depth(at)
		if depth < lowest || depth > lowest+ending && math.Abs(r3.Dot(mesh.Normal(n), a.Towards)) > edgeOn {
			continue
		}
		cell := r.cell(a.plane.Project(at))
		depths[cell] = append(depths[cell], depth)
	}
	for cell := range depths {
		for _, around := range cellsAround(cell) {
			if _, done := r.stretches[around]; !done {
				r.stretches[around] = stretchesOf(depths, around)
			}
		}
	}
	return r
}

func cellsAround(cell [2]int) (cells [9][2]int) {
	for n := range cells {
		cells[n] = [2]int{cell[0] + n%3 - 1, cell[1] + n/3 - 1}
	}
	return cells
}

// stretchesOf joins the depths seen in and around a cell to stretches.
func stretchesOf(depths map[[2]int][]float64, cell [2]int) []stretch {
	const apart = 0.5 // mm between depths that belong to different parts of the surface
	var all []float64
	for _, around := range cellsAround(cell) {
		all = append(all, depths[around]...)
	}
	slices.Sort(all)
	var joined []stretch
	for n, d := range all {
		if n == 0 || d-all[n-1] > apart {
			joined = append(joined, stretch{d - apart, d})
		}
		joined[len(joined)-1].to = d + apart
	}
	return joined
}

func (r *rim) cell(p solid.Point2) [2]int {
	return [2]int{int(math.Floor(p.X / rimCell)), int(math.Floor(p.Y / rimCell))}
}

// nearest is the least value of the surface's field along the line of sight through
// p, and how far towards the viewer it lies.
func (r *rim) nearest(p solid.Point2) (least, depth float64) {
	const outside = 1.0 // mm, where no edge is near
	least = outside
	for _, s := range r.stretches[r.cell(p)] {
		if d, where := r.leastBetween(p, s.from, s.to); d < least {
			least, depth = d, where
		}
	}
	return least, depth
}

// leastBetween finds the least value of the field between two depths: roughly in
// steps, then by parabolas through three places.
func (r *rim) leastBetween(p solid.Point2, from, to float64) (least, depth float64) {
	const step, rounds, enough = 0.12, 6, 2e-4 // mm
	field := func(t float64) float64 { return r.model.Surface.Distance(r.at(p, t)) }
	from = math.Max(from, r.lowest)
	least, depth = math.Inf(1), from
	for t := from; t < to+step; t += step {
		if d := field(t); d < least {
			least, depth = d, t
		}
	}
	half := step
	low, middle, high := field(depth-half), field(depth), field(depth+half)
	best, where := middle, depth
	for range rounds {
		curved := low - 2*middle + high
		move := math.Copysign(half, low-high)
		if curved > 0 {
			move = math.Min(math.Max(half*(low-high)/(2*curved), -half), half)
		}
		if math.Abs(move) < enough {
			break
		}
		depth = math.Max(depth+move, r.lowest)
		half = math.Max(math.Min(half, 2*math.Abs(move)), 0.01)
		low, middle, high = field(depth-half), field(depth), field(depth+half)
		if middle < best {
			best, where = middle, depth
		}
	}
	return best, where
}
