package sequence_test

import (
	"regexp"
	"slices"
	"strings"
	"testing"

	"obturon/core/cavity"
	"obturon/core/instrument"
	"obturon/core/lesion"
	"obturon/core/notation"
	"obturon/core/procedure"
	"obturon/core/rehearsal"
	"obturon/core/rehearsal/rehearsaltest"
	"obturon/core/school"
	"obturon/core/sequence"
)

// arrested is a finding whose dentin is hard and dark.
func arrested(kind lesion.Kind, site lesion.Site) lesion.Finding {
	f := finding(kind, site)
	f.Activity = lesion.Arrested
	return f
}

func finding(kind lesion.Kind, site lesion.Site) lesion.Finding {
	return lesion.Finding{Kind: kind, Site: site, Depth: lesion.OuterDentin}
}

func stepNames(steps []procedure.Step) []string {
	var all []string
	for _, s := range steps {
		all = append(all, s.Name)
	}
	return all
}

// nonsense is what no sentence may hold: holes of a format, negative lengths, no number.
var nonsense = regexp.MustCompile(`%!|NaN|Inf|-\d+\.\d| {2}|\.\.`)

// inOrder expects some steps, one after the other.
func inOrder(t *testing.T, steps []procedure.Step, wanted ...string) {
	t.Helper()
	at := -1
	for _, name := range wanted {
		next := slices.IndexFunc(steps, func(s procedure.Step) bool { return s.Name == name })
		if next <= at {
			t.Errorf("%q does not follow in %q", name, stepNames(steps))
			return
		}
		at = next
	}
}

func TestStepsAreWrittenFromWhatIsCut(t *testing.T) {
	for _, c := range []struct {
		name, tooth, rules string
		material           school.Material
		beside             bool
		findings           []lesion.Finding
		order              []string
		says               map[string]string // by step
	}{
		{
			"Class II beside a tooth", "17", "board", school.Amalgam, true, []lesion.Finding{finding(lesion.ProximalCaries, lesion.Distal)},
			[]string{"Confirm and mark", "Guard the adjacent tooth", "Punch cut", "Outline at depth", "Approach the ridges", "Ditch the box, distal", "Break the shell", "Walls of the box, distal", "Trim the seat", "Clean and inspect"},
			map[string]string{"Punch cut": "full depth at once: 1.", "Outline at depth": "distally carry it to the middle", "Approach the ridges": "short of the mesial surface", "Ditch the box, distal": "mm of enamel towards the adjacent tooth"},
		},
		{
			"Class V, arrested", "33", "adhesive", school.Composite, false, []lesion.Finding{arrested(lesion.CervicalCaries, lesion.Buccal)},
			[]string{"Confirm, shade and mark", "Dam and cord", "Open to size", "Freshen dentin", "Bevel", "Clean and inspect"},
			map[string]string{"Bevel": "none at the root", "Open to size": "turning with the surface", "Freshen dentin": "10,000"},
		},
		{
			"an old filling first", "45", "board", school.Amalgam, false, []lesion.Finding{finding(lesion.OldRestoration, lesion.Central), finding(lesion.FissureCaries, lesion.Central)},
			[]string{"Confirm and mark", "Old filling out", "Clean and inspect"},
			map[string]string{"Old filling out": "edge before its depth"},
		},
	} {
		t.Run(c.name, func(t *testing.T) {
			t.Parallel()
			r, _ := rehearsaltest.Cut(t, c.tooth, c.rules, c.material, c.beside, c.findings...)
			steps := sequence.Of([]*cavity.Cavity{r.Cavity}, []*rehearsal.Rehearsal{r}, r.Kit, false)
			if c.tooth == "17" {
				behindSecondMolar(t, r)
			}
			inOrder(t, steps, c.order...)
			asExpected(t, r, steps)
			for _, s := range steps {
				for _, id := range s.Instruments {
					if _, ok := instrument.Find(id); !ok {
						t.Errorf("%s names %q, which the kit lacks", s.Name, id)
					}
				}
				for _, o := range s.Others {
					if _, ok := instrument.Find(o.Instrument); !ok || slices.Contains(s.Instruments[:1], o.Instrument) || o.Trade == "" {
						t.Errorf("%s: instead of %v stands %+v", s.Name, s.Instruments, o)
					}
				}
				for _, text := range []string{s.Action, s.Why, s.Start, s.Lean, s.Stays, s.Gauge, s.Caution, s.LookFor, s.Grasp, s.Figure, s.Position} {
					if nonsense.MatchString(text) {
						t.Errorf("%s says %q", s.Name, text)
					}
				}
				if s.Action == "" || s.Position == "" || s.Seconds < 20 || s.Seconds > 600 || s.Of != "" {
					t.Errorf("%s: %q, %q, %d s, of %q", s.Name, s.Action, s.Position, s.Seconds, s.Of)
				}
				if s.Cut != nil && s.Why == "" {
					t.Errorf("%s does not say why", s.Name)
				}
				if says := c.says[s.Name]; !strings.Contains(s.Action, says) {
					t.Errorf("%s says %q, without %q", s.Name, s.Action, says)
				}
			}
		})
	}
}

