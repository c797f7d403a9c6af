package main

import (
	"bytes"
	"context"
	"regexp"
	"strings"
	"testing"

	"obturon/internal/password"
	"obturon/internal/pg/pgtest"
	"obturon/internal/store"
)

func TestUsersOfARealPractice(t *testing.T) {
	url, stop, err := pgtest.Start()
	if err != nil {
		t.Fatal(err)
	}
	defer stop()
	t.Setenv("OBTURON_DATABASE_URL", url)
	run := func(in string, args ...string) (string, error) {
		cmd := userCommand()
		var out bytes.Buffer
		cmd.SetOut(&out)
		cmd.SetErr(&out)
		cmd.SetIn(strings.NewReader(in))
		cmd.SetArgs(args)
		cmd.SilenceUsage, cmd.SilenceErrors = true, true
		err := cmd.ExecuteContext(t.Context())
		return out.String(), err
	}
	signsIn := func(name, secret string) bool {
		st, err := store.Open(context.Background(), url)
		if err != nil {
			t.Fatal(err)
		}
		defer st.Close()
		u, err := st.UserBySignIn(context.Background(), name)
		if err != nil {
			return false
		}
		same, err := password.Matches(context.Background(), u.PasswordHash, secret)
		return err == nil && same
	}
	secretOf := func(out string) string {
		found := regexp.MustCompile(`shown once: (\S+)`).FindStringSubmatch(out)
		if found == nil {
			t.Fatalf("no password in %q", out)
		}
		return found[1]
	}

	out, err := run("", "add", "Quay", "--practice", "Quay Street", "--name", "Dentist at the quay")
	if err != nil || !signsIn("quay", secretOf(out)) {
		t.Fatalf("adding says %q, %v", out, err)
	}
	if _, err := run("a long enough password\n", "add", "bench", "--practice", "Quay Street", "--name", "Bench", "--role", "learner", "--password-stdin"); err != nil || !signsIn("bench", "a long enough password") {
		t.Errorf("adding with a password: %v", err)
	}
	for name, k := range map[string]struct {
		in   string
		args []string
		want string
	}{
		"taken":       {"", []string{"add", "QUAY", "--practice", "Another", "--name", "x"}, "is in use"},
		"role":        {"", []string{"add", "x", "--practice", "p", "--name", "n", "--role", "king"}, "is unknown"},
		"no practice": {"", []string{"add", "x", "--name", "n"}, "--practice is missing"},
		"short":       {"short\n", []string{"add", "x", "--practice", "p", "--name", "n", "--password-stdin"}, "shorter than 10"},
		"reset":       {"", []string{"reset", "nobody"}, "nobody signs in as"},
		"archive":     {"", []string{"archive", "nobody"}, "nobody signs in as"},
	} {
		if _, err := run(k.in, k.args...); err == nil || !strings.Contains(err.Error(), k.want) {
			t.Errorf("%s: %v", name, err)
		}
	}
	if out, err = run("", "reset", "quay"); err != nil || !signsIn("quay", secretOf(out)) {
		t.Errorf("resetting says %q, %v", out, err)
	}
	if _, err := run("", "archive", "bench"); err != nil || signsIn("bench", "a long enough password") {
		t.Errorf("an archived user signs in, %v", err)
	}
	out, err = run("", "list")
	if err != nil || !regexp.MustCompile(`bench\s+Bench\s+learner\s+Quay Street\s+archived`).MatchString(out) || !regexp.MustCompile(`quay\s+Dentist at the quay\s+dentist\s+Quay Street\s+signs in`).MatchString(out) {
		t.Errorf("listed %q, %v", out, err)
	}
}
