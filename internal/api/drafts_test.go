package api

import (
	"encoding/json"
	"fmt"
	"strings"
	"sync"
	"testing"

	"github.com/google/uuid"

	"obturon/internal/document"
)

// widened is the case document with an isthmus set by hand.
func widened(mm float64) string {
	return strings.Replace(caseDocument, `"choice"`, fmt.Sprintf(`"overrides":{"isthmus_width":%v},"choice"`, mm), 1)
}

func TestAStaleDraftIsNotSaved(t *testing.T) {
	c := signedIn(t, "dentist")
	base := "/api/cases/" + c.newCase("HV-921").Id.String()
	for _, k := range []struct {
		name, body string
		version    []string
		status     int
		want       string
	}{
		{"no version", widened(1.2), nil, 428, "If-Match"},
		{"no number", widened(1.2), []string{"If-Match", "newest"}, 422, "If-Match"},
		{"the first", widened(1.2), version(1), 200, `"version":2`},
		{"from before", widened(1.4), version(1), 409, `"type":"stale_draft"`},
		{"the same again, its answer lost", widened(1.2), version(1), 200, `"version":2`},
		{"from the newest", widened(1.4), version(2), 200, `"version":3`},
		{"another patient", strings.Replace(widened(1.2), `"age_years":34`, `"age_years":34,"code":"HV-922"`, 1), version(3), 422, "$.patient.code"},
		{"another age", strings.Replace(widened(1.2), `"age_years":34`, `"age_years":9`, 1), version(3), 422, "$.patient.age_years"},
	} {
		if status, body := c.send("PUT", base+"/draft", k.body, k.version...); status != k.status || !strings.Contains(body, k.want) {
			t.Errorf("%s: answers %d %s", k.name, status, body)
		}
	}
	if _, body := c.send("GET", base, ""); !strings.Contains(body, `"isthmus_width":1.4`) {
		t.Errorf("kept %s", body)
	}
}

func TestWhatIsShownIsWhatIsFixedAndExported(t *testing.T) {
	c := signedIn(t, "dentist")
	base := "/api/cases/" + c.newCase("HV-923").Id.String()
	if status, body := c.send("PUT", base+"/draft", widened(1.2), version(1)...); status != 200 {
		t.Fatalf("answers %d %s", status, body)
	}
	if status, body := c.send("POST", base+"/revisions", "", version(1)...); status != 409 || !strings.Contains(body, "stale_draft") {
		t.Errorf("fixing another's design answers %d %s", status, body)
	}
	if status, _ := c.send("GET", base+"/files/case.json?draft=1", ""); status != 409 {
		t.Errorf("exporting another's design answers %d", status)
	}
	if status, body := c.send("GET", base+"/files/case.json?draft=2", ""); status != 200 || !strings.Contains(body, "1.2") {
		t.Errorf("exporting what is shown answers %d %s", status, body)
	}
}

func TestADoubleClickMakesOneCaseAndOneRevision(t *testing.T) {
	c := signedIn(t, "dentist")
	key := []string{"Idempotency-Key", uuid.NewString()}
	twice := func(send func() (int, string)) []string {
		answers := make([]string, 3)
		var together sync.WaitGroup
		for n := range answers {
			together.Go(func() {
				status, body := send()
				if status != 201 {
					t.Errorf("answers %d %s", status, body)
				}
				answers[n] = body
			})
		}
		together.Wait()
		return answers
	}
	ids := map[string]bool{}
	for _, answer := range twice(func() (int, string) {
		return c.send("POST", "/api/cases", newCaseBody("HV-924", "lower right 6"), key...)
	}) {
		var made Case
		if err := json.Unmarshal([]byte(answer), &made); err != nil {
			t.Fatal(err)
		}
		ids[made.Id.String()] = true
	}
	if len(ids) != 1 {
		t.Fatalf("%d cases were started", len(ids))
	}
	for id := range ids {
		base := "/api/cases/" + id
		twice(func() (int, string) {
			return c.send("POST", base+"/revisions", "", append(version(1), key...)...)
		})
		// Also after the draft has moved on: the answer was lost, not the revision.
		if status, _ := c.send("PUT", base+"/draft", widened(1.3), version(1)...); status != 200 {
			t.Errorf("saving answers %d", status)
		}
		if status, body := c.send("POST", base+"/revisions", "", append(version(1), key...)...); status != 201 || !strings.Contains(body, `"number":1`) {
			t.Errorf("asked again it answers %d %.200s", status, body)
		}
		_, body := c.send("GET", base, "")
		var kept Case
		if err := json.Unmarshal([]byte(body), &kept); err != nil || len(kept.Revisions) != 1 {
			t.Errorf("%d revisions, %v", len(kept.Revisions), err)
		}
	}
}

func TestAFigureThatCannotBeBuiltIsNamed(t *testing.T) {
	c := signedIn(t, "dentist")
	broken := strings.Replace(caseDocument, `"choice"`, `"overrides":{"isthmus_width":1.2,"distal_box_buccal":5},"choice"`, 1)
	broken = strings.Replace(broken, `"fissure_caries","site":"central"`, `"proximal_caries","site":"distal"`, 1)
	status, body := c.send("POST", "/api/evaluate", broken)
	var p Problem
	if err := json.Unmarshal([]byte(body), &p); err != nil || status != 422 || len(p.Faults) != 1 || p.Faults[0].Path != "$.overrides.distal_box_buccal" {
		t.Fatalf("answers %d %.300s", status, body)
	}
}

func TestABirthYearIsCorrected(t *testing.T) {
	c := signedIn(t, "dentist")
	made := c.newCase("HV-925")
	path := "/api/cases/" + made.Id.String() + "/birth-year"
	for year, want := range map[int]int{bornIn + 40: 422, 1880: 422, bornIn - 2: 200} {
		if status, body := c.send("PUT", path, fmt.Sprintf(`{"birth_year":%d}`, year)); status != want {
			t.Errorf("%d answers %d %s", year, status, body)
		}
	}
	_, body := c.send("GET", "/api/cases/"+made.Id.String(), "")
	var kept Case
	if err := json.Unmarshal([]byte(body), &kept); err != nil {
		t.Fatal(err)
	}
	var d document.CaseContent
	if err := json.Unmarshal(kept.Document, &d); err != nil || kept.BirthYear != bornIn-2 || d.Patient.AgeYears != 36 || kept.Version != 2 {
		t.Errorf("born %d, aged %v, draft %d, %v", kept.BirthYear, d.Patient.AgeYears, kept.Version, err)
	}
	// A new case of the patient needs the corrected year.
	if status, body := c.send("POST", "/api/cases", newCaseBody("HV-925", "lower right 6")); status != 422 || !strings.Contains(body, "another birth year") {
		t.Errorf("the old year answers %d %s", status, body)
	}
	for year, age := range map[int]string{bornIn + 37: "34", bornIn - 90: "34", bornIn: "8"} {
		body := strings.Replace(newCaseBody("HV-926", "lower right 6"), fmt.Sprint(bornIn), fmt.Sprint(year), 1)
		body = strings.Replace(body, `"age_years":34`, `"age_years":`+age, 1)
		if status, answer := c.send("POST", "/api/cases", body); status != 422 {
			t.Errorf("born %d, aged %s answers %d %s", year, age, status, answer)
		}
	}
}
