package rehearsal

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/instrument"
	"obturon/core/procedure"
	"obturon/core/reach"
	"obturon/core/solid"
)

// shells (mm) are the thicknesses in which enamel is left towards the adjacent tooth while
// the box is cut behind it; a thinner one breaks by itself.
var shells = []float64{0.4, 0.3, 0.25, 0.2}

// chooseShell takes the thickest shell behind which a bur still finds most of its work;
// none where the cavity is too narrow for one, or where there is no blade to break it with.
func (p *planner) chooseShell(blade instrument.ID) {
	if p.survey.Skin == nil {
		return
	}
	if len(p.blades(blade)) == 0 {
		p.lacks = append(p.lacks, *p.lacking(job{kind: procedure.BreakShell}, blade, ""))
		return
	}
	near := func(n int) bool { // what can be reached behind a shell, and is near it
		d := p.survey.Skin.Values[n]
		return p.survey.ToGo[n] > 0.3 && d > float32(shells[0]) && d < behindShell
	}
	total := 0.0
	for n, v := range p.survey.ToGo {
		if near(n) {
			total += float64(v)
		}
	}
	best, chosen := leastBehind*total, 0.0
	for _, thick := range shells {
		p.shell = thick
		behind := p.around(thick, false)
		for _, bur := range p.forBehind() { // the usual one, and the slimmest
			sum := 0.0
			s := reach.Where(behind, p.kit.Get(bur).Head, r3.Vec{Z: 1}, overcut, p.survey.goes)
			for n, b := range s.Beyond(near) {
				if b < 1 {
					sum += math.Min(float64(p.survey.ToGo[n]), solid.Occupied(float64(b), s.H))
				}
			}
			if sum > enoughBehind*total {
				p.standShell()
				return
			}
			if sum > best {
				best, chosen = sum, thick
			}
		}
	}
	if p.shell = chosen; chosen > 0 {
		p.standShell()
	}
}

// standShell puts the chosen shell among the obstacles.
func (p *planner) standShell() {
	for _, slow := range []bool{false, true} {
		p.obstacles[hindrance{true, slow}] = p.around(p.shell, slow)
	}
}

// forBehind are the burs by which a shell is chosen.
func (p *planner) forBehind() []instrument.ID {
	ready, _ := p.burs(job{tools: ditching})
	return ready[:min(2, len(ready))]
}

// Behind a shell lies what a bur can cut there, up to behindShell (mm) from the outer
// surface; enoughBehind of that is as good as all, under leastBehind no shell is left.
const (
	behindShell  = 1.2
	enoughBehind = 0.4
	leastBehind  = 0.1
)

// breakShell takes the shell away by hand; ok is false where none was left.
func (p *planner) breakShell(j job) (Step, bool) {
	if p.shell == 0 {
		return Step{}, false
	}
	const past = 0.1 // mm behind the shell that come with it
	region := &solid.Dense{Grid: p.survey.Kept.Grid, Values: make([]float32, len(p.survey.ToGo))}
	for n, d := range p.survey.Skin.Values {
		region.Values[n] = d - float32(p.shell) - past
	}
	p.shell = 0
	s := p.pared(j, region)
	s.Instruments, s.Lack = p.taken(j)
	return s, true
}
