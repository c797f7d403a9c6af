package measure

import (
	"slices"
	"testing"

	"obturon/core/cavity"
	"obturon/core/school"
)

// Every criterion can be measured, and nothing is measured that no criterion asks
// for; on no kind of cavity do two gauges read the same criterion.
func TestEveryCriterionHasItsGauge(t *testing.T) {
	all := slices.Concat(commonGauges, occlusalGauges, boxGauges, smoothGauges)
	for _, entry := range school.Catalogue {
		if !slices.ContainsFunc(all, func(g Gauge) bool { return g.Criterion == entry.ID }) {
			t.Errorf("%s has no gauge", entry.ID)
		}
	}
	type taken struct {
		kind      cavity.Kind
		criterion school.CriterionID
	}
	by := map[taken]bool{}
	for _, g := range all {
		if _, known := school.Find(g.Criterion); !known {
			t.Errorf("%s is measured but is no criterion", g.Criterion)
		}
		if len(g.Of) == 0 || (g.read == nil) == (g.box == nil) {
			t.Errorf("%s is measured on no kind of cavity, or in no way, or in two", g.Criterion)
		}
		for _, kind := range g.Of {
			if by[taken{kind, g.Criterion}] {
				t.Errorf("%s is measured twice on %s", g.Criterion, kind)
			}
			by[taken{kind, g.Criterion}] = true
		}
	}
}
