package anatomy

import (
	"cmp"
	"math"
	"slices"
	"strings"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/notation"
	"obturon/core/solid"
)

// Landmarks are measured on the sampled surface, mm in the tooth frame.
type Landmarks struct {
	CuspTips []Named
	Pits     []Named
	Grooves  []GrooveLine
	Horns    []Named
	// Crests of the marginal ridges of posterior teeth.
	MesialRidge, DistalRidge r3.Vec
	// Contact areas with the neighbours.
	MesialContact, DistalContact Contact
	// Where the facial and lingual surfaces bulge most.
	FacialContour, LingualContour r3.Vec
	// IncisalEdge runs from mesial to distal along an anterior tooth; on its
	// lingual side lie the cingulum and the fossa.
	IncisalEdge            []r3.Vec
	Cingulum, LingualFossa r3.Vec
	// LingualLean is the crown's inclination over its root, degrees.
	LingualLean float64
	// Table is the occlusal table: the plane the cusp tips carry, which the
	// bur is held square to. Its origin lies over the middle of the fossae.
	Table Frame
	// Intercuspal is the distance in mm across the table between buccal and
	// lingual cusp tips.
	Intercuspal float64
}

// Named is a landmark with its name.
type Named struct {
	Name string
	At   r3.Vec
}

// GrooveLine is a groove along the occlusal surface.
type GrooveLine struct {
	Name         string
	Points       []r3.Vec
	Supplemental bool // shallow, seldom carious
	Fissured     bool // deep enough to hold plaque
}

// Side tells whether a groove runs to "buccal" or "lingual"; "" if neither.
func (g GrooveLine) Side() string {
	switch {
	case strings.Contains(g.Name, "oblique") || strings.Contains(g.Name, "transverse"):
		return ""
	case strings.HasSuffix(g.Name, "buccal groove"):
		return "buccal"
	case strings.HasSuffix(g.Name, "lingual groove"):
		return "lingual"
	default:
		return ""
	}
}

// Extends reports a side groove into which an outline may be extended.
func (g GrooveLine) Extends() bool { return g.Fissured && !g.Supplemental && g.Side() != "" }

func (g GrooveLine) runsMesiodistally() bool {
	first, last := g.Points[0], g.Points[len(g.Points)-1]
	return math.Abs(first.X-last.X) > math.Abs(first.Y-last.Y)
}

// Ridge is the crest of the marginal ridge on a side.
func (l *Landmarks) Ridge(side notation.Side) r3.Vec {
	if side == notation.Distal {
		return l.DistalRidge
	}
	return l.MesialRidge
}

// Frame is a right-handed frame on the tooth: U mesial, V facial, W occlusal.
type Frame struct{ Origin, U, V, W r3.Vec }

// To gives p in the frame: X along U, Y along V, Z along W.
func (f Frame) To(p r3.Vec) r3.Vec {
	d := r3.Sub(p, f.Origin)
	return r3.Vec{X: r3.Dot(d, f.U), Y: r3.Dot(d, f.V), Z: r3.Dot(d, f.W)}
}

// From gives the point of the tooth frame for one of this frame.
func (f Frame) From(p r3.Vec) r3.Vec {
	return r3.Add(f.Origin, f.Turn(p))
}

// FromBox is the box of the tooth frame about one of this frame.
func (f Frame) FromBox(b solid.Box) solid.Box {
	corners := solid.Corners(b)
	for n, p := range corners {
		corners[n] = f.From(p)
	}
	return solid.Enclosing(corners[:]...)
}

// Turn rotates a direction of this frame into the tooth frame.
func (f Frame) Turn(d r3.Vec) r3.Vec {
	return r3.Add(r3.Scale(d.X, f.U), r3.Add(r3.Scale(d.Y, f.V), r3.Scale(d.Z, f.W)))
}

// SurfaceAbove finds the outermost surface point over (x, y); ok is false
// beside the crown.
func (m *Model) SurfaceAbove(x, y float64) (p r3.Vec, ok bool) {
	top := m.Surface.Origin.Z + float64(m.Surface.N[2]-1)*m.Surface.H
	from := r3.Vec{X: x, Y: y, Z: top}
	t, ok := m.Surface.RootAlong(from, r3.Vec{Z: -1}, 0, top, 0.1)
	return r3.Vec{X: x, Y: y, Z: top - t}, ok
}

// Groove finds a groove by name.
func (l *Landmarks) Groove(name string) (GrooveLine, bool) {
	for _, g := range l.Grooves {
		if g.Name == name {
			return g, true
		}
	}
	return GrooveLine{}, false
}

