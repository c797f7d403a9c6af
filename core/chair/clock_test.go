package chair

import (
	"slices"
	"testing"
)

// Clocks are folded from what happened: a reload loses no second of them.
func TestClocks(t *testing.T) {
	// Triturate, condense, carve, etch.
	limits := []Limit{{}, {Most: 210, After: 1}, {Most: 480, After: 1}, {Least: 15, Most: 20}}
	for _, c := range []struct {
		name   string
		events []Event
		want   []Clock
	}{
		{"before anything", nil, nil},
		{"trituration's end starts both", []Event{{Kind: Done, Step: 0, At: 12}}, []Clock{{1, 12}, {2, 12}}},
		{"condensed", []Event{{Kind: Done, Step: 0, At: 12}, {Kind: Done, Step: 1, At: 190}}, []Clock{{2, 12}}},
		{"a key pressed twice", []Event{{Kind: Done, Step: 0, At: 12}, {Kind: Done, Step: 0, At: 13}}, []Clock{{1, 12}, {2, 12}}},
		{"mixed again", []Event{{Kind: Done, Step: 0, At: 12}, {Kind: Back, Step: 1, At: 20}, {Kind: Done, Step: 0, At: 60}}, []Clock{{1, 60}, {2, 60}}},
		{"two by hand", []Event{{Kind: ClockStarted, Step: 3, At: 1}, {Kind: Done, Step: 0, At: 5}, {Kind: ClockStopped, Step: 2, At: 6}}, []Clock{{3, 1}, {1, 5}}},
		{"left too soon it goes on", []Event{{Kind: Skipped, Step: 0, At: 1}, {Kind: Skipped, Step: 1, At: 2}, {Kind: Skipped, Step: 2, At: 3}, {Kind: ClockStarted, Step: 3, At: 4}, {Kind: Done, Step: 3, At: 10}}, []Clock{{3, 4}}},
		{"left in time it ends", []Event{{Kind: Skipped, Step: 0, At: 1}, {Kind: Skipped, Step: 1, At: 2}, {Kind: Skipped, Step: 2, At: 3}, {Kind: ClockStarted, Step: 3, At: 4}, {Kind: Done, Step: 3, At: 20}}, nil},
		{"skipped it ends", []Event{{Kind: Skipped, Step: 0, At: 1}, {Kind: ClockStarted, Step: 1, At: 2}, {Kind: Skipped, Step: 1, At: 3}}, nil},
		{"a pause stops none", []Event{{Kind: ClockStarted, Step: 3, At: 4}, {Kind: Paused, At: 5}}, []Clock{{3, 4}}},
		{"of a step without one", []Event{{Kind: ClockStarted, Step: 0, At: 4}, {Kind: ClockStarted, Step: 9, At: 4}}, nil},
		{"with the run", []Event{{Kind: ClockStarted, Step: 3, At: 4}, {Kind: Finished, At: 30}}, nil},
	} {
		if got := Clocks(limits, c.events); !slices.Equal(got, c.want) {
			t.Errorf("%s: %v, want %v", c.name, got, c.want)
		}
	}
}
