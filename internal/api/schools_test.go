package api

import (
	"encoding/json"
	"slices"
	"strings"
	"testing"

	"obturon/core/school"
)

// isthmus changes the isthmus width of a school's document.
func isthmus(t *testing.T, document []byte, low, high, aim float64) string {
	t.Helper()
	var s map[string]any
	if err := json.Unmarshal(document, &s); err != nil {
		t.Fatal(err)
	}
	for _, c := range s["criteria"].([]any) {
		criterion := c.(map[string]any)
		if criterion["id"] == "outline.isthmus_width" {
			criterion["target"] = map[string]float64{"min": low, "max": high}
			criterion["limits"] = map[string]float64{"min": low - 0.1, "max": high + 0.1}
			criterion["aim"] = aim
		}
	}
	data, err := json.Marshal(s)
	if err != nil {
		t.Fatal(err)
	}
	return string(data)
}

func TestHouseRulesFromCopyToRevision(t *testing.T) {
	c := signedIn(t, "dentist")
	status, answer := c.send("POST", "/api/schools", `{"base":"board","name":"Halvarra bench"}`)
	if status != 201 {
		t.Fatalf("copying answers %d %s", status, answer)
	}
	var made HouseRules
	if err := json.Unmarshal([]byte(answer), &made); err != nil {
		t.Fatal(err)
	}
	if made.Id != "house-halvarra-bench" || made.Version != 1 || made.Base != "board" {
		t.Errorf("made %+v", made)
	}
	if status, _ := c.send("POST", "/api/schools", `{"base":"board","name":"Halvarra  Bench!"}`); status != 409 {
		t.Errorf("the same name again answers %d", status)
	}
	if status, answer := c.send("GET", "/api/schools", ""); status != 200 || !strings.Contains(answer, `"Halvarra bench"`) {
		t.Errorf("listing answers %d", status)
	}

	// A broken change is refused with every fault, and nothing is kept.
	for broken, said := range map[string]string{
		isthmus(t, made.Document, 1.4, 1.8, 9):                                                                       "aim 9",
		isthmus(t, made.Document, 14, 16, 15):                                                                        "aim 15 cannot be built: use 0.2 to 4 mm",
		`{"id":"house-halvarra-bench","version":"1","name":"x","criteria":[]}`:                                       "outline.isthmus_width is missing",
		strings.Replace(isthmus(t, made.Document, 1.4, 1.8, 1.6), `"severity":"critical"`, `"severity":"deadly"`, 1): "deadly",
	} {
		if status, answer := c.send("PUT", "/api/schools/"+made.Id, broken); status != 422 || !strings.Contains(answer, said) {
			t.Errorf("a broken change answers %d without %q: %s", status, said, answer)
		}
	}
	status, answer = c.send("PUT", "/api/schools/"+made.Id, isthmus(t, made.Document, 1.4, 1.8, 1.6))
	if status != 200 || !strings.Contains(answer, `"version":2`) {
		t.Fatalf("changing answers %d %s", status, answer)
	}
	if status, _ := c.send("PUT", "/api/schools/"+made.Id, isthmus(t, made.Document, 1.0, 1.2, 1.1)); status != 409 {
		t.Errorf("a change of the version before answers %d", status)
	}
	if status, answer := signedIn(t, "learner").send("POST", "/api/schools", `{"base":"board","name":"Mine"}`); status != 403 {
		t.Errorf("a learner's rules answer %d %s", status, answer)
	}

	// Archived rules leave the list, plans keep them, and they come back.
	if status, _ := c.send("DELETE", "/api/schools/"+made.Id, ""); status != 204 {
		t.Errorf("archiving answers %d", status)
	}
	if _, list := c.send("GET", "/api/schools", ""); strings.Contains(list, made.Id) {
		t.Error("archived rules are listed")
	}
	if status, answer := c.send("GET", "/api/schools/"+made.Id, ""); status != 200 || !strings.Contains(answer, `"archived":true`) {
		t.Errorf("archived rules answer %d %.200s", status, answer)
	}
	if status, _ := c.send("POST", "/api/schools/"+made.Id+"/unarchive", ""); status != 204 {
		t.Errorf("bringing them back answers %d", status)
	}
	if status, _ := c.send("DELETE", "/api/schools/house-nowhere", ""); status != 404 {
		t.Errorf("archiving nothing answers %d", status)
	}

	// A case under the rules follows the newest version; a revision keeps its own.
	body := strings.Replace(newCaseBody("HV-951", "lower right 6"), `"school":"board"`, `"school":"house-halvarra-bench"`, 1)
	status, answer = c.send("POST", "/api/cases", body)
	if status != 201 {
		t.Fatalf("starting a case answers %d %s", status, answer)
	}
	var dental Case
	if err := json.Unmarshal([]byte(answer), &dental); err != nil {
		t.Fatal(err)
	}
	base := "/api/cases/" + dental.Id.String()
	status, answer = c.send("POST", base+"/revisions", "", version(1)...)
	if status != 201 || !strings.Contains(answer, `"school":"house-halvarra-bench.2"`) || !strings.Contains(answer, `"school_version":"2"`) {
		t.Fatalf("fixing answers %d %.300s", status, answer)
	}
	_, newest := c.send("GET", "/api/schools/"+made.Id, "")
	var second HouseRules
	if err := json.Unmarshal([]byte(newest), &second); err != nil {
		t.Fatal(err)
	}
	if status, answer := c.send("PUT", "/api/schools/"+made.Id, isthmus(t, second.Document, 0.9, 1.1, 1.0)); status != 200 {
		t.Fatalf("changing again answers %d %s", status, answer)
	}
	width := func(path string) float64 {
		status, answer := c.send("GET", path, "")
		var d struct {
			Dimensions map[string]float64 `json:"dimensions"`
		}
		if err := json.Unmarshal([]byte(answer), &d); err != nil || status != 200 {
			t.Fatalf("%s answers %d %v", path, status, err)
		}
		return d.Dimensions["isthmus_width"]
	}
	if draft, fixed := width(base+"/files/plan.json"), width(base+"/files/plan.json?revision=1"); draft != 1.0 || fixed != 1.6 {
		t.Errorf("the draft's isthmus is %.2f, the revision's %.2f", draft, fixed)
	}

	// What the older rules would say to the draft.
	status, answer = c.send("GET", base+"/under/house-halvarra-bench.2", "")
	var j Rejudgement
	if err := json.Unmarshal([]byte(answer), &j); err != nil || status != 200 {
		t.Fatalf("judging answers %d %s", status, answer)
	}
	found := false
	for _, change := range j.Changes {
		found = found || change.Label == "Isthmus width" && change.After == "missed"
	}
	if !found || j.After != "missed" {
		t.Errorf("judged %+v", j)
	}
}

