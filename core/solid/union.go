package solid

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"
)

// Union joins tools into one that removes what any of them does. One tool is
// returned as it is.
func Union(tools []Tool) Tool {
	if len(tools) == 1 {
		return tools[0]
	}
	return &union{tools}
}

type union struct{ tools []Tool }

func (u *union) Distance(p r3.Vec) float64 {
	d, _ := u.nearest(p)
	return d
}

func (u *union) Feature(p r3.Vec) uint16 {
	_, t := u.nearest(p)
	return t.Feature(p)
}

// nearest is the tool whose surface is nearest p, or that holds p deepest. A tool
// counts within its bounds: beyond them its distance may mean nothing.
func (u *union) nearest(p r3.Vec) (d float64, t Tool) {
	d, t = math.Inf(1), u.tools[0]
	for _, other := range u.tools {
		b := other.Bounds()
		far := toBox(b, p)
		if far > 0 && far >= d {
			continue
		}
		here := other.Distance(p)
		if far > 0 {
			here = max(here, far)
		}
		if here < d {
			d, t = here, other
		}
	}
	return d, t
}

// toBox is how far p lies outside a box, 0 inside.
func toBox(b Box, p r3.Vec) float64 {
	return r3.Norm(r3.Vec{
		X: max(max(b.Min.X-p.X, p.X-b.Max.X), 0),
		Y: max(max(b.Min.Y-p.Y, p.Y-b.Max.Y), 0),
		Z: max(max(b.Min.Z-p.Z, p.Z-b.Max.Z), 0),
	})
}

func (u *union) Bounds() Box {
	b := u.tools[0].Bounds()
	for _, t := range u.tools[1:] {
		other := t.Bounds()
		b = Enclosing(b.Min, b.Max, other.Min, other.Max)
	}
	return b
}
