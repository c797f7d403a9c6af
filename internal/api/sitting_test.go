package api

import (
	"encoding/json"
	"fmt"
	"slices"
	"strings"
	"testing"

	"obturon/core/procedure"
	"obturon/internal/document"
)

// Two necks are gone through as one run: it is found at both cases, shows the tooth that each
// step is about, and judges a slip by that tooth.
func TestASittingIsGoneThrough(t *testing.T) {
	practice := practiceOf(t)
	_, c := member(t, practice, document.Dentist)
	create := func(patient, tooth, answer string) string {
		status, body := c.send("POST", "/api/cases", neckCase(patient, tooth, answer, "composite"))
		return decoded[Case](t, 201, status, body).Id.String()
	}
	first, second, alone := create("HV-977", "43", "lower right 3"), create("HV-977", "42", "lower right 2"), create("HV-978", "44", "lower right 4")
	if status, body := c.send("POST", "/api/cases/"+alone+"/runs", `{"sitting":true}`); status != 409 || !strings.Contains(body, "treated alone") {
		t.Errorf("a sitting of one answers %d %.200s", status, body)
	}
	status, body := c.send("POST", "/api/cases/"+first+"/runs", `{"sitting":true}`)
	run := decoded[ChairRun](t, 201, status, body)
	if len(run.Visits) != 2 || run.Visits[0].Tooth != "43" || run.Visits[1].Case.String() != second || len(run.Sequence.Cavities) != 2 {
		t.Fatalf("the run holds %d teeth, %d cavities", len(run.Visits), len(run.Sequence.Cavities))
	}
	steps := run.Sequence.Steps
	bonds := -1
	for n, s := range steps {
		if len(s.Teeth) == 0 {
			t.Errorf("step %d, %s, is on no tooth", n+1, s.Step)
		}
		if s.Cut != nil && s.Cut.Cavity != slices.Index([]string{"43", "42"}, s.Teeth[0]) {
			t.Errorf("%s on %v cuts cavity %d", s.Step, s.Teeth, s.Cut.Cavity)
		}
		switch {
		case s.Step == "Bond":
			bonds = n
		case strings.HasPrefix(s.Step, "Lay ") && n < bonds, strings.HasPrefix(s.Step, "Etch enamel") && bonds >= 0:
			t.Errorf("%s comes as step %d, a bond as %d", s.Step, n+1, bonds+1)
		}
	}
	// Each shown step is one of its tooth's own sequence.
	for _, v := range run.Visits {
		text, _ := json.Marshal(v.Document)
		status, body := c.send("POST", "/api/evaluate/sequence", string(text))
		own := decoded[ProvenSequence](t, 200, status, body)
		for _, s := range steps {
			if s.Cut != nil && s.Teeth[0] == v.Tooth && own.Steps[s.Shown-1].Step != s.Step {
				t.Errorf("%s of %s shows as %s", s.Step, v.Tooth, own.Steps[s.Shown-1].Step)
			}
		}
	}
	// A slip on one tooth says nothing of the other.
	cut := func(tooth string) int {
		return slices.IndexFunc(steps, func(s document.Step) bool { return s.Cut != nil && s.Teeth[0] == tooth })
	}
	events := fmt.Sprintf(`[{"id":"00000000-0000-4000-8000-000000000001","kind":"too_deep","step":%d,"at_seconds":5,"mm":0.9},{"id":"00000000-0000-4000-8000-000000000002","kind":"too_deep","step":%d,"at_seconds":6,"mm":0.1}]`, cut("43"), cut("42"))
	status, body = c.send("POST", fmt.Sprintf("/api/cases/%s/runs/%s/events", first, run.Id), events)
	state := decoded[ChairState](t, 200, status, body)
	if len(state.Sequels) != 2 || !strings.HasPrefix(state.Sequels[0].Text, "0.9 mm") || !strings.HasPrefix(state.Sequels[1].Text, "0.1 mm") {
		t.Errorf("the slips lead on to %+v", state.Sequels)
	}
	for id, runs := range map[string]int{first: 1, second: 1, alone: 0} {
		status, body := c.send("GET", "/api/cases/"+id+"/runs", "")
		list := decoded[[]ChairRunSummary](t, 200, status, body)
		if len(list) != runs || runs > 0 && (list[0].Case.String() != first || !slices.Equal(list[0].Teeth, []string{"43", "42"})) {
			t.Errorf("%s lists %+v", id, list)
		}
	}
	for file, wants := range map[string]int{first + "/files/sitting.pdf": 200, first + "/files/tray.pdf": 200, alone + "/files/sitting.pdf": 422} {
		if status, body := c.send("GET", "/api/cases/"+file, ""); status != wants || wants == 200 && !strings.HasPrefix(body, "%PDF") {
			t.Errorf("%s answers %d %.100s", file, status, body)
		}
	}
	status, body = c.send("GET", "/api/cases/"+second+"/sitting", "")
	planned := decoded[Sitting](t, 200, status, body)
	applicators := slices.IndexFunc(planned.Tray, func(i document.TrayItem) bool { return i.Name == "applicator" })
	if applicators < 0 || planned.Tray[applicators].Count != 2 || !planned.Tray[applicators].SingleUse {
		t.Errorf("on the tray lie %+v", planned.Tray)
	}
}

// A box that faces another one of the patient's is filled in one go with it; a primary molar
// and the first permanent one stand beside each other too.
func TestFacingBoxesAreFilledInOneGo(t *testing.T) {
	practice := practiceOf(t)
	_, c := member(t, practice, document.Dentist)
	box := func(tooth, side string, age int) string {
		return fmt.Sprintf(`{"schema":"obturon.case/1","tooth":%q,"patient":{"code":"HV-979","age_years":%d},
			"findings":[{"kind":"proximal_caries","site":%q,"depth":"middle_dentin"}],"choice":{"material":"amalgam","school":"traditional"}}`, tooth, age, side)
	}
	create := func(tooth, answer, side string) string {
		body := fmt.Sprintf(`{"patient":{"code":"HV-979","birth_year":%d},"confirmation":{"method":"count","answer":%q},"document":%s}`, bornIn+26, answer, box(tooth, side, 8))
		status, answered := c.send("POST", "/api/cases", body)
		return decoded[Case](t, 201, status, answered).Id.String()
	}
	own := create("85", "lower right 5", "distal")
	notes := func(query string) string {
		status, body := c.send("POST", "/api/evaluate/filling"+query, box("85", "distal", 8))
		filled := decoded[FilledCase](t, 200, status, body)
		said := strings.Join(filled.Fill[0].Matrix.Bands[0].Notes, " ")
		for _, s := range filled.Fill[0].Steps {
			if s.Kind == procedure.PlaceMatrix {
				said += s.Action
			}
		}
		return said
	}
	if got := notes("?case=" + own); strings.Contains(got, "in one go") {
		t.Errorf("alone it says %q", got)
	}
	create("46", "lower right 6", "mesial")
	if got := notes("?case=" + own); strings.Count(got, "in one go") != 2 || !strings.Contains(got, "46") {
		t.Errorf("facing 46 it says %q", got)
	}
	if got := notes(""); strings.Contains(got, "in one go") {
		t.Errorf("of no case it says %q", got)
	}
	if status, _ := c.send("POST", "/api/evaluate/filling?case=00000000-0000-0000-0000-000000000000", box("85", "distal", 8)); status != 404 {
		t.Errorf("an unknown case answers %d", status)
	}
}
