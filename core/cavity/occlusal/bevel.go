package occlusal

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/cavity"
	"obturon/core/solid"
)

// bevel is the chamfer between the walls and the occlusal surface of a bonded
// filling. It opens enamel rods across their ends, where enamel is thick: none
// at the proximal and gingival margins, none under occlusal contacts.
type bevel struct {
	width, sin, cos float64      // mm along its face; of the angle to the outer surface
	surface, slopes *solid.Sheet // the occlusal surface as the bur rides over it
	dentin          *solid.Dense // which it leaves covered
	contacts        []solid.Point2
}

const (
	// bevelEnamel (mm) of enamel is left under a bevel: on cusp slopes enamel is
	// thick, and a bevel through it would lay dentin open under load.
	bevelEnamel = 0.3
)

// newBevel is nil where the design has none.
func newBevel(r request, d Design) *bevel {
	if !d.Bonded || d.BevelWidth < cavity.LeastBevel {
		return nil
	}
	b := &bevel{
		width:    d.BevelWidth,
		surface:  r.Model.RiddenHeights(),
		slopes:   r.Model.Slopes(),
		dentin:   r.Model.Dentin(),
		contacts: r.Contacts,
	}
	b.sin, b.cos = math.Sincos(d.BevelAngle * math.Pi / 180)
	return b
}

// distance is the signed distance (mm) to the bevel's face near it, q in the
// table's frame; lateral is the distance from the walls.
func (b *bevel) distance(p, q r3.Vec, lateral func(r3.Vec) float64) float64 {
	const near = 0.5 // mm around the face where its field matters
	height := b.surface.At(q.X, q.Y) - q.Z
	if height > 2*(b.width+near) || height < -2*near {
		return math.Inf(1)
	}
	fine := upright(b.surface.Slope(q.X, q.Y))
	deep := height * fine.Z
	if deep > b.width*b.sin+near {
		return math.Inf(1)
	}
	width := b.width * facing(fine.Z) * b.offContacts(q)
	wall := lateral(q)
	if width < cavity.LeastBevel || wall > width+near || wall < -near {
		return math.Inf(1)
	}
	out := upright(b.slopes.Slope(q.X, q.Y)) // so that fissures and bumps leave the margin smooth
	along, reach := b.acrossTheSurface(q, out, width, lateral)
	if reach <= 0 { // the surface falls away from the wall as steeply as the bevel would
		return math.Inf(1)
	}
	run := (wall + deep*along) / math.Sqrt(1-along*along) // mm along the surface from where the wall would leave it
	face := (run-reach)*b.sin + deep*b.cos
	if face > near {
		return face
	}
	return max(face, bevelEnamel-b.dentin.Distance(p))
}

// acrossTheSurface is how much of the wall's normal points out of the tooth, and
// how far (mm) along the surface the bevel reaches past the wall for its face
// to be so wide.
func (b *bevel) acrossTheSurface(q, out r3.Vec, width float64, lateral func(r3.Vec) float64) (along, reach float64) {
	const step, most = 0.15, 0.9 // mm; a wall that lies in the surface makes no margin
	rise := lateral(r3.Add(q, r3.Scale(step, out))) - lateral(r3.Sub(q, r3.Scale(step, out)))
	along = min(max(rise/(2*step), -most), most)
	lean := along / math.Sqrt(1-along*along)
	return along, width * (b.cos + lean*b.sin)
}

// upright is the normal of a surface with these slopes.
func upright(dx, dy float64) r3.Vec {
	return r3.Unit(r3.Vec{X: -dx, Y: -dy, Z: 1})
}

// facing is 1 where the outer surface faces the bur and 0 where it has turned
// towards a neighbour: up is the cosine between them.
func facing(up float64) float64 {
	const none, full = 0.25, 0.75
	return solid.Smoothstep(none, full, up)
}

// offContacts is 0 under an occlusal contact and 1 clear of all.
func (b *bevel) offContacts(q r3.Vec) float64 {
	const under, clear = 0.5, 0.9 // mm from a contact's middle
	share := 1.0
	for _, c := range b.contacts {
		share = min(share, solid.Smoothstep(under, clear, math.Hypot(q.X-c.X, q.Y-c.Y)))
	}
	return share
}
