package prep

import (
	"errors"
	"fmt"
	"math"
	"strings"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/anatomy"
	"obturon/core/lesion"
	"obturon/core/school"
	"obturon/core/solid"
)

// Request is what an occlusal preparation is proposed from.
type Request struct {
	Model    *anatomy.Model
	Lesions  []*lesion.Occlusal
	School   *school.School
	Material string // amalgam or composite
}

const (
	burRadius       = 0.4  // mm, the 0.8 pear: nothing is cut narrower
	extensionRadius = 0.55 // mm, the rounded end of a groove extension
	pitCover        = 0.5  // mm of outline past the centre of a pit
	lesionCover     = 0.10 // mm of outline past a lesion's spread at the junction
	courseSmoothing = 0.45 // mm
	pulpAllowance   = 0.03 // mm of dentin left over what is asked, for the cut's own error
)

// ErrNoCentralFissure means that a ridge divides the occlusal surface.
var ErrNoCentralFissure = errors.New("a transverse ridge divides the occlusal surface: its pits are prepared separately, which is not available yet")

// Propose derives the dimensions from the school's aims and the tooth.
func Propose(r Request) (ClassI, error) {
	aim := func(id string) float64 {
		c, ok := r.School.For(id, r.Model.Tooth, r.Material)
		if !ok || !c.Required() {
			return 0
		}
		if c.Basis == school.IntercuspalFraction {
			return c.Aim * r.Model.Intercuspal
		}
		return c.Aim
	}
	site, err := newSite(r)
	if err != nil {
		return ClassI{}, err
	}
	d := ClassI{
		PulpalDepth:     aim("resist.pulpal_depth"),
		IsthmusWidth:    math.Max(aim("outline.isthmus_width"), 2*burRadius),
		WallConvergence: aim("retain.convergence"),
		RidgeDivergence: aim("retain.ridge_wall"),
		LineAngleRadius: aim("resist.line_angle_radius"),
		FloorTilt:       aim("resist.floor_tilt"),
	}
	d.DovetailWidth = aim("outline.dovetail_ratio") * d.IsthmusWidth
	d.BuccalExtension = site.extension(r, "buccal", d.IsthmusWidth)
	d.LingualExtension = site.extension(r, "lingual", d.IsthmusWidth)
	end := math.Max(math.Max(d.DovetailWidth, d.IsthmusWidth)/2, pitCover)
	keep := aim("outline.marginal_ridge")
	d.MesialRidge = math.Max(keep, site.mesialSurface-(site.line[0].X+end))
	d.DistalRidge = math.Max(keep, site.line[len(site.line)-1].X-end-site.distalSurface)
	for _, l := range r.Lesions { // clearing the lesion goes before keeping the ridge
		half, path := math.Max(l.Width()/2, 0)+lesionCover, l.Path()
		d.MesialRidge = math.Min(d.MesialRidge, site.mesialSurface-(path[0].X+half))
		d.DistalRidge = math.Min(d.DistalRidge, path[len(path)-1].X-half-site.distalSurface)
	}
	// A dovetail shows only where an isthmus is left between its ends.
	if between := site.mesialSurface - d.MesialRidge - (site.distalSurface + d.DistalRidge) - 2*d.DovetailWidth; between < 0.8*d.IsthmusWidth {
		d.DovetailWidth = 0
	}
	round(&d)
	return spareThePulp(r, d)
}

// spareThePulp draws groove extensions, then the depth, back towards the low
// end of what the school accepts while less dentin is left over the pulp than
// it asks for.
func spareThePulp(r Request, d ClassI) (ClassI, error) {
	want, _ := r.School.For("resist.pulp_distance", r.Model.Tooth, r.Material)
	extension, _ := r.School.For("outline.groove_extension", r.Model.Tooth, r.Material)
	depth, _ := r.School.For("resist.pulpal_depth", r.Model.Tooth, r.Material)
	const step = 0.05 // mm
	for {
		c, err := Build(r, d)
		if err != nil {
			return d, err
		}
		if c.floorToPulp(r.Model) >= want.Target.Min+pulpAllowance {
			return d, nil
		}
		shortest := extension.Target.Min + step // leaves room for the cut's own error
		switch {
		case extension.Basis == school.Absolute && math.Max(d.BuccalExtension, d.LingualExtension) > shortest+1e-9:
			d.BuccalExtension = math.Min(d.BuccalExtension, math.Max(d.BuccalExtension-step, shortest))
			d.LingualExtension = math.Min(d.LingualExtension, math.Max(d.LingualExtension-step, shortest))
		case d.PulpalDepth > depth.Target.Min+step+1e-9:
			d.PulpalDepth -= step
		default:
			return d, nil
		}
	}
}

