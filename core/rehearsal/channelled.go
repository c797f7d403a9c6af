package rehearsal

import (
	"math"

	"gonum.org/v1/gonum/mat"
	"gonum.org/v1/gonum/spatial/r3"
)

// channelled are the axes about which the channels of some features are turned, one for
// each patch of them: all sides of a channel, straight or tapered, stand at one angle to
// the bur that makes it, so that its axis is the way in which their normals vary least.
func (s *Survey) channelled(wanted func(feature uint16) bool) []r3.Vec {
	const least = 0.1 // mm² of a patch that tells its axis
	var axes []r3.Vec
	for _, patch := range s.mesh.Patches(func(n int) bool { return wanted(s.mesh.Labels[n]) && s.covered(n) }) {
		// What faces along the axis is the channel's end.
		axis, area := r3.Vec{Z: 1}, 0.0
		for range 3 {
			axis, area = s.turnedAbout(patch, axis)
		}
		if area > least && outOfTheTooth(axis) {
			axes = append(axes, axis)
		}
	}
	return axes
}

// turnedAbout is the axis of those facets that stand along it about as it is known, and
// their area in mm².
func (s *Survey) turnedAbout(patch []int, known r3.Vec) (axis r3.Vec, area float64) {
	const end = 0.5 // of a facet's normal along the axis
	var sides []int
	mean := r3.Vec{}
	for _, n := range patch {
		if math.Abs(r3.Dot(s.mesh.Normal(n), known)) < end {
			a := s.mesh.Area(n)
			sides, area, mean = append(sides, n), area+a, r3.Add(mean, r3.Scale(a, s.mesh.Normal(n)))
		}
	}
	if area == 0 {
		return known, 0
	}
	mean = r3.Scale(1/area, mean)
	spread := mat.NewSymDense(3, nil)
	for _, n := range sides {
		off := r3.Sub(s.mesh.Normal(n), mean)
		spread.SymRankOne(spread, s.mesh.Area(n), mat.NewVecDense(3, []float64{off.X, off.Y, off.Z}))
	}
	var eigen mat.EigenSym
	if !eigen.Factorize(spread, true) {
		return known, 0
	}
	var ways mat.Dense
	eigen.VectorsTo(&ways) // by rising eigenvalue
	axis = r3.Vec{X: ways.At(0, 0), Y: ways.At(1, 0), Z: ways.At(2, 0)}
	if axis.Z < 0 {
		axis = r3.Scale(-1, axis)
	}
	return axis, area
}
