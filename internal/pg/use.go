package pg

import (
	"context"
	"errors"
	"fmt"
	"log/slog"
	"os"
	"os/exec"
	"path/filepath"
	"syscall"
	"time"
)

// use is one program's use of a cluster: a shared lock on a file beside it, which goes with
// the program however that ends, and a keeper that waits for the last of them to go.
type use struct {
	shared *os.File
	keeper *exec.Cmd // nil where there is none
}

// beginUse waits for a shutdown under way to end.
func (c *cluster) beginUse(ctx context.Context) (*use, error) {
	shared, err := lock(ctx, c.usersFile(), syscall.LOCK_SH)
	if err != nil {
		return nil, fmt.Errorf("waiting for another program to stop the database: %w", err)
	}
	return &use{shared: shared, keeper: c.keep()}, nil
}

// endUse shuts the cluster down where nobody else uses it.
func (c *cluster) endUse(u *use) {
	defer u.shared.Close()
	// The shared lock becomes the only one, or is gone: whoever comes now waits, and the last
	// of several that leave at once gets it.
	if syscall.Flock(int(u.shared.Fd()), syscall.LOCK_EX|syscall.LOCK_NB) == nil {
		c.stop()
	}
	if u.keeper != nil {
		_ = u.keeper.Process.Kill()
		_ = u.keeper.Wait() // it was killed
	}
}

func (c *cluster) usersFile() string { return c.dir + ".users" }

// keep starts a keeper: it shuts the cluster down once no program uses it any more, also
// where the last one was killed. It is in no group of the program's, so that what ends that
// does not end the keeper.
func (c *cluster) keep() *exec.Cmd {
	flock, err := exec.LookPath("flock")
	if err != nil {
		slog.Warn(
			"the program flock of Debian's package util-linux is missing: if this program is killed, its database goes on running",
			"database",
			c.dir,
		)
		return nil
	}
	keeper := exec.Command(flock, "--exclusive", c.usersFile(), filepath.Join(c.bin, "pg_ctl"), "stop", "-D", c.dir, "-m", "fast", "-w")
	keeper.Dir = "/"
	keeper.SysProcAttr = &syscall.SysProcAttr{Setsid: true, Credential: c.as}
	if err := keeper.Start(); err != nil {
		slog.Warn("nobody keeps the database: if this program is killed, it goes on running", "database", c.dir, "error", err)
		return nil
	}
	return keeper
}

// lock waits for a lock on a file, which is made where it is missing. Closing the file, or the
// end of the program, gives it back.
func lock(ctx context.Context, path string, how int) (*os.File, error) {
	const patience, pause = 2 * time.Minute, 50 * time.Millisecond
	f, err := os.OpenFile(path, os.O_CREATE|os.O_RDWR, 0o644)
	if err != nil {
		return nil, err
	}
	for began := time.Now(); ; {
		err := syscall.Flock(int(f.Fd()), how|syscall.LOCK_NB)
		switch {
		case err == nil:
			return f, nil
		case !errors.Is(err, syscall.EWOULDBLOCK) && !errors.Is(err, syscall.EINTR):
			return nil, errors.Join(fmt.Errorf("locking %s: %w", path, err), f.Close())
		case ctx.Err() != nil:
			return nil, errors.Join(ctx.Err(), f.Close())
		case time.Since(began) > patience:
			return nil, errors.Join(fmt.Errorf("%s stays locked by another program", path), f.Close())
		}
		time.Sleep(pause)
	}
}
