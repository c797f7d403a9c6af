package cavity

import (
	"errors"
	"fmt"
	"math"
	"strings"
	"testing"

	"obturon/core/lesion"
	"obturon/core/school"
)

type block struct{ width, slope float64 }

var blockSpecs = Specs[block]{
	Millimetres("width", "Width", 0.5, 4, nil, func(b *block) *float64 { return &b.width }),
	Degrees("slope", "Slope", -5, 30, func(b *block) bool { return b.width > 1 }, func(b *block) *float64 { return &b.slope }),
}

func TestDimensionsOfADesign(t *testing.T) {
	proposal := block{width: 2, slope: 10}
	design := blockSpecs.Apply(proposal, map[string]float64{"slope": 12, "height": 3})
	list := blockSpecs.Dimensions(design, proposal)
	if len(list) != 2 || list[0].Overridden() || !list[1].Overridden() || list[1].Value != 12 || list[1].Proposed != 10 || list[1].Unit != "deg" {
		t.Errorf("%+v", list)
	}
	// One that a narrow block does not have is neither listed nor set.
	narrow := blockSpecs.Apply(block{width: 0.8}, map[string]float64{"slope": 12})
	if list := blockSpecs.Dimensions(narrow, narrow); narrow.slope != 0 || len(list) != 1 {
		t.Errorf("a narrow block has %+v", list)
	}
}

// A dimension that follows a criterion is proposed as the school aims; the others
// are left to the form.
func TestDimensionsFollowTheirCriterion(t *testing.T) {
	specs := Specs[block]{blockSpecs[0].As(school.OutlineIsthmusWidth), blockSpecs[1]}
	got := specs.Aimed(block{slope: 7}, func(id school.CriterionID) float64 {
		if id != school.OutlineIsthmusWidth {
			t.Errorf("asked for %s", id)
		}
		return 1.3
	})
	if got.width != 1.3 || got.slope != 7 {
		t.Errorf("proposed %+v", got)
	}
	if blockSpecs[0].Criterion != "" {
		t.Error("describing one form changed another")
	}
}

func TestOverridesKeepWithinWhatCanBeBuilt(t *testing.T) {
	known := blockSpecs.Limits()
	for _, c := range []struct {
		id    string
		value float64
		want  string
	}{
		{"width", 0.5, ""}, {"width", 4, ""}, {"slope", -5, ""},
		{"width", 4.01, "width takes 0.5 to 4 mm"}, {"slope", -6, "slope takes -5 to 30 deg"},
		{"width", math.NaN(), "not buildable"}, {"width", math.Inf(1), "not buildable"}, {"height", 1, "no dimension"},
	} {
		if got := CheckOverride(known, c.id, c.value); (got == "") != (c.want == "") || !strings.Contains(got, c.want) {
			t.Errorf("%s %v: %q", c.id, c.value, got)
		}
	}
}

// Every reason against a cavity has its words, also where it was wrapped; what is
// no such reason has none.
func TestRefusals(t *testing.T) {
	said := map[string]bool{}
	for _, err := range []error{ErrNothingToOpen, ErrOffOcclusalSurface, ErrBoxOffTooth, ErrOffSmoothSurface, ErrNoIncisalAngleLeft, ErrNarrowFloor, PulpReachedError{lesion.Finding{Kind: lesion.PitCaries, Site: lesion.Central}}, lesion.ErrOffTooth} {
		words := Refusal(fmt.Errorf("distal: %w", err))
		if words == "" || said[words] {
			t.Errorf("%v is refused with %q", err, words)
		}
		said[words] = true
	}
	if got := Refusal(errors.New("the disk is full")); got != "" {
		t.Errorf("another error is refused with %q", got)
	}
}
