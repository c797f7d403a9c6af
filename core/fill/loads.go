package fill

import (
	"math"
	"slices"
	"strings"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/anatomy"
	"obturon/core/cavity"
	"obturon/core/measure"
	"obturon/core/solid"
)

// Load is what one load of the carrier comes to.
type Load struct {
	// Volume (mm³) that it adds under the tooth's surface; 0 of what is carved off again.
	Volume float64
	// At is the middle of it, Height (mm) how far it stands along the axis over the part's
	// lowest place once it is condensed.
	At     r3.Vec
	Height float64
	Where  string
}

// loads places a part's loads: boxes up to the pulpal floor first, the deepest of them first,
// then all of it upwards in layers, each from distal to mesial.
func (p *Part) loads(s *measure.Subject, carrier Carrier, count int) []Load {
	places := p.places(s)
	each := p.Volume / float64(len(places))
	var all []Load
	for range count {
		take := min(int(math.Round(carrier.Holds()/each)), len(places))
		all = append(all, loadOf(places[:take], p.Bottom, each))
		if take == 0 {
			all[len(all)-1].Height = p.Top - p.Bottom
		}
		places = places[take:]
	}
	return all
}

// loadOf is a load that fills some places, each of some mm³.
func loadOf(places []place, bottom, each float64) Load {
	const part = 0.2 // of a load, that is worth saying
	if len(places) == 0 {
		return Load{Where: "over the margins, to be carved off"}
	}
	l := Load{Volume: each * float64(len(places))}
	count := map[string]int{}
	var wheres []string
	for _, q := range places {
		if count[q.where]++; count[q.where] == 1 {
			wheres = append(wheres, q.where)
		}
		l.Height = math.Max(l.Height, q.height-bottom)
	}
	most := slices.MaxFunc(wheres, func(a, b string) int { return count[a] - count[b] })
	for _, q := range places {
		if q.where == most {
			l.At = r3.Add(l.At, r3.Scale(1/float64(count[most]), q.at))
		}
	}
	l.Where = strings.Join(slices.DeleteFunc(wheres, func(w string) bool { return float64(count[w]) < part*float64(len(places)) }), ", then ")
	return l
}

// place is a bit of a filling.
type place struct {
	at     r3.Vec
	height float64
	stage  int
	layer  int
	where  string
}

// places are bits of a part of one size, in the order in which they are filled.
func (p *Part) places(s *measure.Subject) []place {
	const step = 0.1  // mm
	const layer = 1.0 // mm that a condenser packs through (operative dentistry convention)
	axis := p.filling.Axis
	e1, e2 := solid.Across(axis)
	pulpal := math.Inf(-1)
	if p.has(cavity.GingivalFloor) {
		pulpal = p.Top
		if p.has(cavity.Floor) && len(p.Floors) > 0 {
			pulpal = p.Floors[len(p.Floors)-1]
		}
	}
	deepest := [2]float64{math.Inf(1), math.Inf(1)}
	var all []place
	for at, heights := range columns(p.Mesh, axis) {
		slices.Sort(heights)
		for n := 1; n < len(heights); n += 2 {
			for h := heights[n-1] + step/2; h < heights[n]; h += step {
				q := place{height: h, stage: 2, where: "over the floor", layer: int((h - math.Max(p.Bottom, pulpal)) / layer)}
				q.at = r3.Add(r3.Scale(h, axis), r3.Add(r3.Scale(float64(at[0])*step, e1), r3.Scale(float64(at[1])*step, e2)))
				if h < pulpal {
					q.stage, q.where = boxOf(s.Model.Table, q.at)
					deepest[q.stage] = math.Min(deepest[q.stage], h)
				}
				all = append(all, q)
			}
		}
	}
	if deepest[1] < deepest[0] { // the distal box is the deeper
		for n := range all {
			if all[n].stage < 2 {
				all[n].stage = 1 - all[n].stage
			}
		}
	}
	slices.SortFunc(all, func(a, b place) int {
		if a.stage != b.stage {
			return a.stage - b.stage
		}
		for _, d := range []float64{float64(a.layer - b.layer), a.at.X - b.at.X, a.height - b.height, a.at.Y - b.at.Y} {
			if d != 0 {
				return int(math.Copysign(1, d))
			}
		}
		return 0
	})
	return all
}

func boxOf(table anatomy.Frame, at r3.Vec) (stage int, where string) {
	if table.To(at).X > 0 {
		return 0, "in the mesial box"
	}
	return 1, "in the distal box"
}
