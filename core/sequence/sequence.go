// Package sequence plans how a tooth is prepared at the chair and words each step: what is
// marked and guarded, what is cut, and how the cavity is left. Before a cavity has been cut
// with the kit its steps are those that its design asks for; once that is proven they say what
// cutting them showed.
package sequence

import (
	"fmt"
	"slices"

	"obturon/core/cavity"
	"obturon/core/instrument"
	"obturon/core/procedure"
	"obturon/core/rehearsal"
)

// Of are the steps of a tooth's cavities, which proven has as the kit cut them, in the same
// order; nil where nothing is proven yet. It is one sequence, in which what a tooth needs once
// stands once, and every step of several cavities names its own.
func Of(cavities []*cavity.Cavity, proven []*rehearsal.Rehearsal, kit *instrument.Kit, fillingStays bool) []procedure.Step {
	var before, cut, after []procedure.Step
	for n, c := range cavities {
		var r *rehearsal.Rehearsal
		if proven != nil {
			r = proven[n]
		}
		before = mergedInto(before, confirm(c))
		for _, s := range protect(c) {
			before = mergedInto(before, s)
		}
		for _, s := range cutting(n, c, r, kit) {
			if len(cavities) > 1 {
				s.Of = NameOf(c)
				s.ID = s.Of + "/" + s.ID
			}
			s.Position = positionFor(c.Model.Tooth, c)
			cut = append(cut, s)
		}
		after = mergedInto(after, inspect(c))
		if len(c.Sealed) > 0 {
			after = append(after, sealFissures())
		}
	}
	if fillingStays {
		after = append(after, sealStaying())
	}
	steps := slices.Concat(before, cut, after)
	for n := range steps {
		s := &steps[n]
		s.Shown = n + 1
		if s.Position == "" {
			s.Position = positionFor(cavities[0].Model.Tooth, cavities[0])
		}
		if s.Cut == nil && proven != nil {
			s.Lack = supplied(*s, kit)
		}
		s.FromAbove = s.FromAbove || s.Cut == nil
		if s.Figure == "" && s.Depth > 0 {
			s.Figure = fmt.Sprintf("%.1f mm deep", s.Depth)
		}
	}
	return steps
}

// cutting are the steps of one cavity, with those among them that take nothing.
func cutting(n int, c *cavity.Cavity, r *rehearsal.Rehearsal, kit *instrument.Kit) []procedure.Step {
	planned := rehearsal.Expected(c, kit)
	if r != nil {
		planned = r.Steps
	}
	before, after := uncut(c)
	var steps procedure.List
	trimmed := slices.ContainsFunc(planned, func(s rehearsal.Step) bool { return s.Kind == procedure.TrimSeat })
	if trimmed { // with what there is to take
		before = slices.DeleteFunc(before, func(s procedure.Step) bool { return s.Kind == procedure.TrimSeat })
	}
	add := func(all []procedure.Step) {
		for _, s := range all {
			steps.Add(s)
		}
	}
	for k := range planned {
		if planned[k].Kind == procedure.Bevel {
			add(before)
			before = nil
		}
		s := written(c, r, kit, planned, k)
		if r != nil {
			s.Cut = &procedure.Cut{Cavity: n, Step: k}
		}
		steps.Add(s)
	}
	add(before)
	add(after)
	return steps
}

// NameOf tells a cavity from the others of its tooth.
func NameOf(c *cavity.Cavity) string {
	if c.Name == "" {
		return "occlusal"
	}
	return c.Name
}

// mergedInto adds a step that a tooth needs once. Where it is there already the longer text
// stays, with the instruments of both.
func mergedInto(steps []procedure.Step, s procedure.Step) []procedure.Step {
	at := procedure.First(steps, s.Kind)
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
