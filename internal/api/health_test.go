package api

import (
	"context"
	"errors"
	"sync/atomic"
	"testing"
	"testing/synctest"
	"time"
)

func TestHealthIsAskedForOnceASecond(t *testing.T) {
	synctest.Test(t, func(t *testing.T) {
		var pings atomic.Int32
		var down atomic.Bool
		h := &heartbeat{ping: func(ctx context.Context) error {
			pings.Add(1)
			time.Sleep(100 * time.Millisecond)
			if down.Load() {
				return errors.New("no database")
			}
			return ctx.Err()
		}}
		ask := func() error {
			err := h.ask(t.Context())
			synctest.Wait()
			return err
		}
		if err := ask(); err != nil || pings.Load() != 1 {
			t.Fatalf("first: %v after %d pings", err, pings.Load())
		}
		for range 20 {
			if err := ask(); err != nil || pings.Load() != 1 {
				t.Fatalf("again: %v after %d pings", err, pings.Load())
			}
		}
		// A database that has gone is known a second later, and said.
		down.Store(true)
		time.Sleep(fresh)
		_ = ask()
		time.Sleep(200 * time.Millisecond)
		if err := ask(); err == nil || pings.Load() != 2 {
			t.Errorf("the database is down: %v after %d pings", err, pings.Load())
		}
		// After long silence nothing old is said.
		down.Store(false)
		time.Sleep(stale)
		if err := ask(); err != nil {
			t.Errorf("it is back: %v", err)
		}
	})
}
