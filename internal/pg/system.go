package pg

import (
	"crypto/sha256"
	"encoding/hex"
	"errors"
	"fmt"
	"os"
	"os/exec"
	"os/user"
	"path/filepath"
	"sort"
	"strconv"
	"syscall"
)

// ErrNotInstalled means that the PostgreSQL server is missing on this machine.
var ErrNotInstalled = errors.New(
	"the PostgreSQL server is not installed: install Debian's package postgresql, or name a database of your own in OBTURON_DATABASE_URL",
)

// binaries finds the directory of the newest installed server.
func binaries() (string, error) {
	found, err := filepath.Glob("/usr/lib/postgresql/*/bin/postgres")
	if err != nil {
		return "", err
	}
	if len(found) == 0 {
		path, err := exec.LookPath("postgres")
		if err != nil {
			return "", ErrNotInstalled
		}
		return filepath.Dir(path), nil
	}
	major := func(p string) int {
		n, _ := strconv.Atoi(filepath.Base(filepath.Dir(filepath.Dir(p)))) // not a number: oldest
		return n
	}
	sort.Slice(found, func(a, b int) bool { return major(found[a]) > major(found[b]) })
	return filepath.Dir(found[0]), nil
}

// unprivileged is the user PostgreSQL runs as when this process is root.
func unprivileged() (*syscall.Credential, error) {
	for _, name := range []string{"postgres", "nobody"} {
		u, err := user.Lookup(name)
		if err != nil {
			continue
		}
		uid, errU := strconv.ParseUint(u.Uid, 10, 32)
		gid, errG := strconv.ParseUint(u.Gid, 10, 32)
		if errU == nil && errG == nil {
			return &syscall.Credential{Uid: uint32(uid), Gid: uint32(gid)}, nil
		}
	}
	return nil, errors.New("running as root, and neither user postgres nor nobody exists to run PostgreSQL as")
}

func (c *cluster) own(paths ...string) error {
	if c.as == nil {
		return nil
	}
	for _, p := range paths {
		if err := os.Chown(p, int(c.as.Uid), int(c.as.Gid)); err != nil {
			return fmt.Errorf("giving %s to the database's user: %w", p, err)
		}
	}
	return nil
}

// makeReachable moves the cluster to /var/lib/obturon, with a link in its
// place, when the unprivileged user cannot reach the checkout (as under /root).
func (c *cluster) makeReachable() error {
	if target, err := filepath.EvalSymlinks(c.dir); err == nil {
		c.dir = target
	}
	if c.as == nil || c.reachable(filepath.Dir(c.dir)) {
		return nil
	}
	sum := sha256.Sum256([]byte(c.dir))
	away := filepath.Join("/var/lib/obturon", hex.EncodeToString(sum[:6]))
	if err := os.MkdirAll(filepath.Dir(away), 0o755); err != nil {
		return err
	}
	if err := os.Remove(c.dir); err != nil && !errors.Is(err, os.ErrNotExist) {
		return fmt.Errorf("the user that runs PostgreSQL cannot reach %s: move it to a directory open to others: %w", c.dir, err)
	}
	if err := os.Symlink(away, c.dir); err != nil {
		return err
	}
	c.dir = away
	return nil
}

// reachable tries as the unprivileged user.
func (c *cluster) reachable(dir string) bool {
	cmd := exec.Command("/bin/sh", "-c", `cd "$1"`, "sh", dir)
	cmd.SysProcAttr = &syscall.SysProcAttr{Credential: c.as}
	return cmd.Run() == nil
}
