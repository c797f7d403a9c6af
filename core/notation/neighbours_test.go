package notation

import (
	"slices"
	"testing"
)

func TestNeighbours(t *testing.T) {
	for _, c := range []struct {
		tooth string
		side  Side
		age   float64
		want  string
	}{
		{"46", Mesial, 34, "45"}, {"46", Distal, 34, "47"}, {"46", Distal, 9, ""}, {"46", Mesial, 9, "85"},
		{"48", Distal, 40, ""}, {"48", Mesial, 40, "47"}, {"47", Distal, 15, ""}, {"47", Distal, 25, "48"},
		{"11", Mesial, 30, "21"}, {"31", Mesial, 30, "41"}, {"21", Distal, 30, "22"},
		{"55", Distal, 4, ""}, {"55", Distal, 7, "16"}, {"54", Mesial, 5, "53"}, {"51", Mesial, 5, "61"},
		{"83", Mesial, 8, "42"}, {"12", Distal, 9, "53"}, {"13", Distal, 13, "14"},
	} {
		got, ok := MustParse(c.tooth).Neighbour(c.side, c.age)
		if got.String() != c.want || ok != (c.want != "") {
			t.Errorf("%s of %s at %v years: %q, want %q", c.side, c.tooth, c.age, got, c.want)
		}
	}
	if _, ok := (Tooth{}).Neighbour(Mesial, 30); ok {
		t.Error("no tooth has a neighbour")
	}
}

func TestTeethOfOneQuadrant(t *testing.T) {
	for _, c := range []struct {
		a, b string
		same bool
	}{{"33", "36", true}, {"33", "74", true}, {"33", "43", false}, {"33", "23", false}, {"11", "51", true}, {"11", "21", false}} {
		if listed := slices.Contains(MustParse(c.a).Quadrant(), MustParse(c.b)); listed != c.same {
			t.Errorf("%s stands in the quadrant of %s: %v", c.b, c.a, listed)
		}
		if got := MustParse(c.a).SameQuadrant(MustParse(c.b)); got != c.same {
			t.Errorf("%s and %s in one quadrant: %v", c.a, c.b, got)
		}
	}
}
