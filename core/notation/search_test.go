package notation

import (
	"slices"
	"testing"
)

func TestASearchFindsATeethInAnyNotation(t *testing.T) {
	for word, want := range map[string][]string{
		"47": {"47"}, "#31": {"47"}, "31": {"31", "47"}, "lr7": {"47"}, "⎿6": {"26"}, "ULE": {"65"}, "t": {"85"},
		"canine": {"13", "23", "33", "43", "53", "63", "73", "83"}, "ca": nil, "99": nil, "": nil, " 47 ": {"47"},
	} {
		var got []string
		for _, tooth := range Meant(word) {
			got = append(got, tooth.String())
		}
		if !slices.Equal(got, want) {
			t.Errorf("%q means %v", word, got)
		}
	}
	if len(Meant("pri")) != 20 || len(Meant("lower")) != 26 {
		t.Errorf("%d primary, %d lower teeth", len(Meant("pri")), len(Meant("lower")))
	}
}
