package measure

import (
	"fmt"
	"math"
	"strings"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/cavity"
	"obturon/core/solid"
)

// Bridge is the least tooth left on the surface between two cavities, or in a
// tongue between two arms of one; ok is false when there is neither.
func (p *Prepared) Bridge() (r Reading, ok bool) {
	r.Value = math.Inf(1)
	for n := range p.Margin.loops {
		if p.tongue(&p.Margin.loops[n], &r) {
			ok = true
		}
	}
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

// tongue lowers a reading to the narrowest tooth that a loop encloses on three
// sides: two places close to each other, but far apart along the margin, with
// tooth between.
func (p *Prepared) tongue(l *marginLoop, r *Reading) (found bool) {
	const widest, around, least = 1.0, 4.0, 2.5 // mm; times as far along the margin; mm of it
	n := len(l.points)
	along := make([]float64, n+1)
	for i := range n {
		along[i+1] = along[i] + r3.Norm(r3.Sub(l.points[(i+1)%n].At, l.points[i].At))
	}
	for i := range n {
		if l.points[i].Feature == cavity.CuspReduction { // the waves of a cover's margin enclose nothing
			continue
		}
		for j := i + 1; j < n; j++ {
			if l.points[j].Feature == cavity.CuspReduction {
				continue
			}
			way := min(along[j]-along[i], along[n]-along[j]+along[i])
			if way < least {
				continue
			}
			a, b := l.points[i].At, l.points[j].At
			narrower := min(widest, r.Value, way/around)
			if r3.Norm2(r3.Sub(a, b)) >= narrower*narrower {
				continue
			}
			d := r3.Norm(r3.Sub(a, b))
			middle := r3.Scale(0.5, r3.Add(a, b))
			if l.contains(p.flat(middle)) || p.Workpiece.Distance(r3.Sub(middle, r3.Scale(0.3, p.Model.Table.W))) > 0 {
				continue // across the cavity
			}
			r.Value, r.Where, found = d, Place{"tongue of tooth between two arms of the cavity", middle}, true
		}
	}
	return found
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

// CuspBases are the thicknesses at the bases of the cusps beside the cut that still stand, each
// with what is wanted there.
func (s *Subject) CuspBases() []Reading {
	var all []Reading
	isthmus, _ := s.Cavity.Value("isthmus_width")
	for _, cusp := range s.Model.CuspTips {
		if s.Reduced(cusp) { // covered: its base no longer stands alone
			continue
		}
		if r, found := s.CuspThickness(cusp); found {
			r.More, r.MoreFor = s.Cavity.CuspNeed(cusp, isthmus, len(s.Cavity.Boxes))
			if gone := s.Cavity.Undermined[cusp.Name]; gone > 0 { // it measures thicker than it is
				r.More += gone
				r.MoreFor = strings.TrimPrefix(r.MoreFor+fmt.Sprintf(", %.1f mm of it are gone from within, as entered", gone), ", ")
			}
			all = append(all, r)
		}
	}
	return all
}
