package sitting

import (
	"fmt"
	"slices"
	"strings"
	"testing"

	"obturon/core/procedure"
)

func TestTeethOfASittingAreInterleaved(t *testing.T) {
	for name, c := range map[string]struct {
		courses []string
		want    string
	}{
		"a bur goes round once": {[]string{"confirm punch_cut bevel", "confirm bevel", "confirm punch_cut bevel"},
			"confirm A, confirm B, confirm C, punch_cut A, punch_cut C, bevel A, bevel B, bevel C"},
		"what is done once": {[]string{"confirm isolate_neck punch_cut", "confirm isolate_neck punch_cut"}, "confirm A, confirm B, isolate_neck A+B, punch_cut A, punch_cut B"},
		"each is laid in one go, all ready before, all finished after": {[]string{"etch_enamel rinse bond lay_increment cure_increment finish instruct", "etch_enamel rinse bond lay_increment cure_increment lay_increment cure_increment finish instruct"},
			"etch_enamel A, etch_enamel B, rinse A+B, bond A, bond B, lay_increment A, cure_increment A, lay_increment B, cure_increment B, lay_increment B, cure_increment B, finish A, finish B, instruct A+B"},
		"orders that cross still come to an end": {[]string{"bevel inspect", "inspect bevel"}, "bevel A, inspect A, inspect B, bevel B"},
	} {
		var visits []Visit
		for n, script := range c.courses {
			visits = append(visits, Visit{string(rune('A' + n)), stepsOf(script)})
		}
		if got := written(Together(visits)); got != c.want {
			t.Errorf("%s:\n got %s\nwant %s", name, got, c.want)
		}
	}
}

// Whatever the courses, no step is lost or doubled, and each tooth's stay in their order.
func TestInterleavingKeepsEachCourse(t *testing.T) {
	words := []string{"punch_cut", "refine", "isolate_neck", "etch_enamel", "lay_increment", "cure_increment", "finish", "instruct"}
	for seed := range 300 {
		next := seed*7 + 3
		random := func(n int) int { next = (next*1103515245 + 12345) & 0x7fffffff; return (next >> 8) % n }
		var visits []Visit
		for n := range 2 + random(3) {
			var script []string
			for range random(9) {
				script = append(script, words[random(len(words))])
			}
			visits = append(visits, Visit{fmt.Sprint(n), stepsOf(strings.Join(script, " "))})
		}
		if !slices.ContainsFunc(visits, func(v Visit) bool { return len(v.Steps) > 0 }) {
			continue
		}
		all := Together(visits)
		for _, v := range visits {
			var own []string
			for _, s := range all {
				if slices.Contains(s.Teeth, v.Tooth) {
					own = append(own, string(s.Kind))
				}
			}
			var want []string
			for _, s := range v.Steps {
				want = append(want, string(s.Kind))
			}
			if !slices.Equal(own, want) {
				t.Fatalf("%d: tooth %s is done %v, want %v", seed, v.Tooth, own, want)
			}
		}
	}
}

// A clock that another step starts is started by that step of the same tooth, wherever the
// two have come to stand; one of amalgam by its own capsule.
func TestClocksFollowTheirSteps(t *testing.T) {
	course := func() []procedure.Step {
		s := stepsOf("confirm triturate condense smooth")
		s[2].Clock = &procedure.Clock{Most: 200, After: s[1].ID}
		return s
	}
	all := Together([]Visit{{"A", course()}, {"B", course()}})
	for n, s := range all {
		if s.Clock == nil {
			continue
		}
		if starts := all[procedure.Index(all, s.Clock.After)]; starts.Kind != procedure.Triturate || starts.Teeth[0] != s.Teeth[0] {
			t.Errorf("step %d of %v is started by %s of %v", n+1, s.Teeth, starts.Kind, starts.Teeth)
		}
	}
	if own := course(); own[2].Clock.After != own[1].ID {
		t.Error("the course itself was changed")
	}
}

// What is waited for runs on while something else is done; a tooth that wakes up before the
// end is warned of.
func TestWaitingOverlaps(t *testing.T) {
	course := func(numb int) []procedure.Step {
		s := stepsOf("confirm anaesthetise confirm_anaesthesia punch_cut")
		s[1].Shared = false // an infiltration each
		s[2].Seconds, s[2].Clock = 320, &procedure.Clock{Least: 300, Most: numb, After: s[1].ID}
		s[3].Seconds = 1200
		return s
	}
	alone := Together([]Visit{{"A", course(3600)}})
	if alone[2].Seconds != 320 || alone[2].Caution != "" {
		t.Errorf("alone it waits %d s: %q", alone[2].Seconds, alone[2].Caution)
	}
	both := Together([]Visit{{"A", course(1800)}, {"B", course(1800)}})
	// The second needle is 60 s of the first one's wait; the second waits while the first is confirmed.
	if both[4].Seconds != 260 || both[5].Seconds != 320-260 {
		t.Errorf("they wait %d and %d s", both[4].Seconds, both[5].Seconds)
	}
	if !strings.Contains(both[4].Caution, "numb for about 25") {
		t.Errorf("2400 s follow on 1500 numb: %q", both[4].Caution)
	}
}

// Acid that stands too long on the first of many teeth is told.
func TestAcidOnManyTeeth(t *testing.T) {
	course := func() []procedure.Step {
		s := stepsOf("etch_enamel rinse lay_increment")
		s[0].Seconds, s[0].Clock = 15, &procedure.Clock{Least: 15, Most: 15}
		return s
	}
	for teeth, warns := range map[int]bool{2: false, 4: false, 5: true} {
		var visits []Visit
		for n := range teeth {
			visits = append(visits, Visit{fmt.Sprint(n), course()})
		}
		all := Together(visits)
		if strings.Contains(all[0].Caution, "two groups") != warns {
			t.Errorf("%d teeth: %q", teeth, all[0].Caution)
		}
		if got, want := procedure.Seconds(all[:teeth]), 5*(teeth-1)+15; got != want {
			t.Errorf("%d teeth are etched in %d s, want %d", teeth, got, want)
		}
	}
}

func TestRoundsGatherWhatGoesRound(t *testing.T) {
	course := "confirm isolate_neck lay_increment cure_increment finish"
	rounds := Rounds(Together([]Visit{{"A", stepsOf(course)}, {"B", stepsOf(course)}}))
	var all []string
	for _, r := range rounds {
		if r.Name == "Fill" && r.Action() != "Lay, Cure." {
			t.Errorf("a filling is laid in %q", r.Action())
		}
		all = append(all, fmt.Sprintf("%s %s %d %v", r.Name, strings.Join(r.Teeth, "+"), r.Seconds, r.Once))
	}
	if got, want := strings.Join(all, ", "), "Confirm and mark A+B 120 false, Dam and cord A+B 60 true, Fill A 120 false, Fill B 120 false, Finish A+B 120 false"; got != want {
		t.Errorf("got %s\nwant %s", got, want)
	}
}
