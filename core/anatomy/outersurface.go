package anatomy

import (
	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/parallel"
	"obturon/core/solid"
)

// OuterSurface tells for any place in and close around a tooth how deep it lies under
// the outer surface and which place of the surface is over it. Surface knows
// this in a thin band only.
type OuterSurface struct{ distance *solid.Dense }

// outerSurfaceStep (mm) is the spacing of its samples: a distance is straight
// away from its surface, so that reading between them is exact but for the
// surface's own curvature.
const outerSurfaceStep = 0.2

// OuterSurface of the tooth, made when first asked for.
func (m *Model) OuterSurface() *OuterSurface { return m.views.outer() }

func (m *Model) newOuterSurface() *OuterSurface {
	mesh := m.Surface.Uncut().Mesh()
	normals := make([]r3.Vec, len(mesh.Vertices))
	parallel.Each(len(normals), func(n int) { normals[n] = r3.Unit(m.Surface.Gradient(mesh.Vertices[n])) })
	low := m.Surface.Point(0, 0, 0)
	high := m.Surface.Point(m.Surface.N[0]-1, m.Surface.N[1]-1, m.Surface.N[2]-1)
	return &OuterSurface{
		solid.DistanceToSurface(
			solid.NewGrid(solid.Box{Min: low, Max: high}, outerSurfaceStep),
			mesh.Vertices,
			normals,
			func(p r3.Vec) bool { return m.Surface.Distance(p) < 0 },
		),
	}
}

// Depth under the outer surface, mm; negative outside the tooth.
func (s *OuterSurface) Depth(p r3.Vec) float64 { return -s.distance.Distance(p) }

// Over is the place of the surface nearest p, the surface's outward normal
// there, and p's depth under it (mm).
func (s *OuterSurface) Over(p r3.Vec) (foot, normal r3.Vec, depth float64) {
	depth = s.Depth(p)
	normal = s.distance.Gradient(p)
	if length := r3.Norm(normal); length > 1e-9 {
		normal = r3.Scale(1/length, normal)
	}
	return r3.Add(p, r3.Scale(depth, normal)), normal, depth
}

// OnItsSurface reports a place of the surface, with its normal there, that belongs to
// the surface that a frame stands on: others may lie under the same places of it.
func (f Frame) OnItsSurface(foot, normal r3.Vec) bool {
	const faces, behind = 0.1, 2.2 // cosine to the frame's axis; mm that a surface curves away at the most
	return r3.Dot(normal, f.W) > faces && r3.Dot(r3.Sub(foot, f.Origin), f.W) > -behind
}
