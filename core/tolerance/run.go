package tolerance

import (
	"context"
	"runtime"
	"sync"

	"obturon/core/assess"
	"obturon/core/measure"
	"obturon/core/rehearsal"
	"obturon/core/solid"
)

// Outcome is what one hand made of a cavity.
type Outcome struct {
	Seed   uint64
	Checks []assess.Check
	Taken  float64 // mm³ of the tooth
}

// Once cuts a rehearsed cavity with errors and has it measured. The error is the
// context's.
func Once(ctx context.Context, r *rehearsal.Rehearsal, h Hand, seed uint64) (Outcome, error) {
	var tools []solid.Tool
	errors := h.Draw(len(r.Steps), seed)
	for n := range r.Steps {
		s := h.Spoil(r.Steps[n], errors[n])
		tools = append(tools, s.Tools(r.Survey)...)
	}
	w := r.Before.Carve(tools...)
	checks, err := assess.Cavity(ctx, measure.NewSubject(measure.NewPrepared(r.Cavity.Model, w), r.Cavity))
	if err != nil {
		return Outcome{}, err
	}
	return Outcome{seed, checks, w.Removed(nil).Total}, nil
}

// Run is Once for each seed, on all processors; told hears how many are done. It stops
// between cavities with the context's error.
func Run(ctx context.Context, r *rehearsal.Rehearsal, h Hand, seeds []uint64, told func(done int)) ([]Outcome, error) {
	ctx, cancel := context.WithCancel(ctx)
	defer cancel()
	outcomes := make([]Outcome, len(seeds))
	var group sync.WaitGroup
	var lock sync.Mutex
	var failed error
	done := 0
	next := make(chan int)
	for range runtime.GOMAXPROCS(0) {
		group.Go(func() {
			for n := range next {
				one, err := Once(ctx, r, h, seeds[n])
				lock.Lock()
				if err != nil && failed == nil {
					failed = err
					cancel()
				}
				outcomes[n] = one
				if done++; failed == nil && told != nil {
					told(done)
				}
				lock.Unlock()
			}
		})
	}
	for n := range seeds {
		if ctx.Err() != nil {
			break
		}
		next <- n
	}
	close(next)
	group.Wait()
	if failed == nil {
		failed = ctx.Err()
	}
	return outcomes, failed
}

// Seeds are so many, from one on.
func Seeds(first uint64, n int) []uint64 {
	all := make([]uint64, n)
	for k := range all {
		all[k] = first + uint64(k)
	}
	return all
}
