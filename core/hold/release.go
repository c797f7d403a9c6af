package hold

import (
	"cmp"
	"math"
	"slices"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/solid"
)

// Release is how freely a filling leaves its cavity in a straight line, and which way it
// leaves best.
type Release struct {
	// Degrees by which every wall leans away from that way: above 0 it is drawn, at 0 it
	// slides along walls, under 0 some wall stands in every way, by at least so much. It is
	// measured to -MostLean.
	Degrees float64
	Along   r3.Vec
	// SolidAngle (sr) is of all the ways in which no wall stands; 0 where there is none.
	SolidAngle float64
}

// MostLean is the most (degrees) that walls are told to stand over a filling in every way: by
// so much it is locked, and what lies beyond hangs on which facet of a groove's foot is
// looked at.
const MostLean = 8

// Release of a filling: along the way v for which the least of n·v over their normals
// is greatest (the largest cap of the sphere of ways in which no wall stands).
func (b *Bed) Release() Release {
	// Wider groups than elsewhere: one facing that noise has turned by two degrees would turn
	// the answer by as much.
	const alike = 6.0
	var normals []r3.Vec
	for _, f := range facings(b.Walls, alike) {
		normals = append(normals, f.normal)
	}
	along, sine := freest(normals)
	d := Release{Degrees: max(math.Asin(max(min(sine, 1), -1))*180/math.Pi, -MostLean), Along: along}
	if sine > 1e-9 {
		d.SolidAngle = freeAngle(normals, along)
	}
	return d
}

// tries are ways evenly over the sphere (Fibonacci's), 4 degrees apart.
var tries = func() []r3.Vec {
	const count = 2400
	ways := make([]r3.Vec, count)
	turn := math.Pi * (3 - math.Sqrt(5))
	for n := range ways {
		z := 1 - (2*float64(n)+1)/count
		sin, cos := math.Sincos(turn * float64(n))
		across := math.Sqrt(1 - z*z)
		ways[n] = r3.Vec{X: across * cos, Y: across * sin, Z: z}
	}
	return ways
}()

// leastAlong is the least of n·v, or something under enough as soon as it is that low.
func leastAlong(normals []r3.Vec, v r3.Vec, enough float64) float64 {
	least := math.Inf(1)
	for _, n := range normals {
		if d := r3.Dot(n, v); d < least {
			if least = d; least < enough {
				break
			}
		}
	}
	return least
}

// freest is the way for which the least of n·v is greatest, with that: the best of the tries
// lie near it, and it is where one, two or three of the walls that stand most in their way
// stand in it alike.
func freest(normals []r3.Vec) (along r3.Vec, sine float64) {
	if len(normals) == 0 {
		return r3.Vec{Z: 1}, 1
	}
	const spacing, hills = 0.08, 6 // radians between tries; of them that are climbed
	type try struct {
		along r3.Vec
		sine  float64
	}
	ranked := make([]try, len(tries))
	for n, v := range tries {
		ranked[n] = try{v, leastAlong(normals, v, -2)}
	}
	slices.SortStableFunc(ranked, func(a, b try) int { return cmp.Compare(b.sine, a.sine) })
	var starts []try
	for _, t := range ranked {
		if len(starts) == hills || len(starts) > 0 && t.sine < starts[0].sine-2*spacing {
			break
		}
		if !slices.ContainsFunc(starts, func(s try) bool { return r3.Dot(s.along, t.along) > math.Cos(3*spacing) }) {
			starts = append(starts, t)
		}
	}
	along, sine = starts[0].along, starts[0].sine
	for _, s := range starts {
		if v, g := climb(normals, s.along, s.sine); g > sine+1e-12 {
			along, sine = v, g
		}
	}
	return along, sine
}

// climb goes from a way to the freest one about it.
func climb(normals []r3.Vec, v r3.Vec, g float64) (r3.Vec, float64) {
	const mostNear, mostSteps = 14, 8
	for range mostSteps {
		near := slices.Clone(normals)
		slices.SortStableFunc(near, func(a, b r3.Vec) int { return cmp.Compare(r3.Dot(a, v), r3.Dot(b, v)) })
		near = near[:min(mostNear, len(near))]
		best, at := g, v
		try := func(w r3.Vec) {
			if l := r3.Norm(w); l > 1e-9 {
				w = r3.Scale(1/l, w)
				if least := leastAlong(normals, w, best); least > best+1e-12 {
					best, at = least, w
				}
			}
		}
		for i := range near {
			try(near[i])
			for j := range i {
				try(r3.Add(near[i], near[j]))
				for k := range j {
					w := r3.Cross(r3.Sub(near[j], near[i]), r3.Sub(near[k], near[i]))
					try(w)
					try(r3.Scale(-1, w))
				}
			}
		}
		if best <= g+1e-12 {
			break
		}
		v, g = at, best
	}
	return v, g
}

// freeAngle is the solid angle (sr) of the ways with n·v >= 0 for all normals, about one
// of them for which all are above 0.
func freeAngle(normals []r3.Vec, about r3.Vec) float64 {
	const wide = 1e3 // of the plane one before the eye: 89.9 degrees off
	e1, e2 := solid.Across(about)
	corners := []solid.Point2{{X: -wide, Y: -wide}, {X: wide, Y: -wide}, {X: wide, Y: wide}, {X: -wide, Y: wide}}
	for _, n := range normals {
		a, b, c := r3.Dot(n, e1), r3.Dot(n, e2), r3.Dot(n, about)
		corners = solid.CutConvex(corners, func(p solid.Point2) float64 { return a*p.X + b*p.Y + c })
	}
	angle := 0.0
	for n, p := range corners {
		q := corners[(n+1)%len(corners)]
		way := func(c solid.Point2) r3.Vec {
			return r3.Unit(r3.Add(about, r3.Add(r3.Scale(c.X, e1), r3.Scale(c.Y, e2))))
		}
		angle += triangleAngle(about, way(p), way(q))
	}
	return angle
}

// triangleAngle is the solid angle of a triangle of unit vectors (van Oosterom and
// Strackee), counterclockwise positive.
func triangleAngle(a, b, c r3.Vec) float64 {
	return 2 * math.Atan2(r3.Dot(a, r3.Cross(b, c)), 1+r3.Dot(a, b)+r3.Dot(b, c)+r3.Dot(c, a))
}
