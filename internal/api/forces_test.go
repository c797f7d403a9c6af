package api

import (
	"encoding/json"
	"fmt"
	"strings"
	"testing"

	"obturon/internal/document"
)

const classOne = `{"schema":"obturon.case/1","tooth":"46","patient":{"age_years":34},"findings":[{"kind":"fissure_caries","site":"central","depth":"outer_dentin"}],
	"choice":{"material":"amalgam","school":"board"}}`

// What holds and what gives way is answered with its grounds; a load that cannot be names
// the figure.
func TestForcesOverHTTP(t *testing.T) {
	c := signedIn(t, "dentist")
	ask := func(path string, into any) {
		t.Helper()
		status, answer := c.send("POST", path, classOne)
		if err := json.Unmarshal([]byte(answer), into); err != nil || status != 200 {
			t.Fatalf("%s answers %d %.300s", path, status, answer)
		}
	}
	var hold Hold
	ask("/api/evaluate/hold", &hold)
	if len(hold.Fillings) != 1 || hold.Fillings[0].Pulls[0].State != "held" || len(hold.Fillings[0].Pulls[0].Places) == 0 || hold.Assumption == "" {
		t.Errorf("held: %+v", hold)
	}
	var usual, twice Deflection
	ask("/api/evaluate/deflection", &usual)
	ask("/api/evaluate/deflection?newtons=400", &twice)
	if usual.Newtons != 200 || usual.Cut <= usual.Sound || len(usual.Cusps) != 5 || len(usual.Assumptions) == 0 {
		t.Errorf("deflected: %+v", usual)
	}
	if off := twice.Cut/usual.Cut - 2; off > 0.01 || off < -0.01 {
		t.Errorf("twice the load parts by %.3f instead of %.3f", twice.Cut, usual.Cut)
	}
	var cut, sound Strain
	ask("/api/evaluate/strain?at=0&as=cut", &cut)
	ask("/api/evaluate/strain?at=0&as=sound", &sound)
	if len(cut.Loads) != 2 || len(cut.Levels) == 0 || cut.Text == sound.Text {
		t.Errorf("strained: %.300s", cut.Text)
	}
	var slanted Deflection
	ask("/api/evaluate/deflection?slant=20&place=between_cusps", &slanted)
	if slanted.Slant != 20 || slanted.Cut <= usual.Cut || len(usual.Loads) != 5 || usual.Place != "between_cusps" {
		t.Errorf("slanted %+v", slanted)
	}
	var along, tilted []Pull
	ask("/api/evaluate/pull?mesial=0&facial=0", &along)
	ask("/api/evaluate/pull?mesial=-30&facial=10", &tilted)
	if len(along) != 1 || along[0].Mm != hold.Fillings[0].Pulls[0].Mm || tilted[0].Mm <= along[0].Mm || !strings.Contains(tilted[0].Text, "30° towards distal and 10° towards facial") {
		t.Errorf("along the bur %+v, tilted %.300s", along, tilted[0].Text)
	}
	var beside []SectionBeside
	ask("/api/evaluate/sections?at=0&school=adhesive", &beside)
	if len(beside) != 5 || beside[4].Way != "school" || len(beside[0].Strain.Enamel) == 0 || beside[1].Strain.Opening <= beside[0].Strain.Opening {
		t.Errorf("side by side are %d", len(beside))
	}
	for path, field := range map[string]string{
		"/api/evaluate/deflection?slant=90":          "slant",
		"/api/evaluate/deflection?place=moon":        "place",
		"/api/evaluate/deflection?place=contacts":    "no contacts are marked",
		"/api/evaluate/sections?at=0&school=nobodys": "school",
		"/api/evaluate/pull?mesial=85&facial=0":      "mesial",
		"/api/evaluate/pull?mesial=0":                "facial",
		"/api/evaluate/pull?mesial=0&facial=NaN":     "facial",
		"/api/evaluate/sections?at=0&slant=90":       "slant",
		"/api/evaluate/deflection?newtons=0":         "newtons",
		"/api/evaluate/deflection?newtons=many":      "newtons",
		"/api/evaluate/deflection?down=9":            "down",
		"/api/evaluate/strain?at=0&as=gold":          "as",
		"/api/evaluate/strain?as=cut":                "at",
		"/api/evaluate/strain?at=0&as=cut&down=2.1":  "down",
		"/api/evaluate/deflection?newtons=NaN":       "newtons",
		"/api/evaluate/deflection?down=NaN":          "down",
		"/api/evaluate/strain?at=NaN&as=cut":         "at",
	} {
		if status, answer := c.send("POST", path, classOne); status != 422 || !strings.Contains(answer, field) {
			t.Errorf("%s answers %d %.200s", path, status, answer)
		}
	}
	// A section past the tooth has nothing to load, and says so.
	var past Strain
	ask("/api/evaluate/strain?at=8&as=cut", &past)
	if len(past.Loads) != 0 || past.Text == "" {
		t.Errorf("past the tooth: %.300s", past.Text)
	}
}

