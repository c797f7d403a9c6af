package main

import (
	"errors"
	"io"
	"obturon/internal/export/list"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"syscall"
	"testing"
)

const (
	occlusalCase = `{"schema":"obturon.case/1","tooth":"47","patient":{"age_years":34},"findings":[{"kind":"fissure_caries","site":"central","depth":"outer_dentin"}],"choice":{"material":"amalgam","school":"board"}}`
	distalCase   = `{"schema":"obturon.case/1","tooth":"36","patient":{"age_years":34},"findings":[{"kind":"proximal_caries","site":"distal","depth":"outer_dentin"}],"choice":{"material":"amalgam","school":"board"}}`
)

// unbuilt has a figure that only the cutting finds out.
var unbuilt = strings.Replace(distalCase, `"choice"`, `"overrides":{"distal_box_buccal":5},"choice"`, 1)

func named(t *testing.T, name, text string) string {
	t.Helper()
	path := filepath.Join(t.TempDir(), name)
	if err := os.WriteFile(path, []byte(text), 0o600); err != nil {
		t.Fatal(err)
	}
	return path
}

// files lists all files under a directory.
func files(t *testing.T, dir string) []string {
	t.Helper()
	var all []string
	err := filepath.WalkDir(dir, func(path string, entry os.DirEntry, err error) error {
		if err == nil && !entry.IsDir() {
			relative, _ := filepath.Rel(dir, path)
			all = append(all, relative)
		}
		return nil
	})
	if err != nil {
		t.Fatal(err)
	}
	return all
}

func TestEveryCaseIsPlannedBeforeAnythingIsWritten(t *testing.T) {
	out := filepath.Join(t.TempDir(), "out")
	for name, inputs := range map[string][]string{
		"a figure that cannot be built": {named(t, "a.json", occlusalCase), named(t, "b.json", unbuilt)},
		"one that is no case":           {named(t, "a.json", occlusalCase), named(t, "b.json", `{}`)},
		"two of one name":               {named(t, "a.json", occlusalCase), named(t, "a.json", distalCase)},
	} {
		stdout, stderr, err := runDesign(append(inputs, "--out", out, "--grid", "0.2")...)
		var reported errReported
		if !errors.As(err, &reported) || reported.code != badInput || stdout != "" || stderr == "" {
			t.Errorf("%s: %v, printed %q, said %q", name, err, stdout, stderr)
		}
		if left := files(t, out); len(left) > 0 {
			t.Errorf("%s: left %v", name, left)
		}
	}
}

func TestOlderFilesAreReplacedOrCleared(t *testing.T) {
	out := t.TempDir()
	own := filepath.Join(out, "notes.txt")
	if err := os.WriteFile(own, []byte("mine"), 0o600); err != nil {
		t.Fatal(err)
	}
	for _, text := range []string{distalCase, occlusalCase} {
		if _, stderr, err := runDesign(named(t, "c.json", text), "--out", out, "--grid", "0.2"); err != nil {
			t.Fatal(err, stderr)
		}
	}
	left, made := files(t, out), 0
	for _, f := range list.Files {
		if f.Needs == "" {
			made++
		}
	}
	if slices.Contains(left, "neighbour_distal.stl") || !slices.Contains(left, "notes.txt") || !slices.Contains(left, "prepared.stl") || len(left) != made+1 {
		t.Errorf("left %v", left)
	}
}

// full is an output that takes nothing more.
type full struct{}

func (full) Write([]byte) (int, error) { return 0, syscall.ENOSPC }

func TestAClosedOutputIsAnErrorAndNothingIsKept(t *testing.T) {
	out := filepath.Join(t.TempDir(), "out")
	cmd := designCommand()
	cmd.SetOut(full{})
	cmd.SetErr(io.Discard)
	cmd.SetArgs([]string{named(t, "c.json", occlusalCase), "--out", out, "--grid", "0.2"})
	cmd.SilenceUsage, cmd.SilenceErrors = true, true
	if err := cmd.ExecuteContext(t.Context()); !errors.Is(err, syscall.ENOSPC) {
		t.Errorf("got %v", err)
	}
	if left := files(t, out); len(left) > 0 {
		t.Errorf("left %v", left)
	}
}

func TestAFailureLeavesWhatWasThere(t *testing.T) {
	out := t.TempDir()
	before := filepath.Join(out, "plan.json")
	if err := os.WriteFile(before, []byte("older"), 0o600); err != nil {
		t.Fatal(err)
	}
	s := &staging{out: out, ours: planFiles}
	err := s.add(out, map[string]maker{
		"plan.json":    func(w io.Writer) error { _, err := io.WriteString(w, "newer"); return err },
		"prepared.stl": func(io.Writer) error { return syscall.ENOSPC },
	})
	if !errors.Is(err, syscall.ENOSPC) || !strings.Contains(err.Error(), "nothing was kept") {
		t.Errorf("got %v", err)
	}
	if err := s.discard(); err != nil {
		t.Fatal(err)
	}
	if content, err := os.ReadFile(before); err != nil || string(content) != "older" || len(files(t, out)) != 1 {
		t.Errorf("%q is left of %v, %v", content, files(t, out), err)
	}
}

func TestAFullDiskIsSaid(t *testing.T) {
	disk := t.TempDir()
	if err := syscall.Mount("tmpfs", disk, "tmpfs", 0, "size=200k"); err != nil {
		t.Skipf("no small disk can be mounted here: %v", err)
	}
	defer func() {
		if err := syscall.Unmount(disk, 0); err != nil {
			t.Error(err)
		}
	}()
	_, _, err := runDesign(named(t, "c.json", occlusalCase), "--out", filepath.Join(disk, "out"), "--grid", "0.2")
	if !errors.Is(err, syscall.ENOSPC) {
		t.Errorf("got %v", err)
	}
	if left := files(t, disk); len(left) > 0 {
		t.Errorf("left %v", left)
	}
}
