package anatomy

import (
	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/solid"
)

// IntoDentin is how far (mm) a place lies within dentin, or the pulp in it: from the
// dentino-enamel junction, or the root's surface; negative outside. Dentin is a distance near
// its border only; this one is known all through a crown.
func (m *Model) IntoDentin(p r3.Vec) float64 {
	const near = 0.3 // mm within which the border itself is told
	d := m.Dentin().Distance(p)
	if d > -near {
		return -d
	}
	return max(m.views.fromJunction().Distance(p), near)
}

// sampleFromJunction samples the distance to the border of the dentin, down to where lesions end.
func (m *Model) sampleFromJunction() *solid.Dense {
	const apart, deepest = 0.2, -5.0 // mm between samples; under the cervical line
	dentin := m.Dentin()
	room := dentin.Room()
	border := solid.NewBlank(solid.NewGrid(room, apart), dentin.Distance).Uncut().Mesh()
	room.Min.Z = max(room.Min.Z, deepest)
	return solid.DistanceToPoints(solid.NewGrid(room, apart), border.Vertices)
}
