// Package pg runs PostgreSQL on loopback from the system's packages: a
// cluster of its own, an unprivileged user, a port of its own.
package pg

import (
	"context"
	"crypto/rand"
	"encoding/hex"
	"errors"
	"fmt"
	"log/slog"
	"net"
	"os"
	"os/exec"
	"path/filepath"
	"strconv"
	"strings"
	"syscall"
	"time"

	"github.com/jackc/pgx/v5"
)

// Database and owner of the cluster.
const (
	databaseName = "obturon"
	ownerName    = "obturon"
)

// Options of a cluster.
type Options struct {
	// Dir holds the cluster; it is made when missing.
	Dir string
	// Ephemeral trades safety for speed, for tests whose data nobody keeps.
	Ephemeral bool
}

// Server is a running PostgreSQL, as one of the programs uses it that share its directory.
// It is started again when it ends by itself.
type Server struct {
	URL     string
	cluster *cluster
	use     *use
	leaving context.CancelFunc
	watched chan struct{} // closed once nobody looks after it any more
	lost    chan error
}

// Start initialises the cluster where needed, starts it and waits until it
// answers. A cluster that runs already is shared, one left running by a killed
// process taken over. The error says what is missing and how to install it.
func Start(ctx context.Context, o Options) (*Server, error) {
	c, err := newCluster(o)
	if err != nil {
		return nil, err
	}
	used, err := c.beginUse(ctx)
	if err != nil {
		return nil, err
	}
	url, err := c.ready(ctx)
	if err != nil {
		c.endUse(used)
		return nil, err
	}
	watching, leaving := context.WithCancel(context.WithoutCancel(ctx))
	s := &Server{URL: url, cluster: c, use: used, leaving: leaving, watched: make(chan struct{}), lost: make(chan error, 1)}
	go s.watch(watching)
	return s, nil
}

// Lost tells once that the server has ended and could not be started again.
func (s *Server) Lost() <-chan error { return s.lost }

// Leave ends this program's use of the server. The last program that uses it shuts it down
// and waits for that.
func (s *Server) Leave() {
	s.leaving()
	<-s.watched
	s.cluster.endUse(s.use)
}

// ready makes sure that the cluster exists and answers; its URL is the answer.
func (c *cluster) ready(ctx context.Context) (url string, err error) {
	starting, err := lock(ctx, c.dir+".starting", syscall.LOCK_EX)
	if err != nil {
		return "", fmt.Errorf("waiting for another program to start the database: %w", err)
	}
	defer starting.Close()
	if err := c.initialise(ctx); err != nil {
		return "", err
	}
	password, err := os.ReadFile(c.passwordFile())
	if err != nil {
		return "", fmt.Errorf("reading the database password: %w; move %s away to start afresh", err, c.dir)
	}
	// The helpers of a killed server hold its memory for a moment, and a new one
	// ends at once until they are gone.
	const pause = 250 * time.Millisecond
	for try := 1; ; try++ {
		url, err := c.serve(ctx, strings.TrimSpace(string(password)))
		if !errors.Is(err, errEnded) || try >= c.tries {
			return url, err
		}
		time.Sleep(pause)
	}
}

// errEnded means that the server ended before it answered.
var errEnded = errors.New("PostgreSQL ended before it answered")

// serve launches the server and waits until it answers.
func (c *cluster) serve(ctx context.Context, password string) (url string, err error) {
	if err := c.launch(ctx); err != nil {
		return "", err
	}
	url = fmt.Sprintf("postgres://%s:%s@127.0.0.1:%s/%s?sslmode=disable", ownerName, password, c.port, databaseName)
	return url, c.await(ctx, url)
}

// cluster is a data directory and the means to run it.
type cluster struct {
	dir, bin  string
	port      string // that it was served on last, and is again; "" before
	pid       int    // of the postmaster
	ephemeral bool
	as        *syscall.Credential // nil: the current user
	tries     int                 // to start it at once
}

