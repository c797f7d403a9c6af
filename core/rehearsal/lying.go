package rehearsal

import (
	"cmp"
	"math"
	"slices"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/solid"
)

// lying are the axes of a bur that lies along the surfaces of some features: the ways that
// they face are told apart by apart degrees, those of most area first, and along each the
// bur points around. A handle does not point into the tooth.
func (s *Survey) lying(wanted func(feature uint16) bool) []r3.Vec {
	const mostFaces, around, apart = 6, 4, 20.0
	type face struct {
		out  r3.Vec
		area float64
	}
	var faces []face
	for n, label := range s.mesh.Labels {
		if !wanted(label) || !s.covered(n) {
			continue
		}
		out, area := s.mesh.Normal(n), s.mesh.Area(n)
		at := slices.IndexFunc(faces, func(f face) bool { return r3.Cos(f.out, out) > math.Cos(apart*math.Pi/180) })
		if at < 0 {
			faces = append(faces, face{out, area})
			continue
		}
		f := &faces[at] // its mean so far
		f.out = r3.Add(r3.Scale(f.area/(f.area+area), f.out), r3.Scale(area/(f.area+area), out))
		f.area += area
	}
	slices.SortStableFunc(faces, func(a, b face) int { return cmp.Compare(b.area, a.area) })
	var axes []r3.Vec
	for _, f := range faces[:min(mostFaces, len(faces))] {
		e1, e2 := solid.Across(r3.Unit(f.out))
		for n := range 2 * around {
			sin, cos := math.Sincos(math.Pi * float64(n) / around)
			if axis := r3.Add(r3.Scale(cos, e1), r3.Scale(sin, e2)); outOfTheTooth(axis) {
				axes = append(axes, axis)
			}
		}
	}
	return axes
}

// outOfTheTooth reports an axis along which a handle does not point into the tooth.
func outOfTheTooth(axis r3.Vec) bool { return axis.Z > 0.02 }
