package drawing

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/anatomy"
	"obturon/core/cavity"
	"obturon/core/notation"
	"obturon/core/solid"
)

// proximal is a box as the adjacent tooth would see it, with the adjacent tooth's own
// outline, the cervical line and the gingiva.
func proximal(s Subject, side notation.Side) View {
	m := s.Prepared.Model
	name := side.String()
	// As one looks at the tooth in the mouth from where the adjacent tooth stands.
	outward := m.Table.U
	if side == notation.Distal {
		outward = r3.Scale(-1, outward)
	}
	v := View{
		ID: "proximal_" + name, From: name, Title: "From the " + name, Up: "occlusal", Right: "facial", Left: "lingual",
		Plane: solid.Plane{Origin: m.Table.Origin, U: rightwards(m, outward, m.Table.W), V: m.Table.W},
	}
	if v.Plane.U.Y < 0 {
		v.Right, v.Left = "lingual", "facial"
	}
	here := func(at r3.Vec) bool { return r3.Dot(r3.Sub(at, m.Table.Origin), outward) > 0 }

	v.add(Crown, v.projected(m.Aspect(outward).Outline())...)
	v.add(Crest, v.open(m.Aspect(outward).Crest(ridgeDepth(m, side, outward)))...)
	seen := v.gazing(s, outward)
	v.add(Cavity, seen.opening()...)
	v.add(Floor, seen.surfaces(isAxialFloor)...)
	for _, shown := range []struct {
		kind  string
		tools []solid.Tool
	}{{Filling, s.fillings()}, {Lesion, s.Cavity.Caries()}, {Kept, s.Kept()}} {
		for _, l := range shown.tools {
			if b := l.Bounds(); here(r3.Scale(0.5, r3.Add(b.Min, b.Max))) {
				v.add(shown.kind, v.shadow(l)...)
			}
		}
	}
	v.addCervicalLine(m, here)
	v.add(Gingiva, v.along(m.GingivalLine(anatomy.GingivaAt(m.AgeYears)), here)...)
	v.showRoot(0.5)
	if n := s.Neighbours[side]; n != nil {
		v.add(Contact, v.contactArea(m.Contact(side)))
		v.addNeighbour(n)
	}
	return v
}

// ridgeDepth (mm towards the viewer from the middle of the tooth) parts a marginal
// ridge from the cusps behind it.
func ridgeDepth(m *anatomy.Model, side notation.Side, outward r3.Vec) float64 {
	const behind = 0.5 // mm
	return r3.Dot(m.Ridge(side), outward) - behind
}

func isAxialFloor(feature uint16) bool {
	return feature == cavity.AxialWall || feature == cavity.Excavation || feature == cavity.AxiopulpalEdge
}

// cutExtent is the rectangle of the view that cut surfaces take, with room for
// the ridge that is gone from over them.
func (v *View) cutExtent(mesh *solid.Mesh) (low, high solid.Point2) {
	const around, above = 0.3, 1.5 // mm
	low, high = solid.Point2{X: math.Inf(1), Y: math.Inf(1)}, solid.Point2{X: math.Inf(-1), Y: math.Inf(-1)}
	for n, label := range mesh.Labels {
		if label == 0 {
			continue
		}
		for _, vertex := range mesh.Triangles[n] {
			p := v.Plane.Project(mesh.Vertices[vertex])
			low = solid.Point2{X: min(low.X, p.X-around), Y: min(low.Y, p.Y-around)}
			high = solid.Point2{X: max(high.X, p.X+around), Y: max(high.Y, p.Y+above)}
		}
	}
	return low, high
}

// along projects the part of a closed line that lies on the near side.
func (v *View) along(line []r3.Vec, here func(r3.Vec) bool) []solid.Polyline {
	var out []solid.Polyline
	var run solid.Polyline
	for k := range 2 * len(line) { // twice round, so that a run across the line's start stays whole
		at := line[k%len(line)]
		if here(at) {
			run.Points = append(run.Points, v.Plane.Project(at))
			continue
		}
		if k >= len(line) && len(run.Points) > 1 {
			return append(out, run)
		}
		run = solid.Polyline{}
	}
	return out
}

// addCervicalLine draws the near side of the cervical line, and the root under it.
func (v *View) addCervicalLine(m *anatomy.Model, here func(r3.Vec) bool) {
	line := v.along(m.CervicalLine(), here)
	v.add(CervicalLine, line...)
	v.addRoot(line)
}

// contactArea draws where the adjacent tooth touches.
func (v *View) contactArea(c anatomy.Contact) solid.Polyline {
	const points = 32
	across := r3.Vec{X: -c.Normal.Y, Y: c.Normal.X}
	line := solid.Polyline{Closed: true}
	for n := range points {
		sin, cos := math.Sincos(2 * math.Pi * float64(n) / points)
		line.Points = append(line.Points, v.Plane.Project(r3.Add(c.At, r3.Add(r3.Scale(cos*c.Width/2, across), r3.Vec{Z: sin * c.Height / 2}))))
	}
	return line
}

// cropped ends closed lines at a height.
func cropped(lines []solid.Polyline, low float64) []solid.Polyline {
	out := make([]solid.Polyline, 0, len(lines))
	for _, line := range lines {
		kept := solid.Polyline{Closed: line.Closed}
		for k, p := range line.Points {
			q := line.Points[(k+1)%len(line.Points)]
			if p.Y >= low {
				kept.Points = append(kept.Points, p)
			}
			if (p.Y >= low) != (q.Y >= low) {
				kept.Points = append(kept.Points, solid.Point2{X: p.X + (q.X-p.X)*(low-p.Y)/(q.Y-p.Y), Y: low})
			}
		}
		out = append(out, kept)
	}
	return out
}
