// Package sitting puts together what is done for one tooth, or for several in one sitting,
// from the needle to the last word, and what has to lie ready for it.
package sitting

import (
	"fmt"
	"math"
	"slices"

	"obturon/core/fill"
	"obturon/core/instrument"
	"obturon/core/sequence"
)

// Step is one step of a sitting.
type Step struct {
	sequence.Step
	// Teeth are those that it is for, of several; one where each has its own.
	Teeth   []string
	Clock   *fill.Clock
	Filling bool
	// Laying is of the steps that follow each other without a break.
	Laying bool
	// Shown is the number, from 1, of the step of the tooth's own sequence in whose picture it
	// shows; 0 of filling.
	Shown int
}

// Filling are the steps that fill a cavity, which has a name of its own where a tooth has several.
type Filling struct {
	Of    string
	Steps []fill.Step
}

// Course is what is done for a tooth: marked first, made numb and dry, cut, filled.
func Course(cut []sequence.Step, ready []Step, fillings []Filling) []Step {
	const marked = 1 // the first step confirms the tooth and marks on it what isolation hides
	own := make([]Step, len(cut))
	for n, s := range cut {
		own[n] = Step{Step: s, Shown: n + 1}
	}
	all := slices.Concat(own[:marked], renumbered(ready, marked), own[marked:])
	for k, f := range fillings {
		var own []Step
		off := damOff(all)
		for _, s := range f.Steps {
			if s.Last && k < len(fillings)-1 {
				continue
			}
			if s.Last && off != nil { // nothing may lie between the teeth
				own, off = append(own, *off), nil
			}
			own = append(own, Step{
				Step:  sequence.Step{Name: s.Name, Of: f.Of, Instruments: s.Instruments, Speed: instrument.ByHand, Action: s.Action, Caution: s.Caution, Seconds: s.Seconds, Together: s.Together},
				Clock: s.Clock, Filling: true, Laying: s.Laying,
			})
		}
		all = append(all, renumbered(own, len(all))...)
	}
	return all
}

// damOff takes the dam away that some steps have laid; nil where they have not.
func damOff(steps []Step) *Step {
	if !slices.ContainsFunc(steps, func(s Step) bool { return slices.Contains(s.Instruments, instrument.Dam) }) {
		return nil
	}
	return &Step{Step: sequence.Step{
		Name: "Dam off", Speed: instrument.NoSpeed, Together: true, Seconds: secondsOff, Instruments: []instrument.ID{},
		Action: "Cord out, clamp off, each bridge between the teeth cut with a finger under it; lay the dam out and see that none of it is missing.",
	}, Filling: true}
}

// Before are the steps of a course that come before anything is cut.
func Before(steps []Step) []Step {
	n := slices.IndexFunc(steps, func(s Step) bool { return s.Speed != instrument.NoSpeed })
	if n < 0 {
		return steps
	}
	return steps[:n]
}

// renumbered are steps that follow on so many others: what starts their clocks moves along.
func renumbered(steps []Step, before int) []Step {
	moved := slices.Clone(steps)
	for n, s := range moved {
		if s.Clock != nil && s.Clock.After > 0 {
			c := *s.Clock
			c.After += before
			moved[n].Clock = &c
		}
	}
	return moved
}

// timed are steps whose waiting ends when their clock has run, whatever was done meanwhile;
// where they last longer than the teeth stay numb, the step that proves that warns of it.
func timed(steps []Step) []Step {
	for n := range steps {
		s := &steps[n]
		if c := s.Clock; c != nil && c.After > 0 && c.Least > 0 {
			s.Seconds -= min(c.Least, Seconds(steps[c.After:n]))
		}
	}
	for n := range steps {
		s := &steps[n]
		if s.Name != proveNumb {
			continue
		}
		if left, numb := Seconds(steps[n+1:]), s.Clock.Most-s.Clock.Least; left > numb {
			s.Caution = fmt.Sprintf("About %.0f minutes follow, and it keeps the tooth numb for about %.0f: be ready to give more by your own protocol, or do fewer teeth.", math.Ceil(float64(left)/60), math.Floor(float64(numb)/60))
		}
	}
	return steps
}

// Seconds are what some steps take together.
func Seconds(steps []Step) int {
	sum := 0
	for _, s := range steps {
		sum += s.Seconds
	}
	return sum
}