// The constants are the practice's own, with their sources: they change what is computed for
// it and nobody else.
func TestConstantsOverHTTP(t *testing.T) {
	practice := practiceOf(t)
	_, c := member(t, practice, document.Dentist)
	_, learner := member(t, practice, document.Learner)
	_, elsewhere := member(t, practiceOf(t), document.Dentist)
	own := func(version int, figures string) string {
		return fmt.Sprintf(`{"version":%d,"own":[%s]}`, version, figures)
	}
	for name, wrong := range map[string]struct {
		body, says string
		by         client
		status     int
	}{
		"a learner":       {own(0, ""), "Ask a teacher or a dentist", learner, 403},
		"out of range":    {own(0, `{"id":"dentin","value":0,"source":"x"}`), "Modulus of dentin is 0: give 8 to 30 GPa", c, 422},
		"no source":       {own(0, `{"id":"dentin","value":15,"source":" "}`), "no source", c, 422},
		"unknown":         {own(0, `{"id":"gold","value":15,"source":"x"}`), "gold", c, 422},
		"a later version": {own(7, ""), "changed meanwhile", c, 409},
	} {
		if status, body := wrong.by.send("PUT", "/api/strength-constants", wrong.body); status != wrong.status || !strings.Contains(body, wrong.says) {
			t.Errorf("%s: answers %d %.300s", name, status, body)
		}
	}
	status, body := c.send("PUT", "/api/strength-constants", own(0, `{"id":"dentin","value":12,"source":"our own bench"},{"id":"bite","value":100,"source":"our own bench"}`))
	if k := decoded[StrengthConstants](t, 200, status, body); k.Version != 1 || k.Constants[1].Value != 12 || k.Constants[1].Usual != 18 || k.Constants[1].Source != "our own bench" {
		t.Fatalf("kept is %s", body)
	}
	status, body = c.send("POST", "/api/evaluate/deflection", classOne)
	ours := decoded[Deflection](t, 200, status, body)
	status, body = elsewhere.send("POST", "/api/evaluate/deflection", classOne)
	theirs := decoded[Deflection](t, 200, status, body)
	if ours.Newtons != 100 || theirs.Newtons != 200 || 2*ours.Sound <= theirs.Sound || !strings.Contains(ours.Assumptions[1], "dentin 12") {
		t.Errorf("on softer dentin %.3f µm under half the load, %.3f elsewhere: %q", ours.Sound, theirs.Sound, ours.Assumptions)
	}
}

// A tooth is loaded on fine cells by whoever works; who asks again has the same run.
func TestFineRunsOverHTTP(t *testing.T) {
	practice := practiceOf(t)
	_, c := member(t, practice, document.Dentist)
	id := c.newCase("HV-889").Id.String()
	path := "/api/cases/" + id + "/fine-deflection"
	status, body := c.send("GET", path, "")
	if last := decoded[LastFineRun](t, 200, status, body); last.Run != nil {
		t.Fatalf("before any: %s", body)
	}
	if status, body := c.send("POST", path, `{"newtons":0}`); status != 422 || !strings.Contains(body, "newtons") {
		t.Errorf("no load: answers %d %.200s", status, body)
	}
	status, body = c.send("POST", path, `{"newtons":150}`)
	run := decoded[FineRun](t, 201, status, body)
	status, body = c.send("POST", path, `{"newtons":150}`)
	if again := decoded[FineRun](t, 201, status, body); again.Id != run.Id || !again.Current || again.State != document.FineRuns {
		t.Errorf("asked again: %s", body)
	}
	status, body = c.send("DELETE", path+"/"+run.Id.String(), "")
	if ended := decoded[FineRun](t, 200, status, body); ended.State != document.FineCancelled {
		t.Errorf("ended: %s", body)
	}
	status, body = c.send("POST", path, `{"newtons":150}`)
	if anew := decoded[FineRun](t, 201, status, body); anew.State != document.FineRuns {
		t.Errorf("after it was ended: %s", body)
	}
}
