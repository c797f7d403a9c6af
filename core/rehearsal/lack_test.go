package rehearsal_test

import (
	"slices"
	"strings"
	"testing"

	"obturon/core/cavity"
	"obturon/core/instrument"
	"obturon/core/lesion"
	"obturon/core/procedure"
	"obturon/core/rehearsal"
	"obturon/core/rehearsal/rehearsaltest"
	"obturon/core/school"
	"obturon/core/sequence"
)

// without is a kit in which some instruments are used up.
func without(ids ...instrument.ID) *instrument.Kit {
	var s instrument.Stock
	for _, id := range ids {
		s = append(s, instrument.Item{ID: id, Pieces: new(int)})
	}
	return s.Kit()
}

// What a kit lacks is stood in for, and no step takes it up; where nothing stands in, the
// work is left and said to be.
func TestWhatAKitLacks(t *testing.T) {
	slot := lesion.Finding{Kind: lesion.ProximalCaries, Site: lesion.Distal, Depth: lesion.OuterDentin}
	neck := lesion.Finding{Kind: lesion.CervicalCaries, Site: lesion.Buccal, Depth: lesion.OuterDentin}
	pit := lesion.Finding{Kind: lesion.PitCaries, Site: lesion.LingualPit, Depth: lesion.OuterDentin}
	blades := []instrument.ID{instrument.Hatchet, instrument.ShortHatchet, instrument.Chisel, instrument.AngledChisel, instrument.MarginTrimmer, instrument.Spoon}
	for _, c := range []struct {
		name    string
		finding lesion.Finding
		out     []instrument.ID
		lacks   string // that a step is said to lack, and what stands in
		undone  string // work that is left
		shell   bool
	}{
		{"no long pear", slot, []instrument.ID{instrument.LongPear}, "The 245 (long pear) would be taken up, but none is left in stock. The refining pear stands in", "", true},
		{"no small pear", pit, []instrument.ID{instrument.Hatchet, instrument.SmallPear}, "The 330 stands in", "", false},
		{"no blade at all", slot, blades, "", "Break the shell", false},
		{"no bur of its own for a saucer", neck, []instrument.ID{instrument.MicroDiamond, instrument.Pear, instrument.LargeRound}, "The micro-diamond (small pear diamond) would be taken up", "", false},
		{"no bur at all", pit, slices.Concat([]instrument.ID{instrument.FineFlame}, (*instrument.Kit)(nil).Heads()), "", "Punch cut", false},
	} {
		t.Run(c.name, func(t *testing.T) {
			t.Parallel()
			tooth := map[lesion.Site]string{lesion.Distal: "25", lesion.Buccal: "33", lesion.LingualPit: "22"}[c.finding.Site]
			r, _ := rehearsaltest.CutWith(t, without(c.out...), tooth, "adhesive", school.Composite, c.finding.Site == lesion.Distal, c.finding)
			steps := sequence.Of([]*cavity.Cavity{r.Cavity}, []*rehearsal.Rehearsal{r}, r.Kit, false)
			for _, s := range steps {
				for _, id := range s.Instruments {
					if s.Cut != nil && slices.Contains(c.out, id) {
						t.Errorf("%s takes up the %s, which is not there", s.Name, id)
					}
				}
			}
			if !slices.ContainsFunc(steps, func(s procedure.Step) bool { return strings.Contains(s.Lack, c.lacks) }) {
				t.Errorf("no step says %q: %q", c.lacks, lacksOf(steps))
			}
			if undone := sequence.Undone(r); (len(undone) > 0) != (c.undone != "") || c.undone != "" && !strings.Contains(strings.Join(undone, " "), c.undone) {
				t.Errorf("left undone are %q, want %q", undone, c.undone)
			}
			if shell := slices.ContainsFunc(r.Steps, func(s rehearsal.Step) bool { return s.Breaks }); shell != c.shell {
				t.Errorf("a shell is broken: %v", shell)
			}
			for _, a := range r.Alarms() {
				t.Errorf("%s: %s", r.Steps[a.Step].Name(), a.Text)
			}
		})
	}
}

func lacksOf(steps []procedure.Step) []string {
	var all []string
	for _, s := range steps {
		if s.Lack != "" {
			all = append(all, s.Name+": "+s.Lack)
		}
	}
	return all
}

// A bur of one's own is cut with as it is measured.
func TestAnOwnBurCutsAsMeasured(t *testing.T) {
	kit := instrument.Stock{{ID: instrument.Pear, Width: 0.7}, {ID: instrument.MicroDiamond, Width: 0.9}}.Kit()
	r, _ := rehearsaltest.CutWith(t, kit, "33", "adhesive", school.Composite, false, lesion.Finding{Kind: lesion.CervicalCaries, Site: lesion.Buccal, Depth: lesion.OuterDentin})
	for _, s := range r.Steps {
		for _, c := range s.Cuts {
			if c.Head.Diameter != kit.Get(c.Instrument).Head.Diameter {
				t.Errorf("%s: the %s is %.2f wide", s.Name(), c.Instrument, c.Head.Diameter)
			}
		}
	}
}
