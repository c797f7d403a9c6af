package api

import (
	"strings"
	"testing"

	"obturon/core/fill"
	"obturon/internal/document"
)

const compositeClassOne = `{"schema":"obturon.case/1","tooth":"36","patient":{"age_years":34},
 "findings":[{"kind":"fissure_caries","site":"central","depth":"outer_dentin"}],"choice":{"material":"composite","school":"board"}}`

// A practice's own products stand in its fillings, and in those of no other; what cannot be
// is named, and nothing of it kept.
func TestFillingsAreMadeOfThePracticesProducts(t *testing.T) {
	practice := practiceOf(t)
	_, c := member(t, practice, document.Dentist)
	_, learner := member(t, practice, document.Learner)
	_, elsewhere := member(t, practiceOf(t), document.Dentist)
	own := func(version, products string) string {
		return `{"version":` + version + `,"products":[` + products + `]}`
	}
	lamp := func(reading string) string {
		return `{"kind":"lamp","name":"Lamp two","readings":[{"on":"2026-03-01","output":1200},` + reading + `]}`
	}
	for name, wrong := range map[string]struct {
		body, says string
		by         client
		status     int
	}{
		"a learner":        {own("0", ""), "Ask a teacher or a dentist", learner, 403},
		"a dark lamp":      {own("0", lamp(`{"on":"2026-11-01","output":0}`)), "$.products[0].readings[1]", c, 422},
		"a thin increment": {own("0", `{"kind":"packable","name":"Ours","figures":{"cure_depth_mm":0.4}}`), "give 0.5 to 6 mm", c, 422},
		"no time":          {own("0", `{"kind":"amalgam","name":"Ours","figures":{"carve_seconds":130}}`), "before condensing", c, 422},
		"no such day":      {own("0", lamp(`{"on":"2026-13-01","output":900}`)), "readings", c, 422},
		"a later version":  {own("7", ""), "changed meanwhile", c, 409},
	} {
		if status, body := wrong.by.send("PUT", "/api/products", wrong.body); status != wrong.status || !strings.Contains(body, wrong.says) {
			t.Errorf("%s: answers %d %.300s", name, status, body)
		}
	}
	status, body := c.send("GET", "/api/products", "")
	if k := decoded[PracticeProducts](t, 200, status, body); k.Version != 0 || len(k.Products) != 0 || len(k.Kinds) != len(fill.Kinds) {
		t.Fatalf("something was kept: %s", body)
	}
	status, body = c.send("PUT", "/api/products", own("0", `{"kind":"packable","name":"Ours","figures":{"cure_depth_mm":1}},`+lamp(`{"on":"2026-11-01","output":600}`)))
	if k := decoded[PracticeProducts](t, 200, status, body); k.Version != 1 || len(k.Notes) != 1 || k.Notes[0].Product != 1 || !strings.Contains(k.Notes[0].Text, "fallen from 1200 to 600") {
		t.Fatalf("kept is %s", body)
	}
	status, body = c.send("POST", "/api/evaluate/filling", compositeClassOne)
	ours := decoded[FilledCase](t, 200, status, body).Fill[0].Parts[0].Increments
	status, body = elsewhere.send("POST", "/api/evaluate/filling?along=0.5", compositeClassOne)
	filled := decoded[FilledCase](t, 200, status, body)
	theirs := filled.Fill[0].Parts[0].Increments
	if len(ours) <= len(theirs) || ours[0].Product != "Ours" || ours[0].ThickestMm > 1 || ours[0].Light.LeastSeconds <= theirs[0].Light.LeastSeconds {
		t.Errorf("ours %+v, theirs %+v", ours, theirs)
	}
	if len(filled.Views) != 2 || filled.Views[1].At != 0.5 || len(filled.Views[1].Marks) == 0 {
		t.Errorf("sections %d", len(filled.Views))
	}
}
