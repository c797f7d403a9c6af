// Package sitting puts together what is done for one tooth, or for several in one sitting,
// from the needle to the last word, and what has to lie ready for it.
package sitting

import (
	"fmt"
	"math"
	"slices"

	"obturon/core/instrument"
	"obturon/core/procedure"
)

// Filling are the steps that fill a cavity, which has a name of its own where a tooth has several.
type Filling struct {
	Of    string
	Steps []procedure.Step
}

// Course is what is done for a tooth: marked first, made numb and dry, cut, filled. The steps
// of cutting begin with the one that confirms the tooth and marks on it what isolation hides.
func Course(cut, ready []procedure.Step, fillings []Filling) []procedure.Step {
	const marked = 1
	all := slices.Concat(cut[:marked], ready, cut[marked:])
	var bite, rest, last []procedure.Step // once for the tooth; of every cavity after that; once again
	for k, f := range fillings {
		own := slices.Clone(f.Steps)
		for n := range own {
			own[n].Of = f.Of
		}
		own = procedure.Within(f.Of, own)
		n := slices.IndexFunc(own, func(s procedure.Step) bool { return s.Kind == procedure.CheckOcclusion })
		if n < 0 {
			n = len(own) - 1
		}
		all = append(all, own[:n]...)
		for _, s := range own[n:] {
			switch {
			case !s.Kind.Entry().Once:
				rest = append(rest, s)
			case k < len(fillings)-1: // once all are filled
			case s.Kind == procedure.CheckOcclusion:
				bite = append(bite, s)
			default:
				last = append(last, s)
			}
		}
	}
	if len(bite) > 0 && dammed(all) { // nothing may lie between the teeth
		bite = slices.Insert(bite, 0, damOff())
	}
	return slices.Concat(all, bite, rest, last)
}

// dammed reports steps that lay a dam.
func dammed(steps []procedure.Step) bool {
	return slices.ContainsFunc(steps, func(s procedure.Step) bool { return slices.Contains(s.Instruments, instrument.Dam) })
}

func damOff() procedure.Step {
	s := procedure.New(procedure.RemoveDam)
	s.Seconds = secondsOff
	s.Action = "Cord out, clamp off, each bridge between the teeth cut with a finger under it; lay the dam out and see that none of it is missing."
	return s
}

// Before are the steps of a course that come before anything is cut.
func Before(steps []procedure.Step) []procedure.Step {
	n := slices.IndexFunc(steps, func(s procedure.Step) bool { return s.Kind.Phase() == procedure.Cutting })
	if n < 0 {
		return steps
	}
	return steps[:n]
}

// timed are steps whose waiting ends when their clock has run, whatever was done meanwhile;
// where they last longer than the teeth stay numb, the step that confirms that warns of it.
func timed(steps []procedure.Step) []procedure.Step {
	for n := range steps {
		s := &steps[n]
		if c := s.Clock; c != nil && c.After != "" && c.Least > 0 {
			s.Seconds -= min(c.Least, procedure.Seconds(steps[procedure.Index(steps, c.After)+1:n]))
		}
	}
	for n := range steps {
		s := &steps[n]
		if s.Kind != procedure.ConfirmAnaesthesia {
			continue
		}
		if left, numb := procedure.Seconds(steps[n+1:]), s.Clock.Most-s.Clock.Least; left > numb {
			s.Caution = fmt.Sprintf(
				"About %.0f minutes follow, and it keeps the tooth numb for about %.0f: be ready to give more by your own protocol, or do fewer teeth.",
				math.Ceil(float64(left)/60),
				math.Floor(float64(numb)/60),
			)
		}
	}
	return steps
}
