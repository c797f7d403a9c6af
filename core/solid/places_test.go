package solid

import (
	"testing"

	"gonum.org/v1/gonum/spatial/r3"
)

// A box is visited from its low corner on, and no further than was asked for.
func TestPlacesOfABox(t *testing.T) {
	b := Box{Min: r3.Vec{X: -1}, Max: r3.Vec{X: 0, Y: 1, Z: 0.5}}
	count := 0
	for p := range Places(b, 0.5) {
		if !b.Contains(p) {
			t.Errorf("%v lies outside", p)
		}
		count++
	}
	if count != 3*3*2 {
		t.Errorf("%d places", count)
	}
	for p := range Places(b, 0.5) {
		if p != b.Min {
			t.Errorf("begins at %v", p)
		}
		break
	}
}
