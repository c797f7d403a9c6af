package measure

import (
	"cmp"
	"math"
	"slices"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/anatomy"
	"obturon/core/cavity"
	"obturon/core/parallel"
	"obturon/core/solid"
)

// Bevel is what a finished margin measures, over the part of the margin that
// where accepts by its outward normal.
type Bevel struct {
	Width Reading // mm along its face
	Wall  r3.Vec  // where the face read for the width meets the wall
	Angle Reading // degrees to the outer surface
	// Edge is the thickness (mm) of the filling edgeFrom inside the margin.
	Edge Reading
}

// edgeFrom (mm) is where the thickness of a filling's edge is felt.
const edgeFrom = 0.25

// FacialMargin and LingualMargin accept the margin on the face of that name.
func FacialMargin(_, outer r3.Vec) bool  { return outer.Y > ownFace }
func LingualMargin(_, outer r3.Vec) bool { return outer.Y < -ownFace }

// ownFace is the share of the way to facial or lingual that a margin looks to be
// one of that face.
const ownFace = 0.4

// FinishedMargin measures the bevel along the margin of a cavity: each figure is
// the median over it. ok is false where nothing is bevelled.
func (p *Prepared) FinishedMargin(where func(at, outer r3.Vec) bool) (b Bevel, ok bool) {
	outer, inner := p.bevelEdges()
	if len(outer) == 0 || len(inner) == 0 {
		return b, false
	}
	type felt struct {
		at, wall           r3.Vec
		width, angle, edge float64
	}
	widths := make([]felt, len(outer))
	parallel.Each(len(outer), func(n int) {
		at := outer[n]
		normal := r3.Unit(p.Model.Surface.Gradient(at))
		if !where(at, normal) {
			return
		}
		width, to := math.Inf(1), r3.Vec{}
		for _, q := range inner {
			if d := r3.Norm2(r3.Sub(q, at)); d < width {
				width, to = d, q
			}
		}
		width = math.Sqrt(width)
		if width < edgeFrom/4 {
			return
		}
		in := r3.Sub(to, at)
		in = r3.Sub(in, r3.Scale(r3.Dot(in, normal), normal))
		onSurface := r3.Norm(in)
		if onSurface < 1e-3 { // as steep as the surface is square to it
			return
		}
		in = r3.Scale(1/onSurface, in)
		depth := func(aside float64) float64 { return p.depthBeside(at, normal, in, aside) }
		f := felt{at: at, wall: to, width: width, edge: depth(math.Min(edgeFrom, onSurface/2))}
		// The angle is that of the face's middle part, clear of both edges.
		const from, upTo = 0.3, 0.75
		f.angle = degrees(math.Atan2(depth(onSurface*upTo)-depth(onSurface*from), onSurface*(upTo-from)))
		widths[n] = f
	})
	widths = slices.DeleteFunc(widths, func(f felt) bool { return f.width == 0 })
	if len(widths) == 0 {
		return b, false
	}
	middle := func(name string, uncertainty float64, of func(felt) float64) Reading {
		slices.SortFunc(widths, func(a, b felt) int { return cmp.Compare(of(a), of(b)) })
		m := widths[len(widths)/2]
		return Reading{Value: of(m), Where: Place{name, m.at}, Uncertainty: uncertainty}
	}
	b.Width = middle("bevel", 0.5*p.Model.Surface.H, func(f felt) float64 { return f.width })
	b.Wall = widths[len(widths)/2].wall
	b.Angle = middle("bevel", 3, func(f felt) float64 { return f.angle })
	b.Edge = middle("edge of the bevel", 0.02, func(f felt) float64 { return f.edge })
	return b, true
}

// depthBeside is how deep (mm) the tooth is cut so far aside of a margin point,
// square to the uncut surface there.
func (p *Prepared) depthBeside(at, normal, in r3.Vec, aside float64) float64 {
	const above, reach, step = 0.6, 2.4, 0.05 // mm
	from := r3.Add(at, r3.Add(r3.Scale(aside, in), r3.Scale(above, normal)))
	down := r3.Scale(-1, normal)
	uncut, ok := p.Model.Surface.RootAlong(from, down, 0, reach, step)
	cut, also := solid.RootAlong(p.Workpiece.Distance, from, down, 0, reach, step)
	if !ok || !also {
		return 0
	}
	return math.Max(cut-uncut, 0)
}

// bevelEdges are the places where bevels end: at the uncut surface, and at the
// walls.
func (p *Prepared) bevelEdges() (outer, inner []r3.Vec) {
	m := p.Mesh
	const bevel, uncut, wall = 1, 2, 4
	touches := make([]uint8, len(m.Vertices))
	for n, t := range m.Triangles {
		kind := uint8(wall)
		switch {
		case m.Labels[n] == 0:
			kind = uncut
		case m.Labels[n]&cavity.BevelFlag != 0:
			kind = bevel
		}
		for _, v := range t {
			touches[v] |= kind
		}
	}
	for v, kinds := range touches {
		switch kinds {
		case bevel | uncut:
			outer = append(outer, m.Vertices[v])
		case bevel | wall:
			inner = append(inner, m.Vertices[v])
		}
	}
	return outer, inner
}

// Bonded is the area (mm²) that a filling would bond to.
type Bonded struct{ Enamel, Dentin float64 }

// Bonded sums the cut surface by tissue.
func (p *Prepared) Bonded() Bonded {
	var b Bonded
	dentin := p.Model.Dentin()
	for n, label := range p.Mesh.Labels {
		if label == 0 {
			continue
		}
		if dentin.Distance(p.Mesh.Centroid(n)) > 0 {
			b.Enamel += p.Mesh.Area(n)
		} else {
			b.Dentin += p.Mesh.Area(n)
		}
	}
	return b
}

// MarginSeen is how long (mm) the margin is, and how much of it shows from the
// front: faces there, with neither this tooth nor one beside it in the way.
func (p *Prepared) MarginSeen(beside ...*anatomy.Neighbour) (length, seen float64) {
	front := r3.Vec{Y: 1}
	const faces, reach, step, off = 0.12, 9.0, 0.25, 0.12 // of the way to the front; mm
	for _, loop := range p.Margin.loops {
		n := len(loop.points)
		for k, m := range loop.points {
			next := loop.points[(k+1)%n]
			part := r3.Norm(r3.Sub(next.At, m.At))
			length += part
			if r3.Dot(m.Outer, front) < faces {
				continue
			}
			from := r3.Add(m.At, r3.Scale(off, m.Outer))
			if _, hidden := p.Model.Surface.RootAlong(from, front, 0, reach, step); hidden {
				continue
			}
			covered := false
			for _, other := range beside {
				if other == nil {
					continue
				}
				if _, hit := other.ClearanceAlong(from, front, reach); hit {
					covered = true
				}
			}
			if !covered {
				seen += part
			}
		}
	}
	return length, seen
}

// RootBevel is how wide (mm) a bevel is where the margin lies on the root, 0
// where it has none there; ok is false where no margin lies on the root.
func (p *Prepared) RootBevel() (r Reading, ok bool) {
	const bare = 0.05 // mm of enamel under which a place is root
	dentin := p.Model.Dentin()
	onRoot := func(at, _ r3.Vec) bool { return dentin.Distance(at) < bare }
	for _, m := range p.Margin.Points {
		if onRoot(m.At, m.Outer) {
			r.Where, ok = Place{"margin on the root", m.At}, true
			break
		}
	}
	if !ok {
		return r, false
	}
	if b, bevelled := p.FinishedMargin(onRoot); bevelled {
		r = b.Width
	}
	return r, true
}
