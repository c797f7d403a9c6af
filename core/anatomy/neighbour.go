package anatomy

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/notation"
	"obturon/core/solid"
)

// Placement puts one tooth into another's frame, level and turned with the
// arch.
type Placement struct {
	Mirrored bool    // across the midline, where mesial points the other way
	Yaw      float64 // radians about the long axis
	Offset   r3.Vec  // mm
}

// Into takes a point of the placed tooth's own frame into the other's.
func (p Placement) Into(q r3.Vec) r3.Vec { return r3.Add(p.Turn(q), p.Offset) }

// Turn takes a direction of the placed tooth's own frame into the other's.
func (p Placement) Turn(d r3.Vec) r3.Vec {
	if p.Mirrored {
		d.X = -d.X
	}
	sin, cos := math.Sincos(p.Yaw)
	return r3.Vec{X: cos*d.X - sin*d.Y, Y: sin*d.X + cos*d.Y, Z: d.Z}
}

// From takes a point of the other tooth's frame into the placed one's own.
func (p Placement) From(q r3.Vec) r3.Vec { return p.from()(q) }

// from is From with the placement worked out once.
func (p Placement) from() func(q r3.Vec) r3.Vec {
	sin, cos := math.Sincos(p.Yaw)
	mesial := 1.0
	if p.Mirrored {
		mesial = -1
	}
	return func(q r3.Vec) r3.Vec {
		q = r3.Sub(q, p.Offset)
		return r3.Vec{X: mesial * (cos*q.X + sin*q.Y), Y: cos*q.Y - sin*q.X, Z: q.Z}
	}
}

// Then places a tooth placed beside this one into the frame this one is in.
func (p Placement) Then(beside Placement) Placement {
	yaw := beside.Yaw
	if p.Mirrored {
		yaw = -yaw
	}
	return Placement{Mirrored: p.Mirrored != beside.Mirrored, Yaw: p.Yaw + yaw, Offset: p.Into(beside.Offset)}
}

// Neighbour is a tooth in contact, in the frame of the one it stands beside.
type Neighbour struct {
	*Model
	Placement
	Gap float64 // mm left between the two surfaces, where they come closest
}

// Distance is the signed distance to the adjacent tooth near its surface; further
// away only its sign counts.
func (n *Neighbour) Distance(p r3.Vec) float64 { return n.Surface.Distance(n.From(p)) }

// Field is Distance for reading many places.
func (n *Neighbour) Field() func(p r3.Vec) float64 {
	from := n.from()
	return func(p r3.Vec) float64 { return n.Surface.Distance(from(p)) }
}

// Mesh is the adjacent tooth's surface where it stands.
func (n *Neighbour) Mesh() *solid.Mesh {
	own, place := n.Surface.Uncut().Mesh(), n.Placement
	if n.Mirrored {
		own, place.Mirrored = own.TurnedOver(), false
	}
	placed := &solid.Mesh{Vertices: make([]r3.Vec, len(own.Vertices)), Triangles: own.Triangles, Labels: own.Labels}
	for k, v := range own.Vertices {
		placed.Vertices[k] = place.Into(v)
	}
	return placed
}

// Outline is where the adjacent tooth's surface turns away from a viewer in the
// direction towards, in the frame of the tooth it stands beside.
func (n *Neighbour) Outline(towards r3.Vec) [][]r3.Vec {
	own := n.Aspect(n.Placement.unturn(towards)).Outline()
	placed := make([][]r3.Vec, len(own))
	for k, curve := range own {
		placed[k] = make([]r3.Vec, len(curve))
		for i, at := range curve {
			placed[k][i] = n.Into(at)
		}
	}
	return placed
}

// ClearanceAlong is how far a line runs from p until it meets the adjacent tooth,
// up to reach; ok is false where it does not.
func (n *Neighbour) ClearanceAlong(p, dir r3.Vec, reach float64) (mm float64, ok bool) {
	return n.Surface.RootAlong(n.From(p), n.Placement.unturn(dir), 0, reach, 0.05)
}