// round keeps proposals to figures that a dentist can set and read.
func round(d *ClassI) {
	for _, s := range classISpecs {
		v := s.field(d)
		*v = math.Round(*v*20) / 20
	}
}

// site is the occlusal surface as the preparation sees it, in the table's frame.
type site struct {
	line    []r3.Vec // fissures to be opened, mesial first
	grooves []anatomy.GrooveLine
	// Proximal surfaces at the level of the fossae, mm along U.
	mesialSurface, distalSurface float64
}

func newSite(r Request) (*site, error) {
	m := r.Model
	s := &site{}
	lesionLed := !requires(r, "outline.groove_extension")
	if lesionLed {
		for _, l := range r.Lesions {
			s.line = append(s.line, l.Path()...)
		}
	} else {
		mesial, distal := math.Inf(-1), math.Inf(1)
		for _, p := range m.Pits {
			mesial, distal = math.Max(mesial, p.At.X), math.Min(distal, p.At.X)
		}
		for _, p := range m.CentralLine() {
			if p.X <= mesial && p.X >= distal {
				s.line = append(s.line, m.Table.To(p))
			}
		}
		s.grooves = sideGrooves(m)
	}
	if len(s.line) == 0 {
		return nil, ErrNoCentralFissure
	}
	if len(s.line) == 1 {
		s.line = append(s.line, r3.Add(s.line[0], r3.Vec{X: -0.01}))
	}
	var err error
	if s.mesialSurface, err = proximalSurface(m, s.line[0], +1); err != nil {
		return nil, err
	}
	if s.distalSurface, err = proximalSurface(m, s.line[len(s.line)-1], -1); err != nil {
		return nil, err
	}
	return s, nil
}

func requires(r Request, id string) bool {
	c, ok := r.School.For(id, r.Model.Tooth, r.Material)
	return ok && c.Required()
}

// proximalSurface is where a line along U from an inner point leaves the tooth.
func proximalSurface(m *anatomy.Model, from r3.Vec, sense float64) (float64, error) {
	from.Z -= 0.3 // under the fissure, inside the tooth
	t, ok := m.Surface.RootAlong(m.Table.From(from), r3.Scale(sense, m.Table.U), 0.05, 8, 0.1)
	if !ok {
		return 0, fmt.Errorf("no proximal surface beside the fissure at %.1f mm", from.X)
	}
	return from.X + sense*t, nil
}

// sideGrooves are the fissured grooves that run to buccal or lingual.
func sideGrooves(m *anatomy.Model) []anatomy.GrooveLine {
	var side []anatomy.GrooveLine
	for _, g := range m.Grooves {
		if g.Fissured && !g.Supplemental && GrooveSide(g.Name) != "" && len(g.Points) > 2 {
			side = append(side, g)
		}
	}
	return side
}

// GrooveSide tells whether a groove runs to "buccal" or "lingual"; "" if neither.
func GrooveSide(name string) string {
	switch {
	case strings.Contains(name, "oblique") || strings.Contains(name, "transverse"):
		return ""
	case strings.HasSuffix(name, "buccal groove"):
		return "buccal"
	case strings.HasSuffix(name, "lingual groove"):
		return "lingual"
	default:
		return ""
	}
}

// extension is the proposed length into the grooves of a side, in mm.
func (s *site) extension(r Request, side string, isthmus float64) float64 {
	c, ok := r.School.For("outline.groove_extension", r.Model.Tooth, r.Material)
	if !ok || !c.Required() {
		return 0
	}
	shortest := math.Inf(1)
	for _, g := range s.grooves {
		if GrooveSide(g.Name) == side {
			shortest = math.Min(shortest, grooveLength(r.Model.Table, g)-isthmus/2)
		}
	}
	if math.IsInf(shortest, 1) {
		return 0
	}
	if c.Basis == school.GrooveFraction {
		return c.Aim * shortest
	}
	return math.Min(c.Aim, shortest)
}

