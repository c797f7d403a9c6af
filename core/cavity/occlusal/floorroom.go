package occlusal

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/school"
)

// floorTakes reports a place on the pulpal floor of a part where a round of a radius (mm)
// stands free of its walls.
func (c *part) floorTakes(radius float64) bool {
	const around = 24
	free := func(x, y float64) bool { return c.wallAt(r3.Vec{X: x, Y: y, Z: c.floorLevel(x, y)}) < 0 }
	o := c.outline.distance
	for j := range o.NY {
	places:
		for i := range o.NX {
			x, y := o.X0+float64(i)*o.H, o.Y0+float64(j)*o.H
			if o.Values[j*o.NX+i] > 0 || !free(x, y) {
				continue
			}
			for n := range around {
				sin, cos := math.Sincos(2 * math.Pi * float64(n) / around)
				if !free(x+radius*cos, y+radius*sin) {
					continue places
				}
			}
			return true
		}
	}
	return false
}

// narrow is the first part whose pulpal floor takes up no round of a radius (mm); nil
// where each does. A floor that opens into a box has room there.
func (c *Solid) narrow(radius float64) *part {
	for _, p := range c.parts {
		if p.outline != nil && len(p.boxes) == 0 && !p.floorTakes(radius) {
			return p
		}
	}
	return nil
}

// giveTheFloorAHead lengthens a pit's outline, away from the thinner ridge, until the
// head that cuts it gets down to its floor: end walls that lean out towards their ridges
// narrow it. Where both ridges are as thin as they may be, the walls lean out less, as far
// as the school's target lets them. Where that does not help either, and the head gets down as it
// is, nothing is spent on it.
func giveTheFloorAHead(r request, d Design) (Design, error) {
	const step, upright, play = 0.05, 0.5, 0.02 // mm, degrees, mm
	keep := r.Aim(school.OutlineMarginalRidge)
	lean, _ := r.School.For(school.RetainRidgeWall, r.Model.Tooth, r.Material)
	given := d
	first, err := build(r, given)
	if err != nil {
		return d, err
	}
	for c := first; ; {
		p := c.narrow(burRadius + play)
		if p == nil {
			return d, nil
		}
		switch ridge := d.thickerRidge(p == c.parts[0], p == c.parts[len(c.parts)-1]); {
		case ridge != nil && *ridge > keep+1e-9:
			*ridge = math.Max(*ridge-step, keep)
		case d.RidgeDivergence-upright >= lean.Target.Min:
			d.RidgeDivergence -= upright
		default:
			if first.narrow(burRadius-play) == nil { // a head cuts the room it needs itself
				return given, nil
			}
			return d, nil
		}
		if c, err = build(r, d); err != nil {
			return d, err
		}
	}
}

// thickerRidge is the thicker of the ridges that end a part, nil where none does.
func (d *Design) thickerRidge(mesial, distal bool) *float64 {
	switch {
	case mesial && (!distal || d.MesialRidge > d.DistalRidge):
		return &d.MesialRidge
	case distal:
		return &d.DistalRidge
	}
	return nil
}