func newCluster(o Options) (*cluster, error) {
	dir, err := filepath.Abs(o.Dir)
	if err != nil {
		return nil, err
	}
	bin, err := binaries()
	if err != nil {
		return nil, err
	}
	c := &cluster{dir: dir, bin: bin, ephemeral: o.Ephemeral, tries: 20}
	if os.Geteuid() == 0 { // PostgreSQL refuses to run as root
		if c.as, err = unprivileged(); err != nil {
			return nil, err
		}
	}
	if err := os.MkdirAll(filepath.Dir(dir), 0o755); err != nil {
		return nil, err
	}
	return c, c.makeReachable()
}

// initialise makes the cluster in a side directory and renames it, so that an
// interrupted run leaves nothing half-made in place.
func (c *cluster) initialise(ctx context.Context) error {
	version, err := os.ReadFile(filepath.Join(c.dir, "PG_VERSION"))
	if err == nil {
		return c.checkVersion(strings.TrimSpace(string(version)))
	}
	if _, err := os.Stat(c.dir); err == nil {
		aside := c.dir + ".broken-" + time.Now().UTC().Format("20060102-150405")
		slog.Warn("the database directory is incomplete; it is moved aside and made anew", "from", c.dir, "to", aside)
		if err := os.Rename(c.dir, aside); err != nil {
			return fmt.Errorf("moving the incomplete database directory aside: %w", err)
		}
	}
	fresh := c.dir + ".new"
	if err := os.RemoveAll(fresh); err != nil {
		return err
	}
	if err := os.Mkdir(fresh, 0o700); err != nil {
		return err
	}
	secret := make([]byte, 16)
	if _, err := rand.Read(secret); err != nil {
		return err
	}
	passwordFile := fresh + ".password"
	if err := os.WriteFile(passwordFile, []byte(hex.EncodeToString(secret)+"\n"), 0o600); err != nil {
		return err
	}
	defer os.Remove(passwordFile)
	if err := c.own(fresh, passwordFile); err != nil {
		return err
	}
	args := []string{"-D", fresh, "-U", ownerName, "-E", "UTF8", "--locale=C", "--auth=scram-sha-256", "--pwfile=" + passwordFile}
	if c.ephemeral {
		args = append(args, "--no-sync")
	}
	if out, err := c.command(ctx, "initdb", args...).CombinedOutput(); err != nil {
		return fmt.Errorf("initialising the database under %s: %w\n%s", c.dir, err, out)
	}
	if err := os.Rename(passwordFile, filepath.Join(fresh, "obturon.password")); err != nil {
		return err
	}
	return os.Rename(fresh, c.dir)
}

func (c *cluster) passwordFile() string { return filepath.Join(c.dir, "obturon.password") }

func (c *cluster) checkVersion(made string) error {
	out, err := exec.Command(filepath.Join(c.bin, "postgres"), "--version").Output()
	if err != nil {
		return fmt.Errorf("asking PostgreSQL for its version: %w", err)
	}
	fields := strings.Fields(string(out)) // postgres (PostgreSQL) 15.18 (...)
	if len(fields) < 3 {
		return fmt.Errorf("PostgreSQL gives no version: %q", out)
	}
	have, _, _ := strings.Cut(fields[2], ".")
	if have != made {
		return fmt.Errorf(
			"the database under %s was made by PostgreSQL %s, but PostgreSQL %s is installed: install postgresql-%s, or move that directory away to start afresh",
			c.dir,
			made,
			have,
			made,
		)
	}
	return nil
}

// launch starts the postmaster, or takes one over that is running already.
func (c *cluster) launch(ctx context.Context) error {
	if pid, port, ok := c.runningPostmaster(); ok {
		c.pid, c.port = pid, port
		return nil
	}
	// A lock file whose process is gone, or is another program by now, is stale.
	if err := os.Remove(filepath.Join(c.dir, "postmaster.pid")); err != nil && !errors.Is(err, os.ErrNotExist) {
		return err
	}
	if c.port == "" {
		port, err := freePort()
		if err != nil {
			return err
		}
		c.port = port
	}
	args := []string{"-D", c.dir, "-p", c.port, "-c", "listen_addresses=127.0.0.1", "-c", "unix_socket_directories="}
	if c.ephemeral {
		args = append(args, "-c", "fsync=off", "-c", "synchronous_commit=off", "-c", "full_page_writes=off")
	}
	log, err := os.OpenFile(c.dir+".log", os.O_CREATE|os.O_APPEND|os.O_WRONLY, 0o600)
	if err != nil {
		return err
	}
	defer log.Close()
	// Not bound to the context: the last program that uses it shuts it down in order.
	run := c.command(context.WithoutCancel(ctx), "postgres", args...)
	run.Stdout, run.Stderr = log, log
	run.SysProcAttr.Setpgid = true // Ctrl-C reaches us first, and we stop it
	if err := run.Start(); err != nil {
		return fmt.Errorf("starting PostgreSQL: %w", err)
	}
	go func() { _ = run.Wait() }() // how it ended is in its log
	c.pid = run.Process.Pid
	return nil
}

