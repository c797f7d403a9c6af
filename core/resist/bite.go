package resist

import (
	"fmt"
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/anatomy"
	"obturon/core/solid"
)

// Bite is a load as of something hard between the cusps: square to the inner incline of each
// cusp that stands, so that all of them together bear so much along the tooth.
type Bite struct {
	Newtons float64
	// DownTheIncline (mm) is how far from the tip it is borne, measured across the tooth.
	DownTheIncline float64
	// Doubled tells that the load is twice the usual one, for a patient who grinds.
	Doubled bool
}

// UsualBite is what is chewed with at most by most, and twice that of who clenches or grinds
// (operative dentistry convention).
func UsualBite(grinds bool) Bite {
	b := Bite{Newtons: 200, DownTheIncline: 0.7}
	if grinds {
		b.Newtons, b.Doubled = 2*b.Newtons, true
	}
	return b
}

// Check names a figure that cannot be.
func (b Bite) Check() error {
	if !(b.Newtons >= 1 && b.Newtons <= 1000) {
		return fmt.Errorf("the load is %g N: give one from 1 to 1000", b.Newtons)
	}
	if !(b.DownTheIncline >= 0 && b.DownTheIncline <= 2) {
		return fmt.Errorf("the load lies %g mm from the tip: give 0 to 2", b.DownTheIncline)
	}
	return nil
}

// Borne is the part of a load that one cusp bears.
type Borne struct {
	Cusp  anatomy.Named
	At    r3.Vec
	Force r3.Vec // N
}

// on places a bite on the cusps of which the cut tooth keeps the incline: nearer to the tip
// where it is cut away.
func (b Bite) on(m *anatomy.Model, cut *solid.Workpiece) []Borne {
	const step, under = 0.1, 0.3 // mm; how thick the tooth must be there
	var all []Borne
	for _, cusp := range m.CuspTips {
		inward := r3.Vec{Y: -math.Copysign(1, cusp.At.Y)}
		for down := b.DownTheIncline; down >= 0; down -= step {
			p := r3.Add(cusp.At, r3.Scale(down, inward))
			at, ok := m.SurfaceAbove(p.X, p.Y)
			if !ok {
				continue
			}
			normal := r3.Unit(m.Surface.Gradient(at))
			if normal.Z < 0.2 || cut.Distance(r3.Sub(at, r3.Scale(under, normal))) > -0.05 {
				continue
			}
			all = append(all, Borne{cusp, at, r3.Scale(-1, normal)})
			break
		}
	}
	along := 0.0
	for _, l := range all {
		along -= l.Force.Z
	}
	for n := range all {
		all[n].Force = r3.Scale(b.Newtons/along, all[n].Force)
	}
	return all
}
