package resist

import (
	"errors"
	"fmt"
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/anatomy"
	"obturon/core/solid"
)

// Place is on what a load presses.
type Place string

// The places of a load.
const (
	// Between is something hard between the cusps, square to the inner incline of each: what
	// parts them most.
	Between Place = "between_cusps"
	// Contacts are the contacts marked before isolation, square to the surface at each.
	Contacts Place = "contacts"
	// Plane is a flat antagonist: it meets the tips that reach it, square to itself.
	Plane Place = "antagonist"
)

// Bite is a load on a tooth.
type Bite struct {
	Newtons float64 // along the tooth, all places together, before it is slanted
	Place   Place
	// DownTheIncline (mm) is how far from the tip it is borne between the cusps, measured
	// across the tooth.
	DownTheIncline float64
	// Slant (degrees) turns it, outwards positive.
	Slant float64
	// Marked are the contacts, towards mesial and facial from the middle of the table.
	Marked []solid.Point2
	// Bearing (mm) is along how much tooth a section's share of it is reckoned.
	Bearing float64
	// Grinding is by how much it exceeds the usual load for a patient who grinds; 0 for one who
	// does not, and for a load that was asked for.
	Grinding float64
}

// Bite is what is chewed with at most by most, and more of who clenches or grinds: at the
// marked contacts where there are any, else between the cusps.
func (a Assumed) Bite(grinds bool, marked []solid.Point2) Bite {
	b := Bite{Newtons: a.Newtons, Place: Between, DownTheIncline: 0.7, Marked: marked, Bearing: a.Bearing}
	if len(marked) > 0 {
		b.Place = Contacts
	}
	if grinds {
		b.Newtons, b.Grinding = b.Newtons*a.Grinding, a.Grinding
	}
	return b
}

// The places and directions that a load may have: past them it is none of a bite.
const (
	MostDown  = 2  // mm from the tip of a cusp, down its incline
	MostSlant = 45 // degrees off the incline's own square
)

// Check names a figure that cannot be.
func (b Bite) Check() error {
	if !(b.Newtons >= 1 && b.Newtons <= 1000) {
		return fmt.Errorf("the load is %g N: give one from 1 to 1000", b.Newtons)
	}
	if !(b.DownTheIncline >= 0 && b.DownTheIncline <= MostDown) {
		return fmt.Errorf("the load lies %g mm from the tip: give 0 to %d", b.DownTheIncline, MostDown)
	}
	if !(math.Abs(b.Slant) <= MostSlant) {
		return fmt.Errorf("the load slants by %g degrees: give -%d (inwards) to %d (outwards)", b.Slant, MostSlant, MostSlant)
	}
	if b.Place == Contacts && len(b.Marked) == 0 {
		return errors.New("no contacts are marked: mark some on the tooth, or place the load between the cusps")
	}
	switch b.Place {
	case Between, Contacts, Plane:
		return nil
	}
	return fmt.Errorf("%q is no place of a load: give %s, %s or %s", b.Place, Between, Contacts, Plane)
}

// Borne is the part of a load that one place of the tooth bears.
type Borne struct {
	At    r3.Vec
	Force r3.Vec  // N
	out   float64 // 1 where outwards is towards facial, -1 where towards lingual
}

// on places a bite on what a cut tooth keeps of its surface. missed is how many contacts lie
// where it keeps none: on the filling.
func (b Bite) on(m *anatomy.Model, cut *solid.Workpiece) (borne []Borne, missed int) {
	switch b.Place {
	case Contacts:
		for _, mark := range b.Marked {
			l, ok := atContact(m, cut, mark)
			if !ok {
				missed++
				continue
			}
			borne = append(borne, l)
		}
	case Plane:
		const near = 0.5 // mm under the plane: as far as a tip wears to it, and it tips to the tooth
		plane := m.AntagonistPlane()
		for _, cusp := range standing(m, cut) {
			if plane.To(cusp.At).Z > -near {
				borne = append(borne, Borne{cusp.At, r3.Scale(-1, plane.W), outOf(cusp)})
			}
		}
	default:
		for _, cusp := range standing(m, cut) {
			l, _ := onIncline(m, cut, cusp, b.DownTheIncline)
			borne = append(borne, l)
		}
	}
	along := 0.0
	for _, l := range borne {
		along -= l.Force.Z
	}
	for n, l := range borne {
		borne[n].Force = r3.Scale(b.Newtons/along, slanted(l.Force, l.out*b.Slant))
	}
	return borne, missed
}

// slanted is a force turned by degrees towards facial.
func slanted(force r3.Vec, degrees float64) r3.Vec {
	sin, cos := math.Sincos(degrees * math.Pi / 180)
	return r3.Vec{X: force.X, Y: cos*force.Y - sin*force.Z, Z: sin*force.Y + cos*force.Z}
}

// standing lists the cusps of which a cut tooth keeps the tip or the incline beside it.
func standing(m *anatomy.Model, cut *solid.Workpiece) (all []anatomy.Named) {
	const beside = 0.7 // mm
	for _, cusp := range m.CuspTips {
		if _, ok := onIncline(m, cut, cusp, beside); ok {
			all = append(all, cusp)
		}
	}
	return all
}

// onIncline is the load on a cusp's inner incline, so far (mm) from its tip, or nearer where
// the tooth is cut away there.
func onIncline(m *anatomy.Model, cut *solid.Workpiece, cusp anatomy.Named, down float64) (Borne, bool) {
	const step = 0.1 // mm
	for ; down > -step/2; down -= step {
		at, ok := m.SurfaceAbove(cusp.At.X, cusp.At.Y-outOf(cusp)*math.Max(down, 0))
		if !ok {
			continue
		}
		if l, ok := squareOn(m, cut, at); ok {
			l.out = outOf(cusp)
			return l, true
		}
	}
	return Borne{}, false
}

func outOf(cusp anatomy.Named) float64 { return math.Copysign(1, cusp.At.Y) }

// atContact is the load on a marked contact, seen along the bur; outwards is as for the
// nearest cusp.
func atContact(m *anatomy.Model, cut *solid.Workpiece, mark solid.Point2) (Borne, bool) {
	const above, reach = 4.0, 12.0 // mm over the table
	down := r3.Scale(-1, m.Table.W)
	from := m.Table.From(r3.Vec{X: mark.X, Y: mark.Y, Z: above})
	t, ok := m.Surface.RootAlong(from, down, 0, reach, 0.1)
	if !ok {
		return Borne{}, false
	}
	l, ok := squareOn(m, cut, r3.Add(from, r3.Scale(t, down)))
	nearest := math.Inf(1)
	for _, cusp := range m.CuspTips {
		if d := r3.Norm(r3.Sub(cusp.At, l.At)); d < nearest {
			nearest, l.out = d, outOf(cusp)
		}
	}
	return l, ok
}

// squareOn is a load of one on a place of the surface, where the cut tooth keeps it.
func squareOn(m *anatomy.Model, cut *solid.Workpiece, at r3.Vec) (Borne, bool) {
	const under = 0.3 // mm: how thick the tooth must be there
	normal := r3.Unit(m.Surface.Gradient(at))
	if normal.Z < 0.2 || cut.Distance(r3.Sub(at, r3.Scale(under, normal))) > -0.05 {
		return Borne{}, false
	}
	return Borne{At: at, Force: r3.Scale(-1, normal)}, true
}
