package plan_test

import (
	"context"
	"fmt"
	"maps"
	"math"
	"math/rand/v2"
	"os"
	"slices"
	"strconv"
	"strings"
	"sync"
	"testing"

	"obturon/core/advice"
	"obturon/core/assess"
	"obturon/core/forces"
	"obturon/core/intake"
	"obturon/core/lesion"
	"obturon/core/measure"
	"obturon/core/notation"
	"obturon/core/resist"
	"obturon/core/school"
	"obturon/internal/plan"
)

// randomCase makes up a case that passes its own check: any tooth, one to three
// findings of any kind that it can have, any material and school it may be treated by.
func randomCase(seed uint64) *intake.Case {
	pick := rand.New(rand.NewPCG(seed, 12))
	one := func(n int) int { return pick.IntN(n) }
	for {
		t := notation.All()[one(52)]
		ages := []float64{16, 18, 25, 35, 47, 58, 70}
		if t.Primary() {
			ages = []float64{4, 6, 7, 9}
		}
		c := &intake.Case{Tooth: t, Patient: intake.Patient{Code: "HV-900", AgeYears: ages[one(len(ages))]}}
		c.Choice.Treatment = intake.Restore
		c.Choice.Material = []school.Material{school.Amalgam, school.Composite}[one(2)]
		schools := advice.SchoolsFor(t)
		c.Choice.School = schools[one(len(schools))]
		kinds := lesion.Choices(t)
		for range 1 + one(3) {
			kind := kinds[one(len(kinds))]
			f := lesion.Finding{Kind: kind.Kind, Site: kind.Sites[one(len(kind.Sites))].Site, Depth: lesion.Depths[one(len(lesion.Depths))]}
			if f.Kind == lesion.OldRestoration { // of any fault, and of none
				f.Fault = append(lesion.OldFaults, "")[seed%uint64(len(lesion.OldFaults)+1)]
			}
			if slices.ContainsFunc(c.Findings, func(o lesion.Finding) bool { return o.Site == f.Site }) {
				continue
			}
			c.Findings = append(c.Findings, f)
		}
		if len(c.Check()) == 0 {
			return c
		}
	}
}

func (r randomPlan) String() string {
	var found []string
	for _, f := range r.asked.Findings {
		found = append(found, fmt.Sprintf("%s %s %s", f.Kind, f.Site, f.Depth))
	}
	return fmt.Sprintf("seed %d: %s, %v years, %s %s, %s", r.seed, r.asked.Tooth, r.asked.Patient.AgeYears, r.asked.Choice.Material, r.asked.Choice.School, strings.Join(found, " + "))
}

type randomPlan struct {
	seed    uint64
	asked   *intake.Case
	refused string
	checks  []assess.Check
	removed measure.Removed
	covered int // cusps
	err     error
}

// judgedEach plans so many cases, made up from their seeds: as many as the named setting
// says, from OBTURON_SEED on.
func judgedEach(setting string, number int, madeUp func(seed uint64) *intake.Case) []randomPlan {
	first := 1
	if n, err := strconv.Atoi(os.Getenv(setting)); err == nil {
		number = n
	}
	if n, err := strconv.Atoi(os.Getenv("OBTURON_SEED")); err == nil {
		first = n
	}
	planner := plan.SharedPlanner
	plans := make([]randomPlan, number)
	var planned sync.WaitGroup
	turns := make(chan struct{}, 3) // an evaluation uses several processors itself
	for n := range plans {
		turns <- struct{}{}
		planned.Go(func() {
			defer func() { <-turns }()
			seed := uint64(first + n)
			p := randomPlan{seed: seed, asked: madeUp(seed)}
			made, err := planner.Judged(context.Background(), p.asked, plan.DefaultGrid)
			if p.err = err; err == nil { // the rest is large
				p.refused = made.Refused()
				if made.Measured != nil {
					p.checks = made.Checks
					p.removed = made.Prepared.Removed(made.Cut.Lesions())
					for _, tip := range made.Prepared.Model.CuspTips {
						if made.Prepared.Reduced(tip) {
							p.covered++
						}
					}
				}
			}
			plans[n] = p
		})
	}
	planned.Wait()
	return plans
}