// asExpected holds that the steps before a proof and after it come from one plan: none is proven
// that was not expected, nor in another order; a proof only drops what it finds nothing for.
func asExpected(t *testing.T, r *rehearsal.Rehearsal, proven []procedure.Step) {
	t.Helper()
	at := -1
	before := sequence.Of([]*cavity.Cavity{r.Cavity}, nil, r.Kit, false)
	for _, s := range proven {
		next := slices.IndexFunc(before, func(e procedure.Step) bool { return e.Kind == s.Kind && (e.Side == s.Side || s.Side == "") })
		if next < at || next < 0 {
			t.Errorf("%s is expected as step %d, after step %d", s.ID, next+1, at+1)
		}
		at = next
	}
}

// Several cavities of a tooth are one sequence: what is needed once stands once, and each
// cut names its cavity.
func TestCavitiesOfAToothAreOneSequence(t *testing.T) {
	facial, _ := rehearsaltest.Cut(t, "22", "adhesive", school.Composite, false, arrested(lesion.CervicalCaries, lesion.Buccal))
	pit, _ := rehearsaltest.Cut(t, "22", "adhesive", school.Composite, false, finding(lesion.PitCaries, lesion.LingualPit))
	steps := sequence.Of([]*cavity.Cavity{pit.Cavity, facial.Cavity}, []*rehearsal.Rehearsal{pit, facial}, pit.Kit, true)
	count := map[string]int{}
	for _, s := range steps {
		count[s.Name]++
		if (s.Cut != nil) != (s.Of != "") && s.Name != "Freshen dentin" {
			t.Errorf("%s is of %q", s.Name, s.Of)
		}
		if s.Cut != nil && !strings.Contains(s.Position, map[string]string{"lingual pit": "mirror", "facial cervical": "direct"}[s.Of]) {
			t.Errorf("%s of the %s is seen %s", s.Name, s.Of, s.Position)
		}
	}
	for _, once := range []string{"Confirm, shade and mark", "Dam and cord", "Clean and inspect", "Seal the filling that stays"} {
		if count[once] != 1 {
			t.Errorf("%q stands %d times in %q", once, count[once], stepNames(steps))
		}
	}
	inOrder(t, steps, "Confirm, shade and mark", "Dam and cord", "Punch cut", "Freshen dentin", "Clean and inspect")
}

// behindSecondMolar expects the angled chisel, for which alone there is room behind an upper
// second molar, and the oblique ridge left: more than its ridge stands before the mesial
// surface.
func behindSecondMolar(t *testing.T, r *rehearsal.Rehearsal) {
	t.Helper()
	for _, s := range r.Steps {
		if (s.Kind == procedure.BreakShell || s.Kind == procedure.Cleave) && s.Instruments[0] != instrument.AngledChisel {
			t.Errorf("%s with the %s", s.Name(), s.Instruments[0])
		}
	}
	if mm, ok := r.Ridge(&r.Steps[1], notation.Mesial); r.Cavity.Kind != cavity.Occlusal || !ok || mm < 4 || mm > 8 {
		t.Errorf("%.2f mm stand before the mesial surface", mm)
	}
}
