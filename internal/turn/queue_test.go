package turn

import (
	"context"
	"errors"
	"fmt"
	"sync"
	"sync/atomic"
	"testing"
	"testing/synctest"
	"time"
)

// outcome of one who asked.
type outcome struct {
	user string
	err  error
}

// ask takes a turn in the background and tells when it has come; the turn lasts
// until the release is closed.
func ask(q *Queue, ctx context.Context, user, question string, release <-chan struct{}, came chan<- outcome) {
	go func() {
		done, err := q.Take(ctx, user, question)
		came <- outcome{user, err}
		if err == nil {
			<-release
			done()
		}
	}()
}

func TestSoManyAtOnceAndNoMore(t *testing.T) {
	q := New(3, 1000)
	var now, most atomic.Int32
	var all sync.WaitGroup
	for n := range 200 {
		all.Go(func() {
			done, err := q.Take(context.Background(), fmt.Sprint(n%7), "")
			if err != nil {
				t.Error(err)
				return
			}
			if v := now.Add(1); v > most.Load() {
				most.Store(v)
			}
			now.Add(-1)
			done()
			done() // calling twice gives no second turn away
		})
	}
	all.Wait()
	if most.Load() > 3 {
		t.Errorf("%d ran at once", most.Load())
	}
	if running, waiting := q.Load(); running != 0 || waiting != 0 {
		t.Errorf("%d run and %d wait after all is done", running, waiting)
	}
}

func TestTurnsGoRound(t *testing.T) {
	synctest.Test(t, func(t *testing.T) {
		q := New(1, 10)
		came, release := make(chan outcome, 10), make(chan struct{})
		ctx := t.Context()
		ask(q, ctx, "greedy", "", release, came)
		synctest.Wait()
		<-came
		for range 3 {
			ask(q, ctx, "greedy", "", release, came)
			synctest.Wait()
		}
		time.Sleep(time.Millisecond)
		ask(q, ctx, "patient", "", release, came)
		synctest.Wait()
		release <- struct{}{}
		synctest.Wait()
		if next := <-came; next.user != "patient" {
			t.Errorf("%s comes before one who had no turn yet", next.user)
		}
		close(release)
	})
}

func TestOfOnesQuestionsTheNewestWaits(t *testing.T) {
	synctest.Test(t, func(t *testing.T) {
		var refusals []error
		q := New(1, 10)
		q.WhenRefused(func(err error) { refusals = append(refusals, err) })
		release := make(chan struct{})
		first, second, third, other := make(chan outcome, 1), make(chan outcome, 1), make(chan outcome, 1), make(chan outcome, 1)
		ctx := t.Context()
		ask(q, ctx, "a", "drag", release, first)
		synctest.Wait()
		ask(q, ctx, "a", "drag", release, second)
		synctest.Wait()
		ask(q, ctx, "b", "drag", release, other)
		synctest.Wait()
		ask(q, ctx, "a", "drag", release, third)
		synctest.Wait()
		if got := <-second; !errors.Is(got.err, ErrOutdated) {
			t.Errorf("the older question: %v", got.err)
		}
		close(release)
		synctest.Wait()
		for name, c := range map[string]chan outcome{"running": first, "newest": third, "another's": other} {
			if got := <-c; got.err != nil {
				t.Errorf("%s: %v", name, got.err)
			}
		}
		if len(refusals) != 1 {
			t.Errorf("told of %v", refusals)
		}
	})
}

func TestAFullLineSaysSoAtOnceAndIsFair(t *testing.T) {
	synctest.Test(t, func(t *testing.T) {
		q := New(1, 2)
		release := make(chan struct{})
		came := make(chan outcome, 10)
		ctx := t.Context()
		// a and b have had turns; c has not.
		for _, user := range []string{"a", "b"} {
			done, err := q.Take(ctx, user, "")
			if err != nil {
				t.Fatal(err)
			}
			done()
			time.Sleep(time.Millisecond)
		}
		ask(q, ctx, "x", "", release, came)
		synctest.Wait()
		<-came
		ask(q, ctx, "a", "", release, came)
		synctest.Wait()
		ask(q, ctx, "b", "", release, came)
		synctest.Wait()
		// x was served last of all: the line is full for it.
		if _, err := q.Take(ctx, "x", ""); !errors.Is(err, ErrBusy) {
			t.Errorf("a full line takes one more: %v", err)
		}
		ask(q, ctx, "c", "", release, came)
		synctest.Wait()
		if turned := <-came; turned.user != "b" || !errors.Is(turned.err, ErrBusy) {
			t.Errorf("%s gives way with %v", turned.user, turned.err)
		}
		release <- struct{}{}
		synctest.Wait()
		if next := <-came; next.user != "c" || next.err != nil {
			t.Errorf("%s is next, %v", next.user, next.err)
		}
		close(release)
	})
}

func TestWhoGivesUpLeavesTheLine(t *testing.T) {
	synctest.Test(t, func(t *testing.T) {
		q := New(1, 2)
		done, err := q.Take(t.Context(), "a", "")
		if err != nil {
			t.Fatal(err)
		}
		short, cancel := context.WithTimeout(t.Context(), time.Second)
		defer cancel()
		if _, err := q.Take(short, "b", ""); !errors.Is(err, context.DeadlineExceeded) {
			t.Errorf("got %v", err)
		}
		done()
		if running, waiting := q.Load(); running != 0 || waiting != 0 {
			t.Errorf("%d run and %d wait", running, waiting)
		}
	})
}

func TestQuietWorkWaitsUntilNobodyAsks(t *testing.T) {
	synctest.Test(t, func(t *testing.T) {
		q := New(1, 10)
		done, _ := q.Take(t.Context(), "a", "")
		began := time.Now()
		quiet := make(chan time.Duration)
		go func() {
			for range 2 {
				finished, err := q.TakeQuiet(t.Context(), time.Second)
				if err != nil {
					t.Error(err)
				}
				quiet <- time.Since(began)
				finished()
			}
		}()
		time.Sleep(3 * time.Second)
		done()
		if at := <-quiet; at < 4*time.Second || at > 5*time.Second {
			t.Errorf("came after %v: not a second after the last one who asked", at)
		}
		if at := <-quiet; at > 5*time.Second {
			t.Errorf("the next came after %v, though nobody asked", at)
		}
		ctx, cancel := context.WithCancel(t.Context())
		again, _ := q.Take(ctx, "a", "")
		defer again()
		cancel()
		if _, err := q.TakeQuiet(ctx, time.Second); !errors.Is(err, context.Canceled) {
			t.Errorf("given up: %v", err)
		}
	})
}

// Work beside the turns waits while somebody asks at the screen, and for no longer than it says.
func TestOthersYield(t *testing.T) {
	synctest.Test(t, func(t *testing.T) {
		q := New(1, 10)
		began := time.Now()
		if q.Yield(t.Context(), time.Minute); time.Since(began) != 0 {
			t.Error("it waits for nobody")
		}
		done, err := q.Take(t.Context(), "somebody", "")
		if err != nil {
			t.Fatal(err)
		}
		go func() { time.Sleep(time.Second); done() }()
		if q.Yield(t.Context(), time.Minute); time.Since(began) < time.Second || time.Since(began) > 1100*time.Millisecond {
			t.Errorf("it waits for %v", time.Since(began))
		}
		if _, err = q.Take(t.Context(), "somebody", ""); err != nil {
			t.Fatal(err)
		}
		began = time.Now()
		if q.Yield(t.Context(), 5*time.Second); time.Since(began).Round(time.Second) != 5*time.Second {
			t.Errorf("it waits for %v for what never ends", time.Since(began))
		}
	})
}
