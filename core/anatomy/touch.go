package anatomy

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"
)

// Touch is what lies under a point of the surface.
type Touch struct {
	At     r3.Vec  // on the surface
	Enamel float64 // mm along the normal, 0 on the root
	Pulp   float64 // least distance to the pulp, mm
	PulpAt r3.Vec  // the pulp's nearest point
	Dentin float64 // mm of the way to the pulp that runs through dentin
	Horn   string  // the horn that is nearest, "" over the chamber or a canal
}

// Touch feels the tooth at the surface point nearest to p; ok is false when p
// is not near the surface.
func (m *Model) Touch(p r3.Vec) (t Touch, ok bool) {
	const reach = 0.35 // mm that a point from a screen mesh may lie off
	outward := m.Surface.Gradient(p)
	if r3.Norm(outward) == 0 {
		return t, false
	}
	outward = r3.Unit(outward)
	from := r3.Add(p, r3.Scale(reach, outward))
	d, ok := m.Surface.RootAlong(from, r3.Scale(-1, outward), 0, 2*reach, 0.05)
	if !ok {
		return t, false
	}
	t.At = r3.Sub(from, r3.Scale(d, outward))
	inward := r3.Scale(-1, r3.Unit(m.Surface.Gradient(t.At)))
	t.Enamel = m.enamelAlong(t.At, inward)
	t.PulpAt = m.nearestPulp(t.At)
	way := r3.Sub(t.PulpAt, t.At)
	t.Pulp = r3.Norm(way)
	t.Dentin = t.Pulp - math.Min(m.enamelAlong(t.At, r3.Unit(way)), t.Pulp)
	const atHorn = 0.7 // mm
	nearest := atHorn
	for _, h := range m.Horns {
		if far := r3.Norm(r3.Sub(h.At, t.PulpAt)); far < nearest {
			nearest, t.Horn = far, h.Name
		}
	}
	return t, true
}

// enamelAlong is how far enamel reaches from a surface point in a direction, mm.
func (m *Model) enamelAlong(at, dir r3.Vec) float64 {
	const outer, reach = 0.04, 4.0 // mm
	if m.Dentin().Distance(r3.Add(at, r3.Scale(outer, dir))) < 0 {
		return 0
	}
	t, ok := m.Dentin().RootAlong(at, dir, outer, reach, 0.05)
	if !ok {
		return 0
	}
	return t
}

// nearestPulp walks from a point down the distance to the pulp until it is there.
func (m *Model) nearestPulp(p r3.Vec) r3.Vec {
	const rounds, close = 12, 0.01 // mm
	pulp := m.Pulp()
	for range rounds {
		d := pulp.Distance(p)
		if math.Abs(d) < close {
			break
		}
		p = r3.Sub(p, r3.Scale(0.9*d, r3.Unit(pulp.Gradient(p))))
	}
	return p
}
