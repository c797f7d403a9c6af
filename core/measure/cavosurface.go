package measure

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/cavity"
	"obturon/core/school"
)

// MarginAngles are the angles through the tooth along the margin (degrees) where it opens
// widest and where it is most acute, in that order; none without a margin. Each is the
// middle one over some 0.8 mm of it: where a fissure or a corner crosses the margin, a
// single place breaks no edge. Bevelled margins are left out.
func (p *Prepared) MarginAngles() []Reading {
	return p.extremes(func(_ MarginPoint, angle, _ float64) (over, need float64, counts bool) { return angle, 0, true })
}

// extremes are the place of the margin that is furthest over, among equals the one that
// opens widest, with its need, and the most acute one, of those that count.
func (p *Prepared) extremes(weigh func(m MarginPoint, angle, lean float64) (over, need float64, counts bool)) []Reading {
	const alike = 1e-6 // degrees
	widest, acutest := Reading{Value: math.Inf(-1), Uncertainty: 2}, Reading{Value: math.Inf(1), Uncertainty: 2}
	most := math.Inf(-1)
	p.marginStrips(func(m MarginPoint, angle, lean float64) {
		over, need, counts := weigh(m, angle, lean)
		if !counts {
			return
		}
		at := Place{"margin over the " + cavity.FeatureName(m.Feature), m.At}
		if over > most+alike || over > most-alike && angle > widest.Value {
			most, widest.Value, widest.Where, widest.Need = over, angle, at, need
		}
		if angle < acutest.Value {
			acutest.Value, acutest.Where = angle, at
		}
	})
	if math.IsInf(most, -1) {
		return nil
	}
	return []Reading{widest, acutest}
}

// marginStrips visits places along the margin with the middle angle there, and the middle
// lean of the wall over the cavity (degrees), over some 0.8 mm.
func (p *Prepared) marginStrips(visit func(m MarginPoint, angle, lean float64)) {
	for _, l := range p.Margin.loops {
		points := l.spaced(stripStep)
		angles, leans := make([]float64, len(points)), make([]float64, len(points))
		for n, m := range points {
			angles[n] = m.Angle
			leans[n] = -degrees(math.Asin(math.Max(-1, math.Min(r3.Dot(p.cutNormal(m.At), p.Model.Table.W), 1))))
		}
		angles, leans = overStrips(angles), overStrips(leans)
		for n, m := range points {
			if m.FromCorner > clearOfCorner && m.Bevel == 0 { // a bevel is judged by itself
				visit(m, angles[n], leans[n])
			}
		}
	}
}

// marginAngles are the margin's angles of a cavity on the occlusal surface, where it faces
// the bite: on the proximal surface they are judged as exits and as the seat's slope. A
// cusp's slope opens the margin by itself. What is left with a wall that leans as the
// school wants, or stands upright where it does not ask, is the need; the widest place is
// the one where most is the wall's doing.
func marginAngles(s *Subject) []Reading {
	const facesBite = 0.5 // cosine to the bur
	target := s.Cavity.Criterion(school.ResistCavosurfaceAngle).Target.Max
	return s.extremes(func(m MarginPoint, angle, lean float64) (over, need float64, counts bool) {
		need = angle
		if least, known := s.leastLean(m.Feature); known {
			need = angle - math.Max(least-lean, 0)
		}
		return angle - math.Max(need, target), need, r3.Dot(m.Outer, s.Model.Table.W) >= facesBite
	})
}

// leastLean is how far (degrees) the school has a wall lean over the cavity at the least.
func (s *Subject) leastLean(wall uint16) (least float64, known bool) {
	functional, other := s.sideWalls()
	target := func(id school.CriterionID) school.Range { return s.Cavity.Criterion(id).Target }
	switch wall {
	case cavity.WallBuccal, cavity.WallLingual:
		least = target(school.RetainConvergence).Min
	case cavity.WallMesial, cavity.WallDistal:
		least = -target(school.RetainRidgeWall).Max // it leans out, so that enamel rests on dentin
	case functional:
		least = target(school.BoxWallFunctional).Min
	case other:
		least = target(school.BoxWallNonfunctional).Min
	default:
		return 0, false
	}
	return least, !math.IsInf(least, 0)
}

// stripStep (mm) lies between places felt along a margin, stripHalf of which to either
// side make a strip.
const (
	stripStep = 0.12
	stripHalf = 3
	// clearOfCorner (mm) is how far from another wall a margin is told by its own.
	clearOfCorner = 0.6
)

// overStrips replaces values along a closed margin, stripStep apart, by the middle one of
// the strip about each.
func overStrips(values []float64) []float64 {
	middle := make([]float64, len(values))
	for n := range values {
		var strip []float64
		for k := n - stripHalf; k <= n+stripHalf; k++ {
			strip = append(strip, values[((k%len(values))+len(values))%len(values)])
		}
		middle[n] = quantile(strip, 0.5)
	}
	return middle
}
