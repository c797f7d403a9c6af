package rehearsal

import (
	"context"
	"errors"
	"slices"

	"obturon/core/cavity"
	"obturon/core/instrument"
	"obturon/core/lesion"
	"obturon/core/procedure"
	"obturon/core/solid"
)

// Grid (mm) is how far apart the room about a cavity is sampled.
const Grid = 0.1

// Rehearsal is a cavity that the kit has cut.
type Rehearsal struct {
	Cavity     *cavity.Cavity
	Kit        *instrument.Kit
	Survey     *Survey
	Before     *solid.Workpiece // the tooth as it comes: what has broken off is gone
	Steps      []Step
	Deviations []Deviation
	Lacks      []Lack // of work for which the kit has nothing
}

// errNothingCut means that a cavity and the tooth that it was cut into do not belong together.
var errNothingCut = errors.New("the cavity takes nothing from the tooth")

// Lost is what has broken off before anything is cut.
func Lost(c *cavity.Cavity) []solid.Tool {
	var lost []solid.Tool
	for _, l := range c.Lesions {
		if lesion.ContentOf(l) == lesion.Gone {
			lost = append(lost, l)
		}
	}
	return lost
}

// Of rehearses a cavity of a tooth with a kit: prepared is the tooth with it alone, beside
// are the teeth that stand beside it. It stops between steps with the context's error.
func Of(ctx context.Context, kit *instrument.Kit, c *cavity.Cavity, prepared *solid.Workpiece, beside []*solid.Mesh) (*Rehearsal, error) {
	return Followed(ctx, kit, c, prepared, beside, func(float64) {})
}

// Followed is Of that tells the share that is done, 0 to 1, after every job.
func Followed(
	ctx context.Context,
	kit *instrument.Kit,
	c *cavity.Cavity,
	prepared *solid.Workpiece,
	beside []*solid.Mesh,
	progress func(share float64),
) (*Rehearsal, error) {
	if prepared.Removed(nil).Total <= 0 {
		return nil, errNothingCut
	}
	r := &Rehearsal{Cavity: c, Kit: kit, Before: c.Model.Surface.Uncut()}
	if lost := Lost(c); len(lost) > 0 {
		r.Before = r.Before.Carve(lost...)
	}
	r.Survey = newSurvey(c, r.Before, prepared, beside, Grid)
	if err := ctx.Err(); err != nil {
		return nil, err
	}
	p := newPlanner(c, r.Survey, kit)
	jobs := jobsOf(c, r.Survey)
	for n, j := range jobs {
		progress(float64(n+1) / float64(len(jobs)+1)) // the survey is one as well
		if slices.Contains(taught, j.kind) {
			j.tools = c.School.Preferring(j.tools)
		}
		if err := ctx.Err(); err != nil {
			return nil, err
		}
		if s, ok := p.step(j); ok {
			r.Steps = append(r.Steps, s)
		}
	}
	r.Deviations, r.Lacks = p.progress.deviations(), p.lacks
	return r, nil
}

// taught are the kinds of step whose burs a school chooses; those of others the reach decides.
var taught = []procedure.Kind{
	procedure.PunchCut,
	procedure.Outline,
	procedure.Ridges,
	procedure.Extensions,
	procedure.OpenToSize,
	procedure.Bevel,
}

// Repeat rehearses other steps than were derived: one left out, another order, another
// bur in the same ways.
func (r *Rehearsal) Repeat(steps []Step) *Rehearsal {
	again := &Rehearsal{Cavity: r.Cavity, Kit: r.Kit, Lacks: r.Lacks, Survey: r.Survey, Before: r.Before, Steps: slices.Clone(steps)}
	p := r.Survey.begin()
	for n := range again.Steps {
		p.do(&again.Steps[n])
	}
	again.Deviations = p.deviations()
	return again
}

// Workpieces are the tooth after each step.
func (r *Rehearsal) Workpieces() []*solid.Workpiece {
	states := make([]*solid.Workpiece, len(r.Steps))
	w := r.Before
	for n, s := range r.Steps {
		w = w.Carve(s.Tools(r.Survey)...)
		states[n] = w
	}
	return states
}

// Cut is the tooth after the last step.
func (r *Rehearsal) Cut() *solid.Workpiece {
	states := r.Workpieces()
	if len(states) == 0 {
		return r.Before
	}
	return states[len(states)-1]
}

// Proven (mm) is how near to the drawn surface what is cut has to come. Of a sliver
// smaller than smallest (mm²) the lattice cannot tell that: a drawn surface measured
// against itself comes out as far off.
const (
	Proven   = 0.05
	smallest = 0.5
)

// Unproven are the surfaces off which the kit leaves or takes more than Proven.
func (r *Rehearsal) Unproven() []Deviation {
	var all []Deviation
	for _, d := range r.Deviations {
		if d.Area >= smallest && (d.Standing.Usual > Proven || d.Overcut.Usual > Proven) {
			all = append(all, d)
		}
	}
	return all
}