// Rules that were kept before a criterion came are read with it, and can be kept again.
func TestRulesOfAnOlderVersionAreReadWhole(t *testing.T) {
	c := signedIn(t, "dentist")
	status, answer := c.send("POST", "/api/schools", `{"base":"board","name":"Older bench"}`)
	var made HouseRules
	if err := json.Unmarshal([]byte(answer), &made); err != nil || status != 201 {
		t.Fatalf("copying answers %d %v", status, err)
	}
	older, err := school.Decode(made.Document)
	if err != nil {
		t.Fatal(err)
	}
	older.Version = "2"
	older.Criteria = slices.DeleteFunc(older.Criteria, func(c school.Criterion) bool { return c.ID == school.BoxAxialHeight })
	document, err := json.Marshal(older)
	if err != nil {
		t.Fatal(err)
	}
	if _, err := testStore.SQL().Exec("insert into practice_document (practice_id, kind, version, base, document, changed_by) select practice_id, kind, 2, base, $1, changed_by from practice_document where kind = $2", document, made.Id); err != nil {
		t.Fatal(err)
	}
	status, answer = c.send("GET", "/api/schools/"+made.Id, "")
	if err := json.Unmarshal([]byte(answer), &made); err != nil || status != 200 {
		t.Fatalf("reading answers %d %v", status, err)
	}
	if !strings.Contains(string(made.Document), "kept before it came") {
		t.Error("the newer criterion is not shown")
	}
	if status, answer := c.send("PUT", "/api/schools/"+made.Id, string(made.Document)); status != 200 {
		t.Errorf("keeping them again answers %d %.300s", status, answer)
	}
}

func TestUnknownHouseRulesAreNamed(t *testing.T) {
	c := signedIn(t, "dentist")
	document := `{"schema":"obturon.case/1","tooth":"46","patient":{"age_years":34},"findings":[{"kind":"fissure_caries","site":"central","depth":"outer_dentin"}],"choice":{"school":"house-nowhere"}}`
	if status, answer := c.send("POST", "/api/evaluate", document); status != 422 || !strings.Contains(answer, "$.choice.school") {
		t.Errorf("answers %d %s", status, answer)
	}
	for path, want := range map[string]int{"/api/schools/house-nowhere": 404, "/api/schools/board": 404} {
		if status, answer := c.send("GET", path, ""); status != want {
			t.Errorf("%s answers %d %s", path, status, answer)
		}
	}
	if status, answer := c.send("POST", "/api/schools", `{"base":"bored","name":"x"}`); status != 422 {
		t.Errorf("copying nothing answers %d %s", status, answer)
	}
	if status, answer := c.send("POST", "/api/compare?schools=board&schools=bored", document); status != 422 {
		t.Errorf("comparing with nothing answers %d %s", status, answer)
	}
}
