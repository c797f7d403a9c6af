package measure

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/cavity"
	"obturon/core/hold"
)

// FillingWalls are the cavity's surface as a filling meets it, one place for each patch of
// a quarter of a millimetre.
func (s *Subject) FillingWalls() []hold.Wall {
	const patch = 0.25 // mm
	type cell struct {
		feature uint16
		i, j, k int
	}
	at := map[cell]int{}
	var walls []hold.Wall
	for n, label := range s.Mesh.Labels {
		if label == 0 {
			continue
		}
		c, area := s.Mesh.Centroid(n), s.Mesh.Area(n)
		key := cell{label, int(math.Floor(c.X / patch)), int(math.Floor(c.Y / patch)), int(math.Floor(c.Z / patch))}
		k, known := at[key]
		if !known {
			k = len(walls)
			at[key] = k
			walls = append(walls, hold.Wall{At: c, Feature: label})
		}
		walls[k].Normal = r3.Add(walls[k].Normal, r3.Scale(area, s.Mesh.Normal(n)))
		walls[k].Area += area
	}
	for n := range walls {
		if walls[n].Normal != (r3.Vec{}) {
			walls[n].Normal = r3.Unit(walls[n].Normal)
		}
	}
	return walls
}

// held is how far (mm) the tooth stands over the filling when it is pulled along a unit
// vector: a rigid filling without a bond.
func (s *Subject) held(along r3.Vec, by string) (Reading, bool) {
	const travel = 6.0 // mm: past any crown
	walls := s.FillingWalls()
	if len(walls) == 0 {
		return Reading{}, false
	}
	u := hold.UndercutOf(walls, s.Workpiece.Distance, along, travel)
	where := Place{by, u.At}
	if u.Depth == 0 {
		where.At = walls[0].At
	}
	// Under half a sample nothing is told from a wall's noise.
	return Reading{Value: u.Depth, Where: where, Uncertainty: s.Model.Surface.H / 2}, true
}

// PullOcclusal is how far the walls stand over the filling against a pull along the bur.
func (s *Subject) PullOcclusal() (Reading, bool) { return s.held(s.Cavity.Frame.W, "walls") }

// PullProximal is how far the tooth stands over the filling of a box against a pull towards
// the tooth beside.
func (b Box) PullProximal(s *Subject) (Reading, bool) {
	return s.held(b.outward(), "box, "+b.Side.String())
}

// Tipping is how far (mm) walls stand in the way of the filling as it turns about the
// gingival margin of a box, out towards the tooth beside, its furthest place by half a
// millimetre.
func (b Box) Tipping(s *Subject) (Reading, bool) {
	const moved = 0.5
	middle := b.middleOf(b.margin(cavity.GingivalFloor), 0.2)
	if len(middle) == 0 {
		return Reading{}, false
	}
	about := r3.Cross(b.Model.Table.W, b.outward())
	d, at := hold.TippingOf(s.FillingWalls(), middle[0].At, about, moved)
	return Reading{Value: d, Where: Place{"box, " + b.Side.String(), at}, Uncertainty: 0.01}, true
}