func grooveLength(table anatomy.Frame, g anatomy.GrooveLine) float64 {
	sum := 0.0
	for n := 1; n < len(g.Points); n++ {
		a, b := table.To(g.Points[n-1]), table.To(g.Points[n])
		sum += math.Hypot(b.X-a.X, b.Y-a.Y)
	}
	return sum
}

// Build makes the cavity of a design.
func Build(r Request, d ClassI) (*Cavity, error) {
	s, err := newSite(r)
	if err != nil {
		return nil, err
	}
	end := math.Max(math.Max(d.DovetailWidth, d.IsthmusWidth)/2, burRadius)
	mesialEnd := s.mesialSurface - d.MesialRidge
	distalEnd := s.distalSurface + d.DistalRidge
	if mesialEnd-distalEnd < 2*end {
		middle := (mesialEnd + distalEnd) / 2
		mesialEnd, distalEnd = middle+end, middle-end
	}
	course := clipCourse(smoothCourse(s.line, courseSmoothing), distalEnd+end, mesialEnd-end)
	mesialCentre, distalCentre := course[0], course[len(course)-1]

	c := &Cavity{
		Table:    r.Model.Table,
		slope:    math.Tan(d.FloorTilt * math.Pi / 180),
		radius:   d.LineAngleRadius,
		mesialX:  mesialCentre.X,
		distalX:  distalCentre.X,
		excavate: r.Lesions,
	}
	lean := func(p, normal solid.Point2) float64 {
		// Walls beside the marginal ridges lean out, the others in; the
		// change runs round the corner of the outline's end.
		beside := 0.0
		if normal.X > 0 {
			beside = solid.Smoothstep(mesialCentre.X-0.5, mesialCentre.X, p.X)
		} else {
			beside = solid.Smoothstep(-distalCentre.X-0.5, -distalCentre.X, -p.X)
		}
		beside *= solid.Smoothstep(0.15, 0.8, math.Abs(normal.X))
		return d.WallConvergence + (-d.RidgeDivergence-d.WallConvergence)*beside
	}
	form := newForm(s.strokes(r, d, course, end, distalEnd, mesialEnd))
	c.outline = newOutline(form.isthmusFlow(course, d.IsthmusWidth, endZone), r.Model.TableHeights, lean)
	if err := c.setLevel(r.Model, d.PulpalDepth); err != nil {
		return nil, err
	}
	c.setBounds()
	return c, nil
}

// endZone (mm) is the part of the outline that counts as its mesial or distal end.
const endZone = 0.9

// strokes draws the outline's parts; the isthmus comes first.
func (s *site) strokes(r Request, d ClassI, course []solid.Point2, end, distalEnd, mesialEnd float64) []stroke {
	all := []stroke{
		{points: course, half: d.IsthmusWidth / 2},
		// Full round ends, wider than the isthmus where a dovetail is drawn.
		{points: course[:1], half: end}, {points: course[len(course)-1:], half: end},
	}
	for _, g := range s.grooves {
		length := d.BuccalExtension
		if GrooveSide(g.Name) == "lingual" {
			length = d.LingualExtension
		}
		if st, ok := extensionStroke(r.Model.Table, g, d.IsthmusWidth, length, distalEnd, mesialEnd); ok {
			all = append(all, st)
		}
	}
	for _, l := range r.Lesions {
		if half := l.Width()/2 + lesionCover; l.IntoDentin() > 0 && half > d.IsthmusWidth/2 {
			all = append(all, stroke{points: flat(l.Path()), half: half})
		}
	}
	return all
}

// clipCourse keeps the course between two x, mesial first, with its ends
// exactly there.
func clipCourse(course []solid.Point2, from, to float64) []solid.Point2 {
	at := func(x float64) solid.Point2 {
		for n := 1; n < len(course); n++ {
			a, b := course[n-1], course[n]
			if (a.X-x)*(b.X-x) <= 0 && a.X != b.X {
				return solid.Point2{X: x, Y: a.Y + (b.Y-a.Y)*(x-a.X)/(b.X-a.X)}
			}
		}
		if x > course[0].X {
			return solid.Point2{X: x, Y: course[0].Y}
		}
		return solid.Point2{X: x, Y: course[len(course)-1].Y}
	}
	out := []solid.Point2{at(to)}
	for _, p := range course {
		if p.X < to-0.02 && p.X > from+0.02 {
			out = append(out, p)
		}
	}
	return append(out, at(from))
}

