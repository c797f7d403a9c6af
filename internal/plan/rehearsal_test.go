package plan_test

import (
	"bytes"
	"encoding/json"
	"os"
	"strconv"
	"testing"

	"github.com/santhosh-tekuri/jsonschema/v6"

	"obturon/core/cavity"
	"obturon/core/instrument"
	"obturon/core/lesion"
	"obturon/internal/plan"
)

// Whatever is planned is rehearsed: with instruments of the kit, without an alarm, in a
// document that fits its schema. OBTURON_REHEARSALS=N rehearses N usual cases and lists what
// the kit does not make.
func TestUsualCasesAreRehearsed(t *testing.T) {
	schema, err := jsonschema.NewCompiler().Compile("../../docs/schema/rehearsal.schema.json")
	if err != nil {
		t.Fatal(err)
	}
	cases := 2
	if n, err := strconv.Atoi(os.Getenv("OBTURON_REHEARSALS")); err == nil {
		cases = n
	}
	off, all := map[uint16]int{}, map[uint16]int{}
	proven, made := 0, 0
	for seed := range uint64(cases) {
		c := usualCase(seed + 1)
		r, err := plan.NewPlanner().Rehearse(t.Context(), c, plan.DefaultGrid)
		if err != nil {
			t.Errorf("seed %d, %s %v: %v", seed+1, c.Tooth, c.Findings, err)
			continue
		}
		told, err := json.Marshal(r.Document())
		if err != nil {
			t.Fatal(err)
		}
		value, err := jsonschema.UnmarshalJSON(bytes.NewReader(told))
		if err != nil {
			t.Fatal(err)
		}
		if err := schema.Validate(value); err != nil {
			t.Errorf("seed %d: %v", seed+1, err)
		}
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

// What is not cut is not rehearsed, and the document says why.
func TestARefusedCaseIsNotRehearsed(t *testing.T) {
	c := usualCase(1)
	c.Findings = []lesion.Finding{{Kind: lesion.Crack, Site: lesion.Buccal, Depth: lesion.OuterDentin}}
	r, err := plan.NewPlanner().Rehearse(t.Context(), c, plan.DefaultGrid)
	if err != nil {
		t.Fatal(err)
	}
	if d := r.Document(); len(d.Cavities) != 0 || d.Refused == "" {
		t.Errorf("%+v", d)
	}
}
