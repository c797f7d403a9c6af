package prep

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/notation"
	"obturon/core/solid"
)

// box is a proximal box: everything outside its axial wall, between its buccal
// and lingual walls and above its seat. Its coordinates are those of the
// occlusal table's frame with n out of the tooth, towards the neighbour.
type box struct {
	side            notation.Side
	sense           float64 // of n along U
	buccal, lingual sideWall
	axial           axialWall
	seat            seat
	radius          float64 // of line angles
	grooves         []groove
}

// sideWall is the buccal or lingual wall. At each height it is a line square
// to the outer surface where it leaves the tooth, so that it turns a little
// from the seat to the top.
type sideWall struct {
	sense        float64    // +1 buccal, -1 lingual: of w along V
	low, high    float64    // heights between which the outer surface was followed
	exit         polynomial // n where the wall leaves the tooth, over the height
	yaw          polynomial // radians by which it flares from n towards w
	at, fallAway float64    // w at height 0, and by how much it grows a mm downwards
	cos          float64    // of the lean
}

// distance from the wall, negative on the side of the cavity.
func (w *sideWall) distance(n, y, z float64) float64 {
	clamped := min(max(z, w.low), w.high)
	sin, cos := math.Sincos(w.yaw.at(clamped))
	return w.cos * (cos*(w.sense*y-w.at+w.fallAway*z) - sin*(n-w.exit.at(clamped)))
}

// axialWall is parallel to the bur and follows the outer surface's bulge.
type axialWall struct{ plan polynomial }

func (a *axialWall) distance(n, y float64) float64 {
	slope := a.plan.slope(y)
	return (a.plan.at(y) - n) / math.Sqrt(1+slope*slope)
}

// seat is the gingival floor: level inside, sloped outside.
type seat struct {
	level    float64
	outer    float64 // n from which it falls away
	sin, cos float64 // of the fall
}

func (s *seat) distance(n, z float64) float64 {
	level := s.level - z
	return math.Min(level, level*s.cos-(n-s.outer)*s.sin)
}

// groove is a retention groove: a round channel along the bur in a side wall.
type groove struct{ n, y, foot, top, radius float64 }

func (g *groove) distance(n, y, z float64) float64 {
	dz := math.Max(g.foot-z, z-g.top)
	return math.Hypot(math.Hypot(n-g.n, y-g.y), math.Max(dz, 0)) - g.radius
}

func (b *box) in(q r3.Vec) (n, y, z float64) { return b.sense * q.X, q.Y, q.Z }

// lateral is the distance from the walls alone, the line angles between them
// rounded.
func (b *box) lateral(n, y, z float64) float64 {
	return solid.RoundedIntersection(
		math.Max(b.buccal.distance(n, y, z), b.lingual.distance(n, y, z)), b.axial.distance(n, y), b.radius)
}

func (b *box) distance(n, y, z float64) float64 {
	d := solid.RoundedIntersection(b.lateral(n, y, z), b.seat.distance(n, z), b.radius)
	for i := range b.grooves {
		d = math.Min(d, math.Max(b.grooves[i].distance(n, y, z), b.seat.distance(n, z)))
	}
	return d
}

// wedge is the distance from the side walls as they lead on inwards over the
// pulpal floor, before the axial wall: the curve before the box takes them into
// the isthmus by so much sideways for each mm inwards. Infinite slopes leave a
// shoulder at the axial wall.
func (b *box) wedge(n, y, z, slope float64) float64 {
	const bend = 0.3 // mm over which the walls turn
	if math.IsInf(slope, 1) {
		return b.lateral(n, y, z)
	}
	sides := math.Max(b.buccal.distance(n, y, z), b.lingual.distance(n, y, z))
	before := solid.SmoothMax(b.axial.distance(n, y), 0, bend)
	turned := slope * solid.Smoothstep(0, bend, before)
	return (sides + slope*before) / math.Sqrt(1+turned*turned)
}

// sideFeature names the nearer side wall.
func (b *box) sideFeature(n, y, z float64) uint16 {
	if b.buccal.distance(n, y, z) > b.lingual.distance(n, y, z) {
		return BoxBuccal
	}
	return BoxLingual
}

// wall names the wall that bounds the box nearest a place, and its distance.
func (b *box) wall(n, y, z float64) (feature uint16, distance float64) {
	feature, distance = AxialWall, b.axial.distance(n, y)
	if d := b.buccal.distance(n, y, z); d > distance {
		feature, distance = BoxBuccal, d
	}
	if d := b.lingual.distance(n, y, z); d > distance {
		feature, distance = BoxLingual, d
	}
	return feature, distance
}

// feature names the part of the box's surface nearest a place.
func (b *box) feature(n, y, z float64) uint16 {
	for i := range b.grooves {
		if b.grooves[i].distance(n, y, z) < b.lateral(n, y, z)-1e-6 {
			return RetentionGroove
		}
	}
	wall, d := b.wall(n, y, z)
	if b.seat.distance(n, z) > d {
		return GingivalFloor
	}
	return wall
}

// polynomial holds coefficients by rising power.
type polynomial []float64

func (p polynomial) at(x float64) float64 {
	v := 0.0
	for n := len(p) - 1; n >= 0; n-- {
		v = v*x + p[n]
	}
	return v
}

func (p polynomial) slope(x float64) float64 {
	v := 0.0
	for n := len(p) - 1; n >= 1; n-- {
		v = v*x + float64(n)*p[n]
	}
	return v
}
