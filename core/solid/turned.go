package solid

import "math"

// Turned is a head turned to a convex outline, such as a flame.
type Turned struct {
	corners        [][2]float64
	length, radius float64
}

// NewTurned turns the outline given by its corners (rho, z), mm, from the tip to the
// upper end; the ends are closed flat. The outline has to be convex.
func NewTurned(outline [][2]float64) Turned {
	first, last := outline[0], outline[len(outline)-1]
	t := Turned{length: last[1]}
	if first[0] > 0 {
		t.corners = append(t.corners, [2]float64{0, first[1]})
	}
	t.corners = append(t.corners, outline...)
	if last[0] > 0 {
		t.corners = append(t.corners, [2]float64{0, last[1]})
	}
	for _, c := range t.corners {
		t.radius = max(t.radius, c[0])
	}
	return t
}

// Profile is the distance to the outline.
func (t Turned) Profile(rho, z float64) (d, dRho, dZ float64) {
	within := math.Inf(-1) // over all sides: negative where the place lies inside
	nearest := math.Inf(1)
	var inRho, inZ, outRho, outZ float64
	for n := 1; n < len(t.corners); n++ {
		a, b := t.corners[n-1], t.corners[n]
		wayRho, wayZ := b[0]-a[0], b[1]-a[1]
		long := math.Hypot(wayRho, wayZ)
		// Seen from the tip upwards the outside lies to the right.
		normalRho, normalZ := wayZ/long, -wayRho/long
		fromRho, fromZ := rho-a[0], z-a[1]
		if side := fromRho*normalRho + fromZ*normalZ; side > within {
			within, inRho, inZ = side, normalRho, normalZ
		}
		share := min(max((fromRho*wayRho+fromZ*wayZ)/(long*long), 0), 1)
		awayRho, awayZ := fromRho-share*wayRho, fromZ-share*wayZ
		if away := awayRho*awayRho + awayZ*awayZ; away < nearest {
			nearest, outRho, outZ = away, awayRho, awayZ
		}
	}
	if far := math.Sqrt(nearest); within > 0 && far > 1e-12 {
		return far, outRho / far, outZ / far
	}
	return within, inRho, inZ
}

// Length of the head, mm.
func (t Turned) Length() float64 { return t.length }

// Radius is the widest radius, mm.
func (t Turned) Radius() float64 { return t.radius }
