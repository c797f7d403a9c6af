package anatomy

import (
	"math"
	"sync"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/solid"
)

// Aspect is a tooth as it is seen from far away in one direction: facial, mesial,
// along the bur. It is safe for concurrent use.
type Aspect struct {
	Towards r3.Vec // unit vector to the viewer, in the tooth frame
	model   *Model
	plane   solid.Plane // through the origin, square to the line of sight
	outline func() [][]r3.Vec
	nearest func() *solid.Sheet
	crests  struct {
		sync.Mutex
		drawn map[float64][][]r3.Vec // by depth
	}
}

// aspects remembers a shape's aspects by their direction.
type aspects struct {
	sync.Mutex
	seen map[r3.Vec]*Aspect
}

// mostAspects is how many directions are remembered: the tooth's own and those
// of the neighbours beside which it stands.
const mostAspects = 24

// Aspect is the tooth seen from the direction towards.
func (m *Model) Aspect(towards r3.Vec) *Aspect {
	towards = r3.Unit(towards)
	key := r3.Vec{X: math.Round(1e6 * towards.X), Y: math.Round(1e6 * towards.Y), Z: math.Round(1e6 * towards.Z)}
	known := &m.views.aspects
	known.Lock()
	defer known.Unlock()
	if a, ok := known.seen[key]; ok {
		return a
	}
	if known.seen == nil || len(known.seen) >= mostAspects {
		known.seen = map[r3.Vec]*Aspect{}
	}
	a := newAspect(m, towards)
	known.seen[key] = a
	return a
}

func newAspect(m *Model, towards r3.Vec) *Aspect {
	up := r3.Vec{Z: 1}
	if math.Abs(towards.Z) > 0.9 {
		up = r3.Vec{Y: 1}
	}
	u := r3.Unit(r3.Cross(up, towards))
	a := &Aspect{Towards: towards, model: m, plane: solid.Plane{U: u, V: r3.Cross(towards, u)}}
	a.outline = sync.OnceValue(func() [][]r3.Vec { return a.drawOutline(math.Inf(-1)) })
	a.nearest = sync.OnceValue(a.sampleNearest)
	return a
}

// at is the place so deep along the line of sight through p.
func (a *Aspect) at(p solid.Point2, depth float64) r3.Vec {
	return r3.Add(a.plane.At(p.X, p.Y), r3.Scale(depth, a.Towards))
}

// depth is how far towards the viewer a place lies, mm from the middle of the tooth.
func (a *Aspect) depth(at r3.Vec) float64 { return r3.Dot(at, a.Towards) }

// aspectStep (mm) is what lies between the lines of sight that are sampled.
const aspectStep = 0.15

// sampleNearest is how near the surface comes to the viewer along each line of
// sight (mm from the middle of the tooth).
func (a *Aspect) sampleNearest() *solid.Sheet {
	const around, step = 0.3, 0.2 // mm
	surface := a.model.Surface
	low, high := surface.Point(0, 0, 0), surface.Point(surface.N[0]-1, surface.N[1]-1, surface.N[2]-1)
	var from, to solid.Point2
	near, far := math.Inf(-1), math.Inf(1)
	for n, corner := range solid.Corners(solid.Box{Min: low, Max: high}) {
		p, depth := a.plane.Project(corner), a.depth(corner)
		if n == 0 {
			from, to = p, p
		}
		from = solid.Point2{X: min(from.X, p.X), Y: min(from.Y, p.Y)}
		to = solid.Point2{X: max(to.X, p.X), Y: max(to.Y, p.Y)}
		near, far = max(near, depth), min(far, depth)
	}
	return solid.NewSheet(from.X-around, from.Y-around, to.X+around, to.Y+around, aspectStep).Fill(func(x, y float64) float64 {
		t, ok := surface.RootAlong(a.at(solid.Point2{X: x, Y: y}, near), r3.Scale(-1, a.Towards), 0, near-far, step)
		if !ok {
			return solid.NothingSeen
		}
		return near - t
	})
}

// Nearest is how near the surface comes to the viewer along the lines of sight,
// mm from the middle of the tooth; solid.NothingSeen where they miss it.
func (a *Aspect) Nearest() *solid.Sheet { return a.nearest() }

// Plane is where the lines of sight of Nearest pass.
func (a *Aspect) Plane() solid.Plane { return a.plane }

// Covers reports a place of Plane whose surroundings all show the same part of the
// tooth.
func (a *Aspect) Covers(p solid.Point2) bool {
	const nothing = 2 * solid.NothingSeen // so that every sample counts
	const jump = 0.8                      // mm
	far, near, _ := a.nearest().Around(p, nothing)
	return far > solid.NothingSeen && near-far < jump
}

// Seen is the place of the surface that is seen on the line of sight through a
// point; ok is false where that misses the tooth.
func (a *Aspect) Seen(through r3.Vec) (at r3.Vec, ok bool) {
	const above, below = 0.1, 0.35 // mm
	const falls = 6.0              // mm, at the outline, where the surface falls away
	p := a.plane.Project(through)
	far, near, ok := a.depthsAround(p)
	if !ok {
		return at, false
	}
	reach := near + above - far + below
	if !a.Covers(p) {
		reach += falls
	}
	return a.enters(a.at(p, near+above), reach)
}

// enters is where a line of sight from a place outside the tooth meets it. It goes
// by what the field leaves free, so that no thin edge is stepped over.
func (a *Aspect) enters(from r3.Vec, reach float64) (at r3.Vec, ok bool) {
	const share, shortest, longest = 0.7, 0.015, 0.12 // of the free way; mm
	inwards := r3.Scale(-1, a.Towards)
	field := a.model.Surface.Distance
	for t, last := 0.0, 0.0; t < reach; {
		d := field(r3.Add(from, r3.Scale(t, inwards)))
		if d < 0 {
			root, ok := a.model.Surface.RootAlong(from, inwards, last, t, longest)
			return r3.Add(from, r3.Scale(root, inwards)), ok
		}
		last = t
		t += math.Min(math.Max(share*d, shortest), longest)
	}
	return at, false
}

// depthsAround is how far and how near the surface is about a line of sight: where
// it passes close by the outline, in the cells beside it.
func (a *Aspect) depthsAround(p solid.Point2) (far, near float64, ok bool) {
	sheet := a.nearest()
	if far, near, ok = sheet.Around(p, solid.NothingSeen); ok {
		return far, near, ok
	}
	for _, beside := range [4]solid.Point2{{X: 1, Y: 1}, {X: 1, Y: -1}, {X: -1, Y: 1}, {X: -1, Y: -1}} {
		f, n, found := sheet.Around(solid.Point2{X: p.X + aspectStep*beside.X, Y: p.Y + aspectStep*beside.Y}, solid.NothingSeen)
		if found && !ok {
			far, near, ok = f, n, true
		} else if found {
			far, near = min(far, f), max(near, n)
		}
	}
	return far, near, ok
}
