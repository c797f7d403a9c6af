package plan_test

import (
	"cmp"
	"fmt"
	"maps"
	"math/rand/v2"
	"os"
	"slices"
	"strings"
	"testing"

	"obturon/core/advice"
	"obturon/core/assess"
	"obturon/core/intake"
	"obturon/core/lesion"
	"obturon/core/notation"
	"obturon/core/school"
)

// usualCase makes up a case as a practice sees it: caries of outer or middle dentin, or
// a lost angle, one or two findings, at any tooth and under any school that treats it.
func usualCase(seed uint64) *intake.Case {
	pick := rand.New(rand.NewPCG(seed, 13))
	one := func(n int) int { return pick.IntN(n) }
	for {
		t := notation.All()[one(52)]
		ages := []float64{16, 18, 25, 35, 47, 58, 70}
		if t.Primary() {
			ages = []float64{4, 6, 7, 9}
		}
		c := &intake.Case{Tooth: t, Patient: intake.Patient{Code: "HV-900", AgeYears: ages[one(len(ages))]}}
		c.Choice.Treatment = intake.Restore
		c.Choice.Material = school.Composite
		if !t.Anterior() && one(2) == 0 {
			c.Choice.Material = school.Amalgam
		}
		schools := advice.SchoolsFor(t)
		c.Choice.School = schools[one(len(schools))]
		var kinds []lesion.KindChoice
		for _, k := range lesion.Choices(t) {
			switch k.Kind {
			case lesion.FissureCaries, lesion.PitCaries, lesion.ProximalCaries, lesion.CervicalCaries:
				kinds = append(kinds, k)
			case lesion.Fracture:
				if t.Anterior() {
					kinds = append(kinds, k)
				}
			}
		}
		for range 1 + one(2) {
			kind := kinds[one(len(kinds))]
			f := lesion.Finding{Kind: kind.Kind, Site: kind.Sites[one(len(kind.Sites))].Site, Depth: []lesion.Depth{lesion.OuterDentin, lesion.MiddleDentin}[one(2)]}
			if !slices.ContainsFunc(c.Findings, func(o lesion.Finding) bool { return o.Site == f.Site }) {
				c.Findings = append(c.Findings, f)
			}
		}
		if len(c.Check()) == 0 {
			return c
		}
	}
}

// What is proposed for usual cases stands up to its own school: OBTURON_USUAL says how
// many are planned (make usual), OBTURON_SEED where they start; the misses and nears are
// listed by check.
func TestUsualProposalsMeetTheirSchools(t *testing.T) {
	plans := judgedEach("OBTURON_USUAL", 8, usualCase)
	// Of each, those that no finding and no other criterion explains count apart.
	type tally struct{ missed, near, ownMissed, ownNear int }
	checks := map[school.CriterionID]*tally{}
	examples := map[school.CriterionID][]string{}
	made, missed, near, ownMissed, ownNear, whole, critical := 0, 0, 0, 0, 0, 0, 0
	for _, p := range plans {
		if p.err != nil {
			t.Errorf("%s: %v", p, p.err)
			continue
		}
		if p.refused != "" {
			continue
		}
		made++
		met := true
		for _, k := range p.checks {
			if k.Verdict != assess.Missed && k.Verdict != assess.Near {
				continue
			}
			met = false
			if checks[k.ID] == nil {
				checks[k.ID] = &tally{}
			}
			own := 0
			if k.Cause == nil && k.Against == "" {
				own = 1
			}
			if k.Verdict == assess.Near {
				near++
				ownNear += own
				checks[k.ID].near++
				checks[k.ID].ownNear += own
				continue
			}
			if k.Severity == school.Critical {
				critical++
				t.Errorf("%s: %s %.3f, %v", p, k.ID, k.Value, k.Target)
			}
			missed++
			ownMissed += own
			checks[k.ID].missed++
			checks[k.ID].ownMissed += own
			if k.Cause != nil || k.Against != "" {
				continue
			}
			examples[k.ID] = append(examples[k.ID], fmt.Sprintf("%.2f against %v (%s): %s", k.Value, k.Target, k.Severity, p))
		}
		if met {
			whole++
		}
	}
	share := func(n int) float64 { return float64(n) / float64(made) }
	t.Logf("%d plans: %.3f missed (%.3f unexplained), %.3f near (%.3f) a plan; %d meet everything; %d critical misses",
		made, share(missed), share(ownMissed), share(near), share(ownNear), whole, critical)
	// The few of every day are too few for the rates of hundreds: one more of each would show.
	sample := os.Getenv("OBTURON_USUAL") == ""
	for _, of := range []struct {
		what             string
		is, most, sample float64
	}{
		{"misses", share(missed), 0.15, 0.2}, {"nears", share(near), 0.8, 0.4},
		{"misses that nothing explains", share(ownMissed), 0.02, 0}, {"nears that nothing explains", share(ownNear), 0.1, 0.2},
	} {
		most := of.most
		if sample {
			most = of.sample
		}
		if of.is > most {
			t.Errorf("%.3f %s a plan, at most %.2f may be", of.is, of.what, most)
		}
	}
	if sample {
		return
	}
	ids := slices.SortedFunc(maps.Keys(checks), func(a, b school.CriterionID) int {
		return cmp.Or(checks[b].missed-checks[a].missed, checks[b].near-checks[a].near, strings.Compare(string(a), string(b)))
	})
	for _, id := range ids {
		t.Logf("%s: %d missed (%d), %d near (%d)", id, checks[id].missed, checks[id].ownMissed, checks[id].near, checks[id].ownNear)
		for n, e := range examples[id] {
			if n < 4 {
				t.Logf("\t%s", e)
			}
		}
	}
}
