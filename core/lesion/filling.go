package lesion

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"
)

// An old filling is modelled as the cavity it was laid in: upright walls and a
// flat floor. Where none are given, its sizes are the traditional school's for an
// amalgam: an isthmus of a quarter of the intercuspal distance and a box that
// clears its neighbour on all sides.
const (
	fillingWidth     = 1.5  // mm, buccolingually, on a crown as wide as widestMolar
	fillingLength    = 4.4  // mm, mesiodistally, between the middles of its round ends
	fillingBoxWidth  = 2.6  // mm, buccolingually
	fillingBoxHeight = 2.6  // mm, from the seat up to the contact's middle and as far above
	fillingRound     = 0.15 // mm, of its edges
)

// Found is the finding that it stands for, caries or an old filling.
func (o *Occlusal) Found() Finding { return o.Finding }

// Found is the finding that it stands for, caries or an old filling.
func (p *Proximal) Found() Finding { return p.Finding }

// layFloor sets the level of an old filling's floor: its depth under the
// shallowest surface along it.
func (o *Occlusal) layFloor() {
	surface, junction := math.Inf(1), math.Inf(1)
	for _, q := range o.path {
		surface = math.Min(surface, o.model.TableHeights().At(q.X, q.Y))
		junction = math.Min(junction, o.model.DentinHeights().At(q.X, q.Y))
	}
	o.floor = junction - o.extent.intoDentin
	if o.Finding.Height > 0 {
		o.floor = surface - o.Finding.Height
		o.extent.intoDentin = junction - o.floor
	}
}

// filling is the distance of a place of the table's frame from an old filling.
func (o *Occlusal) filling(q r3.Vec, across float64) float64 {
	outside := q.Z - o.model.TableHeights().At(q.X, q.Y)
	trough := roundMax(across-o.extent.width/2, o.floor-q.Z)
	return max(trough, outside)
}

// fillingBox is the distance of a place from an old filling of a proximal surface:
// along the normal n, across a and up z about its origin.
func (p *Proximal) fillingBox(q r3.Vec, n, a, z float64) float64 {
	axial := p.junction.At(0, 0) - p.extent.intoDentin
	walls := roundMax(math.Abs(a)-p.extent.width/2, axial-n)
	return max(roundMax(walls, -p.extent.height/2-z), p.outside(q))
}

// roundMax is the inside of two surfaces at once, their edge rounded.
func roundMax(a, b float64) float64 {
	if a < -fillingRound || b < -fillingRound {
		return max(a, b)
	}
	return math.Hypot(max(a+fillingRound, 0), max(b+fillingRound, 0)) - fillingRound
}
