package chair

import (
	"bytes"
	"encoding/json"
	"flag"
	"fmt"
	"math/rand/v2"
	"os"
	"testing"
)

var update = flag.Bool("update", false, "write the vectors anew")

// vector is a run with where it stands in the end, in the field names of the documents: the browser
// folds the same events while the server does not answer, and is tested by the same file.
type vector struct {
	Name   string        `json:"name"`
	Limits []vectorLimit `json:"limits"`
	Events []vectorEvent `json:"events"`
	Stands vectorState   `json:"stands"`
}

type vectorLimit struct {
	Least int `json:"least_seconds"`
	Most  int `json:"most_seconds"`
	After int `json:"after"`
}

type vectorEvent struct {
	Kind Kind    `json:"kind"`
	Step int     `json:"step"`
	At   float64 `json:"at_seconds"`
}

type vectorState struct {
	Step     int           `json:"step"`
	Seconds  float64       `json:"seconds"`
	At       float64       `json:"at_seconds"`
	Paused   bool          `json:"paused"`
	Finished bool          `json:"finished"`
	Steps    []vectorStep  `json:"steps"`
	Clocks   []vectorClock `json:"clocks"`
}

type vectorStep struct {
	Seconds float64 `json:"seconds"`
	Times   int     `json:"times"`
	Done    bool    `json:"done"`
	Skipped bool    `json:"skipped"`
}

type vectorClock struct {
	Step int     `json:"step"`
	From float64 `json:"from_seconds"`
}

func (v vector) folded() vectorState {
	events := make([]Event, len(v.Events))
	for n, e := range v.Events {
		events[n] = Event{Kind: e.Kind, Step: e.Step, At: e.At}
	}
	limits := make([]Limit, len(v.Limits))
	for n, l := range v.Limits {
		limits[n] = Limit{Least: float64(l.Least), Most: float64(l.Most), After: l.After}
	}
	s := Run(len(limits), events)
	stands := vectorState{Step: s.Step, Seconds: s.Seconds, At: s.Last, Paused: s.Paused, Finished: s.Finished, Steps: []vectorStep{}, Clocks: []vectorClock{}}
	for _, p := range s.Steps {
		stands.Steps = append(stands.Steps, vectorStep(p))
	}
	for _, c := range Clocks(limits, events) {
		stands.Clocks = append(stands.Clocks, vectorClock(c))
	}
	return stands
}

// vectors are runs as they may come: whole ones, and keys pressed at random in two windows.
func vectors() []vector {
	amalgam := []vectorLimit{{}, {Most: 210, After: 1}, {Most: 480, After: 1}, {Least: 15, Most: 20}}
	all := []vector{
		{Name: "nothing has happened", Limits: amalgam},
		{Name: "a key pressed twice", Limits: amalgam, Events: []vectorEvent{{Done, 0, 12}, {Done, 0, 12.5}}},
		{Name: "done in two windows at once", Limits: amalgam, Events: []vectorEvent{{Done, 0, 12}, {Done, 1, 60}, {Skipped, 1, 61}}},
		{Name: "gone back to from another step", Limits: amalgam, Events: []vectorEvent{{Done, 0, 12}, {Back, 0, 20}, {Back, 1, 30}}},
		{Name: "paused", Limits: amalgam, Events: []vectorEvent{{Paused, 0, 10}, {Resumed, 0, 310}, {Done, 0, 320}}},
		{Name: "etched too short", Limits: amalgam, Events: []vectorEvent{{Skipped, 0, 1}, {Skipped, 1, 2}, {Skipped, 2, 3}, {ClockStarted, 3, 4}, {Done, 3, 10}}},
		{Name: "from a window that lags behind", Limits: amalgam, Events: []vectorEvent{{Done, 0, 100}, {Paused, 1, 40}, {Resumed, 1, 120}}},
		{Name: "over, and a key after it", Limits: amalgam, Events: []vectorEvent{{Done, 0, 12}, {Finished, 1, 50}, {Back, 1, 60}, {ClockStarted, 3, 61}}},
		{Name: "without steps", Events: []vectorEvent{{Done, 0, 1}, {Finished, 0, 2}}},
	}
	for seed := range uint64(60) {
		pick := rand.New(rand.NewPCG(seed, 31))
		v := vector{Name: fmt.Sprintf("at random %d", seed), Limits: make([]vectorLimit, pick.IntN(6))}
		for n := range v.Limits {
			if pick.IntN(2) == 0 {
				v.Limits[n] = vectorLimit{Least: pick.IntN(30), Most: 30 + pick.IntN(200), After: pick.IntN(n + 1)}
			}
		}
		at := 0.0
		for range pick.IntN(16) {
			at += float64(pick.IntN(240)-20) / 4 // a window may lag behind
			v.Events = append(v.Events, vectorEvent{Kinds[pick.IntN(len(Kinds))], pick.IntN(len(v.Limits) + 1), max(at, 0)})
		}
		all = append(all, v)
	}
	return all
}

// The browser's fold is held against this file: what stands in it is what this one makes of it.
func TestTheVectorsOfAFold(t *testing.T) {
	const path = "testdata/folds.json"
	all := vectors()
	for n := range all {
		if all[n].Limits == nil {
			all[n].Limits = []vectorLimit{}
		}
		if all[n].Events == nil {
			all[n].Events = []vectorEvent{}
		}
		all[n].Stands = all[n].folded()
	}
	var text bytes.Buffer
	text.WriteString("[\n")
	for n, v := range all {
		line, err := json.Marshal(v)
		if err != nil {
			t.Fatal(err)
		}
		text.Write(line)
		if n+1 < len(all) {
			text.WriteByte(',')
		}
		text.WriteByte('\n')
	}
	text.WriteString("]\n")
	if *update {
		if err := os.WriteFile(path, text.Bytes(), 0o644); err != nil {
			t.Fatal(err)
		}
	}
	kept, err := os.ReadFile(path)
	if err != nil {
		t.Fatal(err)
	}
	if !bytes.Equal(kept, text.Bytes()) {
		t.Errorf("a run is folded otherwise than %s says: if that is meant, write it anew with -update, and look at the browser's", path)
	}
}
