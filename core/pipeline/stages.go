package pipeline

import (
	"slices"
	"sync"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/drawing"
	"obturon/core/measure"
	"obturon/core/parallel"
	"obturon/core/rehearsal"
	"obturon/core/solid"
)

// stages draw a rehearsed tooth as it looks after each step. What they need of the tooth
// and of its finished cavities is made once, when a stage is asked for.
type stages struct {
	subjects  []drawing.Subject
	finished  []func() []drawing.View // by cavity
	workpiece func() onTheWay
	turning   func() onTheWay // coarse, for the screen
}

// onTheWay is the tooth after each step of each cavity, those before it finished; the first
// of each is before its first step.
type onTheWay [][]*solid.Workpiece

func newStages(r *Proven) *stages {
	s := &stages{}
	for _, one := range r.Subjects {
		subject := r.Subject(one, Sections{})
		s.subjects = append(s.subjects, subject)
		s.finished = append(s.finished, sync.OnceValue(func() []drawing.View { return drawing.Views(subject) }))
	}
	s.workpiece = sync.OnceValue(func() onTheWay { return cutOn(r.Model.Surface.Uncut(), r.Rehearsals) })
	s.turning = sync.OnceValue(func() onTheWay { return cutOn(r.Model.Turning().Uncut(), r.Rehearsals) })
	return s
}

// cutOn cuts an uncut tooth, step by step.
func cutOn(w *solid.Workpiece, all []*rehearsal.Rehearsal) onTheWay {
	var states onTheWay
	for _, r := range all {
		if lost := rehearsal.Lost(r.Cavity); len(lost) > 0 {
			w = w.Carve(lost...)
		}
		own := []*solid.Workpiece{w}
		for n := range r.Steps {
			w = w.Carve(r.Steps[n].Tools(r.Survey)...)
			own = append(own, w)
		}
		states = append(states, own)
	}
	return states
}

// Stage is the tooth after a step of the chair's sequence.
type Stage struct {
	Views []drawing.View // with the step's bur where it stands deepest
	First int            // the view that shows the step best
	Mesh  *solid.Mesh    // coarse
}

// Stage draws the tooth after a step of the chair's sequence. Steps that cut nothing show
// the tooth as it is then. ok is false for a step that there is not.
func (r *Proven) Stage(step int) (s Stage, ok bool) {
	if step < 0 || step >= len(r.Chair) {
		return s, false
	}
	at, after, held := 0, 0, (*drawing.Held)(nil)
	for n := range r.Chair[:step+1] {
		if cut := r.Chair[n].Cut; cut != nil {
			at, after = cut.Cavity, cut.Step+1
		}
	}
	if cut := r.Chair[step].Cut; cut != nil {
		held = heldDeepest(r.Rehearsals[cut.Cavity], cut.Step)
	}
	var beside parallel.Group
	beside.Go(func() { s.Mesh = r.stages.turning()[at][after].Mesh() })
	so := measure.NewPrepared(r.Model, r.stages.workpiece()[at][after])
	for _, v := range r.stages.finished[at]() {
		s.Views = append(s.Views, drawing.Stage(v, r.stages.subjects[at], so, held))
	}
	if !r.Chair[step].FromAbove {
		s.First = max(slices.IndexFunc(s.Views, func(v drawing.View) bool { return v.Section == drawing.Along }), 0)
	}
	beside.Wait()
	return s, true
}

// heldDeepest is a step's first bur where its tip stands deepest; nil by hand.
func heldDeepest(r *rehearsal.Rehearsal, step int) *drawing.Held {
	s := r.Steps[step]
	if len(s.Cuts) == 0 {
		return nil
	}
	c := s.Cuts[0]
	var best r3.Vec
	found := false
	for _, w := range c.Ways {
		for _, tip := range w {
			if !found || r3.Dot(tip, c.Axis) < r3.Dot(best, c.Axis) {
				best, found = tip, true
			}
		}
	}
	if !found {
		return nil
	}
	frame := r.Survey.Frame
	return &drawing.Held{Head: c.Head, Pose: solid.Pose{Tip: frame.From(best), Axis: frame.Turn(c.Axis)}}
}
