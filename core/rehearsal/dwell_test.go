package rehearsal

import (
	"math"
	"testing"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/instrument"
	"obturon/core/reach"
	"obturon/core/solid"
)

// Over a flat pulp a round bur that goes down slantwise warms it from where its head is
// closer than a millimetre on.
func TestHowFarABurWarmsThePulp(t *testing.T) {
	grid := solid.NewGrid(solid.Box{Min: r3.Vec{X: -1, Y: -1, Z: -1}, Max: r3.Vec{X: 11, Y: 1, Z: 6}}, 0.25)
	s := &Survey{Pulp: solid.Sample(grid, func(p r3.Vec) float64 { return p.Z })}
	head := instrument.MustFind(instrument.LargeRound).Head
	for _, c := range []struct {
		name string
		way  reach.Way
		want float64 // mm
	}{
		{"all of it far off", reach.Way{{Z: 3}, {X: 10, Z: 3}}, 0},
		{"all of it close", reach.Way{{Z: 0.5}, {X: 10, Z: 0.5}}, 10},
		{"its second half close", reach.Way{{Z: 2}, {X: 10, Z: 0}}, math.Hypot(10, 2) / 2},
		{"there and back", reach.Way{{Z: 2}, {X: 10, Z: 0}, {Z: 2}}, math.Hypot(10, 2)},
	} {
		cut := Cutting{Instrument: instrument.LargeRound, Head: head, Axis: r3.Vec{Z: 1}, Ways: []reach.Way{c.way}}
		if got := s.hot(cut); math.Abs(got-c.want) > 0.3 {
			t.Errorf("%s: %.2f mm, want %.2f", c.name, got, c.want)
		}
	}
}
