package rehearsal

import (
	"cmp"
	"fmt"
	"math"
	"slices"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/cavity"
	"obturon/core/instrument"
	"obturon/core/solid"
)

// Deviation is how far a cut surface lies off the drawn one of a feature: what stands on it
// and what is cut into it.
type Deviation struct {
	Feature           uint16
	Area              float64 // mm²
	Standing, Overcut Extent
	// Worst is where it is furthest off, in the tooth frame.
	Worst r3.Vec
	// Crowded tells that most of what stands on it lies where the adjacent tooth leaves a
	// running bur no room.
	Crowded bool
}

// Extent is how far (mm) a surface is off: over 95 of 100 parts of its area, and at the
// most; and how much (mm³) that comes to.
type Extent struct{ Usual, Most, Volume float64 }

// exempt is the share of an area that Usual passes over.
const exempt = 0.05

// deviations measures the cut against the drawn surface, feature by feature.
func (p *progress) deviations() []Deviation {
	parts := map[uint16][]part{}
	swept := p.known()
	m := p.survey.mesh
	for n := range m.Triangles {
		if m.Labels[n] != 0 && p.survey.covered(n) {
			own := part{at: m.Centroid(n), off: swept.Distance(m.Centroid(n)), area: m.Area(n)}
			own.crowded = own.off > Proven && p.survey.crowded(m.Centroid(n))
			parts[m.Labels[n]] = append(parts[m.Labels[n]], own)
		}
	}
	standing, overcut := p.volumes()
	var all []Deviation
	for feature, own := range parts {
		d := deviation(own)
		d.Worst = p.survey.Frame.From(d.Worst)
		d.Feature, d.Standing.Volume, d.Overcut.Volume = feature, standing[feature], overcut[feature]
		all = append(all, d)
	}
	slices.SortFunc(all, func(a, b Deviation) int { return cmp.Compare(a.Feature, b.Feature) })
	return all
}

// known is how far places lie from what is swept, also where the sweeps left that open.
func (p *progress) known() *solid.Dense {
	all := &solid.Dense{Grid: p.survey.Kept.Grid, Values: slices.Clone(p.swept)}
	away := p.away(soft)
	for n, d := range all.Values {
		if float64(d) > all.H {
			all.Values[n] = min(d, away[n])
		}
	}
	return all
}

// covered reports a triangle of a cut surface over which there was tooth: where a cut grazes
// the surface nothing has to go.
func (s *Survey) covered(n int) bool {
	over := r3.Add(s.mesh.Centroid(n), r3.Scale(s.Kept.H/2, s.mesh.Normal(n)))
	return s.tooth.Distance(over) < 0
}

// part is a piece of a surface: its middle, how far (mm) what is cut ends over it, negative under it,
// its area, and whether the adjacent tooth crowds it.
type part struct {
	at        r3.Vec // in the survey's frame
	off, area float64
	crowded   bool
}

// crowded reports a place over which the slimmest bur would come too near the adjacent tooth.
func (s *Survey) crowded(p r3.Vec) bool {
	slimmest := instrument.MustFind(instrument.QuarterRound).Head.Diameter
	return s.Beside != nil && s.Beside.Distance(p) < besideGap+slimmest
}

func deviation(parts []part) Deviation {
	slices.SortFunc(parts, func(a, b part) int { return cmp.Compare(a.off, b.off) })
	d := Deviation{Overcut: Extent{Most: math.Max(-parts[0].off, 0)}, Standing: Extent{Most: math.Max(parts[len(parts)-1].off, 0)}}
	for _, p := range parts {
		d.Area += p.area
	}
	sum, stands, crowded := 0.0, 0.0, 0.0
	for _, p := range parts {
		if p.off > Proven {
			stands += p.area
			if p.crowded {
				crowded += p.area
			}
		}
		if sum <= exempt*d.Area {
			d.Overcut.Usual = math.Max(-p.off, 0)
		}
		sum += p.area
		if sum <= (1-exempt)*d.Area {
			d.Standing.Usual = math.Max(p.off, 0)
		}
	}
	d.Crowded = crowded > stands/2
	if d.Worst = parts[len(parts)-1].at; d.Overcut.Most > d.Standing.Most {
		d.Worst = parts[0].at
	}
	return d
}

// volumes are what stands of what should go, and what is cut of what should stay, mm³ by
// the nearest feature.
func (p *progress) volumes() (standing, overcut map[uint16]float64) {
	standing, overcut = map[uint16]float64{}, map[uint16]float64{}
	s, h := p.survey, p.survey.Kept.H
	for n, d := range p.swept {
		if s.ToGo[n] == 0 && d > float32(h) {
			continue
		}
		cut, kept := solid.Occupied(float64(d), h), solid.Occupied(float64(s.Kept.Values[n]), h)
		standing[s.Feature[n]] += math.Max(float64(s.ToGo[n])-cut, 0) * h * h * h
		overcut[s.Feature[n]] += math.Max(cut+kept-1, 0) * h * h * h
	}
	return standing, overcut
}

// Words say what is left or taken too much, for a surface that is not proven.
func (d Deviation) Words() string {
	name := cavity.FeatureName(d.Feature)
	if d.Standing.Usual > Proven {
		why := ""
		if d.Crowded {
			why = ", where the adjacent tooth stands too near for a bur: finish it with a strip"
		}
		return fmt.Sprintf("%s: the kit leaves %.2f mm standing on it, %.2f at the most%s.", name, d.Standing.Usual, d.Standing.Most, why)
	}
	return fmt.Sprintf("%s: the kit cuts %.2f mm into it, %.2f at the most.", name, d.Overcut.Usual, d.Overcut.Most)
}
