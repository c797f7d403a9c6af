package pg

import (
	"context"
	"fmt"
	"log/slog"
	"time"
)

// watch starts the server again whenever it ends by itself, on the port where its users know
// it, until the program leaves.
func (s *Server) watch(ctx context.Context) {
	defer close(s.watched)
	const look = 250 * time.Millisecond
	for sleep(ctx, look) {
		if running(s.cluster.pid) {
			continue
		}
		slog.Warn("PostgreSQL has ended by itself and is started again", "database", s.cluster.dir)
		if err := s.again(ctx); err != nil && ctx.Err() == nil {
			s.lost <- err
			return
		}
	}
}

// again starts the server, and tries again with longer and longer pauses where it does not
// stay up.
func (s *Server) again(ctx context.Context) (err error) {
	const first, times = 250 * time.Millisecond, 6
	for try, pause := 0, first; try < times; try, pause = try+1, 2*pause {
		if _, err = s.cluster.ready(ctx); err == nil {
			slog.Info("PostgreSQL is back", "database", s.cluster.dir)
			return nil
		}
		slog.Warn("PostgreSQL does not start", "error", err)
		if !sleep(ctx, pause) {
			return ctx.Err()
		}
	}
	return fmt.Errorf("the database under %s has ended and cannot be started again: %w; its log is %s.log", s.cluster.dir, err, s.cluster.dir)
}

// sleep reports whether it was not disturbed.
func sleep(ctx context.Context, d time.Duration) bool {
	select {
	case <-ctx.Done():
		return false
	case <-time.After(d):
		return true
	}
}
