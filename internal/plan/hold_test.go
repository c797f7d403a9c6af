package plan

import (
	"math"
	"os"
	"testing"

	"obturon/core/intake"
	"obturon/core/lesion"
	"obturon/core/measure"
	"obturon/core/notation"
	"obturon/core/school"
)

// heldTeeth are twenty on which fillings are pulled and tipped; the first two each time,
// all with the class tables.
func heldTeeth() []string {
	teeth := []string{"15", "74", "27", "46", "14", "16", "17", "18", "24", "25", "26", "35", "36", "37", "38", "45", "47", "54", "65", "85"}
	if os.Getenv("OBTURON_TABLES") == "" {
		return teeth[:2]
	}
	return teeth
}

// held is the least that any check of an id reads in a plan, with figures set by hand.
func held(t *testing.T, c *intake.Case, grid float64, overrides map[string]float64, ids ...school.CriterionID) []float64 {
	t.Helper()
	c.Overrides = overrides
	r, err := planner.Judged(t.Context(), c, grid)
	if err != nil {
		t.Fatalf("%s: %v", c.Tooth, err)
	}
	least := make([]float64, len(ids))
	for n, id := range ids {
		least[n] = math.Inf(1)
		for _, check := range r.Checks {
			if check.ID == id && check.Measured() {
				least[n] = math.Min(least[n], check.Value)
			}
		}
		if math.IsInf(least[n], 1) {
			t.Fatalf("%s is not measured on %s", id, c.Tooth)
		}
	}
	return least
}

func schoolFor(c *intake.Case) string {
	if c.Tooth.Primary() {
		return "primary"
	}
	return "board"
}

// What holds an amalgam is felt on the cut tooth: walls that lean out let it go, grooves and
// a dovetail stand against the pull they are made for.
func TestWallsDovetailAndGroovesHold(t *testing.T) {
	for _, tooth := range heldTeeth() {
		t.Run(tooth, func(t *testing.T) {
			t.Parallel()
			class1 := forms[0].on(tooth, school.Amalgam, "")
			class1.Choice.School = schoolFor(class1)
			leaning := held(t, class1, tableGrid, map[string]float64{"wall_convergence": 5}, school.RetainPullOcclusal)[0]
			upright := held(t, class1, tableGrid, map[string]float64{"wall_convergence": 2}, school.RetainPullOcclusal)[0]
			diverging := held(t, class1, tableGrid, map[string]float64{"wall_convergence": -6}, school.RetainPullOcclusal)[0]
			if leaning < upright+0.02 || diverging > upright-0.02 || diverging > 0.04 {
				t.Errorf("walls at 5, 2 and -6 degrees hold by %.3f, %.3f and %.3f mm", leaning, upright, diverging)
			}
			if !class1.Tooth.Primary() { // where an MO is advised against
				mo := forms[1].on(tooth, school.Amalgam, class1.Choice.School)
				wide := held(t, mo, tableGrid, map[string]float64{"groove_depth": 0}, school.RetainPullProximal)[0]
				straight := held(t, mo, tableGrid, map[string]float64{"groove_depth": 0, "dovetail_width": 0}, school.RetainPullProximal)[0]
				less := -0.02 // on most teeth side grooves hold as well
				if class1.Tooth.Position() == 5 && class1.Tooth.Upper() {
					less = 0.1
				}
				if straight > wide-less {
					t.Errorf("an MO holds by %.3f mm, without its dovetail by %.3f", wide, straight)
				}
			}
			slot := forms[4].on(tooth, school.Amalgam, class1.Choice.School)
			ids := []school.CriterionID{school.RetainPullProximal, school.RetainTipping}
			grooved := held(t, slot, tableGrid, map[string]float64{"groove_depth": 0.4}, ids...)
			smooth := held(t, slot, tableGrid, map[string]float64{"groove_depth": 0}, ids...)
			if grooved[0] < smooth[0]+0.03 || grooved[1] < smooth[1] || smooth[0] > 0.1 {
				t.Errorf("a slot holds by %.3f mm, tips by %.3f, with grooves %.3f and %.3f", smooth[0], smooth[1], grooved[0], grooved[1])
			}
		})
	}
}

// The same cavity on the tooth of the other side, and on a finer lattice, holds as much.
func TestHoldDependsOnNeitherSideNorGrid(t *testing.T) {
	ids := []school.CriterionID{school.RetainPullOcclusal, school.RetainPullProximal, school.RetainTipping}
	for _, pair := range [][2]string{{"74", "84"}} {
		t.Run(pair[0], func(t *testing.T) {
			t.Parallel()
			first := forms[4].on(pair[0], school.Amalgam, "")
			first.Choice.School = schoolFor(first)
			one := held(t, first, DefaultGrid, nil, ids...)
			other := held(t, forms[4].on(pair[1], school.Amalgam, first.Choice.School), DefaultGrid, nil, ids...)
			fine := held(t, first, 0.7*DefaultGrid, nil, ids...)
			for n, id := range ids {
				if math.Abs(one[n]-other[n]) > 0.03 || math.Abs(one[n]-fine[n]) > 0.03 {
					t.Errorf("%s: %.3f on %s, %.3f on %s, %.3f on a finer lattice", id, one[n], pair[0], other[n], pair[1], fine[n])
				}
			}
		})
	}
}

// A pit in a face has no grooves: the proposal leans its walls in, as a pear does.
func TestAPitInAFaceIsHeld(t *testing.T) {
	c := molarCase()
	c.Tooth = notation.MustParse("22")
	c.Findings = []lesion.Finding{{Kind: "pit_caries", Site: "lingual_pit", Depth: "outer_dentin"}}
	c.Choice = intake.Choice{Material: school.Amalgam, School: "board"}
	if mm := held(t, c, DefaultGrid, nil, school.RetainPullOcclusal)[0]; mm < 0.06 {
		t.Errorf("held by %.3f mm", mm)
	}
}

// What the three checks of hold add to an evaluation, on an amalgam MOD of a lower molar.
func BenchmarkHoldChecks(b *testing.B) {
	r, err := NewPlanner().Judged(b.Context(), forms[3].on("46", school.Amalgam, "board"), DefaultGrid)
	if err != nil {
		b.Fatal(err)
	}
	for b.Loop() {
		s := measure.NewSubject(r.Subjects[0].Prepared, r.Subjects[0].Cavity)
		s.PullOut()
		for _, side := range s.Cavity.Boxes {
			s.PullProximal(s.Box(side))
			s.Tipping(s.Box(side))
		}
	}
}
