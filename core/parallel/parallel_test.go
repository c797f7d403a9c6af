package parallel

import (
	"context"
	"errors"
	"strings"
	"sync/atomic"
	"testing"
)

// raised runs f and gives what it panicked with.
func raised(t *testing.T, f func()) *Panic {
	t.Helper()
	var got *Panic
	func() {
		defer func() {
			value := recover()
			p, ok := value.(*Panic)
			if !ok {
				t.Fatalf("panicked with %v", value)
			}
			got = p
		}()
		f()
	}()
	return got
}

func breakHere(int) { panic("a wall without a floor") }

func TestAPanicComesToWhoeverWaits(t *testing.T) {
	for name, run := range map[string]func(){
		"group": func() {
			var g Group
			g.Go(func() {})
			g.Go(func() { breakHere(0) })
			g.Wait()
		},
		"each": func() { Each(50, breakHere) },
		"nested": func() {
			var g Group
			g.Go(func() { Each(50, breakHere) })
			g.Wait()
		},
	} {
		p := raised(t, run)
		if p.Value != "a wall without a floor" || !strings.Contains(string(p.Stack), "breakHere") {
			t.Errorf("%s: %v at\n%s", name, p.Value, p.Stack)
		}
	}
}

func TestEachRunsEveryIndexOnce(t *testing.T) {
	for _, n := range []int{0, 1, 2, 97} {
		counts := make([]int32, n)
		Each(n, func(i int) { atomic.AddInt32(&counts[i], 1) })
		for i, c := range counts {
			if c != 1 {
				t.Errorf("of %d, %d ran %d times", n, i, c)
			}
		}
	}
}

func TestWorkStopsWithItsContext(t *testing.T) {
	ctx, cancel := context.WithCancel(context.Background())
	var ran atomic.Int32
	err := EachUntil(ctx, 10_000, func(int) {
		if ran.Add(1) == 5 {
			cancel()
		}
	})
	if !errors.Is(err, context.Canceled) || ran.Load() > 100 {
		t.Errorf("%d ran, %v", ran.Load(), err)
	}
	if err := EachUntil(context.Background(), 3, func(int) {}); err != nil {
		t.Error(err)
	}
}
