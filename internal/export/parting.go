package export

import (
	"slices"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/anatomy"
	"obturon/core/cavity"
	"obturon/core/solid"
)

// rootOnly (mm of height) is what no enamel reaches below.
const rootOnly = -0.5

// parted divides triangles where what a dentist sees changes within them: at the
// cervical line, where a cut passes from enamel into dentin, and where a bevel runs
// out.
func parted(on cutTooth, m *solid.Mesh) *solid.Mesh {
	high := func(n int) bool { return m.Centroid(n).Z > rootOnly }
	m = m.SplitWhere(tissueBorder(on.model, true), func(n int) bool { return m.Labels[n] == 0 && high(n) })
	m = m.SplitWhere(tissueBorder(on.model, false), func(n int) bool { return m.Labels[n] != 0 })
	if on.cut.Tool == nil {
		return m
	}
	return onRim(on, partBevels(on, m))
}

// tissueBorder is negative where a cut surface lies in dentin, and on the outside of the
// tooth on the root.
func tissueBorder(model *anatomy.Model, outside bool) func(r3.Vec) float64 {
	const under = 0.03 // mm: thinner enamel, at its end, is none to the eye
	dentin := model.Dentin()
	if !outside {
		return dentin.Distance
	}
	return func(p r3.Vec) float64 { return dentin.Distance(p) - under }
}

// partBevels ends bevels where they run out. The facets of a cut know only to their
// own size where a face that thins out to nothing has left the surface.
func partBevels(on cutTooth, m *solid.Mesh) *solid.Mesh {
	near := aroundBevels(m)
	if near == nil {
		return m
	}
	over := func(p r3.Vec) float64 { return on.cut.Tool.Distance(p) + on.model.Surface.Distance(p) }
	outer := func(label uint16) bool { return label == 0 || label&cavity.BevelFlag != 0 }
	touched := func(n int) bool {
		t := m.Triangles[n]
		return outer(m.Labels[n]) && near[t[0]] && near[t[1]] && near[t[2]]
	}
	split := m.SplitWhere(over, touched)
	split = &solid.Mesh{Vertices: split.Vertices, Triangles: split.Triangles, Labels: slices.Clone(split.Labels)}
	count := int32(len(near))
	for n, t := range split.Triangles {
		label := split.Labels[n]
		if !outer(label) {
			continue
		}
		inside := true // new places lie between old ones
		for _, v := range t {
			inside = inside && (v >= count || near[v])
		}
		if !inside {
			continue
		}
		at := split.Centroid(n)
		switch uncut := over(at) > 0; {
		case uncut:
			split.Labels[n] = 0
		case label == 0:
			split.Labels[n] = on.cut.Tool.Feature(at)
		}
	}
	return split
}

// aroundBevels marks the vertices near the border between a bevel and the outer
// surface; nil where there is no bevel.
func aroundBevels(m *solid.Mesh) []bool {
	const rings = 4
	const bevelled, outside = 1, 2
	touches := make([]uint8, len(m.Vertices))
	any := false
	for n, t := range m.Triangles {
		side := uint8(0)
		switch label := m.Labels[n]; {
		case label == 0:
			side = outside
		case label&cavity.BevelFlag != 0:
			side, any = bevelled, true
		}
		for _, v := range t {
			touches[v] |= side
		}
	}
	if !any {
		return nil
	}
	near := make([]bool, len(m.Vertices))
	for v, sides := range touches {
		near[v] = sides == bevelled|outside
	}
	for range rings {
		grown := slices.Clone(near)
		for _, t := range m.Triangles {
			if near[t[0]] || near[t[1]] || near[t[2]] {
				grown[t[0]], grown[t[1]], grown[t[2]] = true, true, true
			}
		}
		near = grown
	}
	return near
}
