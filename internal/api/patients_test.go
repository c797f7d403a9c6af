package api

import (
	"encoding/json"
	"strings"
	"testing"
	"time"

	"obturon/internal/document"
)

func TestAKnownPatientIsToldToThoseWhoMaySeeACase(t *testing.T) {
	here := practiceOf(t)
	_, dentist := member(t, here, document.Dentist)
	_, learner := member(t, here, document.Learner)
	dentist.newCase("HV-975")
	status, body := dentist.send("GET", "/api/patients/HV-975", "")
	var known KnownPatient
	if err := json.Unmarshal([]byte(body), &known); status != 200 || err != nil {
		t.Fatalf("answers %d %s", status, body)
	}
	if known.BirthYear < 1900 || known.Patient.AgeYears != float64(time.Now().Year()-known.BirthYear) {
		t.Errorf("%+v", known)
	}
	for name, c := range map[string]client{"another's patient": learner, "another practice's": signedIn(t, "dentist")} {
		if status, body := c.send("GET", "/api/patients/HV-975", ""); status != 404 {
			t.Errorf("%s: %d %s", name, status, body)
		}
	}
	if status, body := dentist.send("GET", "/api/patients/somebody", ""); status != 422 || !strings.Contains(body, "code") {
		t.Errorf("a name: %d %s", status, body)
	}
}

func TestAnUnknownAgeIsTheUsualOne(t *testing.T) {
	c := signedIn(t, "dentist")
	sent := strings.Replace(caseDocument, `"age_years":34`, `"age_years":0`, 1)
	if sent == caseDocument {
		t.Fatal("the case has another age")
	}
	for query, want := range map[string]string{"": "commonly barred", "?age=unknown": `"assumed_age_years":35`} {
		if status, body := c.send("POST", "/api/advice"+query, sent); status != 200 || !strings.Contains(body, want) {
			t.Errorf("%q answers %d %s", query, status, body)
		}
	}
}
