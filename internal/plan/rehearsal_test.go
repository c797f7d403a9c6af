package plan_test

import (
	"bytes"
	"encoding/json"
	"math"
	"os"
	"strconv"
	"testing"

	"github.com/santhosh-tekuri/jsonschema/v6"

	"obturon/core/cavity"
	"obturon/core/fill"
	"obturon/core/instrument"
	"obturon/core/intake"
	"obturon/core/lesion"
	"obturon/core/notation"
	"obturon/core/school"
	"obturon/internal/plan"
)

// compiled is one of the shipped schemas.
func compiled(t *testing.T, name string) *jsonschema.Schema {
	t.Helper()
	s, err := jsonschema.NewCompiler().Compile("../../docs/schema/" + name + ".schema.json")
	if err != nil {
		t.Fatal(err)
	}
	return s
}

// fits checks a document against its schema.
func fits(t *testing.T, schema *jsonschema.Schema, document any) {
	t.Helper()
	told, err := json.Marshal(document)
	if err != nil {
		t.Fatal(err)
	}
	value, err := jsonschema.UnmarshalJSON(bytes.NewReader(told))
	if err != nil {
		t.Fatal(err)
	}
	if err := schema.Validate(value); err != nil {
		t.Error(err)
	}
}

// Whatever is planned is rehearsed: with instruments of the kit, without an alarm, in a
// document that fits its schema. OBTURON_REHEARSALS=N rehearses N usual cases and lists what
// the kit does not make.
func TestUsualCasesAreRehearsed(t *testing.T) {
	schema := compiled(t, "rehearsal")
	plans := compiled(t, "plan")
	cases := 1
	if n, err := strconv.Atoi(os.Getenv("OBTURON_REHEARSALS")); err == nil {
		cases = n
	}
	off, all := map[uint16]int{}, map[uint16]int{}
	proven, made := 0, 0
	for seed := range uint64(cases) {
		c := usualCase(seed + 1)
		planner := plan.SharedPlanner
		r, err := planner.Rehearse(t.Context(), c, plan.DefaultGrid)
		if err != nil {
			t.Errorf("seed %d, %s %v: %v", seed+1, c.Tooth, c.Findings, err)
			continue
		}
		fits(t, schema, r.Document())
		drawn, err := planner.Evaluate(t.Context(), c, plan.DefaultGrid)
		if err != nil {
			t.Fatal(err)
		}
		whole := r.Proof().Onto(drawn.KeptDocument(fill.Usual()))
		if whole.Proven == nil || len(whole.Proven.Steps) == 0 {
			t.Errorf("seed %d: the plan does not hold its proven steps", seed+1)
		}
		fits(t, plans, whole)
		for _, one := range r.Rehearsals {
			made++
			if len(one.Steps) == 0 {
				t.Errorf("seed %d, %s %s: no step", seed+1, c.Tooth, one.Cavity.Name)
			}
			for _, s := range one.Steps {
				for _, id := range s.Instruments {
					if _, ok := instrument.Find(id); !ok {
						t.Errorf("seed %d: %s takes up %q", seed+1, s.Name(), id)
					}
				}
			}
			for _, a := range one.Alarms() {
				t.Errorf("seed %d, %s %s, %s: %s", seed+1, c.Tooth, one.Cavity.Name, one.Steps[a.Step].Name(), a.Text)
			}
			for _, d := range one.Deviations {
				all[d.Feature]++
			}
			unproven := one.Unproven()
			if len(unproven) == 0 {
				proven++
			}
			for _, d := range unproven {
				off[d.Feature]++
				t.Logf("seed %d, %s %s %s: %s (%.1f mm²)", seed+1, c.Tooth, c.Choice.School, one.Cavity.Name, d.Words(), d.Area)
			}
		}
	}
	t.Logf("%d cavities, %d proven on every surface", made, proven)
	for f, n := range off {
		t.Logf("%s: %d of %d", cavity.FeatureName(f), n, all[f])
	}
}

// The same gauges read the tooth as the kit cuts it: what burs make is as deep, as wide and
// as near to the pulp as it was drawn. On the way nothing grows, and a case is cut once.
func TestGaugesReadTheToothAsItIsCut(t *testing.T) {
	c := &intake.Case{Tooth: notation.MustParse("15"), Patient: intake.Patient{Code: "HV-908", AgeYears: 30}}
	c.Findings = []lesion.Finding{{Kind: lesion.FissureCaries, Site: lesion.Central, Depth: lesion.OuterDentin}}
	c.Choice.Treatment, c.Choice.Material, c.Choice.School = intake.Restore, school.Amalgam, "board"
	planner := plan.SharedPlanner
	r, err := planner.Rehearse(t.Context(), c, plan.DefaultGrid)
	if err != nil {
		t.Fatal(err)
	}
	if again, err := planner.Rehearse(t.Context(), c, plan.DefaultGrid); err != nil || again != r {
		t.Errorf("asked again it is cut again: %v", err)
	}
	compared := 0
	for n, drawn := range r.Checks {
		cut := r.AsCut[n]
		if cut.ID != drawn.ID || cut.Side != drawn.Side || cut.Label != drawn.Label {
			t.Fatalf("check %d is %s of %q, drawn %s of %q", n, cut.ID, cut.Side, drawn.ID, drawn.Side)
		}
		if !drawn.Measured() || drawn.Unit != "mm" || drawn.ID == school.ResistEnamelSupport {
			continue // unsupported enamel is read at its worst place, which a stroke takes away
		}
		compared++
		if off := math.Abs(cut.Value - drawn.Value); !cut.Measured() || off > 0.1 {
			t.Errorf("%s: %.3f drawn, %.3f cut", drawn.ID, drawn.Value, cut.Value)
		}
	}
	if compared < 8 {
		t.Errorf("%d checks are compared", compared)
	}
	enamel := math.Inf(1)
	for n := range r.Chair {
		stage, ok := r.Stage(n)
		if !ok || len(stage.Views) != 3 {
			t.Fatalf("step %d has %d views", n, len(stage.Views))
		}
		if volume := stage.Mesh.Volume(); volume > enamel+0.01 {
			t.Errorf("the tooth grows in %s from %.2f to %.2f mm³", r.Chair[n].Name, enamel, volume)
		} else {
			enamel = volume
		}
	}
	for _, none := range []int{-1, len(r.Chair)} {
		if _, ok := r.Stage(none); ok {
			t.Errorf("there is a step %d", none)
		}
	}
}

// What is not cut is not rehearsed, and the document says why.
func TestARefusedCaseIsNotRehearsed(t *testing.T) {
	c := usualCase(1)
	c.Findings = []lesion.Finding{{Kind: lesion.Crack, Site: lesion.Buccal, Depth: lesion.OuterDentin}}
	r, err := plan.SharedPlanner.Rehearse(t.Context(), c, plan.DefaultGrid)
	if err != nil {
		t.Fatal(err)
	}
	if d := r.Document(); len(d.Cavities) != 0 || d.Refused == "" {
		t.Errorf("%+v", d)
	}
}
