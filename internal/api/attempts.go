package api

import (
	"context"
	"strings"
	"sync"
	"time"

	lru "github.com/hashicorp/golang-lru/v2"
	"golang.org/x/time/rate"
)

// attempts slows down guessing. Whoever guesses from one address is stopped there;
// a name that is guessed at from many is slowed down for everyone, but never locked,
// so that strangers cannot keep its owner out.
type attempts struct {
	mu        sync.Mutex
	byAddress *limits // all names from one address
	byBoth    *limits // one name from one address
	byName    *limits // one name from anywhere
}

const (
	limitsKept = 20_000 // the least recent are forgotten, never all at once

	burstOfAddress, everyOfAddress = 40, time.Second
	burstOfBoth, everyOfBoth       = 10, 3 * time.Second
	burstOfName, everyOfName       = 20, 3 * time.Second

	// slowedBy is what a name costs that is guessed at.
	slowedBy = 2 * time.Second
)

// limits are rate limits by key.
type limits struct {
	kept  *lru.Cache[string, *rate.Limiter]
	every time.Duration
	burst int
}

func newLimits(every time.Duration, burst int) *limits {
	kept, err := lru.New[string, *rate.Limiter](limitsKept)
	if err != nil {
		panic(err) // only for a size below 1
	}
	return &limits{kept, every, burst}
}

func (l *limits) allow(key string) bool {
	limiter, known := l.kept.Get(key)
	if !known {
		limiter = rate.NewLimiter(rate.Every(l.every), l.burst)
		l.kept.Add(key, limiter)
	}
	return limiter.Allow()
}

func newAttempts() *attempts {
	return &attempts{
		byAddress: newLimits(
			everyOfAddress,
			burstOfAddress,
		), byBoth: newLimits(everyOfBoth, burstOfBoth), byName: newLimits(everyOfName, burstOfName),
	}
}

// theName is a sign-in name as it counts: however it is typed.
func theName(typed string) string { return strings.ToLower(strings.TrimSpace(typed)) }

// allow tells whether an attempt is looked at, after the delay that the name has
// earned. The error is the context's.
func (a *attempts) allow(ctx context.Context, name, address string) (bool, error) {
	a.mu.Lock()
	// All three count, whichever refuses.
	fromAddress, both, free := a.byAddress.allow(address), a.byBoth.allow(name+" "+address), a.byName.allow(name)
	a.mu.Unlock()
	if !fromAddress || !both {
		return false, nil
	}
	if free {
		return true, nil
	}
	select {
	case <-time.After(slowedBy):
		return true, nil
	case <-ctx.Done():
		return false, ctx.Err()
	}
}

// succeeded forgets the wrong passwords of whoever has come in.
func (a *attempts) succeeded(name, address string) {
	a.mu.Lock()
	defer a.mu.Unlock()
	a.byBoth.kept.Remove(name + " " + address)
}
