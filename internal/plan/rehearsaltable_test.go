package plan

import (
	"fmt"
	"os"
	"strings"
	"testing"

	"obturon/core/advice"
	"obturon/core/cavity"
	"obturon/core/cavity/smooth"
	"obturon/core/instrument"
	"obturon/core/intake"
	"obturon/core/lesion"
	"obturon/core/notation"
	"obturon/core/rehearsal"
	"obturon/core/school"
)

// classTable is every tooth in every class of its surfaces, each in one school and material
// of those that treat it, taken in turn.
func classTable() []*intake.Case {
	var all []*intake.Case
	add := func(tooth notation.Tooth, made func(material school.Material, id string) *intake.Case) {
		schools := advice.SchoolsFor(tooth)
		material := school.Materials[len(all)%len(school.Materials)]
		if tooth.Anterior() {
			material = school.Composite
		}
		c := made(material, schools[len(all)/len(school.Materials)%len(schools)])
		if tooth.Primary() {
			c.Patient.AgeYears = 6
		}
		all = append(all, c)
	}
	for _, tooth := range notation.All() {
		if !tooth.Anterior() {
			for _, f := range forms {
				add(tooth, func(m school.Material, id string) *intake.Case { return f.on(tooth.String(), m, id) })
			}
		}
		for _, site := range smooth.Sites {
			if smooth.ClassOf(site) == lesion.ClassIII && !tooth.Anterior() || len(lesion.Validate(lesionAt(site), tooth)) > 0 {
				continue
			}
			add(tooth, func(m school.Material, id string) *intake.Case {
				return smoothCase(tooth.String(), site, m, id, cavity.AnyStyle)
			})
		}
	}
	return all
}

// Over the class tables every plan has a sequence that its rehearsal proves, or says what
// the kit does not make of it; no burs leave much without a word. OBTURON_TABLES names the
// quadrants that are taken (make tables), which is long; usual cases are rehearsed always.
func TestTheClassTablesAreRehearsed(t *testing.T) {
	quadrants := os.Getenv("OBTURON_TABLES")
	if quadrants == "" {
		t.Skip("it takes an hour: make tables")
	}
	cases := classTable()
	if len(cases) < 350 {
		t.Errorf("the table has %d cases", len(cases))
	}
	proven, made, refused := 0, 0, 0
	for _, c := range cases {
		if !strings.Contains(quadrants, c.Tooth.String()[:1]) {
			continue
		}
		name := fmt.Sprintf("%s %s %s %s %s", c.Tooth, c.Findings[0].Site, c.Choice.Material, c.Choice.School, c.Choice.Layout)
		r, err := NewPlanner().Rehearse(t.Context(), c, DefaultGrid)
		if err != nil {
			t.Errorf("%s: %v", name, err)
			continue
		}
		if r.Refused() != "" {
			refused++
			continue
		}
		for _, one := range r.Rehearsals {
			made++
			if isProven(t, name, one) {
				proven++
			}
		}
	}
	t.Logf("%d cavities, %d proven on every surface, %d cases refused", made, proven, refused)
}

// isProven reports a rehearsal that makes every surface, and fails the test where it is
// unsafe or silent about what it does not make.
func isProven(t *testing.T, name string, r *rehearsal.Rehearsal) bool {
	t.Helper()
	if len(r.Steps) == 0 {
		t.Errorf("%s: no step", name)
		return false
	}
	for _, s := range r.Steps {
		for _, id := range s.Instruments {
			if _, ok := instrument.Find(id); !ok {
				t.Errorf("%s: %s takes up %q", name, s.Name(), id)
			}
		}
	}
	for _, a := range r.Alarms() {
		t.Errorf("%s, %s: %s", name, r.Steps[a.Step].Name(), a.Text)
	}
	unproven := r.Unproven()
	for _, d := range unproven {
		t.Logf("%s: %s (%.1f mm²)", name, d.Words(), d.Area)
	}
	thin := 0.0 // mm³ that may be left where it is thick nowhere
	for _, d := range r.Deviations {
		thin += rehearsal.Proven * d.Area
	}
	if left := r.Steps[len(r.Steps)-1].Left; left > thin && len(unproven) == 0 {
		t.Errorf("%s: %.2f mm³ are left, and nothing says so", name, left)
	}
	return len(unproven) == 0
}
