package rehearsal

import (
	"cmp"
	"math"
	"slices"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/cavity"
	"obturon/core/instrument"
	"obturon/core/notation"
	"obturon/core/parallel"
	"obturon/core/procedure"
	"obturon/core/reach"
	"obturon/core/solid"
)

// What burs keep, mm.
const (
	// overcut is how far a bur may enter what is to stay: less than a hand feels.
	overcut = 0.005
	// roughSlack is added on a coarse lattice: where a bur fits with less room than its
	// step, no sample would be free.
	roughSlack = 0.06
	// BesideSafe is how near a running bur may come to the adjacent tooth: with a steel
	// guard of 0.1 to 0.2 between them (operative dentistry convention). besideGap plans
	// with what the lattice may hide.
	BesideSafe = 0.2
	besideGap  = BesideSafe + 0.07
	// pulpGap is the dentin over the pulp at which slow burs stop and the spoon goes on; fast
	// ones stop at HotPulp.
	pulpGap = 0.5
)

// gapAt is the dentin (mm) over the pulp at which a bur stops.
func gapAt(slow bool) float64 {
	if slow {
		return pulpGap
	}
	return HotPulp
}

// slowly reports a bur that turns at low speed in a job: rounds and the refining pear always,
// and any in a groove.
func slowly(k procedure.Kind, bur instrument.Instrument) bool {
	return bur.Speed() == instrument.Low || k == procedure.Grooves
}

// planner derives the steps of a surveyed cavity, one job after the other.
type planner struct {
	survey    *Survey
	kit       *instrument.Kit
	progress  *progress
	shell     float64 // mm, while it stands
	obstacles map[hindrance]*solid.Dense
	stands    map[burAt]*reach.Stands
	known     map[burAt]reached
	gains     map[instrument.ID]float64 // mm³ that each bur of the job at hand would take at best
	lack      *Lack                     // of the choice at hand; nil where what suits best lies ready
	lacks     []Lack                    // of work that stays undone
	offered   []instrument.ID           // burs that lay ready for the choice at hand
}

// hindrance is what a bur keeps off beside what is to stay: the shell, while it stands, and the
// pulp, further from it at high speed.
type hindrance struct{ shell, slow bool }

// burAt is a bur held at an axis, in the cavity's frame, with what it keeps off, and with what
// (mm) it may enter what is to stay by.
type burAt struct {
	bur  instrument.ID
	axis r3.Vec
	hindrance
	overcut float64
}

// reached is what a bur reaches of all that has to go, on every second sample, which is
// enough to choose by.
type reached struct {
	solid.Grid
	beyond []float32 // mm, see reach.Stands.Beyond
}

func newPlanner(c *cavity.Cavity, s *Survey, kit *instrument.Kit) *planner {
	p := &planner{
		survey:    s,
		kit:       kit,
		progress:  s.begin(),
		obstacles: map[hindrance]*solid.Dense{},
		stands:    map[burAt]*reach.Stands{},
		known:     map[burAt]reached{},
		gains:     map[instrument.ID]float64{},
	}
	for _, slow := range []bool{false, true} {
		p.obstacles[hindrance{slow: slow}] = p.around(0, slow)
	}
	p.chooseShell(hatchetFor(c))
	return p
}

// step does a job; ok is false where there is nothing in it to do.
func (p *planner) step(j job) (s Step, ok bool) {
	switch {
	case j.breaks:
		return p.breakShell(j)
	case instrument.MustFind(j.tools[0]).Blade != nil:
		return p.byHand(j)
	default:
		return p.byBurs(j)
	}
}

// around is the field of all obstacles, with a shell so thick or without.
func (p *planner) around(shell float64, slow bool) *solid.Dense {
	s, gap := p.survey, float32(gapAt(slow))
	all := &solid.Dense{Grid: s.Kept.Grid, Values: make([]float32, len(s.ToGo))}
	parallel.Each(s.Kept.N[2], func(k int) {
		layer := s.Kept.N[0] * s.Kept.N[1]
		for n := k * layer; n < (k+1)*layer; n++ {
			d := min(s.Kept.Values[n], s.Pulp.Values[n]-gap)
			if s.Beside != nil {
				d = min(d, s.Beside.Values[n]-besideGap)
			}
			if shell > 0 {
				d = min(d, s.Skin.Values[n]-float32(shell))
			}
			all.Values[n] = d
		}
	})
	return all
}

