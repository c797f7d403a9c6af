package occlusal

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/anatomy"
	"obturon/core/cavity"
	"obturon/core/solid"
)

// besideCrown (mm) is lower than any occlusal surface lies under the table.
const besideCrown = -5

// setLevel lowers the floor until its shallowest part is depth under the
// surface. Where the floor ends depends on its level, so it is found twice. A part
// that lies in its boxes altogether loses its outline.
func (c *part) setLevel(m *anatomy.Model, depth float64) error {
	for pass := range 2 {
		lowest := math.Inf(1)
		o := c.outline.distance
		for j := range o.NY {
			for i := range o.NX {
				q := r3.Vec{X: o.X0 + float64(i)*o.H, Y: o.Y0 + float64(j)*o.H}
				q.Z = c.floorLevel(q.X, q.Y)
				if o.Values[j*o.NX+i] > 0 || !c.insideAxial(q.X, q.Y) {
					continue
				}
				if wall, _ := c.wallAndHeight(q); pass == 0 || wall < -c.radius {
					lowest = math.Min(lowest, m.TableHeights().At(q.X, q.Y)-c.slope*q.Y)
				}
			}
		}
		if math.IsInf(lowest, 1) && pass == 0 {
			if len(c.boxes) > 0 { // a pit that the box takes in whole: there is no floor
				c.outline = nil
				return nil
			}
			return cavity.ErrOffOcclusalSurface
		}
		if math.IsInf(lowest, 1) { // a trough too narrow for a flat floor: its first level stands
			break
		}
		if lowest < besideCrown {
			return cavity.ErrOffOcclusalSurface
		}
		c.level = lowest - depth
	}
	return nil
}

func (c *Solid) setBounds(m *anatomy.Model) {
	low, high := r3.Vec{X: math.Inf(1), Y: math.Inf(1), Z: math.Inf(1)}, r3.Vec{X: math.Inf(-1), Y: math.Inf(-1), Z: math.Inf(-1)}
	grow := func(p r3.Vec) {
		low = r3.Vec{X: math.Min(low.X, p.X), Y: math.Min(low.Y, p.Y), Z: math.Min(low.Z, p.Z)}
		high = r3.Vec{X: math.Max(high.X, p.X), Y: math.Max(high.Y, p.Y), Z: math.Max(high.Z, p.Z)}
	}
	const top = 4 // mm over the table, above any cusp
	beside := 0.7 // mm past the outline, for the curve before a box
	if c.bevel != nil {
		beside += c.bevel.width
	}
	for _, part := range c.parts {
		if part.outline != nil {
			o := part.outline.distance
			for j := range o.NY {
				for i := range o.NX {
					if float64(o.Values[j*o.NX+i]) < beside {
						x, y := o.X0+float64(i)*o.H, o.Y0+float64(j)*o.H
						grow(c.Table.From(r3.Vec{X: x, Y: y, Z: part.floorLevel(x, y)}))
						grow(c.Table.From(r3.Vec{X: x, Y: y, Z: top}))
					}
				}
			}
		}
		for _, b := range part.boxes {
			aside := beside + 0.3                  // the foot of a deep groove, and the curve before the box
			outside := m.Sizes.Mesiodistal/2 + 1.0 // past the outer surface
			for _, z := range []float64{b.seat.level - 1, top} {
				lingual, buccal := b.across(z)
				for _, y := range []float64{lingual - aside, buccal + aside} {
					grow(c.Table.From(r3.Vec{X: b.sign * (math.Min(b.axial.plan.at(lingual), b.axial.plan.at(buccal)) - aside), Y: y, Z: z}))
					grow(c.Table.From(r3.Vec{X: b.sign * outside, Y: y, Z: z}))
				}
			}
		}
	}
	for n := range c.reduced {
		for _, corner := range solid.Corners(c.reduced[n].bounds(m)) {
			grow(c.Table.From(corner))
		}
	}
	for _, b := range c.diseased.Boxes() {
		grow(b.Min)
		grow(r3.Vec{X: b.Max.X, Y: b.Max.Y, Z: b.Min.Z})
	}
	c.bounds = solid.Box{Min: low, Max: high}
}