// extensionStroke runs along a side groove until its rounded end lies length
// past the isthmus wall.
func extensionStroke(table anatomy.Frame, g anatomy.GrooveLine, isthmus, length, distalX, mesialX float64) (stroke, bool) {
	if length <= 0 {
		return stroke{}, false
	}
	var inTable []r3.Vec
	for _, p := range g.Points {
		inTable = append(inTable, table.To(p))
	}
	path := flat(inTable)
	if path[0].X > mesialX || path[0].X < distalX { // starts beyond the outline
		return stroke{}, false
	}
	// The tip is made longer by what rounding takes from it. The pen starts at the isthmus wall so that it does not swell the wall opposite.
	from, to := math.Max(isthmus/2-0.1, 0), isthmus/2+length-extensionRadius+outlineBlur*outlineBlur/(2*extensionRadius)
	to = math.Max(to, from+0.01)
	s := stroke{half: extensionRadius, branch: true}
	walked := 0.0
	for n := 1; n < len(path); n++ {
		a, b := path[n-1], path[n]
		step := math.Hypot(b.X-a.X, b.Y-a.Y)
		for _, at := range []float64{from, to} {
			if at >= walked && at < walked+step {
				t := (at - walked) / step
				s.points = append(s.points, solid.Point2{X: a.X + t*(b.X-a.X), Y: a.Y + t*(b.Y-a.Y)})
			}
		}
		walked += step
		if walked > from && walked < to {
			s.points = append(s.points, b)
		}
	}
	return s, len(s.points) > 0
}

// flat drops the heights of points in the table's frame.
func flat(points []r3.Vec) []solid.Point2 {
	path := make([]solid.Point2, len(points))
	for n, p := range points {
		path[n] = solid.Point2{X: p.X, Y: p.Y}
	}
	return path
}

// setLevel lowers the floor until its shallowest part is depth under the
// surface. Where the floor ends depends on its level, so it is found twice.
func (c *Cavity) setLevel(m *anatomy.Model, depth float64) error {
	for range 2 {
		lowest := math.Inf(1)
		o := c.outline.distance
		for j := range o.NY {
			for i := range o.NX {
				q := r3.Vec{X: o.X0 + float64(i)*o.H, Y: o.Y0 + float64(j)*o.H}
				q.Z = c.FloorLevel(q.X, q.Y)
				if o.Values[j*o.NX+i] > 0 {
					continue
				}
				if wall, _ := c.wallAndHeight(q); c.level == 0 || wall < -c.radius {
					lowest = math.Min(lowest, m.TableHeights.At(q.X, q.Y)-c.slope*q.Y)
				}
			}
		}
		if math.IsInf(lowest, 1) || lowest < -5 {
			return errors.New("the outline runs off the occlusal surface: narrow it or keep more of the ridges")
		}
		c.level = lowest - depth
	}
	return nil
}

func (c *Cavity) setBounds() {
	o := c.outline.distance
	low, high := r3.Vec{X: math.Inf(1), Y: math.Inf(1), Z: math.Inf(1)}, r3.Vec{X: math.Inf(-1), Y: math.Inf(-1), Z: math.Inf(-1)}
	grow := func(p r3.Vec) {
		low = r3.Vec{X: math.Min(low.X, p.X), Y: math.Min(low.Y, p.Y), Z: math.Min(low.Z, p.Z)}
		high = r3.Vec{X: math.Max(high.X, p.X), Y: math.Max(high.Y, p.Y), Z: math.Max(high.Z, p.Z)}
	}
	const top = 4 // mm over the table, above any cusp
	for j := range o.NY {
		for i := range o.NX {
			if o.Values[j*o.NX+i] < 0.7 {
				x, y := o.X0+float64(i)*o.H, o.Y0+float64(j)*o.H
				grow(c.Table.From(r3.Vec{X: x, Y: y, Z: c.FloorLevel(x, y)}))
				grow(c.Table.From(r3.Vec{X: x, Y: y, Z: top}))
			}
		}
	}
	for _, l := range c.excavate {
		b := l.Bounds()
		grow(r3.Vec{X: b.Min.X, Y: b.Min.Y, Z: b.Min.Z})
		grow(r3.Vec{X: b.Max.X, Y: b.Max.Y, Z: b.Min.Z})
	}
	c.bounds = solid.Box{Min: low, Max: high}
}