// standing is a key without the shell, where that is broken or was never left.
func (p *planner) standing(key burAt) burAt {
	key.shell = key.shell && p.shell > 0
	return key
}

func (p *planner) obstaclesAt(key burAt) *solid.Dense { return p.obstacles[key.hindrance] }

// where is where a bur may stand.
func (p *planner) where(key burAt) *reach.Stands {
	key = p.standing(key)
	if p.stands[key] == nil {
		p.stands[key] = reach.Where(p.obstaclesAt(key), p.kit.Get(key.bur).Head, key.axis, key.overcut, p.survey.goes)
	}
	return p.stands[key]
}

// reach finds what each of the burs reaches.
func (p *planner) reach(keys []burAt) {
	var missing []burAt
	for _, key := range keys {
		key = p.standing(key)
		if _, ok := p.known[key]; !ok && !slices.Contains(missing, key) {
			missing = append(missing, key)
		}
	}
	found := make([]reached, len(missing))
	parallel.Each(len(missing), func(n int) {
		rough := halved(p.obstaclesAt(missing[n]))
		s := reach.Where(rough, p.kit.Get(missing[n].bur).Head, missing[n].axis, missing[n].overcut+roughSlack, p.survey.goes)
		found[n] = reached{rough.Grid, s.Beyond(func(m int) bool { return p.survey.ToGo[p.fine(rough.Grid, m)] > 0 })}
	})
	for n, key := range missing {
		p.known[key] = found[n]
	}
}

// fine is the survey's sample of one of a halved grid.
func (p *planner) fine(g solid.Grid, n int) int {
	return p.survey.Kept.Index(2*(n%g.N[0]), 2*(n/g.N[0]%g.N[1]), 2*(n/(g.N[0]*g.N[1])))
}

// halved is every second sample of a field.
func halved(d *solid.Dense) *solid.Dense {
	g := solid.Grid{Origin: d.Origin, H: 2 * d.H, N: [3]int{(d.N[0] + 1) / 2, (d.N[1] + 1) / 2, (d.N[2] + 1) / 2}}
	return solid.SampleRows(g, func(j, k int, out []float32) {
		for i := range out {
			out[i] = d.Values[d.Index(2*i, 2*j, 2*k)]
		}
	})
}

// byBurs lets burs take what the job wants, one after the other, while there is something in
// it for them.
func (p *planner) byBurs(j job) (Step, bool) {
	const usualCuts = 5
	most := usualCuts
	if j.most > 0 {
		most = j.most
	}
	s := Step{Kind: j.kind, Side: j.side, Why: j.why}
	tried := map[burAt]bool{}
	state := p.progress.clone()
	for len(s.Cuts) < most {
		next, after := p.choose(j, state, tried)
		if j.punch && after != nil {
			next, after = p.longEnough(j, state, tried, next, after)
		}
		if after == nil {
			break
		}
		if len(s.Cuts) == 0 {
			s.Wanted, s.Others = p.volumeOf(j, state.standing()), p.others(next.Instrument)
			if p.lack != nil {
				s.Lack = p.lacking(j, p.lack.Missing, next.Instrument)
			}
		}
		state = after
		s.Cuts = append(s.Cuts, next)
		if !slices.Contains(s.Instruments, next.Instrument) {
			s.Instruments = append(s.Instruments, next.Instrument)
		}
		if j.punch {
			break
		}
	}
	if len(s.Cuts) == 0 {
		p.leave(j)
		return Step{}, false
	}
	if j.shell {
		s.Behind = p.shell
		if p.shell == 0 && j.open != "" {
			s.Why = j.open
		}
	}
	p.cut(&s)
	return s, true
}

