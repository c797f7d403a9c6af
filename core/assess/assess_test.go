package assess

import (
	"slices"
	"strings"
	"testing"

	"obturon/core/cavity"
	"obturon/core/measure"
	"obturon/core/notation"
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

func TestOpenEndsAcceptWhateverLiesBeyond(t *testing.T) {
	for _, c := range []struct {
		value          float64
		target, limits school.Range
		want           Verdict
	}{
		{250, school.AtLeast(2), school.AtLeast(1.5), Met}, {1.7, school.AtLeast(2), school.AtLeast(1.5), Near}, {1, school.AtLeast(2), school.AtLeast(1.5), Missed},
		{-3, school.AtMost(0.1), school.AtMost(0.4), Met}, {0.3, school.AtMost(0.1), school.AtMost(0.4), Near}, {0.5, school.AtMost(0.1), school.AtMost(0.4), Missed},
	} {
		if got := Judge(c.value, c.target, c.limits); got != c.want {
			t.Errorf("%v against %v is %s, want %s", c.value, c.target, got, c.want)
		}
	}
}

func TestTheWorstReadingCounts(t *testing.T) {
	c := school.Criterion{Target: school.Range{Min: 2, Max: 6}, Limits: school.Range{Min: 1, Max: 8}}
	got, _, _, ok := worst(c, []measure.Reading{{Value: 4}, {Value: 7}, {Value: 1.5}})
	if !ok || got.Value != 7 {
		t.Errorf("worst is %v", got.Value)
	}
	if _, _, _, ok := worst(c, nil); ok {
		t.Error("nothing is worst of nothing")
	}
}

// Half of a long groove and half of a short one are different lengths.
func TestFractionsOfAGrooveAreOfEachOnesOwnLength(t *testing.T) {
	c := school.Criterion{Basis: school.GrooveFraction, Target: school.Range{Min: 0.4, Max: 0.6}, Limits: school.Range{Min: 0.3, Max: 0.75}}
	got, target, limits, _ := worst(c, []measure.Reading{{Value: 1, Whole: 2}, {Value: 1, Whole: 5}})
	if got.Whole != 5 || target != (school.Range{Min: 2, Max: 3}) || limits != (school.Range{Min: 1.5, Max: 3.75}) {
		t.Errorf("%+v against %v within %v", got, target, limits)
	}
}

func TestTheWorstVerdictIsThatOfThePlan(t *testing.T) {
	for _, c := range []struct {
		verdicts []Verdict
		want     Verdict
	}{{nil, Met}, {[]Verdict{Met, NotApplicable}, Met}, {[]Verdict{Met, Near}, Near}, {[]Verdict{Near, Missed, Met}, Missed}} {
		var checks []Check
		for _, v := range c.verdicts {
			checks = append(checks, Check{Verdict: v})
		}
		if got := Worst(checks); got != c.want {
			t.Errorf("%v is %s, want %s", c.verdicts, got, c.want)
		}
	}
}

// A box side that no band passes is missed and major, whatever the school accepts.
func TestABoxThatNoBandPassesIsMissed(t *testing.T) {
	for _, id := range []school.CriterionID{school.BoxClearanceBuccal, school.BoxClearanceLingual} {
		entry, _ := school.Find(id)
		for v, want := range map[float64]bool{-0.1: true, 0: true, 0.003: true, 0.02: true, 0.099: true, 0.1: false, 0.4: false} {
			if entry.Bars(v) != want {
				t.Errorf("%s at %v: no band passes is %v", id, v, !want)
			}
		}
		if entry.BarredSays == "" {
			t.Errorf("%s does not say what to do", id)
		}
		for _, s := range school.IDs {
			own, _ := school.Get(s)
			if c, ok := own.For(id, notation.MustParse("46"), school.Amalgam); !ok || c.Limits.Min < 0.1 || c.Severity != school.Major {
				t.Errorf("%s, %s: %+v", s, id, c)
			}
		}
	}
}

// A margin under an occlusal contact is a major fault in every school, a primary molar's too.
func TestAMarginUnderAContactIsBarred(t *testing.T) {
	entry, _ := school.Find(school.OutlineContactStress)
	for v, want := range map[float64]bool{0: true, 0.19: true, 0.2: false, 0.5: false} {
		if entry.Bars(v) != want {
			t.Errorf("%v mm off a contact: barred is %v", v, !want)
		}
	}
}

// What lies past its target by less than the gauge can tell is met, and says so; more is
// near, however coarse the gauge.
func TestWithinMeasuringErrorIsMet(t *testing.T) {
	for unit, most := range map[string]float64{"mm": 0.05, "deg": 2, "mm3": 0} {
		if got := grace(unit); got != most {
			t.Errorf("%s: %g, want %g", unit, got, most)
		}
	}
	e, _ := school.Find(school.OutlineSmoothness)
	if said := e.WithinError(0.02); !strings.Contains(said, "within measuring error") {
		t.Errorf("%q", said)
	}
}

// A figure that the cut solid measures otherwise says so, and why.
func TestAFigureTellsWhereItMeasuresOtherwise(t *testing.T) {
	isthmus := cavity.Dimension{ID: "isthmus_width", Unit: "mm", Value: 0.8}
	check := Check{Verdict: Met, Unit: "mm", Moves: []Move{{Dimension: "isthmus_width", Slope: 1, Same: true}}}
	for _, c := range []struct {
		name     string
		measured float64
		followed bool
		says     string
	}{{"as designed", 0.85, false, ""}, {"over caries", 2.35, true, "measures 2.35 mm on the cut tooth: caries"}, {"on a slope", 1.2, false, "own form"}} {
		check.Value, check.Followed = c.measured, c.followed
		got := Apart(isthmus, []Check{check})
		if (got == "") != (c.says == "") || !strings.Contains(got, c.says) {
			t.Errorf("%s: %q, want %q", c.name, got, c.says)
		}
	}
	check.Moves[0].Same, check.Value = false, 2.35
	if got := Apart(isthmus, []Check{check}); got != "" {
		t.Errorf("another quantity is compared: %q", got)
	}
}

// Only a figure that moves a reading straight is named; a far one would be no advice.
func TestAPlanIsToldWhatToSet(t *testing.T) {
	own := &cavity.Cavity{Dimensions: []cavity.Dimension{{ID: "isthmus_width", Label: "Isthmus width", Unit: "mm", Value: 0.85, Min: 0.4, Max: 4}}}
	c := Check{Value: 0.8, Unit: "mm", Moves: []Move{{Dimension: "isthmus_width", Slope: 1}}}
	target := school.Range{Min: 0.9, Max: 1.5}
	if got := c.planned(own, target); got != "0.80 mm here, at least 0.90 mm is wanted: set isthmus width from 0.85 mm to 0.95 mm." {
		t.Errorf("%q", got)
	}
	c.Moves[0].Slope = -0.3
	if got := c.planned(own, target); got != "" {
		t.Errorf("by a figure that hardly moves it: %q", got)
	}
	own.Dimensions[0].Value, c.Moves[0].Slope = 4, 1
	if got := c.planned(own, target); got != "" {
		t.Errorf("past what can be built: %q", got)
	}
}

// The figures of the wall where a value is read come first, and some count there alone.
func TestTheWallThatIsReadNamesItsFigure(t *testing.T) {
	c := &cavity.Cavity{Boxes: []notation.Side{notation.Mesial}}
	for _, id := range []string{"buccal_extension", "mesial_box_buccal", "mesial_axial_depth", "groove_depth", "pulpal_depth", "wall_convergence"} {
		c.Dimensions = append(c.Dimensions, cavity.Dimension{ID: id})
	}
	for _, k := range []struct {
		criterion    school.CriterionID
		place, first string
		silent       string // a figure that is not named
	}{
		{school.ResistCavosurfaceAngle, "margin over the buccal wall of the box", "mesial_box_buccal", "mesial_axial_depth"},
		{school.ResistCavosurfaceAngle, "margin over the buccal wall", "buccal_extension", "mesial_box_buccal"},
		{school.ResistCavosurfaceAngle, "margin over the axial wall", "mesial_axial_depth", "mesial_box_buccal"},
		{school.ResistPulpDistance, "retention groove, towards the ML horn", "groove_depth", ""},
		{school.ResistPulpDistance, "pulpal floor, towards the ML horn", "pulpal_depth", "groove_depth"},
	} {
		entry, _ := school.Find(k.criterion)
		named := moves(c, entry, "", k.place)
		if len(named) == 0 || named[0].Dimension != k.first {
			t.Errorf("%s: %v, want %s first", k.place, named, k.first)
		}
		if slices.ContainsFunc(named, func(m Move) bool { return m.Dimension == k.silent }) {
			t.Errorf("%s: %s is named", k.place, k.silent)
		}
	}
}

// A wall that does not decide its check has a verdict of its own.
func TestAWallHasItsOwnVerdict(t *testing.T) {
	c := Check{Verdict: Near, Value: 1.7, Unit: "mm", Uncertainty: 0.02, Target: school.AtLeast(2), Limits: school.AtLeast(1.5)}
	for value, want := range map[float64]Verdict{1.7: Near, 4.94: Met, 1.2: Missed, 1.99: Met, 1.8: Near} {
		if got := c.Of(value); got != want {
			t.Errorf("%.2f: %s, want %s", value, got, want)
		}
	}
	if got := (Check{Verdict: NotApplicable}).Of(3); got != NotApplicable {
		t.Errorf("not asked for: %s", got)
	}
}
