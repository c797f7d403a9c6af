package pg

import (
	"context"
	"os"
	"path/filepath"
	"strconv"
	"strings"
	"sync"
	"testing"

	"github.com/jackc/pgx/v5"
)

// program is a use of a cluster that ends with the test at the latest.
type program struct {
	*Server
	leave func()
}

// Leave may be called again.
func (p program) Leave() { p.leave() }

func start(t *testing.T, dir string) program {
	t.Helper()
	s, err := Start(context.Background(), Options{Dir: dir, Ephemeral: true})
	if err != nil {
		t.Fatal(err)
	}
	p := program{s, sync.OnceFunc(s.Leave)}
	t.Cleanup(p.Leave)
	return p
}

func exec1(t *testing.T, url, sql string) (answer string) {
	t.Helper()
	ctx := context.Background()
	conn, err := pgx.Connect(ctx, url)
	if err != nil {
		t.Fatal(err)
	}
	defer conn.Close(ctx)
	if err := conn.QueryRow(ctx, sql).Scan(&answer); err != nil {
		t.Fatal(err)
	}
	return answer
}

func TestDataSurvivesARestart(t *testing.T) {
	dir := newDir(t)
	s := start(t, dir)
	ctx := context.Background()
	conn, err := pgx.Connect(ctx, s.URL)
	if err != nil {
		t.Fatal(err)
	}
	if _, err := conn.Exec(ctx, "create table kept (v text); insert into kept values ('still here')"); err != nil {
		t.Fatal(err)
	}
	conn.Close(ctx)
	s.Leave()
	again := start(t, dir)
	if got := exec1(t, again.URL, "select v from kept"); got != "still here" {
		t.Errorf("got %q", got)
	}
}

func TestAStaleLockFileIsCleared(t *testing.T) {
	dir := newDir(t)
	s := start(t, dir)
	s.Leave()
	// The lock names a live process that is not PostgreSQL: this test.
	lock := strings.Join([]string{"1", dir, "0", "5432", "", "127.0.0.1", "", "ready"}, "\n")
	lock = strings.Replace(lock, "1", strconv.Itoa(os.Getpid()), 1)
	if err := os.WriteFile(filepath.Join(dir, "postmaster.pid"), []byte(lock), 0o600); err != nil {
		t.Fatal(err)
	}
	again := start(t, dir)
	if got := exec1(t, again.URL, "select 'up'"); got != "up" {
		t.Errorf("got %q", got)
	}
}

func TestAHalfMadeClusterIsMadeAnew(t *testing.T) {
	dir := newDir(t)
	if err := os.MkdirAll(filepath.Join(dir, "base"), 0o700); err != nil {
		t.Fatal(err)
	}
	s := start(t, dir)
	if got := exec1(t, s.URL, "select 'up'"); got != "up" {
		t.Errorf("got %q", got)
	}
	if aside, _ := filepath.Glob(dir + ".broken-*"); len(aside) != 1 {
		t.Errorf("the old directory was not kept aside: %v", aside)
	}
}

func TestAnotherVersionIsNamed(t *testing.T) {
	dir := newDir(t)
	s := start(t, dir)
	s.Leave()
	if err := os.WriteFile(filepath.Join(dir, "PG_VERSION"), []byte("99\n"), 0o600); err != nil {
		t.Fatal(err)
	}
	_, err := Start(context.Background(), Options{Dir: dir})
	if err == nil || !strings.Contains(err.Error(), "made by PostgreSQL 99") || !strings.Contains(err.Error(), "postgresql-99") {
		t.Errorf("got %v", err)
	}
}

// newDir is a place for a cluster that the unprivileged user can reach.
func newDir(t *testing.T) string {
	t.Helper()
	dir := t.TempDir()
	for _, d := range []string{dir, filepath.Dir(dir)} {
		if err := os.Chmod(d, 0o755); err != nil {
			t.Fatal(err)
		}
	}
	return filepath.Join(dir, "pg")
}

func TestAnUnreachableCheckoutIsMended(t *testing.T) {
	if os.Geteuid() != 0 {
		t.Skip("only root starts PostgreSQL as another user")
	}
	dir := filepath.Join(t.TempDir(), "pg") // below a directory closed to others
	s := start(t, dir)
	t.Cleanup(func() {
		if away, err := os.Readlink(dir); err == nil {
			os.RemoveAll(away)
			os.RemoveAll(away + ".log")
		}
	})
	if got := exec1(t, s.URL, "select 'up'"); got != "up" {
		t.Errorf("got %q", got)
	}
	s.Leave()
	if again := start(t, dir); exec1(t, again.URL, "select 'up'") != "up" {
		t.Error("not found again")
	}
}
