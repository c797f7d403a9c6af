// Package pgtest starts a throwaway PostgreSQL for the tests of a package.
package pgtest

import (
	"context"
	"os"
	"path/filepath"

	"obturon/internal/pg"
)

// Start runs a server that forgets everything; stop removes it. It fails as
// pg.Start does.
func Start() (url string, stop func(), err error) {
	dir, err := os.MkdirTemp("", "obturon-test-")
	if err != nil {
		return "", nil, err
	}
	// The unprivileged user that runs the server must get in.
	if err := os.Chmod(dir, 0o755); err != nil {
		return "", nil, err
	}
	s, err := pg.Start(context.Background(), pg.Options{Dir: filepath.Join(dir, "pg"), Ephemeral: true})
	if err != nil {
		os.RemoveAll(dir)
		return "", nil, err
	}
	return s.URL, func() {
		s.Leave()
		os.RemoveAll(dir)
	}, nil
}
