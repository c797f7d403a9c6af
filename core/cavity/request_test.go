package cavity_test

import (
	"slices"
	"testing"

	"obturon/core/cavity/cavitytest"
	"obturon/core/lesion"
	"obturon/core/school"
)

// In special places other figures are asked than elsewhere, but for those that a house has changed.
func TestWhatIsAskedFollowsThePlace(t *testing.T) {
	under := -1.5
	root := lesion.Finding{Kind: lesion.CervicalCaries, Site: lesion.Buccal, Depth: lesion.OuterDentin, OverCervicalLine: &under}
	crown := lesion.Finding{Kind: lesion.CervicalCaries, Site: lesion.Buccal, Depth: lesion.OuterDentin}
	fissure := func(d lesion.Depth) lesion.Finding {
		return lesion.Finding{Kind: lesion.FissureCaries, Site: lesion.Central, Depth: d}
	}
	for _, c := range []struct {
		name, tooth, school string
		material            school.Material
		finding             lesion.Finding
		id                  school.CriterionID
		aim                 float64
	}{
		{"a neck on the root", "34", "board", school.Amalgam, root, school.NeckDepth, 0.9},
		{"a neck on the crown", "34", "board", school.Amalgam, crown, school.NeckDepth, 1.25},
		{"on the root, where nothing is asked", "34", "adhesive", school.Composite, root, school.NeckDepth, 0},
		{"caries in enamel", "46", "adhesive", school.Composite, fissure(lesion.InnerEnamel), school.ResistPulpalDepth, 0.6},
		{"caries in dentin", "46", "adhesive", school.Composite, fissure(lesion.OuterDentin), school.ResistPulpalDepth, 1.2},
		{"caries in enamel, where the form leads", "46", "board", school.Composite, fissure(lesion.InnerEnamel), school.ResistPulpalDepth, 1.6},
	} {
		r := cavitytest.Request(t, c.tooth, c.school, c.material, 0.2, c.finding)
		if got := r.Aim(c.id); got != c.aim {
			t.Errorf("%s: %v is asked, want %v", c.name, got, c.aim)
		}
		if c.aim == 0 {
			continue
		}
		house := *r.School
		house.Criteria = slices.Clone(house.Criteria)
		for n := range house.Criteria {
			if house.Criteria[n].ID == c.id {
				house.Criteria[n].Aim = 1.1111
			}
		}
		if r.School = &house; r.Aim(c.id) != 1.1111 {
			t.Errorf("%s: the house's own figure is not asked: %v", c.name, r.Aim(c.id))
		}
	}
}
