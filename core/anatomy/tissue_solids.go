package anatomy

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/solid"
)

// Solids of the inner tissues, for the screen: coarser than the outer surface,
// since they are smooth.
const (
	dentinMeshStep = 0.25 // mm
	pulpMeshStep   = 0.2
	// underSurface (mm) keeps the dentin's solid off the root's surface, where
	// the two would show through each other.
	underSurface = 0.03
	// pulpWall (mm) of dentin is left around the canals in thin root stubs.
	pulpWall = 0.15
)

// DentinSolid is dentin with the pulp in it.
func (m *Model) DentinSolid() *solid.Mesh {
	dentin := m.Dentin()
	b := m.shape.bounds()
	return solid.NewBlank(solid.NewGrid(b, dentinMeshStep), func(p r3.Vec) float64 {
		return dentin.Distance(p) + underSurface
	}).Uncut().Mesh()
}

// PulpSolid is the pulp down to the cut ends of the root stubs.
func (m *Model) PulpSolid() *solid.Mesh {
	b := m.shape.bounds()
	return solid.NewBlank(solid.NewGrid(b, pulpMeshStep), func(p r3.Vec) float64 {
		inside := math.Max(m.chamber.field(p), rootStub+underSurface-p.Z)
		if p.Z > -2 {
			return inside
		}
		return math.Max(inside, m.Surface.Distance(p)+pulpWall)
	}).Uncut().Mesh()
}
