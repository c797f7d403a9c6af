package assess

import (
	"strings"
	"testing"

	"obturon/core/cavity/cavitytest"
	"obturon/core/intake"
	"obturon/core/lesion"
	"obturon/core/measure"
)

// The way with a deep cavity follows from what is left over the pulp, not from what its
// depth is called.
func TestDeepCariesIsAPathByMeasure(t *testing.T) {
	pit := func(mm float64) lesion.Finding {
		return lesion.Finding{Kind: lesion.FissureCaries, Site: lesion.Central, Depth: lesion.MiddleDentin, Height: mm}
	}
	for _, c := range []struct {
		name, tooth, school string
		f                   lesion.Finding
		says                []string
		silent              string
	}{
		{"called middle, far from the pulp", "46", "board", pit(2), nil, "Deep"},
		{"called middle, near the pulp", "46", "board", pit(3.6), []string{"Before cutting: history, cold test", "over the pulp soft dentin stays", "If the pulp is laid open"}, "furcation"},
		{"in a primary tooth", "75", "primary", pit(2.8), []string{"a film of the furcation", "over the pulp soft dentin stays", "pulpotomy"}, "cold test"},
	} {
		r := cavitytest.Request(t, c.tooth, c.school, "composite", 0.12, c.f)
		s := cavitytest.Cut(t, cavitytest.Propose(t, r), nil)
		said := strings.Join(Cautions(&intake.Case{Tooth: r.Model.Tooth, Findings: []lesion.Finding{c.f}}, s.Prepared, []*measure.Subject{s, s}), "\n")
		for _, want := range c.says {
			if strings.Count(said, want) != 1 {
				t.Errorf("%s: %q is said %d times:\n%s", c.name, want, strings.Count(said, want), said)
			}
		}
		if c.silent != "" && strings.Contains(said, c.silent) {
			t.Errorf("%s: says %q:\n%s", c.name, c.silent, said)
		}
	}
}
