package drawing

import (
	"math"
	"slices"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/anatomy"
	"obturon/core/cavity"
	"obturon/core/notation"
	"obturon/core/parallel"
	"obturon/core/solid"
)

const (
	sectionStep = 0.1  // mm between the samples that a section's curves are first found on
	airBand     = 0.25 // mm beyond a surface within which its field must be exact
	below       = 3.0  // mm of root shown under the cervical plane
)

// occlusalViews are the plan, every box from its neighbour's side, and the two
// sections.
func occlusalViews(s Subject) []View {
	m := s.Prepared.Model
	views := make([]View, 3+len(s.Cavity.Boxes))
	across, along := &views[len(views)-2], &views[len(views)-1]
	var drawn parallel.Group
	drawn.Go(func() {
		views[0] = planView(s)
		views[0].tagPlan(s)
	})
	for n, side := range s.Cavity.Boxes {
		drawn.Go(func() {
			views[n+1] = proximal(s, side)
			views[n+1].tagProximal(s, side)
		})
	}
	drawn.Go(func() {
		*across = buccolingual(s)
		across.tagAcross(s)
	})
	drawn.Go(func() {
		*along = mesiodistal(s)
		along.tagAlong(s)
	})
	drawn.Wait()
	tagPulp(s, m, across, along)
	for n := range views {
		views[n].layOutLabels()
	}
	return views
}

// facing orients a view as the dentist sees the mouth: the midline lies to
// the right of right teeth, and the cheek is up on upper teeth.
func facing(m *anatomy.Model) (mesialRight, facialUp float64) {
	mesialRight, facialUp = 1, 1
	if !m.Tooth.Right() {
		mesialRight = -1
	}
	if !m.Tooth.Upper() {
		facialUp = -1
	}
	return mesialRight, facialUp
}

// blankPlan is the uncut tooth seen along the bur.
func blankPlan(m *anatomy.Model) View {
	mesialRight, facialUp := facing(m)
	v := View{
		ID: "plan", Title: "Plan, along the bur", Up: "lingual", Right: "mesial", Left: "distal",
		Plane: solid.Plane{Origin: m.Table.Origin, U: r3.Scale(mesialRight, m.Table.U), V: r3.Scale(facialUp, m.Table.V)},
	}
	if facialUp > 0 {
		v.Up = "facial"
	}
	if mesialRight < 0 {
		v.Right, v.Left = "distal", "mesial"
	}
	v.add(Crown, turned(m.Silhouette(), mesialRight, facialUp))
	relief := make([]solid.Polyline, len(m.Relief()))
	for n, line := range m.Relief() {
		relief[n] = turned(line, mesialRight, facialUp)
	}
	v.add(Relief, relief...)
	var grooves []solid.Polyline
	for _, g := range m.Grooves {
		line := solid.Polyline{}
		for _, p := range g.Points {
			line.Points = append(line.Points, v.Plane.Project(p))
		}
		grooves = append(grooves, line)
	}
	v.add(Groove, grooves...)
	return v
}

func planView(s Subject) View {
	m := s.Prepared.Model
	mesialRight, facialUp := facing(m)
	v := blankPlan(m)
	seen := v.gazing(s, m.Table.W)
	v.add(Cavity, seen.opening()...)
	v.add(Bevel, seen.surfaces(isBevel)...)
	v.add(Floor, seen.surfaces(isOcclusalFloor)...)
	for _, l := range s.fillings() {
		v.add(Filling, v.shadow(l)...)
	}
	for _, l := range s.Cavity.Caries() {
		v.add(Lesion, v.shadow(l)...)
	}
	for _, l := range s.Kept() {
		v.add(Kept, v.shadow(l)...)
	}
	for _, line := range s.Cavity.Sealed {
		v.add(Seal, v.outsideMargin(s, line)...)
	}
	v.fit(0.8)
	v.addNeighbours(s)
	for _, c := range s.Cavity.Contacts {
		v.add(Bite, ring(solid.Point2{X: mesialRight * c.X, Y: facialUp * c.Y}))
	}
	return v
}

func isBevel(feature uint16) bool { return feature&cavity.BevelFlag != 0 }

func isOcclusalFloor(feature uint16) bool {
	return feature == cavity.Floor || feature == cavity.Excavation || feature == cavity.GingivalFloor
}

// outsideMargin is what of a line on the tooth was not cut away.
func (v *View) outsideMargin(s Subject, line []r3.Vec) []solid.Polyline {
	kept := solid.Runs(line, false, func(at r3.Vec) bool { return !s.Prepared.InsideMargin(at) })
	return v.open(kept)
}

// ring marks a contact.
func ring(at solid.Point2) solid.Polyline {
	const points, radius = 20, 0.3 // mm
	line := solid.Polyline{Closed: true}
	for n := range points {
		sin, cos := math.Sincos(2 * math.Pi * float64(n) / points)
		line.Points = append(line.Points, solid.Point2{X: at.X + radius*cos, Y: at.Y + radius*sin})
	}
	return line
}

// Chart is the uncut tooth as the plan view shows it, for findings to be placed on.
func Chart(m *anatomy.Model) View {
	v := blankPlan(m)
	v.fit(1.0)
	return v
}

// addNeighbours outlines the adjacent teeth, as far as they come into the view.
func (v *View) addNeighbours(s Subject) {
	for _, side := range []notation.Side{notation.Mesial, notation.Distal} {
		n := s.Neighbours[side]
		if n == nil || !slices.Contains(s.Cavity.Boxes, side) {
			continue
		}
		v.addNeighbour(n)
	}
}

// addNeighbour outlines an adjacent tooth, as far as it comes into the view.
func (v *View) addNeighbour(n *anatomy.Neighbour) {
	v.add(Neighbour, clipped(v.projected(n.Outline(v.sight())), v.Bounds)...)
}

// clipped cuts lines off at the bounds, leaving them open there.
func clipped(lines []solid.Polyline, b Bounds) []solid.Polyline {
	var out []solid.Polyline
	for _, line := range lines {
		out = append(out, line.Runs(func(p solid.Point2) bool {
			return p.X >= b.MinX && p.X <= b.MaxX && p.Y >= b.MinY && p.Y <= b.MaxY
		})...)
	}
	return out
}

func (v *View) add(kind string, lines ...solid.Polyline) {
	if len(lines) > 0 {
		v.Layers = append(v.Layers, Layer{kind, lines})
	}
}

func turned(line solid.Polyline, x, y float64) solid.Polyline {
	out := solid.Polyline{Closed: line.Closed}
	for _, p := range line.Points {
		out.Points = append(out.Points, solid.Point2{X: p.X * x, Y: p.Y * y})
	}
	return out
}

// fit sets the bounds to what is drawn, with a margin.
func (v *View) fit(margin float64) {
	b := Bounds{math.Inf(1), math.Inf(1), math.Inf(-1), math.Inf(-1)}
	for _, l := range v.Layers {
		for _, line := range l.Lines {
			for _, p := range line.Points {
				b.MinX, b.MinY = min(b.MinX, p.X), min(b.MinY, p.Y)
				b.MaxX, b.MaxY = max(b.MaxX, p.X), max(b.MaxY, p.Y)
			}
		}
	}
	v.Bounds = Bounds{b.MinX - margin, b.MinY - margin, b.MaxX + margin, b.MaxY + margin}
}
