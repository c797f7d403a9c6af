package solve

import (
	"slices"
	"strings"
	"testing"

	"obturon/core/assess"
	"obturon/core/cavity"
	"obturon/core/cavity/cavitytest"
	"obturon/core/intake"
	"obturon/core/lesion"
	"obturon/core/school"
)

// Every figure that a criterion names exists, and says which way it moves the value.
func TestCriteriaNameFiguresThatCavitiesHave(t *testing.T) {
	known := intake.Dimensions()
	for _, e := range school.Catalogue {
		for _, m := range e.MovedBy {
			exists := slices.ContainsFunc(known, func(l cavity.Limits) bool { return l.ID == m.Figure || strings.HasSuffix(l.ID, "_"+m.Figure) })
			if !exists || m.Slope == 0 {
				t.Errorf("%s is moved by %q with slope %g", e.ID, m.Figure, m.Slope)
			}
		}
	}
}

// What is solved costs no more than what was proposed, by the checks of the cut solid, and
// the solved proposal proposes it.
func TestASolvedProposalIsNoWorse(t *testing.T) {
	for _, c := range []struct {
		tooth   string
		finding lesion.Finding
	}{
		{"44", lesion.Finding{Kind: lesion.PitCaries, Site: lesion.DistalPit, Depth: lesion.OuterDentin}},
		{"12", lesion.Finding{Kind: lesion.ProximalCaries, Site: lesion.Mesial, Depth: lesion.OuterDentin}},
		{"33", lesion.Finding{Kind: lesion.CervicalCaries, Site: lesion.Buccal, Depth: lesion.OuterDentin}},
		{"47", lesion.Finding{Kind: lesion.PitCaries, Site: lesion.DistalPit, Depth: lesion.MiddleDentin}},
	} {
		r := cavitytest.Request(t, c.tooth, "traditional", school.Composite, 0.15, c.finding)
		p := cavitytest.Propose(t, r)
		found, err := Proposal(t.Context(), r.Model, p)
		if err != nil {
			t.Fatal(err)
		}
		sum := func(checks []assess.Check) (sum float64) {
			for _, k := range checks {
				if k.Measured() {
					sum += cost(k)
				}
			}
			return sum
		}
		const slack = 0.5 // tooth and way count too
		if before, after := sum(found.Before), sum(found.After); after > before+slack {
			t.Errorf("%s: %.2f became %.2f with %v", c.tooth, before, after, found.Values)
		}
		solved := p.With(found.Values)
		if made, err := solved.Cut(nil); err != nil || made.Narrow {
			t.Errorf("%s: a head does not get down to the floor (%v)", c.tooth, err)
		}
		again, err := assess.Cavity(t.Context(), cavitytest.Cut(t, solved, nil))
		if err != nil {
			t.Fatal(err)
		}
		for n := range again {
			if again[n].Value != found.After[n].Value {
				t.Errorf("%s: %s reads %g where solving read %g", c.tooth, again[n].ID, again[n].Value, found.After[n].Value)
			}
		}
	}
}