// Pit finds a pit by name.
func (l *Landmarks) Pit(name string) (r3.Vec, bool) {
	for _, p := range l.Pits {
		if p.Name == name {
			return p.At, true
		}
	}
	return r3.Vec{}, false
}

func findLandmarks(c *crown, m *Model) Landmarks {
	l := Landmarks{}
	place := func(x, y, drop float64) r3.Vec {
		return m.shape.lean.leaning(r3.Vec{X: c.x(x), Y: c.y(y), Z: c.Height - drop})
	}
	for _, k := range c.Cusps {
		at := place(k.X, k.Y, k.Drop)
		l.CuspTips = append(l.CuspTips, Named{k.Name, m.climb(at.X, at.Y, +1)})
	}
	for _, p := range c.Pits {
		at := place(p.X, p.Y, c.FossaFloorDrop)
		l.Pits = append(l.Pits, Named{p.Name, m.climb(at.X, at.Y, -1)})
	}
	for _, g := range c.Grooves {
		line := GrooveLine{Name: g.Name, Supplemental: g.Supplemental, Fissured: g.Fissure > 0}
		for _, q := range grooveCurve(c, g) {
			p := m.shape.lean.leaning(r3.Vec{X: q.X, Y: q.Y, Z: c.Height - c.FossaFloorDrop})
			if at, ok := m.SurfaceAbove(p.X, p.Y); ok {
				line.Points = append(line.Points, at)
			}
		}
		l.Grooves = append(l.Grooves, line)
	}
	l.Horns = m.chamber.tips()
	l.MesialContact = m.contact(0)
	l.DistalContact = m.contact(1)
	l.FacialContour, l.LingualContour = m.contour(+1), m.contour(-1)
	if c.Anterior {
		m.findIncisal(c, &l)
	} else {
		l.MesialRidge = m.ridgeCrest(place(c.MarginalRidgeMesial.X, c.MarginalRidgeMesial.Y, c.MarginalRidgeMesial.Drop))
		l.DistalRidge = m.ridgeCrest(place(c.MarginalRidgeDistal.X, c.MarginalRidgeDistal.Y, c.MarginalRidgeDistal.Drop))
		l.Intercuspal = intercuspal(l.CuspTips)
		l.Table = occlusalTable(c, m, l)
	}
	l.LingualLean = m.lingualLean(l)
	return l
}

// climb walks the height map from (x, y) to the nearest top (+1) or bottom (-1)
// within 0.6 mm, then drops the point onto the sampled surface.
func (m *Model) climb(x, y, sign float64) r3.Vec {
	const reach, step = 0.6, 0.05
	best := r3.Vec{X: x, Y: y, Z: math.Inf(-1)}
	for dy := -reach; dy <= reach; dy += step {
		for dx := -reach; dx <= reach; dx += step {
			if math.Hypot(dx, dy) > reach {
				continue
			}
			if p, ok := m.SurfaceAbove(x+dx, y+dy); ok && sign*p.Z > best.Z {
				best = r3.Vec{X: p.X, Y: p.Y, Z: sign * p.Z}
			}
		}
	}
	best.Z *= sign
	return best
}

// ridgeCrest is the highest point of the marginal ridge on the mesiodistal
// line through its nominal place.
func (m *Model) ridgeCrest(nominal r3.Vec) r3.Vec {
	best := r3.Vec{Z: math.Inf(-1)}
	for d := -0.8; d <= 0.8; d += 0.05 {
		if p, ok := m.SurfaceAbove(nominal.X+d, nominal.Y); ok && p.Z > best.Z {
			best = p
		}
	}
	return best
}

// findIncisal places what anterior teeth have in place of an occlusal surface.
func (m *Model) findIncisal(c *crown, l *Landmarks) {
	const steps = 24
	edge := m.shape.edge
	highest := r3.Vec{Z: math.Inf(-1)}
	for n := range steps + 1 {
		x := mix(0.94*edge.mesial, -0.94*edge.distal, float64(n)/steps)
		best, found := r3.Vec{Z: math.Inf(-1)}, false
		for d := -0.6; d <= 0.6; d += 0.05 {
			if p, ok := m.SurfaceAbove(x, c.EdgeY+d); ok && p.Z > best.Z {
				best, found = p, true
			}
		}
		if found {
			l.IncisalEdge = append(l.IncisalEdge, best)
			if best.Z > highest.Z {
				highest = best
			}
		}
	}
	if c.EdgeSlopeMesial > 0 {
		l.CuspTips = []Named{{"cusp tip", highest}}
	}
	l.Cingulum, _ = m.onAxialSurface(r3.Vec{Y: -1}, 0, c.CingulumHeight*c.Height)
	l.LingualFossa, _ = m.onAxialSurface(r3.Vec{Y: -1}, 0, 0.6*c.Height)
	l.Table = Frame{Origin: highest, U: r3.Vec{X: 1}, V: r3.Vec{Y: 1}, W: r3.Vec{Z: 1}}
	l.Table.Origin.X = 0
}

