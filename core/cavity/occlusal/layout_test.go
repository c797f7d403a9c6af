package occlusal

import (
	"testing"

	"gonum.org/v1/gonum/spatial/r3"
)

func TestStretchesAreJoinedUntilEveryBridgeStands(t *testing.T) {
	at := func(x ...float64) stretch {
		s := stretch{}
		for _, v := range x {
			s.line = append(s.line, r3.Vec{X: v})
		}
		return s
	}
	for _, c := range []struct {
		name   string
		all    []stretch
		bridge float64
		want   int
	}{
		{"far apart", []stretch{at(3), at(0), at(-3)}, 0.5, 3},
		{"two near", []stretch{at(3), at(1.6), at(-3)}, 0.5, 2},
		{"a chain", []stretch{at(3), at(1.6), at(0.2)}, 0.5, 1},
		{"the last joins two that stood apart", []stretch{at(2.8), at(0), at(1.4)}, 0.5, 1},
		{"bevels ask for more", []stretch{at(3), at(1.3)}, 0.8, 1},
		{"without them there is enough", []stretch{at(3), at(1.3)}, 0.5, 2},
	} {
		joined := joinNear(c.all, c.bridge)
		if len(joined) != c.want {
			t.Errorf("%s: %d stretches, want %d", c.name, len(joined), c.want)
		}
		for _, s := range joined {
			for n := 1; n < len(s.line); n++ {
				if s.line[n].X > s.line[n-1].X {
					t.Errorf("%s: the line is not mesial first: %v", c.name, s.line)
				}
			}
		}
	}
}

func TestABridgeBetweenBevelsIsWider(t *testing.T) {
	amalgam := fissureRequest(t, "85", "primary")
	composite := amalgam
	composite.Material = "composite"
	if plain, bevelled := amalgam.bridgeWanted(), composite.bridgeWanted(); plain != LeastBridge || bevelled < LeastBridge+0.4 {
		t.Errorf("%.2f without bevels, %.2f with", plain, bevelled)
	}
}

func TestOnlyLesionLedBondedFillingsSealTheRest(t *testing.T) {
	r := fissureRequest(t, "46", "adhesive")
	if r.sealed() != nil {
		t.Error("an amalgam seals fissures")
	}
	r.Material = "composite"
	if lines := r.sealed(); len(lines) < 4 {
		t.Errorf("%d fissures of a lower first molar are sealed", len(lines))
	}
	board := fissureRequest(t, "46", "board")
	board.Material = "composite"
	if board.sealed() != nil {
		t.Error("a school that opens all fissures seals them")
	}
}
