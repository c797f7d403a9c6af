package smooth

import (
	"math"
	"slices"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/anatomy"
	"obturon/core/cavity"
	"obturon/core/lesion"
	"obturon/core/school"
	"obturon/core/solid"
)

// proximalBox is the cavity of a Class III: sunk along the bur from the lingual or the
// facial surface beside the proximal one, through which it opens too.
type proximalBox struct {
	frame    anatomy.Frame // at the lesion's middle: U out of the proximal surface, W along the bur
	low, top float64       // of gingival and incisal wall, along V
	axial    float64       // of the axial wall along U, over the lesion's middle
	slope    float64       // of the axial wall, which keeps to the proximal surface
	// contour is how far along U the axial wall stands over (y, z), where it follows the
	// proximal surface; nil where it lies flat along the bur.
	contour *solid.Sheet
	floor   float64 // of the wall the bur stops at, along W
	surface float64 // of the surface it is entered through, along W
	radius  float64
	end     uint16 // the wall the bur stops at
}

// axialAt is how far along U the axial wall stands.
func (b *proximalBox) axialAt(y, z float64) float64 {
	if b.contour == nil {
		return b.axial + b.slope*y
	}
	return b.contour.At(y, z)
}

// follow lays the axial wall so far (mm) under the proximal surface everywhere, for its
// depth to stay even; where that falls away, no further than leaves the wall a wall.
func (b *proximalBox) follow(r request, width float64) {
	const step, around = 0.3, 0.6 // mm
	const share = 0.6             // of the width that a wall gives way at the most
	flat := func(y float64) float64 { return b.axial + b.slope*y }
	b.contour = solid.NewSheet(b.low-around, b.floor-around, b.top+around, b.surface+around, step).Fill(func(y, z float64) float64 {
		at := flat(y) - share*width
		if out, ok := r.proximalAt(b.frame, y, z); ok {
			at = math.Min(math.Max(out-width, at), flat(y)+share*width)
		}
		return at
	}).Blur(step)
}

// aside is the distance from the walls alone, as if they had no end.
func (b *proximalBox) aside(q r3.Vec) float64 {
	axial := (b.axialAt(q.Y, q.Z) - q.X) / math.Hypot(1, b.slope)
	rounded := math.Max(b.radius, burRadius)
	return math.Max(solid.RoundedIntersection(axial, q.Y-b.top, rounded), solid.RoundedIntersection(axial, b.low-q.Y, rounded))
}

func (b *proximalBox) distanceIn(q r3.Vec) float64 {
	return solid.RoundedIntersection(b.aside(q), b.floor-q.Z, b.radius)
}

func (b *proximalBox) distance(at *cavity.Place) float64 { return b.distanceIn(b.frame.To(at.P)) }

func (b *proximalBox) walls(at *cavity.Place) float64 { return b.aside(b.frame.To(at.P)) }

func (b *proximalBox) Over(foot, _ r3.Vec) float64 { return b.distanceIn(b.frame.To(foot)) }

func (b *proximalBox) feature(at *cavity.Place) uint16 {
	q := b.frame.To(at.P)
	axial := b.axialAt(q.Y, q.Z) - q.X
	upper, lower, end := q.Y-b.top, b.low-q.Y, b.floor-q.Z
	switch math.Max(math.Max(axial, end), math.Max(upper, lower)) {
	case axial:
		return cavity.AxialWall
	case end:
		return b.end
	case upper:
		return cavity.IncisalWall
	default:
		return cavity.GingivalWall
	}
}

func (b *proximalBox) bounds() solid.Box {
	const out, around = 1.2, 0.5 // mm past the surfaces, and about the walls
	lean := math.Abs(b.slope) * (b.top - b.low)
	if b.contour != nil {
		lean += b.axial - float64(slices.Min(b.contour.Values))
	}
	return b.frame.FromBox(solid.Box{
		Min: r3.Vec{X: b.axial - lean - around, Y: b.low - around, Z: b.floor - around},
		Max: r3.Vec{X: out, Y: b.top + around, Z: b.surface + out},
	})
}

func (b *proximalBox) toPulp(pulp *solid.Dense) float64 {
	const step = 0.2 // mm
	least := math.Inf(1)
	for y := b.low; y <= b.top; y += step {
		for z := b.floor; z <= b.surface; z += step {
			least = math.Min(least, pulp.Distance(b.frame.From(r3.Vec{X: b.axialAt(y, z), Y: y, Z: z})))
		}
		for x := b.axialAt(y, b.floor); x <= 0; x += step {
			least = math.Min(least, pulp.Distance(b.frame.From(r3.Vec{X: x, Y: y, Z: b.floor})))
		}
	}
	return least
}

