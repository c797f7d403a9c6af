package occlusal

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/cavity"
	"obturon/core/notation"
	"obturon/core/solid"
)

// box is a proximal box: everything outside its axial wall, between its buccal
// and lingual walls and above its seat. Its coordinates are those of the
// occlusal table's frame with n out of the tooth, towards the adjacent tooth.
type box struct {
	side            notation.Side
	sign            float64 // of n along U
	buccal, lingual sideWall
	axial           axialWall
	seat            seat
	radius          float64 // of line angles
	corner          float64 // of those between the walls, which the margin follows
	grooves         []groove
}

// sideWall is the buccal or lingual wall. At each height it is a line square
// to the outer surface where it leaves the tooth, so that it turns a little
// from the seat to the top.
type sideWall struct {
	sign         float64    // +1 buccal, -1 lingual: of w along V
	low, high    float64    // heights between which the outer surface was followed
	exit         polynomial // n where the wall leaves the tooth, over the height
	yaw          polynomial // radians by which it flares from n towards w
	at, fallAway float64    // w at height 0, and by how much it grows a mm downwards
	cos          float64    // of the lean
	turns        []turn     // exit and yaw at equal steps from low to high, for speed
}

// turn is how a side wall stands at one height.
type turn struct{ exit, sin, cos float64 }

// turnStep (mm) is the spacing of the heights at which a wall's turn is kept.
const turnStep = 0.05

// keepTurns tabulates the wall once its polynomials are set.
func (w *sideWall) keepTurns() {
	count := int((w.high-w.low)/turnStep) + 2
	w.turns = make([]turn, count)
	for n := range w.turns {
		z := min(w.low+float64(n)*turnStep, w.high)
		sin, cos := math.Sincos(w.yaw.at(z))
		w.turns[n] = turn{w.exit.at(z), sin, cos}
	}
}

// distance from the wall, negative on the side of the cavity.
func (w *sideWall) distance(n, y, z float64) float64 {
	at := min(max((z-w.low)/turnStep, 0), float64(len(w.turns)-1)-1e-9)
	k := int(at)
	a, b, t := &w.turns[k], &w.turns[k+1], at-float64(k)
	exit, sin, cos := a.exit+t*(b.exit-a.exit), a.sin+t*(b.sin-a.sin), a.cos+t*(b.cos-a.cos)
	return w.cos * (cos*(w.sign*y-w.at+w.fallAway*z) - sin*(n-exit))
}

// axialWall is parallel to the bur and follows the outer surface's bulge.
type axialWall struct{ plan polynomial }

func (a *axialWall) distance(n, y float64) float64 {
	p := a.plan // a parabola
	slope := p[1] + 2*p[2]*y
	return (p[0] + (p[1]+p[2]*y)*y - n) / math.Sqrt(1+slope*slope)
}

// seat is the gingival floor: level inside, sloped outside.
type seat struct {
	level    float64
	outer    float64 // n from which it falls away
	sin, cos float64 // of the fall
}

func (s *seat) distance(n, z float64) float64 {
	level := s.level - z
	return min(level, level*s.cos-(n-s.outer)*s.sin)
}

// faces are the distances of one place from the surfaces of a box.
type faces struct{ n, y, z, buccal, lingual, axial, seat float64 }

// facesAt reads all surfaces at a place of the table's frame.
func (b *box) facesAt(q r3.Vec) faces {
	f := faces{n: b.sign * q.X, y: q.Y, z: q.Z}
	f.axial = b.axial.distance(f.n, f.y)
	f.buccal, f.lingual = b.buccal.distance(f.n, f.y, f.z), b.lingual.distance(f.n, f.y, f.z)
	f.seat = b.seat.distance(f.n, f.z)
	return f
}

// away (mm) is how far before its axial wall a box plays no part any more.
const away = 3.0

// far reports a place where the box plays no part.
func (b *box) far(q r3.Vec) bool {
	return b.axial.plan.at(q.Y)-b.sign*q.X > away
}

func (f *faces) sides() float64 { return max(f.buccal, f.lingual) }

// lateral is the distance from the walls alone, the line angles between them
// rounded.
func (f *faces) lateral(radius float64) float64 {
	return solid.RoundedIntersection(f.sides(), f.axial, radius)
}

func (b *box) distance(f *faces) float64 {
	d := solid.RoundedIntersection(f.lateral(b.corner), f.seat, b.radius)
	for i := range b.grooves {
		d = min(d, b.grooves[i].distance(f))
	}
	return d
}

// wedge is the distance from the side walls as they lead on inwards over the
// pulpal floor, before the axial wall: the curve before the box takes them into
// the isthmus by so much sideways for each mm inwards.
func (f *faces) wedge(slope float64) float64 {
	const bend = 0.3 // mm over which the walls turn
	before := solid.SmoothMax(f.axial, 0, bend)
	turned := slope * solid.Smoothstep(0, bend, before)
	return (f.sides() + slope*before) / math.Sqrt(1+turned*turned)
}

// sideFeature names the nearer side wall.
func (f *faces) sideFeature() uint16 {
	if f.buccal > f.lingual {
		return cavity.BoxBuccal
	}
	return cavity.BoxLingual
}

// wall names the wall that bounds the box nearest a place, and its distance.
func (f *faces) wall() (feature uint16, distance float64) {
	feature, distance = cavity.AxialWall, f.axial
	if f.buccal > distance {
		feature, distance = cavity.BoxBuccal, f.buccal
	}
	if f.lingual > distance {
		feature, distance = cavity.BoxLingual, f.lingual
	}
	return feature, distance
}

// feature names the part of the box's surface nearest a place.
func (b *box) feature(f *faces) uint16 {
	for i := range b.grooves {
		if b.grooves[i].distance(f) < f.lateral(b.corner)-1e-6 {
			return cavity.RetentionGroove
		}
	}
	wall, d := f.wall()
	if f.seat > d {
		return cavity.GingivalFloor
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
