package main

import (
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/spf13/cobra"

	"obturon/internal/document"
)

func runDesign(args ...string) (stdout, stderr string, err error) {
	return runCommand(designCommand(), args)
}

func runCommand(cmd *cobra.Command, args []string) (stdout, stderr string, err error) {
	var out, faults bytes.Buffer
	cmd.SetOut(&out)
	cmd.SetErr(&faults)
	cmd.SetArgs(args)
	cmd.SilenceUsage, cmd.SilenceErrors = true, true
	err = cmd.ExecuteContext(context.Background())
	return out.String(), faults.String(), err
}

func write(t *testing.T, text string) string {
	t.Helper()
	path := filepath.Join(t.TempDir(), "case.json")
	if err := os.WriteFile(path, []byte(text), 0o600); err != nil {
		t.Fatal(err)
	}
	return path
}

func TestDesignWritesEverything(t *testing.T) {
	dir := filepath.Join(t.TempDir(), "out")
	stdout, stderr, err := runDesign("../../examples/lower-first-molar-occlusal.json", "--out", dir, "--grid", "0.2")
	if err != nil {
		t.Fatal(err, stderr)
	}
	var d document.Plan
	if err := json.Unmarshal([]byte(stdout), &d); err != nil {
		t.Fatal(err)
	}
	if d.Schema != "obturon.plan/1" || d.Class != "I" || len(d.Checks) < 13 {
		t.Errorf("printed %+v", d)
	}
	for _, name := range []string{"intact.stl", "prepared.stl", "cavity.stl", "filling.stl", "drawing.svg", "card.pdf", "plan.json"} {
		if info, err := os.Stat(filepath.Join(dir, name)); err != nil || info.Size() < 1000 {
			t.Errorf("%s: %v", name, err)
		}
	}
}

func TestDesignWritesEachIncrement(t *testing.T) {
	dir := filepath.Join(t.TempDir(), "out")
	stdout, stderr, err := runDesign(write(t, `{"schema":"obturon.case/1","tooth":"36","patient":{"age_years":30},
		"findings":[{"kind":"fissure_caries","site":"central","depth":"outer_dentin"}],"choice":{"material":"composite","school":"board"}}`), "--out", dir)
	if err != nil {
		t.Fatal(err, stderr)
	}
	var d document.Plan
	if err := json.Unmarshal([]byte(stdout), &d); err != nil {
		t.Fatal(err)
	}
	if len(d.Fill) != 1 || len(d.Fill[0].Parts) != 1 {
		t.Fatalf("fills %+v", d.Fill)
	}
	laid := d.Fill[0].Parts[0].Increments
	for n := range len(laid) + 1 {
		_, err := os.Stat(filepath.Join(dir, fmt.Sprintf("increment_%02d.stl", n+1)))
		if (err == nil) != (n < len(laid)) {
			t.Errorf("increment %d of %d: %v", n+1, len(laid), err)
		}
	}
}

func TestDesignWritesTheTeethBeside(t *testing.T) {
	dir := filepath.Join(t.TempDir(), "out")
	_, stderr, err := runDesign(write(t, `{"schema":"obturon.case/1","tooth":"36","patient":{"age_years":30},"missing_neighbours":["mesial"],
		"findings":[{"kind":"proximal_caries","site":"distal","depth":"outer_dentin"},{"kind":"proximal_caries","site":"mesial","depth":"outer_dentin"}]}`), "--out", dir, "--grid", "0.2")
	if err != nil {
		t.Fatal(err, stderr)
	}
	if info, err := os.Stat(filepath.Join(dir, "neighbour_distal.stl")); err != nil || info.Size() < 1000 {
		t.Errorf("the distal neighbour: %v", err)
	}
	if _, err := os.Stat(filepath.Join(dir, "neighbour_mesial.stl")); err == nil {
		t.Error("a missing tooth was written")
	}
}

func TestDesignWritesNothingForABadCase(t *testing.T) {
	dir := filepath.Join(t.TempDir(), "out")
	_, stderr, err := runDesign(write(t, `{"tooth":"99","patient":{"age_years":-1}}`), "--out", dir)
	var reported errReported
	if !errors.As(err, &reported) || reported.code != 2 {
		t.Errorf("error %v", err)
	}
	lines := strings.Split(strings.TrimSpace(stderr), "\n")
	if len(lines) != 4 {
		t.Errorf("%d lines:\n%s", len(lines), stderr)
	}
	for _, want := range []string{"$.schema: ", "$.tooth: ", "$.patient.age_years: ", "$.findings: "} {
		if !strings.Contains(stderr, want) {
			t.Errorf("no line for %s:\n%s", want, stderr)
		}
	}
	if _, err := os.Stat(dir); !errors.Is(err, os.ErrNotExist) {
		t.Error("something was written")
	}
}

func TestDesignWritesOnlyTheRefusal(t *testing.T) {
	dir := filepath.Join(t.TempDir(), "out")
	stdout, stderr, err := runDesign(write(t, `{"schema":"obturon.case/1","tooth":"46","patient":{"age_years":30},
		"findings":[{"kind":"crack","site":"mesial","depth":"outer_dentin"}]}`), "--out", dir)
	if err != nil {
		t.Fatal(err, stderr)
	}
	if !strings.Contains(stdout, `"refused"`) {
		t.Error(stdout)
	}
	files, err := os.ReadDir(dir)
	if err != nil || len(files) != 1 || files[0].Name() != "plan.json" {
		t.Errorf("%v, %v", files, err)
	}
}

func TestDesignNamesAMissingFile(t *testing.T) {
	_, stderr, err := runDesign("no-such-case.json")
	if err == nil || !strings.Contains(stderr, "no-such-case.json") {
		t.Errorf("%v %s", err, stderr)
	}
}
