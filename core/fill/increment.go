package fill

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/solid"
)

// Increment is one portion of a filling, as a solid.
type Increment struct {
	Portion
	Mesh   *solid.Mesh
	Volume float64 // mm³
	// Bonded (mm²) are its faces on the cavity and on what was laid before, Free those on
	// the air and on a matrix.
	Bonded, Free float64
	// Thickest is the most that it measures along the light, mm.
	Thickest float64
	// Bottom and Top are its lowest and highest place along the axis, mm.
	Bottom, Top float64
	// Distance (mm) is negative within it.
	Distance func(p r3.Vec) float64
}

// Increments cut a part's surface along the borders of portions, so that they tile it however
// thin they run out; a portion that nothing is left for is left out.
func (p *Part) Increments(portions []Portion) []Increment {
	left := []piece{{mesh: p.Mesh}}
	var all []Increment
	for _, portion := range portions {
		var own, rest []piece
		for _, one := range left {
			inside, others := one.cut(portion)
			rest = append(rest, others...)
			if len(inside.mesh.Triangles) > 0 {
				own = append(own, inside)
			}
		}
		left = rest
		if len(own) == 0 {
			continue
		}
		meshes := make([]*solid.Mesh, len(own))
		for n := range own {
			meshes[n] = own[n].mesh
		}
		i := p.filling.increment(portion, solid.Joined(meshes...))
		i.Distance = func(q r3.Vec) float64 {
			d := math.Inf(1)
			for _, one := range own {
				d = math.Min(d, one.distance(q))
			}
			return math.Max(d, p.Distance(q))
		}
		all = append(all, i)
	}
	return all
}

// room is the box about a part, and so far beyond that no border of it is one of the part's.
func (p *Part) room() solid.Box {
	const beyond = 0.5 // mm
	room := bounds(p.Mesh)
	around := r3.Vec{X: beyond, Y: beyond, Z: beyond}
	return solid.Box{Min: r3.Sub(room.Min, around), Max: r3.Add(room.Max, around)}
}

func (f *Filling) increment(portion Portion, m *solid.Mesh) Increment {
	i := Increment{Portion: portion, Mesh: m, Volume: m.Volume(), Thickest: thickest(m, f.Axis)}
	i.Bottom, i.Top = extent(m, f.Axis)
	for n, label := range m.Labels {
		if label == 0 || label == Upon {
			i.Free += m.Area(n)
		} else {
			i.Bonded += m.Area(n)
		}
	}
	return i
}

// CFactor of the increment as it sets.
func (i Increment) CFactor() float64 { return CFactor(i.Bonded, i.Free) }

// Floating are the pieces of an increment that neither the cavity nor an earlier increment
// holds, by their volumes, mm³.
func (i Increment) Floating() []float64 {
	const least = 0.05 // mm² that hold a piece
	var all []float64
	whole, _, _ := i.Mesh.WithoutCrumbs(crumb, film)
	for _, piece := range pieces(whole) {
		held := 0.0
		for n, label := range piece.Labels {
			if label != 0 && label != Upon {
				held += piece.Area(n)
			}
		}
		if held < least {
			all = append(all, piece.Volume())
		}
	}
	return all
}
