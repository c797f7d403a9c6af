package lesion

import (
	"fmt"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/anatomy"
)

// Layers is how much tissue lies between a proximal surface, under its contact,
// and the pulp.
type Layers struct{ Enamel, Dentin float64 }

// LayersAt measures the layers inwards from where a proximal lesion starts. It
// fails where the site is not proximal or has no dentin behind it.
func LayersAt(m *anatomy.Model, site Site) (Layers, error) {
	p, err := NewProximal(m, Finding{Kind: ProximalCaries, Site: site, Depth: Depths[0]})
	if err != nil {
		return Layers{}, err
	}
	const reach, step = 8.0, 0.05 // mm
	from, inward := p.Middle(), r3.Scale(-1, p.normal)
	enamel, ok := m.Dentin().RootAlong(from, inward, step, reach, step)
	if !ok {
		return Layers{}, fmt.Errorf("no dentin behind the %s surface", site)
	}
	pulp, ok := m.Pulp().RootAlong(from, inward, enamel, reach, step)
	if !ok {
		// The ray passes the pulp: what is nearest counts.
		pulp = enamel + m.Pulp().Distance(r3.Add(from, r3.Scale(enamel, inward)))
	}
	return Layers{enamel, pulp - enamel}, nil
}

// DepthOf names the depth of a lesion that was measured from the surface
// inwards: halves of the enamel, thirds of the dentin, the grades E1, E2, D1 to D3
// in which cariology reads a bitewing.
func (l Layers) DepthOf(mm float64) Depth {
	switch into := mm - l.Enamel; {
	case mm <= l.Enamel/2:
		return Depths[0]
	case into <= 0:
		return Depths[1]
	case into <= l.Dentin/3:
		return Depths[2]
	case into <= 2*l.Dentin/3:
		return Depths[3]
	default:
		return Depths[4]
	}
}
