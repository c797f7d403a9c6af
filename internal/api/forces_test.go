package api

import (
	"encoding/json"
	"strings"
	"testing"
)

// What holds and what gives way is answered with its grounds; a load that cannot be names
// the figure.
func TestForcesOverHTTP(t *testing.T) {
	c := signedIn(t, "dentist")
	document := `{"schema":"obturon.case/1","tooth":"46","patient":{"age_years":34},"findings":[{"kind":"fissure_caries","site":"central","depth":"outer_dentin"}],
		"choice":{"material":"amalgam","school":"board"}}`
	ask := func(path string, into any) {
		t.Helper()
		status, answer := c.send("POST", path, document)
		if err := json.Unmarshal([]byte(answer), into); err != nil || status != 200 {
			t.Fatalf("%s answers %d %.300s", path, status, answer)
		}
	}
	var hold Hold
	ask("/api/evaluate/hold", &hold)
	if len(hold.Fillings) != 1 || hold.Fillings[0].Pulls[0].State != "held" || len(hold.Fillings[0].Pulls[0].Places) == 0 || hold.Assumption == "" {
		t.Errorf("held: %+v", hold)
	}
	var usual, twice Parting
	ask("/api/evaluate/parting", &usual)
	ask("/api/evaluate/parting?newtons=400", &twice)
	if usual.Newtons != 200 || usual.Cut <= usual.Sound || len(usual.Cusps) != 5 || len(usual.Assumptions) == 0 {
		t.Errorf("parted: %+v", usual)
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
	for path, field := range map[string]string{
		"/api/evaluate/parting?newtons=0":           "newtons",
		"/api/evaluate/parting?newtons=many":        "newtons",
		"/api/evaluate/parting?down=9":              "down",
		"/api/evaluate/strain?at=0&as=gold":         "as",
		"/api/evaluate/strain?as=cut":               "at",
		"/api/evaluate/strain?at=0&as=cut&down=2.1": "down",
		"/api/evaluate/parting?newtons=NaN":         "newtons",
		"/api/evaluate/parting?down=NaN":            "down",
		"/api/evaluate/strain?at=NaN&as=cut":        "at",
	} {
		if status, answer := c.send("POST", path, document); status != 422 || !strings.Contains(answer, field) {
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
