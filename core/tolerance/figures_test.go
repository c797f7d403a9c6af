package tolerance

import (
	"math"
	"strings"
	"testing"
)

// A hand past its bounds is named by the figure; a usual one is within all of them.
func TestAHandHasBounds(t *testing.T) {
	for _, c := range []struct {
		hand   Hand
		figure string
	}{
		{Usual, ""}, {Hand{}, ""}, {Hand{DepthBias: 0.6}, "depth_bias_mm"}, {Hand{DepthScatter: -0.1}, "depth_scatter_mm"},
		{Hand{Tilt: 16}, "tilt_degrees"}, {Hand{Wander: math.NaN()}, "wander_mm"}, {Hand{Extension: -0.3}, "extension_mm"},
	} {
		if figure, why := c.hand.Check(); figure != c.figure || (figure == "") != (why == "") || figure != "" && !strings.Contains(why, "give") {
			t.Errorf("%+v: %s %q, want %s", c.hand, figure, why, c.figure)
		}
	}
}
