package pg

import (
	"bufio"
	"context"
	"os"
	"os/exec"
	"path/filepath"
	"strconv"
	"strings"
	"syscall"
	"testing"
	"time"
)

// within waits for something to become true.
func within(t *testing.T, patience time.Duration, what string, happens func() bool) {
	t.Helper()
	for began := time.Now(); !happens(); time.Sleep(50 * time.Millisecond) {
		if time.Since(began) > patience {
			t.Fatalf("%s: not within %v", what, patience)
		}
	}
}

func postmaster(t *testing.T, dir string) int {
	t.Helper()
	data, err := os.ReadFile(filepath.Join(dir, "postmaster.pid"))
	if err != nil {
		t.Fatal(err)
	}
	line, _, _ := strings.Cut(string(data), "\n")
	pid, err := strconv.Atoi(line)
	if err != nil {
		t.Fatal(err)
	}
	return pid
}

// Two programs share a data directory: whichever ends first, the other's database stays, and
// the last one stops it.
func TestTheLastProgramStopsTheDatabase(t *testing.T) {
	for _, first := range []int{0, 1} {
		dir := newDir(t)
		programs := []program{start(t, dir), start(t, dir)}
		pid := postmaster(t, dir)
		if programs[0].URL != programs[1].URL {
			t.Errorf("two servers were started: %s and %s", programs[0].URL, programs[1].URL)
		}
		programs[first].Leave()
		if got := exec1(t, programs[1-first].URL, "select 'up'"); got != "up" {
			t.Errorf("program %d left, and the other got %q", first, got)
		}
		programs[1-first].Leave()
		if running(pid) {
			t.Errorf("all have left, and PostgreSQL runs on as %d", pid)
		}
	}
}

// Several that leave at once leave nothing behind, and nobody who comes meanwhile is left
// without a database.
func TestProgramsComeAndGoAtOnce(t *testing.T) {
	dir := newDir(t)
	start(t, dir).Leave() // so that the cluster is there
	done := make(chan string)
	const programs = 6
	for n := range programs {
		go func() {
			for range 2 {
				time.Sleep(time.Duration(n) * 30 * time.Millisecond)
				s, err := Start(context.Background(), Options{Dir: dir, Ephemeral: true})
				if err != nil {
					done <- err.Error()
					return
				}
				cluster := &cluster{pid: s.cluster.pid}
				if err := cluster.await(context.Background(), s.URL); err != nil {
					done <- err.Error()
					return
				}
				s.Leave()
			}
			done <- ""
		}()
	}
	for range programs {
		if trouble := <-done; trouble != "" {
			t.Error(trouble)
		}
	}
	if _, err := os.Stat(filepath.Join(dir, "postmaster.pid")); err == nil {
		t.Error("all have left, and PostgreSQL runs on")
	}
}

// A postmaster that is killed comes back where its users know it, with what they had.
func TestAKilledPostmasterIsStartedAgain(t *testing.T) {
	dir := newDir(t)
	one, other := start(t, dir), start(t, dir)
	for range 2 {
		pid := postmaster(t, dir)
		if err := syscall.Kill(pid, syscall.SIGKILL); err != nil {
			t.Fatal(err)
		}
		within(t, 30*time.Second, "another postmaster", func() bool {
			data, err := os.ReadFile(filepath.Join(dir, "postmaster.pid"))
			return err == nil && !strings.HasPrefix(string(data), strconv.Itoa(pid)+"\n")
		})
		for _, p := range []program{one, other} {
			c := &cluster{pid: os.Getpid()}
			if err := c.await(context.Background(), p.URL); err != nil {
				t.Fatal(err)
			}
		}
	}
	one.Leave()
	if got := exec1(t, other.URL, "select 'up'"); got != "up" {
		t.Errorf("got %q", got)
	}
}

// Where it cannot be started again, its program learns why.
func TestADatabaseThatIsLostIsTold(t *testing.T) {
	dir := newDir(t)
	s := start(t, dir)
	s.cluster.tries = 1
	if err := os.Rename(filepath.Join(dir, "postgresql.conf"), filepath.Join(dir, "aside.conf")); err != nil {
		t.Fatal(err)
	}
	if err := syscall.Kill(postmaster(t, dir), syscall.SIGKILL); err != nil {
		t.Fatal(err)
	}
	select {
	case err := <-s.Lost():
		if !strings.Contains(err.Error(), "cannot be started again") || !strings.Contains(err.Error(), dir+".log") {
			t.Errorf("told %v", err)
		}
	case <-time.After(90 * time.Second):
		t.Error("nobody was told")
	}
}

const programDir = "OBTURON_TEST_PROGRAM_DIR"

// TestProgram is a program of its own that uses a cluster until it is killed.
func TestProgram(t *testing.T) {
	dir := os.Getenv(programDir)
	if dir == "" {
		t.Skip("run by the test of a killed program")
	}
	if _, err := Start(context.Background(), Options{Dir: dir, Ephemeral: true}); err != nil {
		t.Fatal(err)
	}
	os.Stdout.WriteString("using it\n")
	select {}
}

// A program that is killed leaves no server behind, and takes none from others.
func TestAKilledProgramLeavesNoServer(t *testing.T) {
	dir := newDir(t)
	killed := func() {
		program := exec.Command(os.Args[0], "-test.run", "^TestProgram$")
		program.Env = append(os.Environ(), programDir+"="+dir)
		said, err := program.StdoutPipe()
		if err != nil {
			t.Fatal(err)
		}
		if err := program.Start(); err != nil {
			t.Fatal(err)
		}
		for lines := bufio.NewScanner(said); lines.Scan() && lines.Text() != "using it"; {
			t.Log(lines.Text())
		}
		if err := program.Process.Kill(); err != nil {
			t.Fatal(err)
		}
		_ = program.Wait()
	}
	killed()
	within(t, 30*time.Second, "the server's end", func() bool {
		_, err := os.Stat(filepath.Join(dir, "postmaster.pid"))
		return err != nil
	})
	s := start(t, dir)
	killed()
	time.Sleep(time.Second) // that a wrong keeper would need
	if got := exec1(t, s.URL, "select 'up'"); got != "up" {
		t.Errorf("got %q", got)
	}
}
