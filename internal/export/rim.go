package export

import (
	"slices"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/solid"
)

// onRim moves the corners along the rim of a cavity onto the rim itself, where the
// cut meets the outer surface: the mesh knows it only to a part of its cells, which
// shows as teeth. A corner that finds no rim nearby stays where it is.
func onRim(on cutTooth, m *solid.Mesh) *solid.Mesh {
	const (
		cut, outside = 1, 2
		reach        = 0.35 // mm, most of a cell of the coarse mesh
	)
	touches := make([]uint8, len(m.Vertices))
	for n, t := range m.Triangles {
		side := uint8(cut)
		if m.Labels[n] == 0 {
			side = outside
		}
		for _, v := range t {
			touches[v] |= side
		}
	}
	moved := &solid.Mesh{Vertices: slices.Clone(m.Vertices), Triangles: m.Triangles, Labels: m.Labels}
	for v, sides := range touches {
		if sides != cut|outside {
			continue
		}
		if p, ok := meeting(on.model.Surface.Distance, on.cut.Tool.Distance, m.Vertices[v], reach); ok {
			moved.Vertices[v] = p
		}
	}
	return moved
}

// meeting is the place nearest to p, at most reach (mm) away, where two fields are zero.
func meeting(a, b func(r3.Vec) float64, p r3.Vec, reach float64) (r3.Vec, bool) {
	const rounds, close, least = 6, 0.002, 0.05 // mm, sine of the angle between them
	at := p
	for range rounds {
		fa, fb := a(at), b(at)
		if max(fa, -fa) < close && max(fb, -fb) < close {
			return at, true
		}
		ga, gb := slope(a, at), slope(b, at)
		aa, bb, ab := r3.Norm2(ga), r3.Norm2(gb), r3.Dot(ga, gb)
		det := aa*bb - ab*ab
		if det < least*least*aa*bb || aa*bb == 0 {
			return p, false
		}
		// The shortest step to both tangent planes.
		at = r3.Sub(at, r3.Scale((bb*fa-ab*fb)/det, ga))
		at = r3.Sub(at, r3.Scale((aa*fb-ab*fa)/det, gb))
		if r3.Norm(r3.Sub(at, p)) > reach {
			return p, false
		}
	}
	return p, false
}

// slope is a field's gradient.
func slope(field func(r3.Vec) float64, at r3.Vec) r3.Vec {
	const d = 1e-3 // mm
	along := func(way r3.Vec) float64 { return (field(r3.Add(at, way)) - field(r3.Sub(at, way))) / (2 * d) }
	return r3.Vec{X: along(r3.Vec{X: d}), Y: along(r3.Vec{Y: d}), Z: along(r3.Vec{Z: d})}
}
