package fill

import (
	"fmt"
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/anatomy"
	"obturon/core/measure"
	"obturon/core/notation"
)

// Proximal is what a filling restores towards the adjacent tooth, measured on its solid, mm.
type Proximal struct {
	Contact float64 // how near it comes
	Below   float64 // by how much the contact lies under the marginal ridge; NaN of a front tooth
	// RidgeOver is by how much its marginal ridge stands over that of the adjacent tooth; NaN
	// beside a front tooth, whose ridge runs down the lingual surface.
	RidgeOver float64
	Beside    notation.Tooth
}

// level (mm) is by how much marginal ridges may differ before food catches on the step
// (operative dentistry convention).
const level = 0.5

// closes (mm) is how near two teeth stand that touch.
const closes = 0.05

// ProximalOf measures the side of a filling, of all its parts, towards a tooth; ok is false
// where it has none there.
func ProximalOf(s *measure.Subject, plans []Plan, side notation.Side, beside *anatomy.Neighbour) (p Proximal, ok bool) {
	surface := s.Cavity.Adjacent[side]
	if beside == nil || surface == nil {
		return p, false
	}
	p = Proximal{Contact: math.Inf(1), Beside: beside.Tooth}
	table := s.Model.Table
	height := func(v r3.Vec) float64 { return table.To(v).Z }
	ridge := math.Inf(-1)
	var at r3.Vec
	for n := range plans {
		if mm, place, near := plans[n].Contact(surface); near && mm < p.Contact {
			p.Contact, at = mm, place
		}
		ridge = math.Max(ridge, plans[n].highest(s.Model, side))
	}
	if math.IsInf(p.Contact, 1) {
		return p, false
	}
	p.Below, p.RidgeOver = math.NaN(), math.NaN()
	if math.IsInf(ridge, -1) || s.Model.Tooth.Anterior() {
		return p, true
	}
	p.Below = ridge - height(at)
	if !beside.Tooth.Anterior() {
		p.RidgeOver = ridge - height(beside.Into(beside.Ridge(facing(side))))
	}
	return p, true
}

// facing is the side of the adjacent tooth that is turned here; behind the canines it is the
// other one.
func facing(side notation.Side) notation.Side {
	if side == notation.Mesial {
		return notation.Distal
	}
	return notation.Mesial
}

// highest is how high a part's outer surface stands over the table where the marginal ridge
// runs, mm; -Inf where it does not reach there.
func (p *Part) highest(m *anatomy.Model, side notation.Side) float64 {
	const beside = 0.4 // mm of the ridge's top
	ridge := m.Table.To(m.Ridge(side))
	top := math.Inf(-1)
	p.outer(func(v int32) {
		if at := m.Table.To(p.Mesh.Vertices[v]); math.Hypot(at.X-ridge.X, at.Y-ridge.Y) < beside {
			top = math.Max(top, at.Z)
		}
	})
	return top
}

// Words tell what is restored, and where that asks for care.
func (p Proximal) Words() []string {
	contact := fmt.Sprintf("The contact closes to %.2f mm, %.1f mm under the ridge.", math.Max(p.Contact, 0), p.Below)
	if math.IsNaN(p.Below) {
		contact = fmt.Sprintf("The contact closes to %.2f mm.", math.Max(p.Contact, 0))
	}
	if p.Contact > closes {
		contact = fmt.Sprintf(
			"As modelled it stays %.2f mm off the adjacent tooth: no contact is to be restored by the tooth's own shape.",
			p.Contact,
		)
	}
	step := math.Abs(p.RidgeOver)
	which := "over"
	if p.RidgeOver < 0 {
		which = "under"
	}
	switch {
	case math.IsNaN(step):
		return []string{contact}
	case step < 0.05:
		return []string{contact, fmt.Sprintf("Its marginal ridge stands as high as that of %s.", p.Beside)}
	case step <= level:
		return []string{contact, fmt.Sprintf("Its marginal ridge stands %.1f mm %s that of %s.", step, which, p.Beside)}
	}
	return []string{
		contact,
		fmt.Sprintf(
			"Its marginal ridge stands %.1f mm %s that of %s, as the tooth's own did: food catches on more than %.1f; level it as far as the bite allows.",
			step,
			which,
			p.Beside,
			level,
		),
	}
}
