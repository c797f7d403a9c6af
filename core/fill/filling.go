package fill

import (
	"math"
	"slices"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/solid"
)

// Filling is what closes a cavity up to the tooth's original surface. Its parts stand by
// themselves.
type Filling struct {
	solid *solid.Workpiece
	// Axis is where the light, the carrier and the bur come from: a unit vector out of the
	// tooth.
	Axis  r3.Vec
	Parts []*Part
}

// Part is one closed piece of a filling.
type Part struct {
	filling *Filling
	Mesh    *solid.Mesh // labelled by the cavity's features; 0 is the tooth's original surface
	Volume  float64     // mm³
	Bonded  float64     // mm² of cavity walls
	Free    float64     // mm² of original surface, a matrix's side with it
	// Bottom and Top are its lowest and highest place along the axis, mm.
	Bottom, Top float64
	// Floors are the heights of what it rests on between, ascending.
	Floors []float64
}

// A piece that encloses less, or is thinner on the average, is where the bur's surface
// grazes the tooth's: nobody fills it.
const (
	crumb = 0.02 // mm³
	film  = 0.02 // mm
)

// New fills what a tool takes from a blank.
func New(blank *solid.Blank, tool solid.Tool, axis r3.Vec) *Filling {
	f := &Filling{solid: blank.Uncut().Clip(tool), Axis: r3.Unit(axis)}
	whole, _, _ := f.solid.Mesh().WithoutCrumbs(crumb, film)
	for _, piece := range pieces(whole) {
		f.Parts = append(f.Parts, f.part(piece))
	}
	slices.SortStableFunc(f.Parts, func(a, b *Part) int { return int(math.Copysign(1, b.Volume-a.Volume)) })
	return f
}

// pieces are the closed pieces of a mesh.
func pieces(m *solid.Mesh) []*solid.Mesh {
	var all []*solid.Mesh
	for _, patch := range m.Patches(func(int) bool { return true }) {
		piece := &solid.Mesh{Vertices: m.Vertices}
		for _, n := range patch {
			piece.Triangles, piece.Labels = append(piece.Triangles, m.Triangles[n]), append(piece.Labels, m.Labels[n])
		}
		all = append(all, piece)
	}
	return all
}

// Distance (mm) is negative within the filling that the part belongs to.
func (p *Part) Distance(q r3.Vec) float64 { return p.filling.solid.Distance(q) }

func (f *Filling) part(m *solid.Mesh) *Part {
	p := &Part{filling: f, Mesh: m, Volume: m.Volume()}
	for n, label := range m.Labels {
		if label == 0 {
			p.Free += m.Area(n)
		} else {
			p.Bonded += m.Area(n)
		}
	}
	p.Bottom, p.Top = extent(m, f.Axis)
	p.Floors = floors(m, f.Axis)
	return p
}

// extent is from where to where a mesh reaches along a unit vector, mm.
func extent(m *solid.Mesh, axis r3.Vec) (low, high float64) {
	low, high = math.Inf(1), math.Inf(-1)
	for _, t := range m.Triangles {
		for _, v := range t {
			h := r3.Dot(m.Vertices[v], axis)
			low, high = math.Min(low, h), math.Max(high, h)
		}
	}
	return low, high
}

// bounds is the box about a mesh's triangles.
func bounds(m *solid.Mesh) solid.Box {
	var corners []r3.Vec
	for _, t := range m.Triangles {
		for _, v := range t {
			corners = append(corners, m.Vertices[v])
		}
	}
	return solid.Enclosing(corners...)
}
