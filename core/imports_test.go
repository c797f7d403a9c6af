package core_test

import (
	"go/parser"
	"go/token"
	"io/fs"
	"path/filepath"
	"strings"
	"testing"
)

// The core computes and nothing else: it imports the standard library's pure
// parts, gonum and itself.
func TestCoreImportsOnlyWhatIsPure(t *testing.T) {
	barred := []string{"os", "net", "database", "time", "log", "syscall", "io/ioutil"}
	err := filepath.WalkDir(".", func(path string, d fs.DirEntry, err error) error {
		if err != nil || d.IsDir() || !strings.HasSuffix(path, ".go") || strings.HasSuffix(path, "_test.go") {
			return err
		}
		file, err := parser.ParseFile(token.NewFileSet(), path, nil, parser.ImportsOnly)
		if err != nil {
			return err
		}
		for _, i := range file.Imports {
			name := strings.Trim(i.Path.Value, `"`)
			first, _, _ := strings.Cut(name, "/")
			standard := !strings.Contains(first, ".") && first != "obturon"
			for _, b := range barred {
				if standard && (name == b || strings.HasPrefix(name, b+"/")) {
					t.Errorf("%s imports %s", path, name)
				}
			}
			if !standard && !strings.HasPrefix(name, "gonum.org/v1/gonum/") && !strings.HasPrefix(name, "obturon/core/") {
				t.Errorf("%s imports %s", path, name)
			}
		}
		return nil
	})
	if err != nil {
		t.Fatal(err)
	}
}

// Arrows between the packages outside the core point one way.
func TestArrowsPointDown(t *testing.T) {
	barred := map[string][]string{
		"../internal/store":    {"obturon/internal/plan", "obturon/internal/api", "obturon/internal/export"},
		"../internal/document": {"obturon/internal/plan", "obturon/internal/store", "obturon/internal/api", "obturon/internal/export"},
		"../internal/render":   {"obturon/internal/plan", "obturon/internal/store", "obturon/internal/api", "obturon/internal/export"},
		"../internal/plan":     {"obturon/internal/store", "obturon/internal/api", "obturon/internal/export"},
		"../internal/job":      {"obturon/internal/api", "obturon/internal/export"},
		"../internal/export":   {"obturon/internal/store", "obturon/internal/api"},
		"../internal/pg":       {"obturon/internal/store", "obturon/internal/plan", "obturon/internal/api"},
		"../internal/password": {"obturon/internal/store"},
	}
	for dir, names := range barred {
		files, err := filepath.Glob(dir + "/*.go")
		if err != nil || len(files) == 0 {
			t.Fatalf("%s: %v, %v", dir, files, err)
		}
		for _, path := range files {
			file, err := parser.ParseFile(token.NewFileSet(), path, nil, parser.ImportsOnly)
			if err != nil {
				t.Fatal(err)
			}
			for _, i := range file.Imports {
				for _, b := range names {
					if strings.Trim(i.Path.Value, `"`) == b {
						t.Errorf("%s imports %s", path, b)
					}
				}
			}
		}
	}
}