// choose tries the most promising burs, and some more where these take too little, and takes
// the first that takes nearly as much as any, with the progress after it; nil where none
// takes enough.
func (p *planner) choose(j job, state *progress, tried map[burAt]bool) (best Cutting, after *progress) {
	const mostRounds = 3
	standing := state.standing()
	wanted := func(n int) bool { return standing[n] > j.worth() && p.wants(j, n) }
	before := p.survey.Volume(standing)
	for range mostRounds {
		keys := p.promising(j, standing, wanted, tried)
		most := 0.0
		for _, key := range keys {
			c := p.cutting(j, key, wanted)
			trial := state.clone()
			trial.cut(c)
			taken := before - p.survey.Volume(trial.standing())
			// There may be more in a bur once others have cut: it is not tried out.
			tried[key] = taken < j.enough()
			if !tried[key] && taken*nearly > most {
				best, most, after = c, taken, trial
			}
		}
		if after != nil || len(keys) == 0 {
			break
		}
	}
	return best, after
}

// longEnough is a first cut by a head that is long enough for its depth, where the kit has one
// that gets down there; else the cut as it was chosen.
func (p *planner) longEnough(
	j job, state *progress, tried map[burAt]bool, chosen Cutting, after *progress,
) (Cutting, *progress) {
	deep := p.survey.sunk(chosen)
	if deep <= chosen.Head.Length+MostSunk {
		return chosen, after
	}
	longer := j
	longer.tools = slices.DeleteFunc(slices.Clone(j.tools), func(id instrument.ID) bool {
		return instrument.MustFind(id).Head.Length+MostSunk < deep
	})
	if len(longer.tools) == 0 {
		return chosen, after
	}
	if c, then := p.choose(longer, state, tried); then != nil {
		return c, then
	}
	return chosen, after
}

// cutting is what a bur does of a job.
func (p *planner) cutting(j job, key burAt, wanted func(n int) bool) Cutting {
	stands := p.where(key)
	useful := stands.Useful(wanted)
	if j.level {
		layer := stands.N[0] * stands.N[1]
		for n := range useful {
			if stands.Origin.Z+float64(n/layer)*stands.H < p.survey.floorAt-stands.H {
				useful[n] = false
			}
		}
	}
	c := Cutting{Instrument: key.bur, Head: p.kit.Get(key.bur).Head, Axis: key.axis}
	if j.punch {
		c.Ways = stands.Plunge(useful, p.survey.entering)
	} else {
		c.Ways = stands.Ways(useful)
	}
	if j.play > 0 {
		c.Ways = stands.Settle(c.Ways, overcut+j.play/2)
	}
	return c
}

// sunk is how far (mm) under the tooth's surface a plunge ends; 0 where that is not found.
func (s *Survey) sunk(c Cutting) float64 {
	const deepest, step = 12.0, 0.1 // mm
	if len(c.Ways) == 0 {
		return 0
	}
	way := c.Ways[0]
	over, _ := solid.RootAlong(s.tooth.Distance, way[len(way)-1], c.Axis, 0, deepest, step)
	return over
}

// entering is what speaks against a first cut that ends at a foot: over a pulpal floor the
// tooth that stands over it, which is least in a pit, and the way from there to a box;
// elsewhere what the cut falls short of the deepest.
func (s *Survey) entering(foot r3.Vec) float64 {
	const deepest, step, ofWay = 12.0, 0.1, 0.05 // mm; share of a mm that a mm of way counts
	if math.IsInf(s.floorAt, -1) {
		return foot.Z
	}
	over, ok := solid.RootAlong(s.tooth.Distance, foot, r3.Vec{Z: 1}, 0, deepest, step)
	if !ok {
		return math.Inf(1)
	}
	way := 0.0
	for n, side := range s.boxes {
		reach := s.Kept.Room().Max.X - foot.X
		if side == notation.Distal {
			reach = foot.X - s.Kept.Room().Min.X
		}
		if n == 0 || reach < way {
			way = reach
		}
	}
	return over + ofWay*way
}

// nearly as much as any: what suits better is taken before what takes a little more.
const nearly = 0.9

// cut does a derived step, and keeps what it is to take.
func (p *planner) cut(s *Step) {
	p.progress.do(s)
	s.Planned = s.Taken
}

// wants reports a sample that a job is there for.
func (p *planner) wants(j job, n int) bool {
	if (j.old && !p.survey.Filling[n]) || (j.side != "" && p.survey.sideOf(n) != j.side) {
		return false
	}
	if j.ends != withEnds && p.survey.byRidge(n) != (j.ends == onlyEnds) {
		return false
	}
	f := p.survey.partOf(n)
	return j.wants(f) || (j.enamel && f == cavity.Excavation && !p.survey.Dentin[n])
}

