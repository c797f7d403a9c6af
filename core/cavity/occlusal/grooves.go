package occlusal

import (
	"fmt"
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/anatomy"
	"obturon/core/school"
)

// proximalSurface is where a line along U from an inner point leaves the tooth for good: it is
// followed from outside, since a fossa on its way is air as well.
func proximalSurface(m *anatomy.Model, from r3.Vec, sign float64) (float64, error) {
	const under, reach, step = 0.3, 8.0, 0.1 // mm; under the fissure, inside the tooth
	outside := r3.Vec{X: from.X + sign*reach, Y: from.Y, Z: from.Z - under}
	t, ok := m.Surface.RootAlong(m.Table.From(outside), r3.Scale(-sign, m.Table.U), 0, reach, step)
	if !ok {
		return 0, fmt.Errorf("no proximal surface beside the fissure at %.1f mm", from.X)
	}
	return outside.X - sign*t, nil
}

// sideGrooves are the fissured grooves that run to buccal or lingual.
func sideGrooves(m *anatomy.Model) []anatomy.GrooveLine {
	var side []anatomy.GrooveLine
	for _, g := range m.Grooves {
		if g.Extends() && len(g.Points) > 2 {
			side = append(side, g)
		}
	}
	return side
}

// extension is the proposed length into the grooves of a side, in mm.
func extension(r request, stretches []stretch, side string, isthmus float64) float64 {
	c, ok := r.School.For(school.OutlineGrooveExtension, r.Model.Tooth, r.Material)
	if !ok || !c.Required() {
		return 0
	}
	shortest := math.Inf(1)
	for _, s := range stretches {
		for _, g := range s.grooves {
			if g.Side() == side {
				shortest = math.Min(shortest, grooveLength(r.Model.Table, g)-isthmus/2)
			}
		}
	}
	if math.IsInf(shortest, 1) {
		return 0
	}
	if c.Basis == school.GrooveFraction {
		return c.Aim * shortest
	}
	return math.Min(c.Aim, shortest)
}

func grooveLength(table anatomy.Frame, g anatomy.GrooveLine) float64 {
	sum := 0.0
	for n := 1; n < len(g.Points); n++ {
		a, b := table.To(g.Points[n-1]), table.To(g.Points[n])
		sum += math.Hypot(b.X-a.X, b.Y-a.Y)
	}
	return sum
}