// outOfProportion says what a plan takes that no finding touches: cusps between two ridges that
// stand, or far more tooth than its lesions.
func outOfProportion(p randomPlan) string {
	only := func(kinds ...lesion.Kind) bool {
		return !slices.ContainsFunc(p.asked.Findings, func(f lesion.Finding) bool { return !slices.Contains(kinds, f.Kind) })
	}
	if p.covered > 0 && only(lesion.FissureCaries, lesion.PitCaries, lesion.CervicalCaries) {
		return fmt.Sprintf("%d cusps are covered for caries between two ridges", p.covered)
	}
	// Where the lesion leads; other schools spend tooth on form, and say so.
	most := 5.0
	if !only(lesion.FissureCaries, lesion.PitCaries, lesion.CervicalCaries) {
		most = 9
	}
	if times, _ := assess.Proportion(lesion.ClassI, p.removed); p.asked.Choice.School == "adhesive" && p.asked.Choice.Material == school.Composite && times > most {
		return fmt.Sprintf("it takes %.1f times its lesions", times)
	}
	return ""
}

// Whatever a dentist enters, the proposal has no critical miss by its own school, or
// is refused in words. OBTURON_RANDOM says how many cases are made up (make random),
// OBTURON_SEED where they start.
func TestProposalsOfRandomCasesStandUp(t *testing.T) {
	plans := judgedEach("OBTURON_RANDOM", 12, randomCase)
	refusals := map[string][]string{}
	for _, p := range plans {
		if p.err != nil {
			t.Errorf("%s: %v", p, p.err)
			continue
		}
		if said := p.refused; said != "" {
			refusals[said] = append(refusals[said], p.String())
			continue
		}
		if said := outOfProportion(p); said != "" {
			t.Errorf("%s: %s, %+v", p, said, p.removed)
		}
		for _, k := range p.checks {
			if k.Verdict == assess.Missed && k.Severity == school.Critical && (k.Cause == nil || !strings.Contains(k.Fix, k.Cause.Name())) {
				t.Errorf("%s: %s %s %.3f %s, %+v at %.1f: %s", p, k.ID, k.Side, k.Value, k.Unit, k.Target, k.Where.At, k.Fix)
			}
		}
	}
	if os.Getenv("OBTURON_RANDOM") == "" {
		return
	}
	for _, said := range slices.Sorted(maps.Keys(refusals)) { // to be read, each for its sense
		t.Logf("%d times: %s\n\te.g. %s", len(refusals[said]), said, refusals[said][0])
	}
}

// Whatever is entered can be pulled at and loaded: every figure is one, or words say why
// there is none.
func TestForcesOfRandomCases(t *testing.T) {
	number := 5
	if n, err := strconv.Atoi(os.Getenv("OBTURON_RANDOM")); err == nil {
		number = n / 20
	}
	planner := plan.SharedPlanner
	finite := func(values ...float64) bool {
		return !slices.ContainsFunc(values, func(v float64) bool { return math.IsNaN(v) || math.IsInf(v, 0) || math.Abs(v) > 1e4 })
	}
	for seed := uint64(1); seed <= uint64(number); seed++ {
		p := randomPlan{seed: seed, asked: randomCase(seed)}
		h, err := planner.HoldOf(t.Context(), p.asked, plan.DefaultGrid)
		if err != nil {
			t.Errorf("%s: held: %v", p, err)
			continue
		}
		for _, f := range h.Fillings {
			for _, pull := range f.Pulls {
				if !finite(pull.Depth, f.Release.Degrees) || pull.Depth < 0 || pull.Text == "" || (pull.State == forces.Held) != (len(pull.Places) > 0 && pull.Depth > 0.03 || pull.Turns && pull.Depth >= 0.01) {
					t.Errorf("%s: %s %.3f mm, %d places: %s", p, pull.State, pull.Depth, len(pull.Places), pull.Text)
				}
			}
			if b := f.Bond; b != nil && (!finite(b.Enamel, b.Dentin, b.EdgeIndex, b.Lever) || b.Enamel+b.Dentin <= 0) {
				t.Errorf("%s: bond %+v", p, b)
			}
		}
		with := forces.UsualLoading(p.asked, resist.Usual())
		deflected, without, err := planner.DeflectionOf(t.Context(), p.asked, with, plan.DefaultGrid, false, nil)
		if err != nil || without == "" && (!finite(deflected.Sound.Opening, deflected.Empty.Opening, deflected.Filled.Opening) || deflected.Empty.Opening < 0.9*deflected.Sound.Opening) {
			t.Errorf("%s: deflected by %.2f, sound %.2f: %v", p, deflected.Empty.Opening, deflected.Sound.Opening, err)
		}
		for _, at := range []float64{-2, 0, 3} {
			section, without, err := planner.StrainOf(t.Context(), p.asked, at, forces.AsCut, with, plan.DefaultGrid)
			if err != nil || without == "" && !finite(section.Opening) {
				t.Errorf("%s: section at %.0f parts by %.2f: %v", p, at, section.Opening, err)
			}
		}
	}
}

