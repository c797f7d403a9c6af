// Package turn decides whose turn it is where more want to compute than the
// machine can serve: so many at once, the user first who was served longest ago,
// and of one user's repeated questions only the newest.
package turn

import (
	"context"
	"errors"
	"slices"
	"sync"
	"time"
)

// ErrBusy means that too many wait already: ask again in a moment.
var ErrBusy = errors.New("too many are waiting")

// ErrOutdated means that the user has asked anew meanwhile.
var ErrOutdated = errors.New("a newer question has taken the place of this one")

// Queue gives turns. It is safe for concurrent use.
type Queue struct {
	slots, places int
	refused       func(error) // told of every refusal, for metrics; never nil

	mu      sync.Mutex
	running int
	waiting []*ticket
	served  map[string]time.Time // when users had their last turn
	last    time.Time            // when a turn began or ended
}

// ticket is one who waits.
type ticket struct {
	user, question string
	since          time.Time
	called         chan error // nil to come in, else why not
}

// New makes a queue of so many turns at once and places to wait in.
func New(slots, places int) *Queue {
	return &Queue{slots: slots, places: places, refused: func(error) {}, served: map[string]time.Time{}}
}

// WhenRefused has tell told of each refusal from now on. It is called before the first turn.
func (q *Queue) WhenRefused(tell func(error)) { q.refused = tell }

// Yield waits while somebody has or wants a turn, but no longer than most: work beside the turns
// goes on between them even where they never end.
func (q *Queue) Yield(ctx context.Context, most time.Duration) {
	const look = 20 * time.Millisecond
	for began := time.Now(); time.Since(began) < most && ctx.Err() == nil; {
		if running, waiting := q.Load(); running == 0 && waiting == 0 {
			return
		}
		select {
		case <-ctx.Done():
		case <-time.After(look):
		}
	}
}

// Take waits for a turn; the caller must call done once when it is over. A question
// names what is asked again and again, as while dragging: of one user's only the
// newest waits. "" is a question that stands for itself. The error is ErrBusy,
// ErrOutdated or the context's.
func (q *Queue) Take(ctx context.Context, user, question string) (done func(), err error) {
	q.mu.Lock()
	if q.running < q.slots && len(q.waiting) == 0 {
		q.start(user)
		q.mu.Unlock()
		return sync.OnceFunc(q.finish), nil
	}
	mine, err := q.line(user, question)
	q.mu.Unlock()
	if err != nil {
		q.refused(err)
		return nil, err
	}
	select {
	case err = <-mine.called:
	case <-ctx.Done():
		err = q.leave(mine, ctx.Err())
	}
	if err != nil {
		q.refused(err)
		return nil, err
	}
	return sync.OnceFunc(q.finish), nil
}

// line finds a place to wait in. The lock is held.
func (q *Queue) line(user, question string) (*ticket, error) {
	mine := &ticket{user, question, time.Now(), make(chan error, 1)}
	if question != "" {
		for n, t := range q.waiting {
			if t.user == user && t.question == question {
				t.called <- ErrOutdated
				mine.since = t.since
				q.waiting[n] = mine
				return mine, nil
			}
		}
	}
	if len(q.waiting) < q.places {
		q.waiting = append(q.waiting, mine)
		return mine, nil
	}
	// Whoever was served last gives way to one who has waited longer, perhaps
	// outside and asking again.
	last := 0
	for n := range q.waiting {
		if q.before(q.waiting[last], q.waiting[n]) {
			last = n
		}
	}
	if len(q.waiting) == 0 || !q.before(mine, q.waiting[last]) {
		return nil, ErrBusy
	}
	q.waiting[last].called <- ErrBusy
	q.waiting[last] = mine
	return mine, nil
}

// before orders those who wait: the one first who had a turn longest ago.
func (q *Queue) before(a, b *ticket) bool {
	if c := q.served[a.user].Compare(q.served[b.user]); c != 0 {
		return c < 0
	}
	return a.since.Before(b.since)
}

// start counts a turn that begins. The lock is held.
func (q *Queue) start(user string) {
	const remembered = time.Minute
	now := time.Now()
	for u, at := range q.served {
		if now.Sub(at) > remembered {
			delete(q.served, u)
		}
	}
	q.running++
	q.served[user], q.last = now, now
}

// finish ends a turn and calls the next.
func (q *Queue) finish() {
	q.mu.Lock()
	defer q.mu.Unlock()
	q.last = time.Now()
	q.running--
	q.callNext()
}

// TakeQuiet waits until nobody has had or wanted a turn for so long and takes one
// then, for work that nobody waits for; the caller must call done once when it is
// over. The error is the context's.
func (q *Queue) TakeQuiet(ctx context.Context, quiet time.Duration) (done func(), err error) {
	const least = 50 * time.Millisecond
	for {
		q.mu.Lock()
		rest := quiet - time.Since(q.last)
		if q.running == 0 && len(q.waiting) == 0 && rest <= 0 {
			q.running++
			q.mu.Unlock()
			return sync.OnceFunc(q.finishQuiet), nil
		}
		q.mu.Unlock()
		select {
		case <-ctx.Done():
			return nil, ctx.Err()
		case <-time.After(max(rest, least)):
		}
	}
}

// finishQuiet ends a turn that was taken quietly: the next of these need not wait anew.
func (q *Queue) finishQuiet() {
	q.mu.Lock()
	defer q.mu.Unlock()
	q.running--
	q.callNext()
}

func (q *Queue) callNext() {
	for q.running < q.slots && len(q.waiting) > 0 {
		first := 0
		for n := range q.waiting {
			if q.before(q.waiting[n], q.waiting[first]) {
				first = n
			}
		}
		t := q.waiting[first]
		q.waiting = slices.Delete(q.waiting, first, first+1)
		q.start(t.user)
		t.called <- nil
	}
}

// leave takes one who gives up out of the line. One who was called at that very
// moment hands the turn on.
func (q *Queue) leave(t *ticket, why error) error {
	q.mu.Lock()
	defer q.mu.Unlock()
	if n := slices.Index(q.waiting, t); n >= 0 {
		q.waiting = slices.Delete(q.waiting, n, n+1)
		return why
	}
	if called := <-t.called; called != nil {
		return called
	}
	q.running--
	q.callNext()
	return why
}

// Load tells how many have a turn and how many wait.
func (q *Queue) Load() (running, waiting int) {
	q.mu.Lock()
	defer q.mu.Unlock()
	return q.running, len(q.waiting)
}
