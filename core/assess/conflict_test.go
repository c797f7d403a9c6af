package assess

import (
	"strings"
	"testing"

	"obturon/core/cavity"
	"obturon/core/cavity/cavitytest"
	"obturon/core/lesion"
	"obturon/core/measure"
	"obturon/core/school"
)

// off is a measured check at a value, judged by its target alone.
func off(id school.CriterionID, side string, value float64, target school.Range) Check {
	entry, _ := school.Find(id)
	c := Check{ID: id, Label: entry.Label, Unit: entry.Unit, Side: side, Value: value, Target: target, Verdict: Near, Fix: "mend it"}
	if target.Contains(value) {
		c.Verdict = Met
	}
	return c
}

func TestWhatCannotHoldTogetherIsSaidAsOneConflict(t *testing.T) {
	depth, into := school.Range{Min: 1.2, Max: 1.4}, school.Range{Min: 0.2, Max: 0.5}
	for _, c := range []struct {
		name    string
		kind    cavity.Kind
		checks  []Check
		against school.CriterionID
	}{
		{"the wall stands 0.3 too deep in dentin and can give way by 0.1", cavity.Occlusal,
			[]Check{off(school.BoxAxialIntoDentin, "mesial", 0.8, into), off(school.BoxAxialDepth, "mesial", 1.3, depth)}, school.BoxAxialDepth},
		{"it can give way by as much", cavity.Occlusal,
			[]Check{off(school.BoxAxialIntoDentin, "mesial", 0.55, into), off(school.BoxAxialDepth, "mesial", 1.3, depth)}, ""},
		{"the other box's depth has no part in it", cavity.Occlusal,
			[]Check{off(school.BoxAxialIntoDentin, "mesial", 0.8, into), off(school.BoxAxialDepth, "distal", 1.2, depth)}, ""},
		{"too shallow in dentin is no matter of a seat too narrow", cavity.Occlusal,
			[]Check{off(school.BoxAxialIntoDentin, "mesial", 0.1, into), off(school.BoxAxialDepth, "mesial", 1.2, depth)}, ""},
		{"the pulp keeps a small incisor's box narrow", cavity.Proximal,
			[]Check{off(school.AnteriorBoxWidth, "", 0.8, school.Range{Min: 1, Max: 2.5}), off(school.ResistPulpDistance, "", 0.9, school.AtLeast(1))}, school.ResistPulpDistance},
		{"a thick roof does not", cavity.Proximal,
			[]Check{off(school.AnteriorBoxWidth, "", 0.8, school.Range{Min: 1, Max: 2.5}), off(school.ResistPulpDistance, "", 1.9, school.AtLeast(1))}, ""},
	} {
		nameConflicts(c.kind, c.checks)
		first := c.checks[0]
		if first.Against != c.against {
			t.Errorf("%s: against %q, want %q", c.name, first.Against, c.against)
		}
		if named := strings.Contains(first.Fix, "cannot both be met"); named != (c.against != "") {
			t.Errorf("%s: says %q", c.name, first.Fix)
		}
	}
}

// Every tie names criteria that its kind of cavity is gauged for.
func TestTiesAreOfCriteriaThatAreGauged(t *testing.T) {
	for _, c := range []struct {
		kind  cavity.Kind
		tooth string
		f     lesion.Finding
	}{
		{cavity.Occlusal, "46", lesion.Finding{Kind: lesion.ProximalCaries, Site: lesion.Mesial, Depth: lesion.OuterDentin}},
		{cavity.Pit, "46", lesion.Finding{Kind: lesion.PitCaries, Site: lesion.BuccalPit, Depth: lesion.OuterDentin}},
		{cavity.Proximal, "12", lesion.Finding{Kind: lesion.ProximalCaries, Site: lesion.Distal, Depth: lesion.OuterDentin}},
		{cavity.Cervical, "33", lesion.Finding{Kind: lesion.CervicalCaries, Site: lesion.Buccal, Depth: lesion.OuterDentin}},
	} {
		s := cavitytest.Cut(t, cavitytest.Propose(t, cavitytest.Request(t, c.tooth, "board", "composite", 0.2, c.f)), nil)
		gauged := map[school.CriterionID]bool{}
		for _, turn := range measure.Turns(s) {
			gauged[turn.Criterion] = true
		}
		for _, tie := range ties[c.kind] {
			if !gauged[tie.first] || !gauged[tie.other] {
				t.Errorf("%s: no gauge for %s or %s", c.kind, tie.first, tie.other)
			}
		}
	}
}

// A wall that caries pushed out is judged from where the caries ends; one set further by
// hand is not.
func TestOnlyWhatGoesBeyondTheCariesIsJudged(t *testing.T) {
	isthmus := func(overrides map[string]float64) Check {
		fissure := lesion.Finding{Kind: lesion.FissureCaries, Site: lesion.Central, Depth: lesion.MiddleDentin, Width: 2.6}
		p := cavitytest.Propose(t, cavitytest.Request(t, "46", "board", "amalgam", 0.12, fissure))
		all, err := Cavity(t.Context(), cavitytest.Cut(t, p, overrides))
		if err != nil {
			t.Fatal(err)
		}
		for _, k := range all {
			if k.ID == school.OutlineIsthmusWidth {
				return k
			}
		}
		t.Fatal("no isthmus")
		return Check{}
	}
	proposed, byHand := isthmus(nil), isthmus(map[string]float64{"isthmus_width": 3.8})
	if proposed.Verdict != Met || proposed.Target.Max < proposed.Value-0.2 {
		t.Errorf("proposed over wide caries: %s, %.2f of %v", proposed.Verdict, proposed.Value, proposed.Target)
	}
	if byHand.Verdict == Met {
		t.Errorf("set to 3.8 by hand: %s, %.2f of %v", byHand.Verdict, byHand.Value, byHand.Target)
	}
}

func TestWhatIsNotThereIsNotMeasurableAndSaysWhy(t *testing.T) {
	f := lesion.Finding{Kind: lesion.ProximalCaries, Site: lesion.Distal, Depth: lesion.OuterDentin}
	all, err := Cavity(t.Context(), cavitytest.Cut(t, cavitytest.Propose(t, cavitytest.Request(t, "46", "board", "amalgam", 0.12, f)), nil))
	if err != nil {
		t.Fatal(err)
	}
	want := map[school.CriterionID]struct {
		verdict Verdict
		says    string
	}{
		school.BoxClearanceBuccal:   {NotMeasurable, "No tooth stands opposite"}, // the request has no neighbour
		school.OutlineContactStress: {NotMeasurable, "articulating paper"},
		school.RetainBevelWidth:     {NotApplicable, ""}, // amalgam is not bevelled
	}
	for _, k := range all {
		if w, listed := want[k.ID]; listed {
			if k.Verdict != w.verdict || !strings.Contains(k.Fix, w.says) {
				t.Errorf("%s is %s: %q", k.ID, k.Verdict, k.Fix)
			}
			delete(want, k.ID)
		}
	}
	if len(want) > 0 {
		t.Errorf("not among the checks: %v", want)
	}
}
