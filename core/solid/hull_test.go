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
