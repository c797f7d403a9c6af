package smooth

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/anatomy"
	"obturon/core/cavity"
	"obturon/core/lesion"
	"obturon/core/solid"
)

// pocket is a cavity sunk into a surface: its walls stand square to the surface,
// or open outwards, and its floor keeps one depth under it.
type pocket struct {
	frame   anatomy.Frame // at the outline's middle
	line    solid.Polyline
	outline outlineForm
	depth   float64
	open    float64 // tangent of the walls' opening
	radius  float64
	biting  uint16 // the wall towards the biting side
	outer   *anatomy.OuterSurface
}

// tightest (mm) is the least radius of curvature of a surface that is cut into.
const tightest = 3.0

// walls is the distance (mm) from the walls, measured at the place's depth.
func (k *pocket) walls(at *cavity.Place) float64 {
	if !k.frame.OnItsSurface(at.Foot, at.Normal) {
		return away
	}
	q := k.frame.To(at.Foot)
	aside := k.outline.at(q.X, q.Y) + at.Depth*k.open
	// Under a convex surface walls come together: feet lie further apart than what
	// is under them.
	return aside * (1 - math.Min(math.Max(at.Depth, 0)/tightest, 0.6))
}

func (k *pocket) distance(at *cavity.Place) float64 {
	return solid.RoundedIntersection(k.walls(at), at.Depth-k.depth, k.radius)
}

func (k *pocket) Over(foot, normal r3.Vec) float64 {
	if !k.frame.OnItsSurface(foot, normal) {
		return away + outlineReach
	}
	q := k.frame.To(foot)
	return k.outline.at(q.X, q.Y)
}

func (k *pocket) feature(at *cavity.Place) uint16 {
	if at.Depth-k.depth > k.walls(at) {
		return cavity.AxialWall
	}
	q := k.frame.To(at.Foot)
	dx, dy := k.outline.slope(q.X, q.Y)
	switch {
	case math.Abs(dy) >= math.Abs(dx) && dy > 0:
		return k.biting
	case math.Abs(dy) >= math.Abs(dx):
		return cavity.GingivalWall
	case dx*k.frame.U.X > 0:
		return cavity.WallMesial
	default:
		return cavity.WallDistal
	}
}

func (k *pocket) bounds() solid.Box {
	const out, bulge = 0.8, 1.6 // mm: over the surface, and that it curves away beside the middle
	const around = 0.5          // mm
	low, high := extentOf(k.line)
	return k.frame.FromBox(
		solid.Box{
			Min: r3.Vec{X: low.X - around, Y: low.Y - around, Z: -k.depth - bulge},
			Max: r3.Vec{X: high.X + around, Y: high.Y + around, Z: out},
		},
	)
}

// onAxialSurface is the place of the outer surface over (x, y) of the frame.
func (k *pocket) surfaceOver(x, y float64) (foot, normal r3.Vec) {
	p := k.frame.From(r3.Vec{X: x, Y: y})
	const rounds = 4 // a surface turns slowly: each round comes much nearer
	for range rounds {
		foot, normal, _ = k.outer.Over(p)
		q := k.frame.To(foot)
		p = r3.Add(foot, k.frame.Turn(r3.Vec{X: x - q.X, Y: y - q.Y}))
	}
	return foot, normal
}

func (k *pocket) toPulp(pulp *solid.Dense) float64 {
	const step = 0.2 // mm
	least := math.Inf(1)
	low, high := extentOf(k.line)
	for x := low.X; x <= high.X; x += step {
		for y := low.Y; y <= high.Y; y += step {
			if k.outline.at(x, y) > 0 {
				continue
			}
			foot, normal := k.surfaceOver(x, y)
			least = math.Min(least, pulp.Distance(r3.Sub(foot, r3.Scale(k.depth, normal))))
		}
	}
	return least
}

// outlineReach (mm) is how far around an outline its distance is known at the
// most.
const outlineReach = 4.5

// newPocket sinks an outline, given in a frame on the surface, into it.
func newPocket(outer *anatomy.OuterSurface, frame anatomy.Frame, line solid.Polyline, reach float64) *pocket {
	return &pocket{frame: frame, line: line, outline: newOutline(line, math.Min(reach, outlineReach)), outer: outer}
}

