package solid

import (
	"math"
	"testing"
)

func TestClosingFillsNarrowValleysAndKeepsSlopes(t *testing.T) {
	ground := func(x, y float64) float64 {
		slope := 0.6*x - 0.3*y
		if math.Abs(x-1) < 0.1 { // a fissure 0.2 wide across the slope
			return slope - 0.8
		}
		return slope
	}
	sheet := NewSheet(-2, -2, 2, 2, 0.05).Fill(ground).Closed(0.25)
	for _, p := range []Point2{{0, 0}, {-1, 0.7}, {0.6, -0.5}} {
		if got := sheet.At(p.X, p.Y); math.Abs(got-ground(p.X, p.Y)) > 0.02 {
			t.Errorf("the slope at %v became %.3f, was %.3f", p, got, ground(p.X, p.Y))
		}
	}
	if got, want := sheet.At(1, 0), 0.6; math.Abs(got-want) > 0.12 {
		t.Errorf("the fissure is bridged at %.3f, want near %.3f", got, want)
	}
}
