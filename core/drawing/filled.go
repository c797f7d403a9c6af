package drawing

import (
	"math"
	"slices"
	"strconv"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/anatomy"
	"obturon/core/fill"
	"obturon/core/solid"
)

// FilledSections are the sections among the views of a finished cavity with its filling in
// them: increments with their numbers, or where loads of amalgam go, and the matrix with its
// wedge. Other views are left out.
func FilledSections(finished []View, s Subject, under []fill.Layer, plans []fill.Plan, m fill.Matrix) []View {
	var all []View
	for _, from := range finished {
		if from.From != "" || from.ID == "plan" { // no section
			continue
		}
		v := from
		v.Tags, v.Layers = nil, slices.DeleteFunc(
			slices.Clone(from.Layers),
			func(l Layer) bool { return l.Kind == Lesion || l.Kind == Filling || l.Kind == Uncut },
		)
		for _, l := range under {
			v.add(Protection, v.slice(l.Mesh, l.Distance)...)
		}
		v.addFilling(plans)
		for _, b := range m.Bands {
			if m.Kind == fill.Strip {
				v.addStrip(s, b)
			} else {
				v.addBand(s, b)
			}
		}
		all = append(all, v)
	}
	return all
}

// addFilling draws what of a filling the view's plane cuts.
func (v *View) addFilling(plans []fill.Plan) {
	number := 0
	var odd, even, amalgam []solid.Polyline
	for _, p := range plans {
		for _, i := range p.Increments {
			number++
			lines := v.slice(i.Mesh, i.Distance)
			if number%2 == 0 {
				even = append(even, lines...)
			} else {
				odd = append(odd, lines...)
			}
			if at, ok := inside(lines); ok {
				v.Marks = append(v.Marks, Mark{at, strconv.Itoa(number)})
			}
		}
		if p.Charge == nil {
			continue
		}
		amalgam = append(amalgam, v.slice(p.Mesh, p.Distance)...)
		for n, l := range p.Loads {
			if l.Volume > 0 && math.Abs(v.off(l.At)) < besideSection {
				v.Marks = append(v.Marks, Mark{v.Plane.Project(l.At), strconv.Itoa(n + 1)})
			}
		}
	}
	v.add(OddIncrement, odd...)
	v.add(EvenIncrement, even...)
	v.add(Amalgam, amalgam...)
}

// besideSection (mm) is how far off a section a load may lie that is marked in it.
const besideSection = 1.25

// off is how far a place lies off the view's plane.
func (v *View) off(at r3.Vec) float64 {
	return r3.Dot(r3.Sub(at, v.Plane.Origin), r3.Unit(r3.Cross(v.Plane.U, v.Plane.V)))
}

// slice is where the view's plane cuts a solid.
func (v *View) slice(m *solid.Mesh, field func(r3.Vec) float64) []solid.Polyline {
	const around = 0.2 // mm
	low, high := solid.Point2{X: math.Inf(1), Y: math.Inf(1)}, solid.Point2{X: math.Inf(-1), Y: math.Inf(-1)}
	for _, t := range m.Triangles {
		for _, vertex := range t {
			p := v.Plane.Project(m.Vertices[vertex])
			low, high = solid.Point2{X: min(low.X, p.X), Y: min(low.Y, p.Y)}, solid.Point2{X: max(high.X, p.X), Y: max(high.Y, p.Y)}
		}
	}
	if low.X > high.X {
		return nil
	}
	across := v.across(field)
	rough := solid.NewSheet(low.X-around, low.Y-around, high.X+around, high.Y+around, sectionStep).
		Fill(func(x, y float64) float64 { return across(solid.Point2{X: x, Y: y}) }).Contours(0)
	return traced(rough, across)
}

// inside is a place well within the largest of some areas: the middle of its longest level
// line.
func inside(lines []solid.Polyline) (at solid.Point2, ok bool) {
	area, ok := solid.Largest(lines)
	if !ok {
		return at, false
	}
	low, high := math.Inf(1), math.Inf(-1)
	for _, p := range area.Points {
		low, high = math.Min(low, p.Y), math.Max(high, p.Y)
	}
	longest := 0.0
	for _, share := range []float64{0.5, 0.35, 0.65} {
		y := low + share*(high-low)
		var meets []float64
		for n, p := range area.Points {
			q := area.Points[(n+1)%len(area.Points)]
			if (p.Y > y) != (q.Y > y) {
				meets = append(meets, p.X+(q.X-p.X)*(y-p.Y)/(q.Y-p.Y))
			}
		}
		slices.Sort(meets)
		for n := 1; n < len(meets); n += 2 {
			if long := meets[n] - meets[n-1]; long > longest {
				longest, at = long, solid.Point2{X: (meets[n] + meets[n-1]) / 2, Y: y}
			}
		}
	}
	return at, longest > 0
}

