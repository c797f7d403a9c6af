package drawing

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/anatomy"
	"obturon/core/notation"
	"obturon/core/prep"
	"obturon/core/solid"
)

// proximal is a box as the neighbour would see it, with the neighbour's own
// outline, the neck and the gingiva.
func proximal(s Subject, side notation.Side) View {
	m := s.Prepared.Model
	name := side.String()
	// As one looks at the tooth in the mouth from where the neighbour stands;
	// the frame of upper left and lower right teeth is a mirror's.
	facialRight := 1.0
	if mirrored := m.Tooth.Right() != m.Tooth.Upper(); mirrored == (side == notation.Mesial) {
		facialRight = -1
	}
	v := View{
		ID: "proximal_" + name, Title: "From the " + name, Up: "occlusal", Right: "facial", Left: "lingual",
		Plane: solid.Plane{Origin: m.Table.Origin, U: r3.Scale(facialRight, m.Table.V), V: m.Table.W},
	}
	if facialRight < 0 {
		v.Right, v.Left = "lingual", "facial"
	}
	outward := m.Table.U
	if side == notation.Distal {
		outward = r3.Scale(-1, outward)
	}
	here := func(at r3.Vec) bool { return r3.Dot(r3.Sub(at, m.Table.Origin), outward) > 0 }

	alone := &anatomy.Neighbour{Model: m}
	v.add(Crown, v.outline(alone)...)
	mesh := s.Prepared.Mesh
	onSide := func(features ...uint16) func(n int) bool {
		return func(n int) bool {
			for _, f := range features {
				if mesh.Labels[n] == f {
					return here(mesh.Centroid(n))
				}
			}
			return false
		}
	}
	v.add(Cavity, v.loops(mesh, onSide(prep.BoxBuccal, prep.BoxLingual, prep.AxialWall, prep.GingivalFloor, prep.Excavation, prep.RetentionGroove, prep.AxiopulpalEdge))...)
	v.add(Floor, v.loops(mesh, onSide(prep.AxialWall, prep.Excavation))...)
	for _, l := range s.Lesions {
		if b := l.Bounds(); here(r3.Scale(0.5, r3.Add(b.Min, b.Max))) {
			v.add(Lesion, shadow(l, v.Plane)...)
		}
	}
	v.add(Neck, v.along(m.CervicalLine(), here)...)
	v.add(Gingiva, v.along(m.GingivalLine(anatomy.GingivaAt(m.AgeYears)), here)...)
	v.fit(0.5)
	const root = 2.5 // mm shown under the neck
	v.Bounds.MinY = math.Max(v.Bounds.MinY, r3.Dot(r3.Sub(r3.Vec{Z: -root}, m.Table.Origin), m.Table.W))
	if n := s.Neighbours[side]; n != nil {
		v.add(Contact, v.contactArea(contact(m, side)))
		v.add(Neighbour, clipped(v.outline(n), v.Bounds)...)
	}
	for k := range v.Layers {
		if v.Layers[k].Kind == Crown {
			v.Layers[k].Lines = cropped(v.Layers[k].Lines, v.Bounds.MinY)
		}
	}
	return v
}

func contact(m *anatomy.Model, side notation.Side) anatomy.Contact {
	if side == notation.Distal {
		return m.DistalContact
	}
	return m.MesialContact
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

// contactArea draws where the neighbour touches.
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
	out := make([]solid.Polyline, len(lines))
	for k, line := range lines {
		out[k].Closed = line.Closed
		for _, p := range line.Points {
			out[k].Points = append(out[k].Points, solid.Point2{X: p.X, Y: math.Max(p.Y, low)})
		}
	}
	return out
}