// boxFrame looks at a proximal lesion along the bur, from the surface it is
// entered through.
func (r request) boxFrame(l *lesion.Proximal) anatomy.Frame {
	facial := -1.0
	if r.opens() == lesion.Buccal {
		facial = 1
	}
	const inside = 1.2 // mm from the proximal surface, where the bur enters
	middle := l.Middle()
	out := r3.Vec{Y: facial}
	if at, ok := r.Model.OnSide(facial, middle.X-r.sideSign()*inside, middle.Z); ok {
		_, normal, _ := r.Model.OuterSurface().Over(at)
		out = r3.Unit(r3.Vec{Y: normal.Y, Z: normal.Z}) // the bur stays in the plane along the tooth
	}
	rise := r3.Unit(r3.Sub(r3.Vec{Z: 1}, r3.Scale(out.Z, out)))
	return anatomy.Frame{Origin: middle, U: r3.Vec{X: r.sideSign()}, V: rise, W: out}
}

// entered is how far along W the surface lies that the bur enters through, over
// (x, y) of the frame.
func (r request) entered(f anatomy.Frame, x, y float64) (float64, bool) {
	const above, reach, step = 7.0, 14.0, 0.2 // mm
	t, ok := r.Model.Surface.RootAlong(f.From(r3.Vec{X: x, Y: y, Z: above}), r3.Scale(-1, f.W), 0, reach, step)
	return above - t, ok
}

// proximalAt is how far along U the proximal surface lies at y and z of the frame.
func (r request) proximalAt(f anatomy.Frame, y, z float64) (float64, bool) {
	const out, reach, step = 3.0, 7.0, 0.2 // mm
	t, ok := r.Model.Surface.RootAlong(f.From(r3.Vec{X: out, Y: y, Z: z}), r3.Scale(-1, f.U), 0, reach, step)
	return out - t, ok
}

func (r request) newBox(d Design) (*proximalBox, error) {
	l, ok := lesionOf[*lesion.Proximal](r)
	if !ok {
		return nil, cavity.ErrOffSmoothSurface
	}
	b := &proximalBox{frame: r.boxFrame(l), radius: d.LineAngleRadius, end: cavity.FacialWall}
	if r.opens() == lesion.Buccal {
		b.end = cavity.LingualWall
	}
	b.low, b.top = d.IncisalShift-d.Height/2, d.IncisalShift+d.Height/2
	const beside = 0.6 // of the half height, where the proximal surface is felt
	upper, ok1 := r.proximalAt(b.frame, d.IncisalShift+beside*d.Height/2, 0)
	lower, ok2 := r.proximalAt(b.frame, d.IncisalShift-beside*d.Height/2, 0)
	if !ok1 || !ok2 {
		return nil, cavity.ErrOffSmoothSurface
	}
	b.slope = (upper - lower) / (beside * d.Height)
	b.axial = (upper+lower)/2 - b.slope*d.IncisalShift - d.Width
	surface, ok := r.entered(b.frame, b.axial+b.slope*d.IncisalShift+d.Width/2, d.IncisalShift)
	if !ok {
		return nil, cavity.ErrOffSmoothSurface
	}
	b.surface, b.floor = surface, surface-d.Depth
	if r.Requires(school.AnteriorAxialEvenness) {
		b.follow(r, d.Width)
	}
	return b, nil
}

// buildBox makes the body of a Class III.
func (c *Solid) buildBox(r request, d Design) error {
	b, err := r.newBox(d)
	if err != nil {
		return err
	}
	c.Frame, c.body = b.frame, b
	if d.GrooveDepth > 0 {
		c.grooves = b.grooves(d)
	}
	c.bevel = r.newBevel(bevelZones(d, r.Model.Sizes.Height)...)
	return nil
}

// grooves run along the gingivoaxial and the incisoaxial line angle.
func (b *proximalBox) grooves(d Design) []groove {
	const short = 0.35 // mm from floor and surface, so that none opens there
	line := func(y, sign float64) groove {
		y += sign * (d.GrooveDepth - grooveBur)
		at := func(z float64) r3.Vec { return b.frame.From(r3.Vec{X: b.axialAt(y, z) + grooveBur, Y: y, Z: z}) }
		g := groove{radius: grooveBur}
		const step = 0.2 // mm
		for z := b.floor + short; z < b.surface-2*short; z += step {
			g.line = append(g.line, at(z))
		}
		g.line = append(g.line, at(b.surface-2*short))
		return g
	}
	return []groove{line(b.low, -1), line(b.top, +1)}
}

// bevelZones finish the margin on the facial and lingual surfaces; the proximal one
// is left as the walls make it, and the thin incisal edge as it is.
func bevelZones(d Design, height float64) []cavity.Zone {
	if d.BevelWidth <= 0 {
		return nil
	}
	const edge, clear = 0.4, 1.6 // mm under the incisal edge
	share := func(foot, normal r3.Vec) float64 {
		return solid.Smoothstep(0.25, 0.6, math.Abs(normal.Y)) * solid.Smoothstep(edge, clear, height-foot.Z)
	}
	if d.Feathered() {
		return []cavity.Zone{cavity.Feather(d.BevelWidth, share)}
	}
	return []cavity.Zone{cavity.Chamfer(d.BevelWidth, d.BevelAngle, share)}
}
