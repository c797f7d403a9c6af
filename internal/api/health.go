package api

import (
	"context"
	"net/http"
	"obturon/core/pipeline"
	"sync"
	"time"
)

// heartbeat remembers whether the database answers, so that a busy server says at
// once how it is.
type heartbeat struct {
	ping func(context.Context) error

	mu      sync.Mutex
	at      time.Time // when it was last known
	err     error
	looking bool
}

const (
	fresh = time.Second      // what was found out is true for so long
	stale = 10 * time.Second // and is said for so long while it is found out anew
	// pingLimit is how long the database may take to answer.
	pingLimit = 2 * time.Second
)

// ask tells whether the database answers, as it was a moment ago.
func (h *heartbeat) ask(ctx context.Context) error {
	h.mu.Lock()
	age, err := time.Since(h.at), h.err
	refresh := age >= fresh && !h.looking
	if refresh {
		h.looking = true
	}
	h.mu.Unlock()
	switch {
	case !refresh:
		return err
	case age < stale:
		go func() { _ = h.look(context.WithoutCancel(ctx)) }() // the next who asks is told
		return err
	default:
		return h.look(ctx)
	}
}

func (h *heartbeat) look(ctx context.Context) error {
	ctx, cancel := context.WithTimeout(ctx, pingLimit)
	defer cancel()
	err := h.ping(ctx)
	h.mu.Lock()
	defer h.mu.Unlock()
	h.at, h.err, h.looking = time.Now(), err, false
	return err
}

// GetHealth answers whether the server and its database do.
func (s *server) GetHealth(ctx context.Context, _ GetHealthRequestObject) (GetHealthResponseObject, error) {
	if err := s.heart.ask(ctx); err != nil {
		return nil, &problem{
			status: http.StatusServiceUnavailable,
			title:  "The database does not answer",
			detail: "See the server's log; start it again.",
		}
	}
	return GetHealth200JSONResponse{Status: "ok", Core: pipeline.CoreVersion}, nil
}
