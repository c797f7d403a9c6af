package measure

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/solid"
)

// Bridge is the least tooth left on the surface between two cavities; ok is
// false when there is only one.
func (p *Prepared) Bridge() (r Reading, ok bool) {
	r.Value = math.Inf(1)
	for n, a := range p.Margin.loops {
		for _, b := range p.Margin.loops[n+1:] {
			for _, u := range a.points {
				for _, v := range b.points {
					if d := r3.Norm(r3.Sub(u.At, v.At)); d < r.Value {
						r.Value, r.Where, ok = d, Place{"bridge between the cavities", r3.Scale(0.5, r3.Add(u.At, v.At))}, true
					}
				}
			}
		}
	}
	r.Uncertainty = 0.2 * p.Model.Surface.H
	return r, ok
}

// FissuresLeft is the length of fissure (mm) outside the margin among those
// given, which were to be included.
func (p *Prepared) FissuresLeft(lines [][]r3.Vec) (r Reading, ok bool) {
	for _, line := range lines {
		for n, at := range line {
			inside := p.InsideMargin(at)
			if n > 0 && !inside {
				r.Value += r3.Norm(r3.Sub(at, line[n-1]))
			}
			if !inside || r.Where.Name == "" {
				r.Where = Place{"fissure", at}
			}
			ok = true
		}
	}
	r.Uncertainty = p.Model.Surface.H
	return r, ok
}

// OffContacts is the least distance, seen along the bur, between the margin and
// an occlusal contact; places are mm along and across the occlusal table.
func (p *Prepared) OffContacts(contacts []solid.Point2) (r Reading, ok bool) {
	r.Value = math.Inf(1)
	for _, c := range contacts {
		for _, m := range p.Margin.Points {
			if q := p.flat(m.At); math.Hypot(q.X-c.X, q.Y-c.Y) < r.Value {
				r.Value, r.Where, ok = math.Hypot(q.X-c.X, q.Y-c.Y), Place{"margin beside an occlusal contact", m.At}, true
			}
		}
	}
	r.Uncertainty = 0.1 * p.Model.Surface.H
	return r, ok
}

// ThinnestCusp is the least thickness at the base of any cusp beside the cut.
func (p *Prepared) ThinnestCusp() (r Reading, ok bool) {
	r.Value = math.Inf(1)
	for _, cusp := range p.Model.CuspTips {
		if t, found := p.CuspThickness(cusp); found && t.Value < r.Value {
			r, ok = t, true
		}
	}
	return r, ok
}
