package solid

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"
)

// Pose is where a bur's tip stands and which way its axis points, from the tip
// to the shank.
type Pose struct{ Tip, Axis r3.Vec }

// Motion is what a head sweeps on its straight way between two poses. Outside
// it is the exact distance; inside, which a cut never reads, it may understate.
type Motion struct {
	head     Revolution
	from, to Pose
	label    uint16

	way, turn r3.Vec // from one pose to the other
	// Products that every distance needs.
	wayAxis, wayTurn, wayWay float64
}

// NewMotion sweeps a head from one pose to another; label (at least 1) names
// the feature that it cuts. The axis may turn by mostTurn at the most.
func NewMotion(head Revolution, label uint16, from, to Pose) *Motion {
	m := &Motion{head: head, from: from, to: to, label: label, way: r3.Sub(to.Tip, from.Tip), turn: r3.Sub(to.Axis, from.Axis)}
	m.wayAxis, m.wayTurn, m.wayWay = r3.Dot(m.way, from.Axis), r3.Dot(m.way, m.turn), r3.Norm2(m.way)
	return m
}

// mostTurn (radians) is how far the axis may turn in one motion: beyond it the
// distance to the swept solid would not have one minimum along the way.
const mostTurn = 0.02

// Path strings motions together through the poses, split where the axis turns.
func Path(head Revolution, label uint16, poses ...Pose) []Tool {
	var tools []Tool
	for n := 1; n < len(poses); n++ {
		a, b := poses[n-1], poses[n]
		turn := math.Acos(min(max(r3.Dot(r3.Unit(a.Axis), r3.Unit(b.Axis)), -1), 1))
		pieces := max(1, int(math.Ceil(turn/mostTurn)))
		last := a
		for i := 1; i <= pieces; i++ {
			t := float64(i) / float64(pieces)
			next := Pose{Tip: mixVec(a.Tip, b.Tip, t), Axis: r3.Unit(mixVec(a.Axis, b.Axis, t))}
			tools = append(tools, NewMotion(head, label, last, next))
			last = next
		}
	}
	return tools
}

func mixVec(a, b r3.Vec, t float64) r3.Vec { return r3.Add(a, r3.Scale(t, r3.Sub(b, a))) }

// Feature is the motion's label.
func (m *Motion) Feature(r3.Vec) uint16 { return m.label }

// Bounds holds both ends of the motion.
func (m *Motion) Bounds() Box {
	up := func(p Pose) r3.Vec { return r3.Add(p.Tip, r3.Scale(m.head.Length(), p.Axis)) }
	b := Enclosing(m.from.Tip, up(m.from), m.to.Tip, up(m.to))
	r := m.head.Radius()
	round := r3.Vec{X: r, Y: r, Z: r}
	return Box{Min: r3.Sub(b.Min, round), Max: r3.Add(b.Max, round)}
}

// Distance is the least distance to the head over the whole way.
func (m *Motion) Distance(p r3.Vec) float64 { return m.DistanceUnder(p, math.Inf(1)) }

// DistanceUnder is Distance where that is less than limit; else it is some
// value from limit up to it, found sooner.
func (m *Motion) DistanceUnder(p r3.Vec, limit float64) float64 {
	d, _ := m.closest(p, limit)
	return d
}

// Normal is the direction in which the swept solid faces at p.
func (m *Motion) Normal(p r3.Vec) r3.Vec {
	_, t := m.closest(p, math.Inf(1))
	s := r3.Sub(r3.Sub(p, m.from.Tip), r3.Scale(t, m.way))
	axis := r3.Add(m.from.Axis, r3.Scale(t, m.turn))
	z := r3.Dot(s, axis)
	radial := r3.Sub(s, r3.Scale(z, axis))
	rho := r3.Norm(radial)
	_, dRho, dZ := m.head.Profile(rho, z)
	normal := r3.Scale(dZ, axis)
	if rho > 1e-9 {
		normal = r3.Add(normal, r3.Scale(dRho/rho, radial))
	}
	return normal
}

// closest is the least distance along the way and the share of the way where
// it is reached. The distance is convex there, so that its only minimum is
// bracketed and closed in on, and the tangents at the bracket bound it from
// below: the search stops when it cannot come under limit.
func (m *Motion) closest(p r3.Vec, limit float64) (least, where float64) {
	q := r3.Sub(p, m.from.Tip)
	along, turning, toward, square := r3.Dot(q, m.from.Axis), r3.Dot(q, m.turn), r3.Dot(q, m.way), r3.Norm2(q)
	at := func(t float64) (d, slope float64) {
		z := along + t*(turning-m.wayAxis-t*m.wayTurn)
		dz := turning - m.wayAxis - 2*t*m.wayTurn
		rho := math.Sqrt(max(square-2*t*toward+t*t*m.wayWay-z*z, 0))
		d, dRho, dZ := m.head.Profile(rho, z)
		slope = dZ * dz
		if rho > 1e-9 {
			slope += dRho * (t*m.wayWay - toward - z*dz) / rho
		}
		return d, slope
	}
	d0, s0 := at(0)
	if s0 >= 0 {
		return d0, 0
	}
	if d0+s0 > limit {
		return d0 + s0, 0
	}
	d1, s1 := at(1)
	if s1 <= 0 {
		return d1, 1
	}
	// Regula falsi on the slope, with the usual halving of a stuck end.
	const enough = 2e-4 // mm that the minimum may still lie lower
	const rounds = 10
	a, b, fa, fb, side := 0.0, 1.0, s0, s1, 0
	least, where = d0, 0
	if d1 < d0 {
		least, where = d1, 1
	}
	for range rounds {
		// Where the tangents at both ends meet lies no higher than the minimum.
		if low := d0 + s0*(d1-d0-s1*(b-a))/(s0-s1); low > limit {
			return low, where
		}
		t := (a*fb - b*fa) / (fb - fa)
		d, s := at(t)
		if d < least {
			least, where = d, t
		}
		if s < 0 {
			if -s*(b-t) < enough {
				break
			}
			a, fa, d0, s0 = t, s, d, s
			if side < 0 {
				fb /= 2
			}
			side = -1
		} else {
			if s*(t-a) < enough {
				break
			}
			b, fb, d1, s1 = t, s, d, s
			if side > 0 {
				fa /= 2
			}
			side = 1
		}
	}
	return least, where
}