// volumeOf is what of a job still stands, mm³.
func (p *planner) volumeOf(j job, standing []float32) float64 {
	sum := 0.0
	for n, share := range standing {
		if share > 0 && p.wants(j, n) {
			sum += float64(share)
		}
	}
	return sum * math.Pow(p.survey.Kept.H, 3)
}

// others are the burs that were not chosen, with what each would seem to take.
func (p *planner) others(chosen instrument.ID) []Other {
	var all []Other
	for _, bur := range p.offered {
		if gain := p.gains[bur]; bur != chosen && gain > 0 {
			all = append(all, Other{bur, gain})
		}
	}
	return all
}

// promising are the burs of a job that seem to take most, those that suit best first: for
// a rough cut the first that takes nearly as much as any, for a fine one some to be tried.
func (p *planner) promising(j job, standing []float32, wanted func(n int) bool, tried map[burAt]bool) []burAt {
	const usualTrials = 3
	mostTrials := usualTrials
	if j.trials > 0 {
		mostTrials = j.trials
	}
	p.lack = nil
	if p.volumeOf(j, standing) < j.enough() {
		return nil // before any bur is tried
	}
	ready, strange := p.burs(j)
	p.offered = ready
	asked := j.tools
	if strange {
		asked = slices.Concat(j.tools, ready)
	}
	gains := p.gainsOf(j, asked, standing, wanted, tried)
	p.noteLack(j, ready)
	most := 0.0
	keys := slices.DeleteFunc(p.keysOf(j, ready, tried), func(key burAt) bool { return gains[key] < j.enough()/2 })
	for _, key := range keys {
		most = math.Max(most, gains[key])
	}
	if !j.fine {
		if n := slices.IndexFunc(keys, func(key burAt) bool { return gains[key] >= nearly*most }); n >= 0 {
			return keys[n : n+1]
		}
		return nil
	}
	slices.SortStableFunc(keys, func(a, b burAt) int { return cmp.Compare(gains[b], gains[a]) })
	return keys[:min(len(keys), mostTrials)]
}

// keysOf are some burs at the axes of a job, but for those that were tried in vain.
func (p *planner) keysOf(j job, burs []instrument.ID, tried map[burAt]bool) []burAt {
	var keys []burAt
	for _, bur := range burs {
		for _, axis := range j.tilts {
			key := burAt{bur, axis, hindrance{j.shell, slowly(j.kind, p.kit.Get(bur))}, overcut + j.play}
			if !tried[key] {
				keys = append(keys, key)
			}
		}
	}
	return keys
}

// gainsOf is what (mm³) some burs would seem to take of what is wanted, by axis.
func (p *planner) gainsOf(
	j job,
	burs []instrument.ID,
	standing []float32,
	wanted func(n int) bool,
	tried map[burAt]bool,
) map[burAt]float64 {
	keys := p.keysOf(j, burs, tried)
	p.reach(keys)
	gains := map[burAt]float64{}
	clear(p.gains)
	for _, key := range keys {
		r := p.known[p.standing(key)]
		for n, b := range r.beyond {
			if b < 1 {
				if at := p.fine(r.Grid, n); wanted(at) {
					gains[key] += math.Min(float64(standing[at]), solid.Occupied(float64(b), r.H)) * math.Pow(r.H, 3)
				}
			}
		}
		p.gains[key.bur] = math.Max(p.gains[key.bur], gains[key])
	}
	return gains
}

// noteLack notes the bur that would be taken with the whole kit, where it does not lie ready.
func (p *planner) noteLack(j job, ready []instrument.ID) {
	most := 0.0
	for _, bur := range j.tools {
		most = math.Max(most, p.gains[bur])
	}
	for _, bur := range j.tools {
		if p.gains[bur] >= j.enough()/2 && p.gains[bur] >= nearly*most {
			if !slices.Contains(ready, bur) {
				p.lack = p.lacking(j, bur, "")
			}
			return
		}
	}
}

// leave keeps what stays undone of a job because its bur is not there.
func (p *planner) leave(j job) {
	if p.lack == nil {
		return
	}
	if stays := p.volumeOf(j, p.progress.standing()); stays >= j.enough() {
		p.lack.Stays = stays
		p.lacks = append(p.lacks, *p.lack)
	}
}