// await waits for the server and makes the database in it.
func (c *cluster) await(ctx context.Context, url string) error {
	admin := strings.Replace(url, "/"+databaseName+"?", "/postgres?", 1)
	deadline := time.Now().Add(60 * time.Second)
	for {
		conn, err := pgx.Connect(ctx, admin)
		if err == nil {
			defer conn.Close(ctx)
			var exists bool
			if err := conn.QueryRow(ctx, "select exists(select from pg_database where datname=$1)", databaseName).Scan(&exists); err != nil {
				return fmt.Errorf("looking for the database: %w", err)
			}
			if !exists {
				if _, err := conn.Exec(ctx, "create database "+databaseName); err != nil {
					return fmt.Errorf("making the database: %w", err)
				}
			}
			return nil
		}
		if ctx.Err() != nil {
			return ctx.Err()
		}
		if !running(c.pid) {
			return fmt.Errorf("%w: %w; its log is %s.log", errEnded, err, c.dir)
		}
		if time.Now().After(deadline) {
			return fmt.Errorf("PostgreSQL does not answer: %w; its log is %s.log", err, c.dir)
		}
		time.Sleep(50 * time.Millisecond)
	}
}

// stop shuts the postmaster down and waits for it.
func (c *cluster) stop() {
	pid, _, ok := c.runningPostmaster()
	if !ok || syscall.Kill(pid, syscall.SIGINT) != nil { // fast shutdown
		return
	}
	const patience, pause = 60 * time.Second, 20 * time.Millisecond
	for began := time.Now(); running(pid) && time.Since(began) < patience; {
		time.Sleep(pause)
	}
}

// runningPostmaster reads the lock file and checks that the process is a
// PostgreSQL on this directory.
func (c *cluster) runningPostmaster() (pid int, port string, ok bool) {
	data, err := os.ReadFile(filepath.Join(c.dir, "postmaster.pid"))
	if err != nil {
		return 0, "", false
	}
	lines := strings.Split(string(data), "\n")
	if len(lines) < 4 {
		return 0, "", false
	}
	pid, err = strconv.Atoi(strings.TrimSpace(lines[0]))
	if err != nil || pid <= 1 {
		return 0, "", false
	}
	cmdline, err := os.ReadFile(fmt.Sprintf("/proc/%d/cmdline", pid))
	if err != nil || !strings.Contains(string(cmdline), c.dir) {
		return 0, "", false
	}
	return pid, strings.TrimSpace(lines[3]), running(pid)
}

func (c *cluster) command(ctx context.Context, name string, args ...string) *exec.Cmd {
	cmd := exec.CommandContext(ctx, filepath.Join(c.bin, name), args...)
	cmd.Dir = "/"
	cmd.Env = append(os.Environ(), "LC_ALL=C")
	cmd.SysProcAttr = &syscall.SysProcAttr{Credential: c.as}
	return cmd
}

// running reports a live process; a zombie is not.
func running(pid int) bool {
	stat, err := os.ReadFile(fmt.Sprintf("/proc/%d/stat", pid))
	if err != nil {
		return false
	}
	_, after, _ := strings.Cut(string(stat), ") ")
	return !strings.HasPrefix(after, "Z")
}

func freePort() (string, error) {
	l, err := net.Listen("tcp", "127.0.0.1:0")
	if err != nil {
		return "", fmt.Errorf("finding a free port: %w", err)
	}
	defer l.Close()
	_, port, err := net.SplitHostPort(l.Addr().String())
	return port, err
}
