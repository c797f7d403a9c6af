package anatomy

import (
	"math"
	"testing"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/solid"
)

// TestPulpsAreSmoothBodies holds every edge of the pulp to a radius of 0.2 mm or more,
// but for the tips of its horns.
func TestPulpsAreSmoothBodies(t *testing.T) {
	const (
		sharpest = 0.2 // mm
		tips     = 0.7 // mm about a horn's tip
		blade    = 1.2 // the same where a flat anterior pulp ends between its horns
		step     = 0.08
		h        = 1e-3
	)
	for id, m := range averages() {
		field := m.PulpShape
		normal := func(p r3.Vec) r3.Vec {
			return r3.Unit(r3.Vec{
				X: field(r3.Add(p, r3.Vec{X: h})) - field(r3.Sub(p, r3.Vec{X: h})),
				Y: field(r3.Add(p, r3.Vec{Y: h})) - field(r3.Sub(p, r3.Vec{Y: h})),
				Z: field(r3.Add(p, r3.Vec{Z: h})) - field(r3.Sub(p, r3.Vec{Z: h})),
			})
		}
		onto := func(p r3.Vec) r3.Vec {
			for range 5 {
				p = r3.Sub(p, r3.Scale(0.8*field(p), normal(p)))
			}
			return p
		}
		mesh := solid.NewBlank(solid.NewGrid(m.shape.bounds(), 0.3), field).Uncut().Mesh()
		worst, where := math.Inf(1), r3.Vec{}
		for _, at := range mesh.Vertices {
			reach := tips
			if m.Tooth.Anterior() {
				reach = blade
			}
			if nearTip(m, at, reach) || at.Z < rootStub+0.5 {
				continue
			}
			at = onto(at)
			n := normal(at)
			across := r3.Unit(r3.Cross(n, r3.Vec{X: 0.3, Y: 0.5, Z: 0.8}))
			for _, way := range []r3.Vec{across, r3.Cross(n, across), r3.Unit(r3.Add(across, r3.Cross(n, across)))} {
				beside := onto(r3.Add(at, r3.Scale(step, way)))
				turn := math.Acos(math.Min(1, r3.Dot(n, normal(beside))))
				if radius := r3.Norm(r3.Sub(beside, at)) / math.Max(turn, 1e-9); radius < worst {
					worst, where = radius, at
				}
			}
		}
		if worst < sharpest {
			t.Errorf("%s: an edge of radius %.2f at %.1f", id, worst, where)
		}
	}
}

func nearTip(m *Model, at r3.Vec, reach float64) bool {
	for _, h := range m.Horns {
		if r3.Norm(r3.Sub(at, h.At)) < reach {
			return true
		}
	}
	return false
}

// TestYoungMolarsHaveHorns holds the horns of a molar to 0.8 mm over the lowest point
// of the roof between them at 18 years.
func TestYoungMolarsHaveHorns(t *testing.T) {
	for id, m := range averages() {
		if !m.Tooth.Molar() || m.Tooth.Primary() {
			continue
		}
		young, err := m.WithAge(18)
		if err != nil {
			t.Fatal(err)
		}
		var middle r3.Vec
		for _, h := range young.Horns {
			middle = r3.Add(middle, r3.Scale(1/float64(len(young.Horns)), h.At))
		}
		lowest := math.Inf(1)
		for x := -0.6; x <= 0.6; x += 0.2 {
			for y := -0.6; y <= 0.6; y += 0.2 {
				from := r3.Add(middle, r3.Vec{X: x, Y: y})
				from.Z = 5
				if down, ok := solid.RootAlong(young.PulpShape, from, r3.Vec{Z: -1}, 0, 7, 0.05); ok {
					lowest = math.Min(lowest, 5-down)
				}
			}
		}
		for _, h := range young.Horns {
			if rise := h.At.Z - lowest; rise < 0.8 {
				t.Errorf("%s: the %s horn rises %.2f mm over the roof", id, h.Name, rise)
			}
			if d := math.Abs(young.PulpShape(h.At)); d > 0.05 {
				t.Errorf("%s: the %s horn's tip lies %.2f mm off the pulp", id, h.Name, d)
			}
		}
	}
}
