package measure

import (
	"cmp"
	"math"
	"slices"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/cavity"
)

// Bevel is the width (mm) of the occlusal bevel along its face, and its angle
// (degrees) to the outer surface, each the median over the bevelled margin;
// ok is false where nothing is bevelled.
func (p *Prepared) Bevel() (width, angle Reading, ok bool) {
	m, ok := p.BevelAt()
	if !ok {
		return width, angle, false
	}
	name := func(m MarginPoint) string { return cavity.FeatureName(m.Feature | cavity.BevelFlag) }
	width = Reading{Value: m.Bevel, Where: Place{name(m), m.At}, Uncertainty: 0.3 * p.Model.Surface.H}
	m = p.middleBevel(func(m MarginPoint) float64 { return m.Angle })
	return width, Reading{Value: 180 - m.Angle, Where: Place{name(m), m.At}, Uncertainty: 2}, true
}

// BevelAt is where on the margin the bevel has its median width; ok is false
// where nothing is bevelled.
func (p *Prepared) BevelAt() (m MarginPoint, ok bool) {
	m = p.middleBevel(func(m MarginPoint) float64 { return m.Bevel })
	return m, m.Bevel > 0
}

// middleBevel is the bevelled margin point with the median of a figure; the
// zero point where there is none.
func (p *Prepared) middleBevel(of func(MarginPoint) float64) MarginPoint {
	var bevelled []MarginPoint
	for _, m := range p.Margin.Points {
		if m.Bevel > 0 && m.Feature != cavity.CuspReduction { // covers have a bevel of their own
			bevelled = append(bevelled, m)
		}
	}
	if len(bevelled) == 0 {
		return MarginPoint{}
	}
	slices.SortFunc(bevelled, func(a, b MarginPoint) int { return cmp.Compare(of(a), of(b)) })
	return bevelled[len(bevelled)/2]
}

// OcclusalMargin is the place of the margin that faces the bur most.
func (p *Prepared) OcclusalMargin() Place {
	place, most := Place{Name: "margin"}, math.Inf(-1)
	for _, m := range p.Margin.Points {
		if up := r3.Dot(m.Outer, p.Model.Table.W); up > most {
			most, place.At = up, m.At
		}
	}
	return place
}

// feelBevel follows the cut surface down from a margin point and finds where
// its first face ends: how wide that is (mm), and the edge to the next face.
// ok is false where the surface does not break.
func (p *Prepared) feelBevel(m MarginPoint) (width float64, edge r3.Vec, ok bool) {
	const step, furthest, settledFrom = 0.05, 1.4, 0.1 // mm; nearer to the margin the face is not yet clear
	const breaks, settled = 12.0, 4.0                  // degrees: between two faces, and within one
	at := m.At
	var face, down r3.Vec // the first face's normal, and the way along it
	var previous r3.Vec
	broken := false
	for walked := 0.0; walked < furthest; walked += step {
		normal := p.cutNormal(at)
		switch {
		case walked < settledFrom:
		case face == (r3.Vec{}):
			face = normal
			down = r3.Unit(r3.Sub(r3.Scale(r3.Dot(m.Outer, face), face), m.Outer))
		case !broken:
			broken = between(face, normal) > breaks
		case between(previous, normal) < settled:
			// Both faces are clear of their edge: it lies where their planes meet.
			if steep := r3.Dot(down, normal); math.Abs(steep) > 0.1 {
				width = r3.Dot(r3.Sub(at, m.At), normal) / steep
				return width, r3.Add(m.At, r3.Scale(width, down)), width > 0 && width < furthest
			}
			return 0, edge, false
		}
		previous = normal
		way := r3.Unit(r3.Sub(r3.Scale(r3.Dot(m.Outer, normal), normal), m.Outer))
		at = r3.Add(at, r3.Scale(step, way))
		at = r3.Sub(at, r3.Scale(p.Workpiece.CutDistance(at), p.cutNormal(at)))
	}
	return 0, edge, false
}

// between is the angle between two unit vectors, degrees.
func between(a, b r3.Vec) float64 {
	return degrees(math.Acos(math.Min(math.Max(r3.Dot(a, b), -1), 1)))
}
