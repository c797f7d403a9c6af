package occlusal

import (
	"math"
	"testing"

	"obturon/core/lesion"
	"obturon/core/notation"
)

func TestSeatsOfPrimaryMolarsNarrowTowardsTheNeck(t *testing.T) {
	r := boxRequest(t, "85", "primary", "composite", 0.2, lesion.Distal)
	d, err := propose(r)
	if err != nil {
		t.Fatal(err)
	}
	widths := seatWidths(r.Request, d, notation.Distal)
	if len(widths) < 2 || math.Abs(widths[0].Width-d.Boxes[notation.Distal].AxialDepth) > 1e-9 {
		t.Fatalf("widths %v for a seat of %.2f", widths, d.Boxes[notation.Distal].AxialDepth)
	}
	for n, w := range widths[1:] {
		if w.Width >= widths[n].Width {
			t.Errorf("no narrower deeper: %v", widths)
		}
	}
}
