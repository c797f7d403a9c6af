package measure

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/anatomy"
	"obturon/core/cavity"
)

// nearTip (mm) is how far around a cusp's tip, seen along the bur, its load is borne.
const nearTip = 1.0

// CuspRoom is the least room (mm) for filling over the reduced cusps, along the
// bur, up to where the cusp stood: the antagonist is never nearer than that. ok
// is false where no cusp was reduced.
func (p *Prepared) CuspRoom() (r Reading, ok bool) {
	const over, step = 8.0, 0.1 // mm
	r.Value = math.Inf(1)
	for _, cusp := range p.Model.CuspTips {
		if !p.Reduced(cusp) {
			continue
		}
		tip := p.flat(cusp.At)
		for _, n := range p.ofFeature[cavity.CuspReduction] {
			at := p.Mesh.Centroid(n)
			q := p.flat(at)
			if math.Hypot(q.X-tip.X, q.Y-tip.Y) > nearTip || r3.Dot(p.Mesh.Normal(n), p.Model.Table.W) < 0.3 {
				continue
			}
			room, hit := p.Model.Surface.RootAlong(at, p.Model.Table.W, 0.02, over, step)
			if hit && room < r.Value {
				r.Value, r.Where, ok = room, Place{"reduced " + cusp.Name + " cusp", at}, true
			}
		}
	}
	r.Uncertainty = 0.1 * p.Model.Surface.H
	return r, ok
}

// Reduced reports a cusp whose tip has been taken off.
func (p *Prepared) Reduced(cusp anatomy.Named) bool {
	const under = 0.3 // mm
	return p.Workpiece.Distance(r3.Sub(cusp.At, r3.Scale(under, p.Model.Table.W))) > 0
}

// CuspBevel is the width (mm) of the bevel round covered cusps, the median along
// the facial and lingual surfaces; ok is false where no cusp is covered.
func (p *Prepared) CuspBevel() (r Reading, ok bool) {
	const upright = 0.6 // cosine to the bur of a face that a cover's margin lies on
	place := Place{Name: "margin of a covered cusp"}
	for _, m := range p.Margin.Points {
		if m.Feature == cavity.CuspReduction {
			place.At, ok = m.At, true
			break
		}
	}
	if !ok {
		return r, false
	}
	b, bevelled := p.FinishedMargin(func(_, outer r3.Vec) bool { return r3.Dot(outer, p.Model.Table.W) < upright })
	if !bevelled {
		return Reading{Where: place}, true
	}
	return b.Width, true
}
