package smooth

import (
	"obturon/core/cavity"
	"obturon/core/lesion"
)

// clearCaries moves the walls past which caries is left until none is: outside them
// it is followed in dentin only. Where a step further would leave the surface, the
// last one that can be built stands.
func (r request) clearCaries(d Design) (Design, error) {
	const step, rounds = 0.05, 16 // mm
	c, err := build(r, d)
	if err != nil {
		return d, err
	}
	for range rounds {
		past := map[uint16]bool{}
		for _, l := range r.Lesions {
			places, left := cavity.CariesLeft(l, r.Endpoint(), c, r.Model.Surface.Distance)
			if left <= cavity.ClearedCaries {
				continue
			}
			for _, p := range places {
				at := c.at(p)
				past[c.body.feature(&at)] = true
			}
		}
		wider := d.grown(past, step)
		if wider == d {
			return d, nil
		}
		next, err := build(r, wider)
		if err != nil {
			return d, nil
		}
		c, d = next, wider
	}
	return d, nil
}

// grown moves walls outwards by a step (mm): the biting and the gingival one apart,
// mesial and distal together, as the figures do.
func (d Design) grown(walls map[uint16]bool, step float64) Design {
	if d.Class() == lesion.ClassIV {
		return d // what has broken off decides
	}
	if walls[cavity.IncisalWall] || walls[cavity.OcclusalWall] {
		d.Height, d.IncisalShift = d.Height+2*step, d.IncisalShift+step
	}
	if walls[cavity.GingivalWall] {
		d.Height, d.IncisalShift = d.Height+2*step, d.IncisalShift-step
	}
	axial, across := &d.Depth, &d.Width // of a pocket
	if d.Class() == lesion.ClassIII {
		axial, across = &d.Width, &d.Depth
	}
	if walls[cavity.AxialWall] {
		*axial += step
	}
	switch {
	case walls[cavity.WallMesial], walls[cavity.WallDistal]:
		*across += 2 * step
	case walls[cavity.FacialWall], walls[cavity.LingualWall]:
		*across += step
	}
	return d
}