// onAxialSurface is the outermost point of the surface that looks along dir, at height z
// and the given place across it.
func (m *Model) onAxialSurface(dir r3.Vec, across, z float64) (r3.Vec, bool) {
	const step = 0.2 // mm, less than any crown is thick where this looks
	beyond := math.Max(m.shape.c.Mesiodistal, m.shape.c.Buccolingual)*0.6 + 1
	side := r3.Cross(r3.Vec{Z: 1}, dir)
	from := r3.Add(r3.Scale(beyond, dir), r3.Add(r3.Scale(across, side), r3.Vec{Z: z}))
	t, ok := m.Surface.RootAlong(from, r3.Scale(-1, dir), 0, beyond, step)
	return r3.Add(from, r3.Scale(-t, dir)), ok
}

// contour is where the facial (+1) or lingual (-1) surface reaches furthest in
// the buccolingual plane through the crown's middle.
func (m *Model) contour(sign float64) r3.Vec {
	best := r3.Vec{Y: math.Inf(-1)}
	for z := 0.3; z < 0.8*m.shape.c.Height; z += 0.1 {
		if p, ok := m.onAxialSurface(r3.Vec{Y: sign}, 0, z); ok && sign*p.Y > best.Y {
			best = r3.Vec{X: p.X, Y: sign * p.Y, Z: p.Z}
		}
	}
	best.Y *= sign
	return best
}

// lingualLean is the angle, degrees, between the root's axis and the line from
// the middle of the cervix to that of the biting surface: half-way between
// buccal and lingual cusp tips, or the incisal edge.
func (m *Model) lingualLean(l Landmarks) float64 {
	var top r3.Vec
	if len(l.IncisalEdge) > 0 {
		top = l.IncisalEdge[len(l.IncisalEdge)/2]
	} else {
		buccal, lingual := sides(l.CuspTips)
		top = r3.Scale(0.5, r3.Add(buccal, lingual))
	}
	return math.Atan2(m.shape.body.section(0).centre-top.Y, top.Z) * 180 / math.Pi
}

// intercuspal is the mean distance across between buccal and lingual tips.
func intercuspal(tips []Named) float64 {
	buccal, lingual := sides(tips)
	return buccal.Y - lingual.Y
}

// sides are the mean tips of the buccal and of the lingual cusps. Cusps of
// leaning crowns are told by their order across, not by the sign of y.
func sides(tips []Named) (buccal, lingual r3.Vec) {
	middle := 0.0
	for _, t := range tips {
		middle += t.At.Y / float64(len(tips))
	}
	var nb, nl float64
	for _, t := range tips {
		if t.At.Y > middle {
			buccal, nb = r3.Add(buccal, t.At), nb+1
		} else {
			lingual, nl = r3.Add(lingual, t.At), nl+1
		}
	}
	return r3.Scale(1/math.Max(nb, 1), buccal), r3.Scale(1/math.Max(nl, 1), lingual)
}

// occlusalTable finds the plane the bur is held square to. On lower teeth it
// rests on the cusp tips and so follows the crown's lingual lean; the cusps of
// upper premolars and molars differ in length while their crowns stand
// upright, so there it is square to the long axis. Operative textbooks teach both:
// the bur follows the lingual tilt of lower premolars and molars, and the long axis
// of upper ones. It never tips mesially or distally.
func occlusalTable(c *crown, m *Model, l Landmarks) Frame {
	slope := 0.0 // rise per mm towards facial
	if !c.Upper {
		slope = facialRise(l.CuspTips)
		if c.oneLargeCusp() {
			// Its lingual cusp is so low that the bur halves the angle between
			// the table and the long axis.
			slope = math.Tan(math.Atan(slope) / 2)
		}
	}
	f := Frame{U: r3.Vec{X: 1}, W: r3.Unit(r3.Vec{Y: -slope, Z: 1})}
	f.V = r3.Cross(f.W, f.U)
	x := (l.MesialRidge.X + l.DistalRidge.X) / 2
	y := 0.0
	for _, p := range l.Pits {
		y += p.At.Y / float64(len(l.Pits))
	}
	if p, ok := m.SurfaceAbove(x, y); ok {
		f.Origin = p
	}
	return f
}

