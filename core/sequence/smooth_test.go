package sequence

import (
	"slices"
	"strings"
	"testing"

	"obturon/core/cavity"
	"obturon/core/cavity/smooth"
	"obturon/core/instrument"
	"obturon/core/lesion"
	"obturon/core/school"
)

// smoothSteps are the steps of a cavity entered from lingual.
func smoothSteps(d smooth.Design, material school.Material) []Step {
	kinds := map[lesion.Class]cavity.Kind{lesion.ClassI: cavity.Pit, lesion.ClassIII: cavity.Proximal, lesion.ClassIV: cavity.IncisalAngle, lesion.ClassV: cavity.Cervical}
	return Cavity(&cavity.Cavity{Request: cavity.Request{Site: d.Site, Adjacent: besideBoth(), Choice: cavity.Choice{Material: material}}, Kind: kinds[smooth.ClassOf(d.Site)], Design: d})
}

// canBeDone checks that each step has instruments of the kit, and a head to turn
// where the handpiece does.
func canBeDone(t *testing.T, steps []Step) {
	t.Helper()
	for _, s := range steps {
		turns := s.Speed == instrument.ByHand || s.Speed == instrument.NoSpeed
		for _, id := range s.Instruments {
			i, ok := instrument.Find(id)
			if !ok {
				t.Errorf("%q takes %s, which the kit lacks", s.Name, id)
			}
			turns = turns || i.Head != nil
		}
		if !turns || len(s.Instruments) == 0 || s.Seconds <= 0 {
			t.Errorf("%q at %s speed with %v for %d s", s.Name, s.Speed, s.Instruments, s.Seconds)
		}
	}
}

func TestStepsOfSmoothSurfacesFollowTheirDesign(t *testing.T) {
	for _, c := range []struct {
		name             string
		design           smooth.Design
		material         school.Material
		wanted, unwanted []string
		says             map[string]string // step: words
	}{
		{"III short", smooth.Design{Site: lesion.Distal, Style: cavity.Short, Width: 2, Height: 3, Depth: 1.5, BevelWidth: 0.5, BevelAngle: 45}, "composite",
			[]string{"Guard the neighbour", "Enter from lingual", "Bevel"}, []string{"Long bevel", "Retention grooves"}, map[string]string{"Enter from lingual": "by mirror", "Confirm, shade and mark": "shade"}},
		{"III long", smooth.Design{Site: lesion.Distal, Style: cavity.Long, BevelWidth: 2.5}, "composite",
			[]string{"Long bevel", "Margin and pumice"}, []string{"Bevel"}, map[string]string{"Long bevel": "2.5 mm"}},
		{"III amalgam", smooth.Design{Site: lesion.Distal, GrooveDepth: 0.25}, "amalgam",
			[]string{"Retention grooves"}, []string{"Bevel", "Long bevel"}, nil},
		{"IV", smooth.Design{Site: lesion.MesialIncisalAngle, Style: cavity.Scalloped, BevelWidth: 2.5, LingualBevel: 0.5, LockDepth: 0.4}, "composite",
			[]string{"Round the fracture surface", "Long bevel", "Lingual bevel", "Lingual lock"}, []string{"Guard the neighbour"},
			map[string]string{"Confirm, shade and mark": "putty index", "Long bevel": "waves", "Lingual lock": "bonding has mostly replaced"}},
		{"V composite", smooth.Design{Site: lesion.Buccal, BevelWidth: 1, BevelAngle: 30}, "composite",
			[]string{"Dam and cord", "Saucer", "Freshen dentin", "Long occlusal bevel"}, []string{"Walls"}, map[string]string{"Freshen dentin": "10,000", "Long occlusal bevel": "none at the root"}},
		{"V amalgam", smooth.Design{Site: lesion.Buccal, GrooveDepth: 0.25}, "amalgam",
			[]string{"Outline at constant depth", "Walls", "Retention grooves"}, []string{"Long occlusal bevel", "Saucer"}, map[string]string{"Retention grooves": "occlusal and the gingival"}},
		{"pit", smooth.Design{Site: lesion.LingualPit, Depth: 1.2}, "composite", []string{"Open the pit"}, []string{"Saucer", "Bevel"}, nil},
	} {
		steps := smoothSteps(c.design, c.material)
		all := names(steps)
		canBeDone(t, steps)
		for _, want := range c.wanted {
			if !slices.Contains(all, want) {
				t.Errorf("%s: no step %q in %v", c.name, want, all)
			}
		}
		for _, unwanted := range c.unwanted {
			if slices.Contains(all, unwanted) {
				t.Errorf("%s: step %q without its feature", c.name, unwanted)
			}
		}
		for step, words := range c.says {
			n := slices.Index(all, step)
			if n < 0 || !strings.Contains(steps[n].Action+steps[n].Caution, words) {
				t.Errorf("%s: %q does not say %q", c.name, step, words)
			}
		}
		if !strings.HasPrefix(all[0], "Confirm") || all[len(all)-1] != "Clean and inspect" {
			t.Errorf("%s: starts with %s and ends with %s", c.name, all[0], all[len(all)-1])
		}
	}
}

func TestIndexAndShadeComeBeforeAnyCut(t *testing.T) {
	steps := smoothSteps(smooth.Design{Site: lesion.DistalIncisalAngle, Style: cavity.Short, BevelWidth: 1, BevelAngle: 30}, school.Composite)
	for n, s := range steps {
		if n > 0 && (strings.Contains(s.Action, "index") || strings.Contains(s.Action, "shade")) {
			t.Errorf("%q comes after the first cut", s.Name)
		}
	}
}
