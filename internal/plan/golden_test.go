package plan_test

import (
	"bytes"
	"context"
	"encoding/json"
	"flag"
	"fmt"
	"math"
	"os"
	"slices"
	"strings"
	"sync"
	"testing"

	"obturon/internal/document"
	"obturon/internal/plan"
)

var update = flag.Bool("update", false, "rewrite the recorded plans")

const (
	goldenCases = "testdata/golden/cases.json"
	goldenPlans = "testdata/golden/plans.json"
	// sampled is one case of how many that every test run compares;
	// OBTURON_GOLDEN=all compares them all (make golden).
	sampled = 24
)

type goldenCase struct {
	Name string          `json:"name"`
	Grid float64         `json:"grid"`
	Case json.RawMessage `json:"case"`
}

// goldenPlan is what is kept of a plan: texts exactly, figures to a tolerance.
type goldenPlan struct {
	Name    string             `json:"name"`
	Texts   []string           `json:"texts"`
	Figures map[string]float64 `json:"figures"`
}

// Recorded plans stay as they are unless a rule, a form or a gauge is meant to
// change: read each difference, then record anew with -update.
func TestPlansAreAsRecorded(t *testing.T) {
	const tolerance = 0.005 // mm, mm³ or degrees
	cases := readJSON[[]goldenCase](t, goldenCases)
	all := os.Getenv("OBTURON_GOLDEN") == "all" || *update
	planner := plan.SharedPlanner
	plans := make([]*goldenPlan, len(cases))
	var planned sync.WaitGroup
	turns := make(chan struct{}, 2) // an evaluation uses several processors itself
	for n, c := range cases {
		if !all && n%sampled != 0 {
			continue
		}
		planned.Go(func() {
			turns <- struct{}{}
			defer func() { <-turns }()
			got, err := planOf(planner, c)
			if err != nil {
				t.Errorf("%s: %v", c.Name, err)
				return
			}
			plans[n] = got
		})
	}
	planned.Wait()
	if *update {
		writePlans(t, plans)
		return
	}
	recorded := readJSON[[]goldenPlan](t, goldenPlans)
	for n, got := range plans {
		if got != nil {
			compare(t, recorded[n], *got, tolerance)
		}
	}
}

func planOf(planner *plan.Planner, c goldenCase) (*goldenPlan, error) {
	read, err := document.ReadCase(c.Case)
	if err != nil {
		return nil, err
	}
	r, err := planner.Evaluate(context.Background(), read, c.Grid)
	if err != nil {
		return nil, err
	}
	data, err := json.Marshal(r.Document())
	if err != nil {
		return nil, err
	}
	var made map[string]any
	if err := json.Unmarshal(data, &made); err != nil {
		return nil, err
	}
	delete(made, "core")
	delete(made, "frame") // the tooth's, whatever is planned
	p := &goldenPlan{Name: c.Name, Figures: map[string]float64{}}
	p.keep("", made)
	slices.Sort(p.Texts)
	return p, nil
}

// keep walks a document: numbers are figures, all else is text.
func (p *goldenPlan) keep(path string, value any) {
	switch v := value.(type) {
	case map[string]any:
		if id, is := v["id"].(string); is { // checks keep their name wherever they stand
			side, _ := v["side"].(string)
			path = strings.TrimRight(path, "0123456789") + id + " " + side
		}
		for field, inner := range v {
			p.keep(path+"/"+field, inner)
		}
	case []any:
		for n, inner := range v {
			p.keep(fmt.Sprintf("%s/%d", path, n), inner)
		}
	case float64:
		if recorded(path) {
			p.Figures[path] = v
		}
	default:
		if !recorded(path) {
			return
		}
		p.Texts = append(p.Texts, fmt.Sprintf("%s: %v", path, v))
	}
}

// recorded tells which parts of a plan are compared: what was decided, designed
// and measured. Words may change.
func recorded(path string) bool {
	parts := strings.Split(path, "/")
	switch parts[1] {
	case "class", "surfaces", "material", "school", "dimensions", "volumes", "finishes":
		return true
	case "refused":
		return true
	case "checks":
		return slices.Contains([]string{"value", "verdict", "severity"}, parts[len(parts)-1])
	case "sequence":
		return slices.Contains([]string{"depth_mm", "seconds"}, parts[len(parts)-1])
	default:
		return false
	}
}

func compare(t *testing.T, want, got goldenPlan, tolerance float64) {
	t.Helper()
	for _, text := range want.Texts {
		if !slices.Contains(got.Texts, text) {
			t.Errorf("%s: gone: %s", want.Name, text)
		}
	}
	for _, text := range got.Texts {
		if !slices.Contains(want.Texts, text) {
			t.Errorf("%s: new: %s", want.Name, text)
		}
	}
	for at, figure := range want.Figures {
		here, known := got.Figures[at]
		if !known || math.Abs(here-figure) > tolerance {
			t.Errorf("%s: %s is %v, was %v", want.Name, at, here, figure)
		}
	}
	for at, figure := range got.Figures {
		if _, known := want.Figures[at]; !known {
			t.Errorf("%s: %s is new: %v", want.Name, at, figure)
		}
	}
}

func readJSON[T any](t *testing.T, name string) T {
	t.Helper()
	var v T
	data, err := os.ReadFile(name)
	if err == nil {
		err = json.Unmarshal(data, &v)
	}
	if err != nil {
		t.Fatal(err)
	}
	return v
}

// writePlans records one plan a line, so that differences can be read.
func writePlans(t *testing.T, plans []*goldenPlan) {
	t.Helper()
	var out bytes.Buffer
	out.WriteString("[")
	for n, p := range plans {
		line, err := json.Marshal(p)
		if err != nil {
			t.Fatal(err)
		}
		if n > 0 {
			out.WriteString(",")
		}
		out.WriteString("\n")
		out.Write(line)
	}
	out.WriteString("\n]\n")
	if err := os.WriteFile(goldenPlans, out.Bytes(), 0o600); err != nil {
		t.Fatal(err)
	}
}
