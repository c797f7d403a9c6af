// Package parallel runs work side by side. A panic in a goroutine would end the
// whole process; here it is raised again where the work is waited for, with the
// stack of where it began, so that whoever asked for the work can answer for it.
package parallel

import (
	"context"
	"fmt"
	"runtime"
	"runtime/debug"
	"sync"
)

// Panic is what a goroutine panicked with, and where.
type Panic struct {
	Value any
	Stack []byte
}

// Error tells what happened and where it began.
func (p *Panic) Error() string { return fmt.Sprintf("%v\n%s", p.Value, p.Stack) }

// Group is work that is waited for together. The zero Group is ready to use.
type Group struct {
	working sync.WaitGroup
	first   sync.Once
	raised  *Panic
}

// Go starts a piece of work.
func (g *Group) Go(work func()) {
	g.working.Go(func() {
		defer g.keep()
		work()
	})
}

func (g *Group) keep() {
	value := recover()
	if value == nil {
		return
	}
	p, nested := value.(*Panic) // of a group within: its stack tells more
	if !nested {
		p = &Panic{value, debug.Stack()}
	}
	g.first.Do(func() { g.raised = p })
}

// Wait waits until all work is done. It panics with the first *Panic of it.
func (g *Group) Wait() {
	g.working.Wait()
	if g.raised != nil {
		panic(g.raised)
	}
}

// Each runs f for 0..n-1 on all processors. Each call must only write what
// belongs to its index.
func Each(n int, f func(int)) {
	_ = EachUntil(context.Background(), n, f) // a context that never ends
}

// EachUntil is Each that starts nothing more once the context has ended, and then
// returns the context's error.
func EachUntil(ctx context.Context, n int, f func(int)) error {
	workers := min(runtime.GOMAXPROCS(0), n)
	if workers <= 1 {
		for i := range n {
			if ctx.Err() != nil {
				return ctx.Err()
			}
			f(i)
		}
		return nil
	}
	next := make(chan int, n)
	for i := range n {
		next <- i
	}
	close(next)
	var g Group
	for range workers {
		g.Go(func() {
			for i := range next {
				if ctx.Err() != nil {
					return
				}
				f(i)
				// What a user waits for must not stand behind all of this: without it
				// each goroutine keeps its processor for a hundredth of a second.
				runtime.Gosched()
			}
		})
	}
	g.Wait()
	return ctx.Err()
}
