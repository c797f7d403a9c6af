package occlusal

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/instrument"
	"obturon/core/solid"
)

// groove is a retention groove as the slim tapered bur makes it: sunk into a side wall
// and the axial wall at the seat, and leaning away from both, so that it fades out
// upwards. Its coordinates are the box's n, y and z.
type groove struct {
	bur       solid.Revolution
	tip, axis r3.Vec  // of the bur; the axis points up
	top       float64 // z where it has run out
}

// distance from the groove, which ends on the seat.
func (g *groove) distance(f *faces) float64 {
	from := r3.Sub(r3.Vec{X: f.n, Y: f.y, Z: f.z}, g.tip)
	up := r3.Dot(from, g.axis)
	rho := math.Sqrt(math.Max(r3.Norm2(from)-up*up, 0))
	d, _, _ := g.bur.Profile(rho, up)
	return max(d, f.z-g.top, f.seat)
}

// How grooves are sunk (operative dentistry convention).
const (
	grooveAt       = 0.5 // mm over the seat where its depth is asked for and felt
	grooveAxially  = 0.1 // mm into the axial wall there: inside the junction
	grooveSteepest = 0.4 // of its lean from the wall: beyond it the head meets the wall opposite
)

// newGrooves cuts a groove into each side wall, beside the axial wall and so deep (mm)
// into the dentin there; it runs out under the enamel, whose junction lies at the heights
// given.
func (b *box) newGrooves(depth float64, junction *solid.Sheet) []groove {
	head := instrument.MustFind(instrument.SlimTaper).Head
	var grooves []groove
	for _, w := range []*sideWall{&b.buccal, &b.lingual} {
		g := groove{bur: head.Solid()}
		low, radius := b.seat.level+grooveAt, head.Tip/2
		at := b.beside(w, low, radius, depth, grooveAxially)
		rise := math.Max(junction.At(b.sign*at.X, at.Y)-low, depth/grooveSteepest)
		// The bur widens upwards: where its sides lie decides where its axis is.
		for range 4 {
			thicker := radius + rise*(head.Radius()-head.Tip/2)/head.Length
			g.axis = r3.Unit(r3.Sub(b.beside(w, low+rise, thicker, 0, 0), at))
			// Its end rests on the seat with the edge that leans lowest.
			lean := math.Hypot(g.axis.X, g.axis.Y)
			up := (grooveAt - head.Tip/2*lean) / g.axis.Z
			g.tip = r3.Sub(at, r3.Scale(up, g.axis))
			radius = head.Tip/2 + up*(head.Radius()-head.Tip/2)/head.Length
			at = b.beside(w, low, radius, depth, grooveAxially)
		}
		g.top = low + rise
		grooves = append(grooves, g)
	}
	return grooves
}

// beside is where the middle of a bur of a radius stands at a height when its sides are so
// deep in a side wall and in the axial wall, all mm.
func (b *box) beside(w *sideWall, z, radius, inWall, inAxial float64) r3.Vec {
	at := r3.Vec{Z: z}
	for range 8 {
		at.X = b.axial.plan.at(at.Y) + radius - inAxial
		at.Y -= w.sign * (w.distance(at.X, at.Y, z) + radius - inWall)
	}
	return at
}
