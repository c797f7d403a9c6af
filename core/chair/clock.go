package chair

import "slices"

// Limit is how long the clock of a step runs, seconds. The zero Limit is no clock.
type Limit struct {
	Least, Most float64
	// After is the number, from 1, of the step whose end starts it; 0 where a hand does.
	After int
}

// Clock is one that runs: of which step, and when it was started, seconds since the run's
// start. Chemistry knows no pause: nor does it.
type Clock struct {
	Step int
	From float64
}

// Clocks are those that run after the events of a run, in the order in which they were
// started. A clock ends when it is stopped, when its step is skipped, or done after the
// least that it asks, or with the run: a step that is left sooner has its clock go on, for
// the hand does something else meanwhile.
func Clocks(limits []Limit, events []Event) []Clock {
	var running []Clock
	stop := func(step int) {
		running = slices.DeleteFunc(running, func(c Clock) bool { return c.Step == step })
	}
	start := func(step int, at float64) {
		stop(step)
		running = append(running, Clock{step, at})
	}
	state := Run(len(limits), nil)
	for _, e := range events {
		before := state.Step
		state.take(e)
		switch {
		case e.Kind == ClockStarted && e.Step < len(limits) && limits[e.Step].Most > 0:
			start(e.Step, e.At)
		case e.Kind == ClockStopped:
			stop(e.Step)
		case e.Kind == Skipped && state.Step == before+1:
			stop(before)
		case e.Kind == Done && state.Step == before+1:
			running = slices.DeleteFunc(running, func(c Clock) bool { return c.Step == before && e.At-c.From >= limits[before].Least })
			for n, l := range limits {
				if l.After == before+1 {
					start(n, e.At)
				}
			}
		}
	}
	if state.Finished {
		return nil
	}
	return running
}
