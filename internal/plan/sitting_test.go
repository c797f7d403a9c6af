package plan

import (
	"context"
	"slices"
	"testing"

	"obturon/core/cavity"
	"obturon/core/fill"
	"obturon/core/intake"
	"obturon/core/lesion"
	"obturon/core/school"
	"obturon/internal/render"
)

func TestASittingTakesTheNecksOfOneQuadrantAndMaterial(t *testing.T) {
	neck := func(tooth string, material school.Material) *intake.Case {
		return smoothCase(tooth, lesion.Buccal, material, "adhesive", cavity.AnyStyle)
	}
	sound := smoothCase("34", lesion.Lingual, "composite", "adhesive", cavity.AnyStyle)
	sealed := neck("35", "composite")
	sealed.Findings[0].Depth, sealed.Choice.Treatment = "outer_enamel", "" // watched, not cut
	for _, c := range []struct {
		name  string
		cases []*intake.Case
		teeth []string
	}{
		{"none", nil, nil},
		{"one alone", []*intake.Case{neck("33", "composite")}, nil},
		{"a quadrant", []*intake.Case{neck("33", "composite"), neck("32", "composite"), sound}, []string{"33", "32", "34"}},
		{"other quadrants and materials", []*intake.Case{neck("33", "composite"), neck("43", "composite"), neck("32", "amalgam")}, nil},
		{"one that is not cut", []*intake.Case{neck("33", "composite"), sealed}, nil},
		{"first is no neck", []*intake.Case{molarCase(), neck("33", "composite"), neck("32", "composite")}, nil},
	} {
		s, err := planner.Sitting(context.Background(), c.cases, func(*intake.Case) (*render.Proof, error) { return nil, nil }, fill.Usual(), 0.2)
		if err != nil {
			t.Errorf("%s: %v", c.name, err)
			continue
		}
		if (s == nil) != (c.teeth == nil) || s != nil && !slices.Equal(s.Teeth, c.teeth) {
			t.Errorf("%s: %+v, want %v", c.name, s, c.teeth)
		}
	}
}
