package solid

import (
	"math"
	"testing"
)

func TestTraceFindsWhatARoughLineStandsFor(t *testing.T) {
	circle := func(p Point2) float64 { return math.Hypot(p.X, p.Y) - 2 }
	square := func(p Point2) float64 { return math.Max(math.Abs(p.X), math.Abs(p.Y)) - 2 }
	signOf := func(f func(Point2) float64) func(Point2) float64 {
		return func(p Point2) float64 { return math.Copysign(1, f(p)) }
	}
	// A circle felt on a coarse lattice, as the shadow of a mesh is.
	stairs := Polyline{Closed: true}
	for n := range 60 {
		sin, cos := math.Sincos(2 * math.Pi * float64(n) / 60)
		stairs.Points = append(stairs.Points, Point2{math.Round(2*cos/0.15) * 0.15, math.Round(2*sin/0.15) * 0.15})
	}
	rounded := Polyline{Closed: true}
	for n := range 80 {
		sin, cos := math.Sincos(2 * math.Pi * float64(n) / 80)
		reach := 2 / math.Max(math.Abs(cos), math.Abs(sin)) * 0.97
		rounded.Points = append(rounded.Points, Point2{reach * cos, reach * sin})
	}
	for _, c := range []struct {
		name         string
		rough        Polyline
		field        func(Point2) float64
		length, area float64
	}{
		{"a distance", stairs, circle, 4 * math.Pi, 4 * math.Pi},
		{"a mere sign", stairs, signOf(circle), 4 * math.Pi, 4 * math.Pi},
		{"corners", rounded, square, 16, 16},
		{"corners by sign", rounded, signOf(square), 16, 16},
	} {
		t.Run(c.name, func(t *testing.T) {
			line := Trace(c.rough, c.field, Tracing{Spacing: 0.12, Reach: 0.3, Tolerance: 0.004})
			if got := line.Length(); math.Abs(got-c.length) > 0.005*c.length {
				t.Errorf("length %.3f, want %.3f", got, c.length)
			}
			if got := line.Area(); math.Abs(got-c.area) > 0.005*c.area {
				t.Errorf("area %.3f, want %.3f", got, c.area)
			}
			for _, p := range line.Points {
				if d := math.Abs(c.field(p)); d > 0.001 && d < 1 {
					t.Fatalf("%v lies %.4f off", p, d)
				}
			}
		})
	}
}

func TestTraceKeepsTheEndsOfAnOpenLine(t *testing.T) {
	rough := Polyline{Points: []Point2{{0, 0.1}, {0.5, -0.1}, {1, 0.1}, {1.5, -0.1}, {2, 0.1}}}
	line := Trace(rough, func(p Point2) float64 { return -p.Y }, Tracing{Spacing: 0.1, Reach: 0.3, Tolerance: 0.01})
	first, last := line.Points[0], line.Points[len(line.Points)-1]
	if math.Abs(first.X) > 0.05 || math.Abs(last.X-2) > 0.05 {
		t.Errorf("runs from %v to %v", first, last)
	}
	for _, p := range line.Points {
		if math.Abs(p.Y) > 1e-3 {
			t.Errorf("%v lies off", p)
		}
	}
}

func TestTraceLeavesOutALineThatStandsForNothing(t *testing.T) {
	rough := Polyline{Closed: true, Points: []Point2{{0, 0}, {1, 0}, {1, 1}, {0, 1}}}
	line := Trace(rough, func(Point2) float64 { return 1 }, Tracing{Spacing: 0.1, Reach: 0.2, Tolerance: 0.01})
	if len(line.Points) != 0 {
		t.Errorf("%d places", len(line.Points))
	}
}