// buildPocket makes the body of a cavity at the cervical line, or of a pit.
func (c *Solid) buildPocket(r request, d Design) error {
	l, ok := lesionOf[*lesion.SmoothSurface](r)
	if !ok {
		return cavity.ErrOffSmoothSurface
	}
	frame := l.Frame
	foot, normal := (&pocket{frame: frame, outer: c.outer}).surfaceOver(0, d.IncisalShift)
	if r3.Dot(normal, frame.W) < 0.3 {
		return cavity.ErrOffSmoothSurface
	}
	frame = r.Model.FrameAt(foot)
	const around = 1.0 // mm in which the walls' own field matters
	k := newPocket(c.outer, frame, r.outline(frame, d), around+d.BevelWidth)
	k.depth, k.radius, k.open = d.Depth, d.LineAngleRadius, math.Tan(d.WallOpening*math.Pi/180)
	k.biting = cavity.OcclusalWall
	if r.Model.Tooth.Anterior() {
		k.biting = cavity.IncisalWall
	}
	c.Frame, c.body = frame, k
	if d.GrooveDepth > 0 && d.Class() == lesion.ClassV {
		c.grooves = k.lineAngleGrooves(d)
	}
	c.bevel = r.newBevel(k.bevelZones(r, d)...)
	return nil
}

// outline of a cavity at the cervical line or of a pit, in a frame at its middle. At the
// cervical line its gingival edge follows the gingiva's curve where it is broad, and its
// upper edge half of that: a kidney; small ones are saucers.
func (r request) outline(frame anatomy.Frame, d Design) solid.Polyline {
	level := func(y float64) func(float64) float64 { return func(float64) float64 { return y } }
	const ellipse, full = 2.0, 2.8
	if d.Class() != lesion.ClassV {
		return band(d.Width, level(-d.Height/2), level(d.Height/2), ellipse)
	}
	const broad = 3.0 // mm from which the outline follows the gingiva
	bend := r.neckBend(frame) * solid.Smoothstep(0.8*broad, 1.4*broad, d.Width)
	curved := func(y, share float64) func(float64) float64 {
		return func(x float64) float64 { return y + share*bend*x*x }
	}
	exponent := full
	if r.Bonded() {
		exponent = ellipse + 0.2
	}
	upper := curved(d.Height/2, 0.5)
	if contour, ok := r.alongContour(frame, d); ok {
		upper = contour
	}
	return band(d.Width, curved(-d.Height/2, 1), upper, exponent)
}

// alongContour is an upper edge that runs as the height of contour does, as high in
// the middle as the design has it; ok is false where none was chosen, or found.
func (r request) alongContour(frame anatomy.Frame, d Design) (upper func(float64) float64, ok bool) {
	const most = 0.8 // mm that it rises or falls beside the middle
	middle, found := r.contourOver(frame, 0)
	if r.Upper != cavity.HeightOfContour || !found {
		return nil, false
	}
	beside := make([]float64, 9)
	at := func(n int) float64 { return (float64(n)/float64(len(beside)-1) - 0.5) * d.Width }
	for n := range beside {
		if y, ok := r.contourOver(frame, at(n)); ok {
			beside[n] = math.Min(math.Max(y-middle, -most), most)
		}
	}
	return func(x float64) float64 {
		place := math.Min(math.Max((x/d.Width+0.5)*float64(len(beside)-1), 0), float64(len(beside)-1))
		n := min(int(place), len(beside)-2)
		share := place - float64(n)
		return d.Height/2 + (1-share)*beside[n] + share*beside[n+1]
	}, true
}

// neckBend is how strongly the gingival margin rises towards the papillae, seen
// on the surface: mm over the middle for each mm² aside.
func (r request) neckBend(frame anatomy.Frame) float64 {
	const near, most = 3.0, 0.12 // mm; 1/mm
	var sum, weight float64
	lowest := math.Inf(1)
	line := r.Model.GingivalLine(r.Gingiva)
	var on []r3.Vec
	for _, p := range line {
		q := frame.To(p)
		if math.Abs(q.X) < near && q.Z > -near && r3.Dot(r3.Sub(p, frame.Origin), frame.W) > -near {
			on = append(on, q)
			if math.Abs(q.X) < 0.6 {
				lowest = math.Min(lowest, q.Y)
			}
		}
	}
	for _, q := range on {
		sum += (q.Y - lowest) * q.X * q.X
		weight += q.X * q.X * q.X * q.X
	}
	if weight == 0 || math.IsInf(lowest, 1) {
		return 0
	}
	return math.Min(math.Max(sum/weight, 0), most)
}

// bevelZones finish the occlusal margin of a cavity at the cervical line with a long
// bevel, and the whole margin of a pit.
func (k *pocket) bevelZones(r request, d Design) []cavity.Zone {
	if d.BevelWidth <= 0 {
		return nil
	}
	whole := func(_, _ r3.Vec) float64 { return 1 }
	if d.Class() != lesion.ClassV {
		return []cavity.Zone{cavity.Chamfer(d.BevelWidth, d.BevelAngle, whole)}
	}
	biting := func(foot, _ r3.Vec) float64 {
		q := k.frame.To(foot)
		_, dy := k.outline.slope(q.X, q.Y)
		return solid.Smoothstep(-0.1, 0.6, dy)
	}
	return []cavity.Zone{cavity.Chamfer(d.BevelWidth, d.BevelAngle, biting)}
}
