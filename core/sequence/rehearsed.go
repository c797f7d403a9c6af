package sequence

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"obturon/core/cavity"
	"obturon/core/instrument"
	"obturon/core/rehearsal"
)

// Rehearsed are the steps at the chair of a tooth's cavities, each written from what the
// kit cuts: one sequence, in which what a tooth needs once stands once, and every step of
// several cavities names its own.
func Rehearsed(all []*rehearsal.Rehearsal, fillingStays bool) []Step {
	var before, cut, after []Step
	for n, r := range all {
		own := formOf(r.Cavity)
		before = mergedInto(before, own.confirm)
		for _, s := range own.protect {
			before = mergedInto(before, s)
		}
		for _, s := range cutting(n, r) {
			if len(all) > 1 {
				s.Of = nameOf(r.Cavity)
			}
			s.Position = positionFor(r.Cavity.Model.Tooth, r.Cavity)
			cut = append(cut, s)
		}
		after = mergedInto(after, own.inspect)
		if len(r.Cavity.Sealed) > 0 {
			after = append(after, sealFissures())
		}
	}
	if fillingStays {
		after = append(after, sealStaying())
	}
	first := all[0].Cavity
	steps := slices.Concat(before, cut, after)
	for n := range steps {
		if steps[n].Position == "" {
			steps[n].Position = positionFor(first.Model.Tooth, first)
		}
		if steps[n].Cut == nil {
			steps[n].Lack = supplied(steps[n], all[0].Kit)
		}
		steps[n].FromAbove = steps[n].FromAbove || steps[n].Cut == nil
		if steps[n].Figure == "" && steps[n].Depth > 0 {
			steps[n].Figure = fmt.Sprintf("%.1f mm deep", steps[n].Depth)
		}
	}
	return steps
}

// cutting are the steps of one cavity, with those among them that take nothing.
func cutting(n int, r *rehearsal.Rehearsal) []Step {
	before, after := uncut(r.Cavity)
	var steps []Step
	trimmed := false
	for k := range r.Steps {
		if r.Steps[k].Rule == rehearsal.Bevel {
			steps = append(steps, before...)
			before = nil
		}
		trimmed = trimmed || r.Steps[k].Rule == rehearsal.TrimSeat
		s := written(r, k)
		s.Cut = &Cut{Cavity: n, Step: k}
		steps = append(steps, s)
	}
	steps = slices.Concat(steps, before, after)
	if trimmed { // with what there was to take
		steps = slices.DeleteFunc(steps, func(s Step) bool { return s.Cut == nil && slices.Contains(s.Instruments, instrument.MarginTrimmer) })
	}
	return steps
}

// nameOf tells a cavity from the others of its tooth.
func nameOf(c *cavity.Cavity) string {
	if c.Name == "" {
		return "occlusal"
	}
	return c.Name
}

// mergedInto adds a step that a tooth needs once. Where it is there already the longer text
// stays, with the instruments of both.
func mergedInto(steps []Step, s Step) []Step {
	kind := func(s Step) string { first, _, _ := strings.Cut(s.Name, " "); return strings.Trim(first, ",") }
	at := slices.IndexFunc(steps, func(other Step) bool { return kind(other) == kind(s) })
	if at < 0 {
		return append(steps, s)
	}
	both := steps[at]
	if len(s.Action) > len(both.Action) {
		both, s = s, both
	}
	for _, id := range s.Instruments {
		if !slices.Contains(both.Instruments, id) {
			both.Instruments = append(slices.Clone(both.Instruments), id)
		}
	}
	steps[at] = both
	return steps
}

// fact is a rehearsed step with what its text is written from.
type fact struct {
	*rehearsal.Step
	r           *rehearsal.Rehearsal
	first       instrument.Instrument // that is taken up
	least, most float64               // mm that its burs go under the surface; 0 by hand
	floor       float64               // mm under the pits of an occlusal surface at which the first cut ends; 0 without one
}

func written(r *rehearsal.Rehearsal, n int) Step {
	f := fact{Step: &r.Steps[n], r: r, first: r.Kit.Get(r.Steps[n].Instruments[0])}
	f.least, f.most, _ = r.Sunk(f.Step)
	if first := &r.Steps[0]; first.Rule == rehearsal.PunchCut && r.Cavity.Opened {
		_, f.floor, _ = r.Sunk(first)
	}
	s := Step{
		Name: f.Name(), Instruments: f.Instruments, Speed: f.first.Speed(), Depth: tenth(f.most), Seconds: f.seconds(),
		Why: f.Why + " " + f.reckoning(), Start: f.start(), Lean: f.lean(), Stays: f.stays(), Others: f.others(), Grasp: grasps[f.first.ID],
		Alarms: f.alarms(n), Lack: f.lack(),
	}
	s.FromAbove = slices.Contains(fromAbove, f.Rule)
	phrases[f.Rule](f, &s)
	s.Caution = strings.TrimSpace(f.warming() + " " + s.Caution)
	return s
}

// fromAbove are the rules whose work is judged by its outline.
var fromAbove = []rehearsal.Rule{rehearsal.Outline, rehearsal.Ridges, rehearsal.Extensions, rehearsal.OpenToSize, rehearsal.Bevel, rehearsal.ReduceCusps}

// tenth rounds to what a probe can be read to, mm.
func tenth(mm float64) float64 { return math.Round(mm*10) / 10 }

// alarms are those of the step, in words.
func (f fact) alarms(n int) []string {
	var all []string
	for _, a := range f.r.Alarms() {
		if a.Step == n {
			all = append(all, a.Text)
		}
	}
	return all
}

// reckoning is why this instrument, in figures.
func (f fact) reckoning() string {
	if f.Wanted <= 0 {
		return ""
	}
	took := math.Min(f.Taken, f.Wanted)
	if f.ByHand {
		return fmt.Sprintf("Burs leave %.2f mm³ there; the blade gets at %.2f of it.", f.Wanted, took)
	}
	return fmt.Sprintf("Of the %s mm³ that stand there it takes %s.", volume(f.Wanted), volume(took))
}

// volume writes mm³ to what matters of it.
func volume(mm3 float64) string {
	if mm3 < 1 {
		return fmt.Sprintf("%.2f", mm3)
	}
	return fmt.Sprintf("%.1f", mm3)
}

// depth is how far the burs go under the surface, in words.
func (f fact) depth() string {
	const even = 0.15 // mm by which a floor may differ and still be called one depth
	if f.most-f.least < even || f.least < 0.3 {
		return fmt.Sprintf("%.1f mm", f.most)
	}
	return fmt.Sprintf("%.1f to %.1f mm", f.least, f.most)
}
