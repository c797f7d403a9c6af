package assess

import (
	"slices"
	"strings"
	"testing"

	"obturon/core/measure"
	"obturon/core/school"
)

func TestJudge(t *testing.T) {
	target, limits := school.Range{Min: 1.5, Max: 2}, school.Range{Min: 1.2, Max: 2.3}
	for _, c := range []struct {
		value float64
		want  Verdict
	}{{1.5, Met}, {1.75, Met}, {2, Met}, {2.00005, Met}, {1.49, Near}, {2.3, Near}, {1.19, Missed}, {2.31, Missed}} {
		if got := Judge(c.value, target, limits); got != c.want {
			t.Errorf("%v is %s, want %s", c.value, got, c.want)
		}
	}
}

func TestTheWorstReadingCounts(t *testing.T) {
	target := school.Range{Min: 2, Max: 6}
	got, ok := worst(target, measure.Reading{Value: 4}, measure.Reading{Value: 7}, measure.Reading{Value: 1.5})
	if !ok || got.Value != 7 {
		t.Errorf("worst is %v", got.Value)
	}
	if _, ok := worst(target); ok {
		t.Error("nothing is worst of nothing")
	}
}

func TestEveryRuleHasWordsForBothSides(t *testing.T) {
	type words struct {
		id  string
		fix func(bool, float64, string) string
	}
	var all []words
	for _, r := range rules {
		all = append(all, words{r.id, r.fix})
	}
	for _, r := range boxRules {
		all = append(all, words{r.id, r.fix})
	}
	ofFaces := map[string]bool{}
	for _, r := range faceRules {
		if ofFaces[r.id] {
			t.Errorf("%s stands twice", r.id)
		}
		ofFaces[r.id] = true
		if !slices.ContainsFunc(all, func(w words) bool { return w.id == r.id }) { // some criteria both kinds of cavity have
			all = append(all, words{r.id, r.fix})
		}
	}
	seen := map[string]bool{}
	for _, r := range all {
		if seen[r.id] {
			t.Errorf("%s stands twice", r.id)
		}
		seen[r.id] = true
		for _, short := range []bool{true, false} {
			if text := r.fix(short, 0.15, "buccal wall"); len(text) < 20 || strings.Contains(text, "%!") {
				t.Errorf("%s short %v says %q", r.id, short, text)
			}
		}
	}
	for id := range school.Units {
		if !seen[id] {
			t.Errorf("no rule for %s", id)
		}
	}
	for id := range seen {
		if Label(id) == "" {
			t.Errorf("%s has no name", id)
		}
		if _, known := school.Units[id]; !known {
			t.Errorf("%s is no criterion", id)
		}
	}
}

func TestAContactLeftStandingIsCritical(t *testing.T) {
	wants := school.Criterion{Limits: school.Range{Min: 0.25, Max: 0.6}}
	lets := school.Criterion{Limits: school.Range{Min: 0, Max: 0.7}}
	for _, c := range []struct {
		value     float64
		criterion school.Criterion
		want      bool
	}{{0.02, wants, true}, {0.22, wants, false}, {0.02, lets, false}} {
		if got := leftStanding(c.value, c.criterion); got != c.want {
			t.Errorf("%.2f within %v: %v", c.value, c.criterion.Limits, got)
		}
	}
}
