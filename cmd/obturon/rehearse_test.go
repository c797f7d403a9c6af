package main

import (
	"encoding/json"
	"errors"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"obturon/internal/document"
)

func runRehearse(args ...string) (stdout, stderr string, err error) {
	return runCommand(rehearseCommand(), args)
}

const upperLateralPit = `{"schema":"obturon.case/1","tooth":"22","patient":{"age_years":30},
	"findings":[{"kind":"pit_caries","site":"lingual_pit","depth":"outer_dentin"}]}`

// The tooth after each step and the report come out; what an earlier run left over goes,
// and nothing else.
func TestRehearseWritesEachStep(t *testing.T) {
	dir := filepath.Join(t.TempDir(), "out")
	if err := os.MkdirAll(dir, 0o755); err != nil {
		t.Fatal(err)
	}
	for _, name := range []string{"step_98.stl", "notes.txt"} {
		if err := os.WriteFile(filepath.Join(dir, name), []byte("old"), 0o600); err != nil {
			t.Fatal(err)
		}
	}
	stdout, stderr, err := runRehearse(write(t, upperLateralPit), "--out", dir)
	if err != nil {
		t.Fatal(err, stderr)
	}
	var d document.Rehearsal
	if err := json.Unmarshal([]byte(stdout), &d); err != nil {
		t.Fatal(err)
	}
	if d.Schema != "obturon.rehearsal/1" || d.Tooth != "22" || len(d.Cavities) != 1 || len(d.Cavities[0].Steps) < 2 {
		t.Fatalf("printed %+v", d)
	}
	kept, err := os.ReadFile(filepath.Join(dir, "rehearsal.json"))
	if err != nil || string(kept) != stdout {
		t.Errorf("rehearsal.json is not what was printed: %v", err)
	}
	for n := range d.Cavities[0].Steps {
		if info, err := os.Stat(filepath.Join(dir, stepFile(n+1))); err != nil || info.Size() < 1000 {
			t.Errorf("%s: %v", stepFile(n+1), err)
		}
	}
	if _, err := os.Stat(filepath.Join(dir, "step_98.stl")); err == nil {
		t.Error("a step of an earlier run stayed")
	}
	if _, err := os.Stat(filepath.Join(dir, "notes.txt")); err != nil {
		t.Error("a file of someone else's went")
	}
}

func TestRehearseTellsBadInput(t *testing.T) {
	_, stderr, err := runRehearse(write(t, `{"schema":"obturon.case/1","tooth":"99","patient":{"age_years":30},"findings":[]}`))
	var reported errReported
	if !errors.As(err, &reported) || reported.code != badInput || !strings.Contains(stderr, "$.tooth") {
		t.Errorf("error %v, told %q", err, stderr)
	}
}

// What is not cut is not rehearsed, and says why.
func TestRehearseOfNothing(t *testing.T) {
	stdout, stderr, err := runRehearse(write(t, `{"schema":"obturon.case/1","tooth":"22","patient":{"age_years":30},
		"findings":[{"kind":"pit_caries","site":"lingual_pit","depth":"outer_enamel"}]}`))
	if err != nil {
		t.Fatal(err, stderr)
	}
	var d document.Rehearsal
	if err := json.Unmarshal([]byte(stdout), &d); err != nil {
		t.Fatal(err)
	}
	if len(d.Cavities) != 0 || d.Refused == "" {
		t.Errorf("printed %+v", d)
	}
}

// A kit of one's own cuts: what it lacks is not taken up, and faults in it are told.
func TestRehearseTakesAKit(t *testing.T) {
	kit := func(text string) string {
		file := filepath.Join(t.TempDir(), "kit.json")
		if err := os.WriteFile(file, []byte(text), 0o600); err != nil {
			t.Fatal(err)
		}
		return file
	}
	stdout, stderr, err := runRehearse(write(t, upperLateralPit), "--kit", kit(`{"schema":"obturon.kit/1","items":[{"instrument":"329","pieces":0},{"instrument":"spoon excavator","pieces":0}]}`))
	if err != nil {
		t.Fatal(err, stderr)
	}
	var d document.Rehearsal
	if err := json.Unmarshal([]byte(stdout), &d); err != nil {
		t.Fatal(err)
	}
	for _, s := range d.Cavities[0].Steps {
		for _, id := range s.Instruments {
			if id == "329" || id == "spoon excavator" {
				t.Errorf("%s takes up the %s, which is not there", s.Step, id)
			}
		}
	}
	if undone := strings.Join(d.Cavities[0].Undone, " "); !strings.Contains(undone, "spoon excavator") {
		t.Errorf("left undone: %q", undone)
	}
	for file, want := range map[string]string{
		kit(`{"schema":"obturon.kit/1","items":[{"instrument":"330","width_mm":3}]}`): "$.items[0].width_mm",
		filepath.Join(t.TempDir(), "none.json"):                                       "no such file",
	} {
		_, stderr, err := runRehearse(write(t, upperLateralPit), "--kit", file)
		var reported errReported
		if !errors.As(err, &reported) || reported.code != badInput || !strings.Contains(stderr, want) {
			t.Errorf("error %v, told %q, want %q", err, stderr, want)
		}
	}
}
