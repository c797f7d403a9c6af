package measure

import (
	"fmt"
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/anatomy"
	"obturon/core/cavity"
)

// WallLean is how far a wall leans over the cavity: positive when the cavity
// narrows towards the bur, negative when the wall leans out. It is the
// area-weighted mean over facets clear of line angles and margins.
func (p *Prepared) WallLean(feature uint16) (Reading, bool) {
	return p.once(fmt.Sprint("lean ", feature), func() (Reading, bool) { return p.feelLean(feature) })
}

func (p *Prepared) feelLean(feature uint16) (r Reading, ok bool) {
	up, outward := p.Model.Table.W, wallDirection(p.Model.Table, feature)
	var sum, area float64
	var at r3.Vec
	for _, n := range p.ofFeature[feature] {
		normal := p.Mesh.Normal(n)
		rise := r3.Dot(normal, up)
		// Facets of the line angle turn towards the floor; those round a
		// corner turn away from the wall's own direction.
		if math.Abs(rise) > 0.4 || r3.Dot(normal, outward) > -0.93*math.Sqrt(1-rise*rise) {
			continue
		}
		c := p.Mesh.Centroid(n)
		if p.nearLineAngle(c) {
			continue
		}
		a := p.Mesh.Area(n)
		sum -= a * math.Asin(rise)
		at = r3.Add(at, r3.Scale(a, c))
		area += a
	}
	if area < 0.05 {
		return r, false
	}
	r.Value, r.Uncertainty = degrees(sum/area), 0.5
	r.Where = Place{cavity.FeatureName(feature), p.nearestOf(feature, r3.Scale(1/area, at))}
	return r, true
}

// wallDirection is where a wall lies, seen from the middle of the cavity.
func wallDirection(table anatomy.Frame, feature uint16) r3.Vec {
	switch feature {
	case cavity.WallBuccal:
		return table.V
	case cavity.WallLingual:
		return r3.Scale(-1, table.V)
	case cavity.WallMesial:
		return table.U
	default:
		return r3.Scale(-1, table.U)
	}
}

// nearLineAngle reports floor within reach below a wall point.
func (p *Prepared) nearLineAngle(at r3.Vec) bool {
	const reach = 0.45 // mm, more than any line angle's radius
	down := r3.Add(at, r3.Scale(-reach, p.Model.Table.W))
	return p.Workpiece.Distance(r3.Add(down, r3.Scale(-0.02, p.Model.Table.W))) < -0.2
}

// nearestOf is the mesh point of a feature closest to a place.
func (p *Prepared) nearestOf(feature uint16, to r3.Vec) r3.Vec {
	best, nearest := math.Inf(1), to
	for _, n := range p.ofFeature[feature] {
		if c := p.Mesh.Centroid(n); r3.Norm2(r3.Sub(c, to)) < best {
			best, nearest = r3.Norm2(r3.Sub(c, to)), c
		}
	}
	return nearest
}
