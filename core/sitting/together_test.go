package sitting

import (
	"fmt"
	"slices"
	"strings"
	"testing"

	"obturon/core/fill"
	"obturon/core/instrument"
	"obturon/core/sequence"
)

// named makes steps from a short script: ! is laying, & done together, a figure a clock.
func named(script string) []Step {
	var all []Step
	for word := range strings.FieldsSeq(script) {
		s := Step{Step: sequence.Step{Seconds: 60}, Filling: strings.ContainsAny(word, "!:")}
		s.Laying, s.Together = strings.HasPrefix(word, "!"), strings.HasPrefix(word, "&")
		s.Name = strings.Trim(word, "!&:")
		all = append(all, s)
	}
	return all
}

func written(steps []Step) string {
	var all []string
	for _, s := range steps {
		all = append(all, s.Name+" "+strings.Join(s.Teeth, "+"))
	}
	return strings.Join(all, ", ")
}

func TestTeethOfASittingAreInterleaved(t *testing.T) {
	for name, c := range map[string]struct {
		courses []string
		want    string
	}{
		"a bur goes round once": {[]string{"mark cut bevel", "mark bevel", "mark cut bevel"},
			"mark A, mark B, mark C, cut A, cut C, bevel A, bevel B, bevel C"},
		"what is done once": {[]string{"mark &dam cut", "mark &dam cut"}, "mark A, mark B, dam A+B, cut A, cut B"},
		"each is laid in one go, all ready before, all finished after": {[]string{"etch: &rinse bond: !lay !cure disc: &tell", "etch: &rinse bond: !lay !cure !lay !cure disc: &tell"},
			"etch A, etch B, rinse A+B, bond A, bond B, lay A, cure A, lay B, cure B, lay B, cure B, disc A, disc B, tell A+B"},
		"orders that cross still come to an end": {[]string{"one two", "two one"}, "one A, two A, two B, one B"},
	} {
		var visits []Visit
		for n, script := range c.courses {
			visits = append(visits, Visit{string(rune('A' + n)), named(script)})
		}
		if got := written(Together(visits)); got != c.want {
			t.Errorf("%s:\n got %s\nwant %s", name, got, c.want)
		}
	}
}

// Whatever the courses, no step is lost or doubled, and each tooth's stay in their order.
func TestInterleavingKeepsEachCourse(t *testing.T) {
	words := []string{"a", "b", "&c", "d:", "!e", "!f", "g:", "&h"}
	for seed := range 300 {
		next := seed*7 + 3
		random := func(n int) int { next = (next*1103515245 + 12345) & 0x7fffffff; return (next >> 8) % n }
		var visits []Visit
		for n := range 2 + random(3) {
			var script []string
			for range random(9) {
				script = append(script, words[random(len(words))])
			}
			visits = append(visits, Visit{fmt.Sprint(n), named(strings.Join(script, " "))})
		}
		if !slices.ContainsFunc(visits, func(v Visit) bool { return len(v.Steps) > 0 }) {
			continue
		}
		all := Together(visits)
		for _, v := range visits {
			var own []string
			for _, s := range all {
				if slices.Contains(s.Teeth, v.Tooth) {
					own = append(own, s.Name)
				}
			}
			var want []string
			for _, s := range v.Steps {
				want = append(want, s.Name)
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
	course := func() []Step {
		s := named("mark !mix !pack smooth:")
		s[2].Clock = &fill.Clock{Most: 200, After: 2}
		return s
	}
	all := Together([]Visit{{"A", course()}, {"B", course()}})
	for n, s := range all {
		if s.Clock == nil {
			continue
		}
		if starts := all[s.Clock.After-1]; starts.Name != "mix" || starts.Teeth[0] != s.Teeth[0] {
			t.Errorf("step %d of %v is started by %s of %v", n+1, s.Teeth, starts.Name, starts.Teeth)
		}
	}
	if course()[2].Clock.After != 2 {
		t.Error("the course itself was changed")
	}
}

// What is waited for runs on while something else is done; a tooth that wakes up before the
// end is warned of.
func TestWaitingOverlaps(t *testing.T) {
	course := func(numb int) []Step {
		s := named("mark numb prove cut")
		s[2].Name, s[2].Seconds, s[2].Clock = proveNumb, 320, &fill.Clock{Least: 300, Most: numb, After: 2}
		s[3].Seconds = 1200
		return s
	}
	alone := Together([]Visit{{"A", course(3600)}})
	if alone[2].Seconds != 320 || alone[2].Caution != "" {
		t.Errorf("alone it waits %d s: %q", alone[2].Seconds, alone[2].Caution)
	}
	both := Together([]Visit{{"A", course(1800)}, {"B", course(1800)}})
	// The second needle is 60 s of the first one's wait; the second waits while the first is proven.
	if both[4].Seconds != 260 || both[5].Seconds != 320-260 {
		t.Errorf("they wait %d and %d s", both[4].Seconds, both[5].Seconds)
	}
	if !strings.Contains(both[4].Caution, "numb for about 25") {
		t.Errorf("2400 s follow on 1500 numb: %q", both[4].Caution)
	}
}

// Acid that stands too long on the first of many teeth is told.
func TestAcidOnManyTeeth(t *testing.T) {
	course := func() []Step {
		s := named("etch: &rinse !lay")
		s[0].Instruments, s[0].Seconds, s[0].Clock = []instrument.ID{instrument.Etch}, 15, &fill.Clock{Least: 15, Most: 15}
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
		if got, want := Seconds(all[:teeth]), 5*(teeth-1)+15; got != want {
			t.Errorf("%d teeth are etched in %d s, want %d", teeth, got, want)
		}
	}
}

func TestRoundsGatherWhatGoesRound(t *testing.T) {
	course := "mark &dam !lay !cure disc:"
	rounds := Rounds(Together([]Visit{{"A", named(course)}, {"B", named(course)}}))
	var all []string
	for _, r := range rounds {
		if r.Name == "Fill" && r.Action() != "lay, cure." {
			t.Errorf("a filling is laid in %q", r.Action())
		}
		all = append(all, fmt.Sprintf("%s %s %d %v", r.Name, strings.Join(r.Teeth, "+"), r.Seconds, r.Once))
	}
	if got, want := strings.Join(all, ", "), "mark A+B 120 false, dam A+B 60 true, Fill A 120 false, Fill B 120 false, disc A+B 120 false"; got != want {
		t.Errorf("got %s\nwant %s", got, want)
	}
}