// unturn is Turn undone.
func (p Placement) unturn(d r3.Vec) r3.Vec { return r3.Sub(p.From(d), p.From(r3.Vec{})) }

// Place sets a neighbour in contact on one side of m: contact areas face to
// face, crowns in line along the arch, marginal ridges level (contacts level
// where one of the two is an anterior tooth).
func Place(m *Model, side notation.Side, neighbour *Model) *Neighbour {
	own, theirs := m.MesialContact, neighbour.DistalContact
	if side == notation.Distal {
		own, theirs = m.DistalContact, neighbour.MesialContact
	}
	n := &Neighbour{Model: neighbour}
	if side == notation.Mesial && m.Tooth.Right() != neighbour.Tooth.Right() {
		n.Mirrored, theirs = true, neighbour.MesialContact
	}
	// Turn their area to face ours.
	facing := n.Turn(theirs.Normal)
	n.Yaw = math.Atan2(-own.Normal.Y, -own.Normal.X) - math.Atan2(facing.Y, facing.X)
	across := r3.Vec{X: -own.Normal.Y, Y: own.Normal.X}

	// Where the middle line of each crown meets the plane of contact.
	middle := func(c Contact) r3.Vec { return r3.Scale(c.At.X, r3.Vec{X: 1}) }
	from, to := n.Turn(middle(theirs)), middle(own)
	n.Offset = r3.Scale(r3.Dot(r3.Sub(to, from), across), across)
	n.Offset = r3.Add(n.Offset, r3.Scale(r3.Dot(own.At, own.Normal)-r3.Dot(n.Turn(theirs.At), own.Normal), own.Normal))
	n.Offset.Z = levels(m, neighbour, side, own, theirs)
	n.close(own)
	return n
}

// levels is by how much the adjacent tooth is raised.
func levels(m, neighbour *Model, side notation.Side, own, theirs Contact) float64 {
	if m.Tooth.Anterior() || neighbour.Tooth.Anterior() {
		return own.At.Z - theirs.At.Z
	}
	if side == notation.Mesial {
		return m.MesialRidge.Z - neighbour.DistalRidge.Z
	}
	return m.DistalRidge.Z - neighbour.MesialRidge.Z
}

// close pushes the adjacent tooth along the contact's normal until the smallest gap
// between the surfaces is nothing: measured along lines square to the contact.
func (n *Neighbour) close(own Contact) {
	const rounds, reach, from = 3, 3.0, 1.0 // mm
	const hair = 0.002                      // mm left, so that no rounding makes them overlap
	for range rounds {
		n.Gap = n.gapAt(own, from, reach)
		n.Offset = r3.Sub(n.Offset, r3.Scale(n.Gap-hair, own.Normal))
	}
	n.Gap = n.gapAt(own, from, reach)
}

// gapAt is the least way from m's contact plane to the adjacent tooth's surface,
// over the area in which m's own surface reaches that plane; negative where
// the adjacent tooth stands across it.
func (n *Neighbour) gapAt(own Contact, from, reach float64) float64 {
	const step = 0.1 // mm
	across := r3.Vec{X: -own.Normal.Y, Y: own.Normal.X}
	least := math.Inf(1)
	for a := -own.Width / 2; a <= own.Width/2; a += step {
		for z := -own.Height / 2; z <= own.Height/2; z += step {
			p := r3.Add(own.At, r3.Add(r3.Scale(a, across), r3.Vec{Z: z}))
			start := r3.Sub(p, r3.Scale(from, own.Normal))
			if t, ok := n.ClearanceAlong(start, own.Normal, from+reach); ok {
				least = math.Min(least, t-from)
			}
		}
	}
	if math.IsInf(least, 1) {
		return 0
	}
	return least
}
