package solid

import (
	"slices"
	"testing"
)

func TestConvexHull(t *testing.T) {
	for _, c := range []struct {
		name      string
		from, out []Point2
	}{
		{"nothing", nil, nil},
		{"one place", []Point2{{1, 2}, {1, 2}}, []Point2{{1, 2}}},
		{"a square with points in it and on its sides", []Point2{{1, 1}, {0, 0}, {2, 2}, {0, 2}, {2, 0}, {1, 0}, {0.5, 1.5}}, []Point2{{0, 0}, {2, 0}, {2, 2}, {0, 2}}},
		{"a line", []Point2{{0, 0}, {1, 1}, {2, 2}}, []Point2{{0, 0}, {2, 2}}},
	} {
		if got := ConvexHull(c.from); !slices.Equal(got, c.out) {
			t.Errorf("%s: %v, want %v", c.name, got, c.out)
		}
	}
}

func TestClipConvex(t *testing.T) {
	square := []Point2{{0, 0}, {4, 0}, {4, 4}, {0, 4}}
	area := func(p []Point2) float64 {
		sum := 0.0
		for n, a := range p {
			b := p[(n+1)%len(p)]
			sum += a.X*b.Y - a.Y*b.X
		}
		return sum / 2
	}
	for _, c := range []struct {
		name      string
		low, high Point2
		left      float64
	}{
		{"all of it", Point2{-1, -1}, Point2{5, 5}, 16},
		{"a corner", Point2{3, 2}, Point2{9, 9}, 2},
		{"a middle", Point2{1, 1}, Point2{2, 3}, 2},
		{"none", Point2{5, 5}, Point2{6, 6}, 0},
	} {
		if got := area(ClipConvex(square, c.low, c.high)); got != c.left {
			t.Errorf("%s: %v mm² are left, want %v", c.name, got, c.left)
		}
	}
}
