package plan

import (
	"context"
	"slices"
	"testing"

	"obturon/core/face"
	"obturon/core/lesion"
)

func TestASittingTakesTheNecksOfOneQuadrantAndMaterial(t *testing.T) {
	neck := func(tooth, material string) *Case {
		return faceCase(tooth, lesion.Buccal, material, "adhesive", face.AnyStyle)
	}
	sound := faceCase("34", lesion.Lingual, "composite", "adhesive", face.AnyStyle)
	sealed := neck("35", "composite")
	sealed.Findings[0].Depth = "outer_enamel" // watched, not cut
	for _, c := range []struct {
		name  string
		cases []*Case
		teeth []string
	}{
		{"none", nil, nil},
		{"one alone", []*Case{neck("33", "composite")}, nil},
		{"a quadrant", []*Case{neck("33", "composite"), neck("32", "composite"), sound}, []string{"33", "32", "34"}},
		{"other quadrants and materials", []*Case{neck("33", "composite"), neck("43", "composite"), neck("32", "amalgam")}, nil},
		{"one that is not cut", []*Case{neck("33", "composite"), sealed}, nil},
		{"first is no neck", []*Case{molarCase(), neck("33", "composite"), neck("32", "composite")}, nil},
	} {
		s, err := planner.Sitting(context.Background(), c.cases, 0.2)
		if err != nil {
			t.Errorf("%s: %v", c.name, err)
			continue
		}
		if (s == nil) != (c.teeth == nil) || s != nil && !slices.Equal(s.Teeth, c.teeth) {
			t.Errorf("%s: %+v, want %v", c.name, s, c.teeth)
		}
	}
}
