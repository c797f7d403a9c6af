package rehearsal

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/instrument"
	"obturon/core/parallel"
	"obturon/core/reach"
	"obturon/core/solid"
)

// What a blade takes lies no further than this from what is cut already, mm: leavings that
// it planes off a wall, undermined enamel as thick as a hatchet is wide, and soft dentin,
// layer by layer. With more for the walls a blade would take the place of burs.
const (
	thickest = 0.5
	cleft    = 1.0
	soft     = 2.0
)

// byHand planes off what a blade gets at: no more than a thin layer on what is to stay;
// ok is false where that comes to nothing.
func (p *planner) byHand(j job) (Step, bool) {
	standing := p.progress.standing()
	wanted := p.volumeOf(j, standing)
	if wanted < leastByHand {
		return Step{}, false // before a blade is tried
	}
	taken, lack := p.taken(j)
	if len(taken) == 0 {
		lack.Stays = wanted
		p.lacks = append(p.lacks, *lack)
		return Step{}, false
	}
	thick := thickest
	if j.thick > 0 {
		thick = j.thick
	}
	most := float32(thick)
	reached, away := p.reachedByBlade(p.kit.Get(taken[0]).Blade, j.tilts), p.progress.away(thick)
	region := &solid.Dense{Grid: p.survey.Kept.Grid, Values: make([]float32, len(standing))}
	for n := range region.Values {
		region.Values[n] = unswept
	}
	sum := 0.0
	for n, share := range standing {
		if share > 0 && reached[n] && p.wants(j, n) && away[n] < most && (j.thick < soft || p.survey.Dentin[n]) {
			sum += float64(share)
			p.about(n, func(m int) { region.Values[m] = -float32(region.H) })
		}
	}
	if sum*math.Pow(region.H, 3) < leastByHand {
		return Step{}, false
	}
	s := p.pared(j, region)
	s.Instruments, s.Lack, s.Wanted = taken, lack, wanted
	return s, true
}

// away is how far (mm) places lie from what has been swept, as far as reach.
func (p *progress) away(reach float64) []float32 {
	g := p.survey.Kept.Grid
	var swept []r3.Vec
	for n, d := range p.swept {
		if d <= 0 && float64(d) > -2*g.H {
			swept = append(swept, g.Point(n%g.N[0], n/g.N[0]%g.N[1], n/(g.N[0]*g.N[1])))
		}
	}
	return solid.DistancesWithin(g, swept, func(n int) bool { return p.swept[n] <= 0 }, reach)
}

// reachedByBlade marks what a blade touches, put in at any of some axes, its width along,
// across, and between.
func (p *planner) reachedByBlade(b *instrument.Blade, axes []r3.Vec) []bool {
	const turns = 4
	rough := halved(p.survey.Kept)
	found := make([][]float32, turns*len(axes))
	parallel.Each(len(found), func(n int) {
		turned := instrument.Turned{Blade: b, Turn: math.Pi * float64(n%turns) / turns}
		s := reach.Where(rough, turned, axes[n/turns], overcut+roughSlack, p.survey.goes)
		found[n] = s.Beyond(func(m int) bool { return p.survey.ToGo[p.fine(rough.Grid, m)] > 0 })
	})
	reached := make([]bool, len(p.survey.ToGo))
	for _, beyond := range found {
		for m, b := range beyond {
			if float64(b) < rough.H {
				p.about(p.fine(rough.Grid, m), func(n int) { reached[n] = true })
			}
		}
	}
	return reached
}

// about visits a sample and those beside it.
func (p *planner) about(n int, visit func(n int)) {
	g := &p.survey.Kept.Grid
	i, j, k := n%g.N[0], n/g.N[0]%g.N[1], n/(g.N[0]*g.N[1])
	for z := max(k-1, 0); z <= min(k+1, g.N[2]-1); z++ {
		for y := max(j-1, 0); y <= min(j+1, g.N[1]-1); y++ {
			for x := max(i-1, 0); x <= min(i+1, g.N[0]-1); x++ {
				visit(g.Index(x, y, z))
			}
		}
	}
}

// pared is the step of a blade that cuts to the drawn surface within a region, negative in
// it. A blade follows the wall that it planes: how well, its hand decides, not its form.
func (p *planner) pared(j job, region *solid.Dense) Step {
	s := Step{Kind: j.kind, Side: j.side, Why: j.why, Instruments: j.tools[:1], ByHand: true, Breaks: j.breaks, pared: region}
	about, _ := region.BoxOf(func(n int) bool { return region.Values[n] <= float32(region.H)/2 })
	step := r3.Vec{X: region.H, Y: region.H, Z: region.H}
	s.paredIn = solid.Box{Min: r3.Sub(about.Min, step), Max: r3.Add(about.Max, step)}
	p.cut(&s)
	return s
}

// pare takes what lies in a region, negative in it, down to the drawn surface.
func (p *progress) pare(region *solid.Dense) {
	for n, d := range region.Values {
		p.swept[n] = min(p.swept[n], max(-p.survey.Kept.Values[n], d))
	}
}

// paring is what a blade takes, in the tooth frame.
type paring struct {
	survey *Survey
	region *solid.Dense
	within solid.Box // about the region, in the cavity's frame
	beyond float64   // mm past what is drawn
}

// Distance is the signed distance (mm) to what is taken. It ends where what is drawn ends:
// all that is not kept would end at the tooth's own surface as well, and leave it as cut.
func (c *paring) Distance(p r3.Vec) float64 { return c.DistanceUnder(p, math.Inf(1)) }

// DistanceUnder is Distance where that is less than limit, else something between.
func (c *paring) DistanceUnder(p r3.Vec, limit float64) float64 {
	own := c.survey.Frame.To(p)
	if !c.within.Contains(own) {
		return c.survey.Kept.H
	}
	// A region ends where its samples do: it is known no further than a step.
	region := math.Min(c.region.Distance(own), c.survey.Kept.H)
	if region > c.survey.Kept.H/2 || region >= limit {
		return region
	}
	return math.Max(c.survey.drawn.Distance(p)-c.beyond, region)
}

// Feature is that of the drawn surface nearest to p.
func (c *paring) Feature(p r3.Vec) uint16 { return c.survey.featureAt(p) }

// Bounds holds the region.
func (c *paring) Bounds() solid.Box { return c.survey.Frame.FromBox(c.within) }
