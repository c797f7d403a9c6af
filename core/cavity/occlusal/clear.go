package occlusal

import (
	"obturon/core/cavity"
	"obturon/core/notation"
)

// clearCaries widens, deepens and joins what is proposed until nothing of the caries is
// left outside its walls: there it is followed in dentin only. Where a step further
// would leave the tooth, the last one that can be built stands.
func clearCaries(r request, d Design) (Design, error) {
	const step, rounds = 0.05, 40 // mm
	c, err := build(r, d)
	if err != nil {
		return d, err
	}
	for range rounds {
		wider, grown := d, covers{}
		for _, l := range r.fissures {
			if _, left := cavity.CariesLeft(l, r.Endpoint(), c, r.Model.Surface.Distance); left > cavity.ClearedCaries {
				grown[l] = step
			}
		}
		wider.Boxes = r.enlarged(c, d, step)
		if len(grown) == 0 && wider.Boxes == d.Boxes {
			return d, nil
		}
		round(&wider)
		for l := range grown {
			r.cover[l] += step
		}
		next, err := build(r, wider)
		if err != nil {
			for l := range grown {
				r.cover[l] -= step
			}
			return d, nil
		}
		c, d = next, wider
	}
	return d, nil
}

// enlarged moves the walls of boxes a step (mm) past which caries is left.
func (r request) enlarged(c *Solid, d Design, step float64) [2]BoxDesign {
	boxes := d.Boxes
	for _, l := range r.proximal {
		places, left := cavity.CariesLeft(l, r.Endpoint(), c, r.Model.Surface.Distance)
		side, _ := l.Finding.Site.Side()
		b := c.box(side)
		if left <= cavity.ClearedCaries || b == nil {
			continue
		}
		past := map[uint16]bool{}
		for _, q := range places {
			past[b.past(r.Model.Table.To(q))] = true
		}
		boxes[side] = boxes[side].grown(past, step)
	}
	return boxes
}

// grown moves walls of a box outwards by a step (mm).
func (b BoxDesign) grown(walls map[uint16]bool, step float64) BoxDesign {
	for _, f := range []struct {
		wall   uint16
		figure *float64
	}{{cavity.AxialWall, &b.AxialDepth}, {cavity.BoxBuccal, &b.BuccalReach}, {cavity.BoxLingual, &b.LingualReach}, {cavity.GingivalFloor, &b.Depth}} {
		if walls[f.wall] {
			*f.figure += step
		}
	}
	return b
}

// box is that of a side, nil where there is none.
func (c *Solid) box(side notation.Side) *box {
	for _, p := range c.parts {
		if b := p.box(side); b != nil {
			return b
		}
	}
	return nil
}
