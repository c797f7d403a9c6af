package measure_test

import (
	"testing"

	"obturon/core/assess"
	"obturon/core/cavity"
	"obturon/core/cavity/cavitytest"
	"obturon/core/lesion"
	"obturon/core/school"
)

// Where the removal of caries ends: over the pulp soft dentin stays, round the edge none does.
func TestDeepCariesIsLeftOverThePulp(t *testing.T) {
	deep := lesion.Finding{Kind: lesion.FissureCaries, Site: lesion.Central, Depth: lesion.InnerDentin, Height: 3.6}
	for _, c := range []struct {
		name, tooth, school string
		removal             cavity.CariesRemoval
		activity            lesion.Activity
		leaves              bool
		nearest             float64 // mm that the cut keeps from the pulp at least, where the dentin is thick enough
	}{
		{"as advised", "46", "adhesive", "", "", true, 0.45},
		{"in one visit", "46", "board", cavity.Selective, "", true, 0.45},
		{"stepwise", "46", "adhesive", cavity.Stepwise, "", true, 0.45},
		{"to firm dentin everywhere", "46", "adhesive", cavity.ToFirm, "", false, 0},
		{"arrested", "46", "adhesive", "", lesion.Arrested, true, 0.45},
		{"in a primary molar", "75", "primary", "", "", true, 0.35},
	} {
		f := deep
		f.Activity = c.activity
		if c.tooth == "75" {
			f.Height = 3
		}
		r := cavitytest.Request(t, c.tooth, c.school, school.Composite, 0.12, f)
		r.CariesRemoval = c.removal
		s := cavitytest.Cut(t, cavitytest.Propose(t, r), nil)
		left := s.Left()
		if s.Leaves() != c.leaves || (len(s.Kept()) > 0) != c.leaves {
			t.Errorf("%s: leaves %v, %.2f mm³", c.name, s.Leaves(), left.Kept)
		}
		if left.ToGo.Value > 0.02 {
			t.Errorf("%s: %.3f mm³ are left where none are to stay", c.name, left.ToGo.Value)
		}
		over, _ := s.PulpDistance()
		if over.Value < c.nearest {
			t.Errorf("%s: the cut comes to %.2f mm of the pulp", c.name, over.Value)
		}
		if c.leaves && (left.Area < 0.3 || left.OverPulp < over.Value-0.05 || left.Seal.Value < 0.3) {
			t.Errorf("%s: %+v over %.2f", c.name, left, over.Value)
		}
	}
}

// The further from the pulp it stops, the more stays.
func TestStepwiseLeavesMore(t *testing.T) {
	kept := map[cavity.CariesRemoval]float64{}
	for _, removal := range cavity.CariesRemovals {
		r := cavitytest.Request(t, "35", "adhesive", school.Composite, 0.12, lesion.Finding{Kind: lesion.ProximalCaries, Site: lesion.Distal, Depth: lesion.InnerDentin})
		r.CariesRemoval = removal
		kept[removal] = cavitytest.Cut(t, cavitytest.Propose(t, r), nil).Left().Kept
	}
	if !(kept[cavity.ToFirm] == 0 && kept[cavity.Selective] > 0.1 && kept[cavity.Stepwise] > 1.2*kept[cavity.Selective]) {
		t.Errorf("%v", kept)
	}
}

// A shallow lesion is cleaned out, and nothing is asked about what is left.
func TestShallowCariesGoesWhole(t *testing.T) {
	r := cavitytest.Request(t, "46", "adhesive", school.Composite, 0.12, lesion.Finding{Kind: lesion.FissureCaries, Site: lesion.Central, Depth: lesion.OuterDentin})
	s := cavitytest.Cut(t, cavitytest.Propose(t, r), nil)
	checks, err := assess.Cavity(t.Context(), s)
	if err != nil {
		t.Fatal(err)
	}
	for _, k := range checks {
		if k.ID == school.LesionOverPulp && k.Verdict != assess.NotApplicable || k.ID == school.LesionJunction && k.Verdict != assess.Met {
			t.Errorf("%s: %s", k.ID, k.Verdict)
		}
	}
	if s.Leaves() {
		t.Errorf("leaves %.2f mm³", s.Left().Kept)
	}
}
