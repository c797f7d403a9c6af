package api

import (
	"context"
	"encoding/json"
	"fmt"
	"log/slog"
	"net/http"
	"sync"
	"time"

	"github.com/gin-gonic/gin"
	"github.com/google/uuid"

	"obturon/internal/store"
)

// hearing hands changes on to whoever listens in their practice. It listens to the database while
// somebody listens to it.
type hearing struct {
	listen func(ctx context.Context, ready func(), told func(store.Change)) error

	mu        sync.Mutex
	listeners map[chan store.Change]uuid.UUID // by practice
	running   chan struct{}                   // closed once nothing escapes; nil while nobody listens
	stop      context.CancelFunc
}

// unheard are the changes that a listener may be behind; one that is further behind starts anew.
const unheard = 100

// join listens in a practice until leave is called. told is closed where changes may have escaped:
// listen anew then, and look at everything again. The error is the context's.
func (h *hearing) join(ctx context.Context, practice uuid.UUID) (told <-chan store.Change, leave func(), err error) {
	mine := make(chan store.Change, unheard)
	h.mu.Lock()
	if h.running == nil {
		h.start()
	}
	h.listeners[mine] = practice
	running := h.running
	h.mu.Unlock()
	leave = func() { h.leave(mine) }
	select {
	case <-running:
		return mine, leave, nil
	case <-ctx.Done():
		leave()
		return nil, nil, ctx.Err()
	}
}

// start listens to the database. The lock is held.
func (h *hearing) start() {
	ctx, stop := context.WithCancel(context.Background())
	running := make(chan struct{})
	ready := sync.OnceFunc(func() { close(running) })
	h.running, h.stop, h.listeners = running, stop, map[chan store.Change]uuid.UUID{}
	go func() {
		err := h.listen(ctx, ready, h.tell)
		if ctx.Err() == nil {
			slog.Warn("changes are not heard", "error", err)
		}
		ready() // nobody waits for what does not come
		h.mu.Lock()
		defer h.mu.Unlock()
		if h.running == running {
			h.end()
		}
	}()
}

// end sends all away. The lock is held.
func (h *hearing) end() {
	h.stop()
	for mine := range h.listeners {
		close(mine)
	}
	h.running, h.listeners = nil, nil
}

func (h *hearing) leave(mine chan store.Change) {
	h.mu.Lock()
	defer h.mu.Unlock()
	delete(h.listeners, mine)
	if h.running != nil && len(h.listeners) == 0 {
		h.end()
	}
}

func (h *hearing) tell(c store.Change) {
	h.mu.Lock()
	defer h.mu.Unlock()
	for mine, practice := range h.listeners {
		if practice != c.Practice {
			continue
		}
		select {
		case mine <- c:
		default: // it does not keep up
			delete(h.listeners, mine)
			close(mine)
		}
	}
}

// One stream of changes goes on for streamLasts: then it asks for the next, so that the sign-in is
// looked at again, and ends once that has had time to open.
const (
	streamLasts = 4 * time.Minute
	streamEnds  = 20 * time.Second
)

// streamChanges sends what changes in the practice for as long as somebody listens, as server-sent
// events.
func (s *server) streamChanges(c *gin.Context) {
	ctx := c.Request.Context()
	told, leave, err := s.changes.join(ctx, currentUser(ctx).PracticeID)
	if err != nil {
		return // the browser has gone
	}
	defer leave()
	c.Header("Content-Type", "text/event-stream")
	c.Header("X-Accel-Buffering", "no") // through a proxy too, at once
	c.Status(http.StatusOK)
	c.Writer.WriteHeaderNow()
	// The router's own writer would flush past the session's.
	out := http.NewResponseController(c.Writer.(interface{ Unwrap() http.ResponseWriter }).Unwrap())
	send := func(text string) bool {
		if _, err := c.Writer.WriteString(text); err != nil {
			return false
		}
		return out.Flush() == nil
	}
	// From now on nothing escapes; what the practice's documents were changed to before is told once.
	versions, err := s.Store.MadeWith(ctx, currentUser(ctx).PracticeID)
	if err != nil {
		return
	}
	text, err := json.Marshal(versions)
	if err != nil || !send(fmt.Sprintf("retry: 1000\nevent: versions\ndata: %s\n\n", text)) { // milliseconds
		return
	}
	const sign = 15 * time.Second
	alive := time.NewTicker(sign)
	defer alive.Stop()
	over, renewed := time.NewTimer(streamLasts), false
	defer over.Stop()
	stopping := context.Background()
	if s.Background != nil {
		stopping = s.Background
	}
	for {
		select {
		case <-ctx.Done():
			return
		case <-stopping.Done():
			return
		case <-over.C:
			if renewed || !send("event: renew\ndata: {}\n\n") {
				return
			}
			renewed = true
			over.Reset(streamEnds)
		case <-alive.C:
			if !send(": still here\n\n") {
				return
			}
		case change, ok := <-told:
			if !ok {
				return
			}
			if text, err := json.Marshal(change); err != nil || !send(fmt.Sprintf("data: %s\n\n", text)) {
				return
			}
		}
	}
}