// oneLargeCusp holds for lower first premolars.
func (c *crown) oneLargeCusp() bool {
	return len(c.Cusps) == 2 && !c.Upper
}

// facialRise is the least-squares slope of the tips' heights over y.
func facialRise(tips []Named) float64 {
	var sy, sz, syy, syz float64
	n := float64(len(tips))
	for _, t := range tips {
		sy, sz = sy+t.At.Y, sz+t.At.Z
		syy, syz = syy+t.At.Y*t.At.Y, syz+t.At.Y*t.At.Z
	}
	return (n*syz - sy*sz) / (n*syy - sy*sy)
}

// PulpShape is negative inside the pulp and changes sign on its surface; it
// draws smoother outlines than Pulp, but is a distance only near the surface.
func (m *Model) PulpShape(p r3.Vec) float64 { return m.chamber.field(p) }

// SurfaceShape is negative inside the tooth and changes sign on its surface.
// Unlike Surface it is not sampled, so that outlines drawn from it are smooth
// however close one looks; it is a distance only near the surface.
func (m *Model) SurfaceShape(p r3.Vec) float64 {
	if m.shape == nil { // made of fields alone
		return m.Surface.Distance(p)
	}
	return m.shape.outer(p)
}

// CentralLine is the run of fissures from the mesial to the distal pit, mesial
// first: the central groove, or on lower premolars the mesial and distal
// grooves in one.
func (m *Model) CentralLine() []r3.Vec {
	var line []r3.Vec
	for _, name := range []string{"mesial groove", "central groove", "distal groove"} {
		if g, ok := m.Groove(name); ok && g.Fissured && g.runsMesiodistally() {
			points := slices.Clone(g.Points)
			if len(points) > 0 && points[0].X < points[len(points)-1].X {
				slices.Reverse(points)
			}
			line = append(line, points...)
		}
	}
	slices.SortStableFunc(line, func(a, b r3.Vec) int { return cmp.Compare(b.X, a.X) })
	return line
}

// sampleHeights reads a field as seen along the bur's axis: heights over the
// occlusal table in its own frame, mm. Beside the crown it holds -9.
func (m *Model) sampleHeights(field func(r3.Vec) float64) *solid.Sheet {
	const step, beside = 0.05, -9
	x, y := m.Sizes.Mesiodistal/2+0.3, m.Sizes.Buccolingual/2+0.8
	return solid.NewSheet(-x, -y, x, y, step).Fill(func(x, y float64) float64 {
		from := m.Table.From(r3.Vec{X: x, Y: y, Z: 4})
		if t, ok := solid.RootAlong(field, from, r3.Scale(-1, m.Table.W), 0, 8, 0.15); ok {
			return 4 - t
		}
		return beside
	})
}

// smoothedOnCrown smooths heights without mixing in what lies beside the crown.
func smoothedOnCrown(heights *solid.Sheet) *solid.Sheet {
	const sigma, beside = 0.5, -5 // mm
	crown, sum := heights.Like(), heights.Like()
	for n, h := range heights.Values {
		if h > beside {
			crown.Values[n], sum.Values[n] = 1, h
		}
	}
	share := crown.Blur(sigma)
	sum = sum.Blur(sigma)
	for n, w := range share.Values {
		if w > 1e-3 {
			sum.Values[n] /= w
		} else {
			sum.Values[n] = heights.Values[n]
		}
	}
	return sum
}

// drawSilhouette outlines the crown as seen along the bur, in the table's frame,
// without roots that stand out beside it.
func (m *Model) drawSilhouette() solid.Polyline {
	const under = 4.5 // mm of the crown under the table
	lowest := r3.Dot(m.Table.Origin, m.Table.W) - under
	var lines []solid.Polyline
	for _, curve := range newAspect(m, m.Table.W).drawOutline(lowest) {
		line := solid.Polyline{Closed: true}
		for _, at := range curve {
			q := m.Table.To(at)
			line.Points = append(line.Points, solid.Point2{X: q.X, Y: q.Y})
		}
		lines = append(lines, line)
	}
	outline, _ := solid.Largest(lines)
	return outline
}

// drawRelief draws height lines of the occlusal surface half a millimetre apart.
func (m *Model) drawRelief() []solid.Polyline {
	const apart, blur, least = 0.5, 0.1, 1.0 // mm; shorter lines are specks
	smooth := m.TableHeights().Blur(blur)
	var lines []solid.Polyline
	for level := -3.0; level < 3.5; level += apart {
		for _, line := range smooth.Contours(level) {
			if line.Length() >= least {
				lines = append(lines, line)
			}
		}
	}
	return lines
}