// How closely a matrix follows the tooth, and from how far off the tooth is looked for, mm.
const bandStep, bandReach = 0.1, 9.0

// outside is how far (mm) a tooth's surface as it was stands out from a place within it.
func outside(m *anatomy.Model, from, out r3.Vec) (mm float64, ok bool) {
	into, ok := m.Surface.RootAlong(r3.Add(from, r3.Scale(bandReach, out)), r3.Scale(-1, out), 0, bandReach, bandStep)
	return bandReach - into, ok
}

// addStrip draws a strip in a section across the crown, along the tooth as it was.
func (v *View) addStrip(s Subject, b fill.Band) {
	const most = 3.0 // mm to facial and lingual of the contact
	m, out := s.Model, s.Box(b.Side).Outward()
	if v.Section != Across || math.Abs(r3.Dot(v.Plane.U, out)) < 0.9 {
		return
	}
	contact := v.Plane.Project(m.Contact(b.Side).At)
	var line solid.Polyline
	for y := -most; y <= most; y += bandStep {
		level := r3.Add(v.Plane.Origin, r3.Scale(contact.Y+y, v.Plane.V))
		level = r3.Sub(level, r3.Scale(r3.Dot(level, out), out))
		if mm, hit := outside(m, level, out); hit {
			line.Points = append(line.Points, v.Plane.Project(r3.Add(level, r3.Scale(mm, out))))
		}
	}
	if len(line.Points) > 1 {
		v.add(Band, line)
	}
}

// addBand draws a matrix and its wedge in a section that runs towards their side.
func (v *View) addBand(s Subject, b fill.Band) {
	const wedgeUnder = 1.0 // mm under the gingival margin
	m, out := s.Model, s.Box(b.Side).Outward()
	if v.Section != Along || math.Abs(r3.Dot(v.Plane.U, out)) < 0.9 {
		return
	}
	level := func(height float64) r3.Vec {
		at := r3.Sub(v.Plane.Origin, r3.Scale(r3.Dot(r3.Sub(v.Plane.Origin, m.Table.Origin), m.Table.W), m.Table.W))
		return r3.Add(at, r3.Scale(height, m.Table.W))
	}
	// From under the margin up along the tooth as it was; over its widest place the band
	// stands straight.
	var line solid.Polyline
	var widest float64
	for h := b.Gingival - b.Under; h <= b.Gingival-b.Under+b.Height; h += bandStep {
		if mm, hit := outside(m, level(h), out); hit {
			widest = math.Max(widest, mm)
		}
		if widest > 0 {
			line.Points = append(line.Points, v.Plane.Project(r3.Add(level(h), r3.Scale(widest, out))))
		}
	}
	v.add(Band, line)
	n := s.Neighbours[b.Side]
	if b.Wedge == nil || n == nil {
		return
	}
	base := level(b.Gingival - wedgeUnder)
	at := func(h float64) (own, theirs float64, ok bool) {
		own, hit := outside(m, level(h), out)
		beside, also := n.ClearanceAlong(r3.Add(level(h), r3.Scale(own, out)), out, bandReach)
		return own, own + beside, hit && also
	}
	own, theirs, ok := at(b.Gingival - wedgeUnder)
	if !ok {
		return
	}
	top := b.Gingival + b.Wedge.Room
	ownTop, theirsTop, ok := at(top)
	if !ok {
		return
	}
	corner := func(foot r3.Vec, x float64) solid.Point2 { return v.Plane.Project(r3.Add(foot, r3.Scale(x, out))) }
	v.add(WedgeBody, solid.Polyline{Closed: true, Points: []solid.Point2{
		corner(base, own), corner(base, theirs), corner(level(top), (ownTop+theirsTop)/2),
	}})
}