// Cases that once left caries, came to the pulp or were refused without reason.
func TestProposalsClearWhatTheyAreFor(t *testing.T) {
	f := func(kind lesion.Kind, site lesion.Site, depth lesion.Depth) lesion.Finding {
		made := lesion.Finding{Kind: kind, Site: site, Depth: depth}
		if kind == lesion.OldRestoration {
			made.Fault = lesion.CariesBeside
		}
		return made
	}
	planner := plan.SharedPlanner
	for _, c := range []struct {
		name, tooth string
		age         float64
		material    school.Material
		school      string
		findings    []lesion.Finding
	}{
		{"caries under a transverse ridge", "44", 35, school.Amalgam, "board", []lesion.Finding{f(lesion.FissureCaries, "central", lesion.OuterDentin), f(lesion.ProximalCaries, "distal", lesion.OuterDentin)}},
		{"a fissure's bowl in enamel", "25", 35, school.Composite, "adhesive", []lesion.Finding{f(lesion.FissureCaries, "central", lesion.MiddleDentin)}},
		{"caries in the floor's own plane", "25", 16, school.Amalgam, "adhesive", []lesion.Finding{f(lesion.FissureCaries, "central", lesion.InnerDentin)}},
		{"a pit inside a box", "26", 35, school.Amalgam, "adhesive", []lesion.Finding{f(lesion.ProximalCaries, "mesial", lesion.MiddleDentin), f(lesion.PitCaries, "central", lesion.OuterDentin), f(lesion.PitCaries, "mesial_pit", lesion.OuterDentin)}},
		{"caries beside a lost angle", "23", 35, school.Composite, "traditional", []lesion.Finding{f(lesion.ProximalCaries, "distal", lesion.MiddleDentin), f(lesion.Fracture, "distal_incisal", lesion.OuterEnamel)}},
		{"a lesion smaller than a bur", "52", 5, school.Composite, "primary", []lesion.Finding{f(lesion.ProximalCaries, "distal", lesion.OuterEnamel)}},
		{"a deep filling of a pit", "46", 58, school.Amalgam, "board", []lesion.Finding{f(lesion.OldRestoration, "buccal_pit", lesion.InnerDentin)}},
	} {
		r, err := planner.Judged(context.Background(), &intake.Case{
			Tooth: notation.MustParse(c.tooth), Patient: intake.Patient{Code: "HV-900", AgeYears: c.age}, Findings: c.findings,
			Choice: intake.Choice{Material: c.material, School: c.school, Treatment: intake.Restore},
		}, plan.DefaultGrid)
		if err != nil || r.Refused() != "" {
			t.Errorf("%s: %v, refused %q", c.name, err, r.Refused())
			continue
		}
		for _, k := range r.Checks {
			if k.ID == school.LesionJunction && k.Verdict != assess.Met {
				t.Errorf("%s: %.3f mm³ is left%s", c.name, k.Value, " "+k.Side)
			}
		}
	}
}
