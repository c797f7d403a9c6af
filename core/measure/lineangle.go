package measure

import (
	"math"

	"gonum.org/v1/gonum/mat"
	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/cavity"
	"obturon/core/solid"
)

// LineAngleRadius is the median radius of the line angle between walls and
// floor. At places along it the solid is felt with a fan of rays in the
// section square to the wall, and a circle is fitted to what turns between
// floor and wall.
func (p *Prepared) LineAngleRadius() (Reading, bool) {
	return p.lineAngles(cavity.Floor, func(r3.Vec) r3.Vec { return p.Model.Table.W })
}

// lineAngles is the median radius of the line angles round a floor of a
// cavity; up is the direction out of the tooth over a place.
func (p *Prepared) lineAngles(floor uint16, up func(r3.Vec) r3.Vec) (r Reading, ok bool) {
	m := p.Mesh
	loops := m.Boundary(func(n int) bool { return m.Labels[n] == floor })
	walls := wallSideNormals(p, floor, loops, up)
	type spot struct {
		radius float64
		at     r3.Vec
	}
	var spots []spot
	const spacing = 0.4 // mm between places
	var last r3.Vec
	for _, loop := range loops {
		for _, v := range loop {
			at := m.Vertices[v]
			w, hasWall := walls[v]
			if !hasWall || (len(spots) > 0 && r3.Norm(r3.Sub(at, last)) < spacing) {
				continue
			}
			if radius, felt := p.feelCorner(at, w, up(at)); felt {
				spots = append(spots, spot{radius, at})
				last = at
			}
		}
	}
	if len(spots) < 3 {
		return r, false
	}
	radii := make([]float64, len(spots))
	for n, s := range spots {
		radii[n] = s.radius
	}
	r.Value, r.Uncertainty = quantile(radii, 0.5), 0.02
	nearest := math.Inf(1)
	for _, s := range spots {
		if d := math.Abs(s.radius - r.Value); d < nearest {
			nearest, r.Where = d, Place{"line angle at the " + cavity.FeatureName(floor), s.at}
		}
	}
	return r, true
}

// wallSideNormals gives, for vertices where floor meets wall, the level
// direction in which the wall faces.
func wallSideNormals(p *Prepared, floor uint16, loops [][]int32, out func(r3.Vec) r3.Vec) map[int32]r3.Vec {
	onLoop := make([]bool, len(p.Mesh.Vertices))
	for _, loop := range loops {
		for _, v := range loop {
			onLoop[v] = true
		}
	}
	sums := map[int32]r3.Vec{}
	for n, t := range p.Mesh.Triangles {
		if l := p.Mesh.Labels[n]; l == 0 || l == floor || l == cavity.Excavation {
			continue
		}
		touches := onLoop[t[0]] || onLoop[t[1]] || onLoop[t[2]]
		if !touches {
			continue
		}
		normal, up := p.Mesh.Normal(n), out(p.Mesh.Centroid(n))
		level := r3.Sub(normal, r3.Scale(r3.Dot(normal, up), up))
		for _, v := range t {
			if onLoop[v] {
				sums[v] = r3.Add(sums[v], level)
			}
		}
	}
	for v, s := range sums {
		if r3.Norm(s) > 1e-9 {
			sums[v] = r3.Unit(s)
		}
	}
	return sums
}

// feelCorner measures the radius of a concave corner near at: into faces the
// cavity, away from the wall.
func (p *Prepared) feelCorner(at, into, up r3.Vec) (radius float64, ok bool) {
	const stand, rays, reach = 0.5, 41, 1.2 // mm off wall and floor, fan's count, mm felt
	eye := r3.Add(at, r3.Add(r3.Scale(stand, into), r3.Scale(stand, up)))
	if p.Workpiece.Distance(eye) < 0 {
		return 0, false
	}
	var xs, ys []float64
	for n := range rays {
		sin, cos := math.Sincos((15 + 60*float64(n)/(rays-1)) * math.Pi / 180) // below the level
		dir := r3.Add(r3.Scale(-cos, into), r3.Scale(-sin, up))
		if t, hit := solid.RootAlong(p.Workpiece.Distance, eye, dir, 0, reach, 0.1); hit {
			q := r3.Sub(r3.Add(eye, r3.Scale(t, dir)), at)
			xs, ys = append(xs, r3.Dot(q, into)), append(ys, r3.Dot(q, up))
		}
	}
	return fitCornerCircle(xs, ys)
}

// fitCornerCircle fits a circle to the points whose direction of travel turns
// between 20 and 70 degrees from the floor. A corner too sharp to hold such
// points reads as their spread, near 0.
func fitCornerCircle(xs, ys []float64) (radius float64, ok bool) {
	var cx, cy []float64
	for n := 1; n+1 < len(xs); n++ {
		slope := degrees(math.Atan2(math.Abs(ys[n+1]-ys[n-1]), math.Abs(xs[n+1]-xs[n-1])))
		if slope > 20 && slope < 70 {
			cx, cy = append(cx, xs[n]), append(cy, ys[n])
		}
	}
	if len(xs) < 20 {
		return 0, false
	}
	if len(cx) < 4 {
		return 0.02, true // sharper than the fan can resolve
	}
	// Algebraic circle fit: x²+y² = 2ax + 2by + c.
	a := mat.NewDense(len(cx), 3, nil)
	b := mat.NewVecDense(len(cx), nil)
	for n := range cx {
		a.SetRow(n, []float64{2 * cx[n], 2 * cy[n], 1})
		b.SetVec(n, cx[n]*cx[n]+cy[n]*cy[n])
	}
	var solution mat.VecDense
	if err := solution.SolveVec(a, b); err != nil {
		return 0, false
	}
	x, y, c := solution.AtVec(0), solution.AtVec(1), solution.AtVec(2)
	return math.Sqrt(math.Max(c+x*x+y*y, 0)), true
}
