package lesion

import (
	"errors"
	"fmt"
	"math"
	"sync"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/anatomy"
	"obturon/core/solid"
)

// incisalAngleExtent is how much of an incisal angle is lost by default, as shares
// of the crown's height and width. Dental traumatology grades a crown fracture by
// what it lays open: enamel alone, dentin, and dentin close to the pulp, which
// begins where about a third of the crown is gone.
type incisalAngleExtent struct{ height, width float64 }

var incisalAngleExtents = map[Depth]incisalAngleExtent{
	"outer_enamel":  {0.10, 0.14},
	"inner_enamel":  {0.16, 0.22},
	"outer_dentin":  {0.36, 0.46},
	"middle_dentin": {0.44, 0.56},
	"inner_dentin":  {0.50, 0.64},
}

// IncisalAngle is an incisal angle that has broken off: all of the tooth beyond a
// plane.
type IncisalAngle struct {
	Finding       Finding
	At, Normal    r3.Vec // of the fracture surface: a point, and the direction towards what is lost
	Height, Width float64
	sign          float64
	surface       func(r3.Vec) float64
	box           solid.Box
	pulp          *solid.Dense
	dentin        *solid.Dense
	volume        func() float64
}

// ErrOffTooth means that a finding's sizes reach past the tooth.
var ErrOffTooth = errors.New("the finding reaches past this tooth: check its sizes")

// NewIncisalAngle breaks an incisal angle off: Height (mm) is lost along the
// proximal surface, Width along the incisal edge. It fails with ErrOffTooth for
// sizes past the tooth, and for a finding that is no broken incisal angle.
func NewIncisalAngle(m *anatomy.Model, f Finding) (*IncisalAngle, error) {
	e, ok := incisalAngleExtents[f.Depth]
	if !ok {
		return nil, fmt.Errorf("lesion depth %q is unknown", f.Depth)
	}
	if !f.OnIncisalAngle() {
		return nil, fmt.Errorf("%s at %s is no broken incisal angle", f.Kind, f.Site)
	}
	c := &IncisalAngle{
		Finding: f,
		Height:  e.height * m.Sizes.Height,
		Width:   e.width * m.Sizes.Mesiodistal,
		sign:    1,
		pulp:    m.Pulp(),
		dentin:  m.Dentin(),
		surface: m.Surface.Distance,
	}
	if f.Site == DistalIncisalAngle {
		c.sign = -1
	}
	if f.Height > 0 {
		c.Height = f.Height
	}
	if f.Width > 0 {
		c.Width = f.Width
	}
	reach, top := m.IncisalAngle(c.sign)
	edge := m.EdgeAt(reach - c.sign*c.Width)
	onEdge := r3.Vec{X: edge.X, Z: edge.Z}
	// Near the edge the crown is thin, and lies beside its own middle.
	beside, ok := m.OnProximal(c.sign, 0, top-c.Height)
	for _, y := range []float64{edge.Y / 2, edge.Y} {
		if other, hit := m.OnProximal(c.sign, y, top-c.Height); hit && (!ok || c.sign*other.X > c.sign*beside.X) {
			beside, ok = other, true
		}
	}
	if !ok {
		return nil, fmt.Errorf("%.1f mm of the incisal angle: %w", c.Height, ErrOffTooth)
	}
	along := r3.Unit(r3.Sub(r3.Vec{X: beside.X, Z: beside.Z}, onEdge))
	c.At = r3.Scale(0.5, r3.Add(onEdge, r3.Vec{X: beside.X, Z: beside.Z}))
	c.At.Y = middleOf(m, c.At)
	c.Normal = r3.Vec{X: -along.Z * c.sign, Z: along.X * c.sign}
	if c.Normal.X*c.sign < 0 {
		c.Normal = r3.Scale(-1, c.Normal)
	}
	half := m.Sizes.Buccolingual
	c.box = solid.Enclosing(
		r3.Vec{X: onEdge.X, Y: -half, Z: beside.Z},
		r3.Vec{X: reach + c.sign*0.5, Y: half, Z: math.Max(top, onEdge.Z) + 0.6},
	)
	c.volume = sync.OnceValue(func() float64 { return sampleVolume(c) })
	return c, nil
}

// Found is the finding that it stands for: tooth lost, not diseased.
func (c *IncisalAngle) Found() Finding { return c.Finding }

// Beyond is how far (mm) a place lies past the fracture surface, where tooth is lost.
func (c *IncisalAngle) Beyond(p r3.Vec) float64 { return r3.Dot(r3.Sub(p, c.At), c.Normal) }

// Distance is negative in what has broken off.
func (c *IncisalAngle) Distance(p r3.Vec) float64 { return math.Max(-c.Beyond(p), c.surface(p)) }

// Feature is always 1: a lesion has one surface.
func (c *IncisalAngle) Feature(r3.Vec) uint16 { return 1 }

// Bounds holds what has broken off.
func (c *IncisalAngle) Bounds() solid.Box { return c.box }

// IntoDentin is how deep (mm) the fracture surface runs into dentin, negative where
// it stays in enamel.
func (c *IncisalAngle) IntoDentin() float64 { return -c.least(c.dentin) }

// TakesGroove reports that so much dentin is laid open that a retention groove lies
// inside the junction all along.
func (c *IncisalAngle) TakesGroove() bool {
	const room = 0.6 // mm: a quarter round, and dentin to both sides of it
	return c.IntoDentin() > room
}

// ToPulp is the least distance (mm) from the fracture surface to the pulp.
func (c *IncisalAngle) ToPulp() float64 { return c.least(c.pulp) }

// least is the least a field takes over the fracture surface.
func (c *IncisalAngle) least(field *solid.Dense) float64 {
	const step = 0.15 // mm
	along := r3.Vec{X: c.Normal.Z, Z: -c.Normal.X}
	far := math.Hypot(c.Height, c.Width)/2 + 0.5
	least := math.Inf(1)
	for s := -far; s <= far; s += step {
		for y := -far; y <= far; y += step {
			p := r3.Add(c.At, r3.Add(r3.Scale(s, along), r3.Vec{Y: y}))
			if c.surface(p) < 0 {
				least = math.Min(least, field.Distance(p))
			}
		}
	}
	return least
}

// Volume of what has broken off, mm³.
func (c *IncisalAngle) Volume() float64 { return c.volume() }

// Middle is a place in the middle of the fracture surface.
func (c *IncisalAngle) Middle() r3.Vec { return c.At }

// middleOf is half-way between the facial and the lingual surface at p.
func middleOf(m *anatomy.Model, p r3.Vec) float64 {
	facial, ok := m.OnSide(1, p.X, p.Z)
	lingual, also := m.OnSide(-1, p.X, p.Z)
	if !ok || !also {
		return p.Y
	}
	return (facial.Y + lingual.Y) / 2
}
