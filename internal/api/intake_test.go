package api

import (
	"encoding/json"
	"fmt"
	"strings"
	"testing"

	"obturon/internal/document"
)

// neckCase is a case of a cervical lesion as the page sends it.
func neckCase(patient, tooth, answer, material string) string {
	return fmt.Sprintf(`{"patient":{"code":%q,"birth_year":%d},"confirmation":{"method":"count","answer":%q},"document":{
		"schema":"obturon.case/1","tooth":%q,"patient":{"code":%q,"age_years":56,"isolation":"secure"},
		"findings":[{"kind":"cervical_caries","site":"buccal","depth":"outer_dentin"}],"choice":{"material":%q,"school":"adhesive"}}}`, patient, bornIn-22, answer, tooth, patient, material)
}

func TestNeckCavitiesOfAQuadrantMakeASitting(t *testing.T) {
	c := signedIn(t, "dentist")
	ids := map[string]string{}
	for _, k := range []struct{ patient, tooth, answer, material string }{
		{"HV-961", "43", "lower right 3", "composite"}, {"HV-961", "42", "lower right 2", "composite"},
		{"HV-961", "33", "lower left 3", "composite"}, {"HV-961", "41", "lower right 1", "amalgam"}, {"HV-962", "44", "lower right 4", "composite"},
	} {
		status, answer := c.send("POST", "/api/cases", neckCase(k.patient, k.tooth, k.answer, k.material))
		if status != 201 {
			t.Fatalf("answers %d %s", status, answer)
		}
		var made Case
		if err := json.Unmarshal([]byte(answer), &made); err != nil {
			t.Fatal(err)
		}
		ids[k.tooth] = made.Id.String()
	}
	read := func(tooth string) Sitting {
		status, answer := c.send("GET", "/api/cases/"+ids[tooth]+"/sitting", "")
		var s Sitting
		if err := json.Unmarshal([]byte(answer), &s); err != nil || status != 200 {
			t.Fatalf("answers %d %s", status, answer)
		}
		return s
	}
	s := read("43")
	if len(s.Visits) != 2 || s.Visits[0].Tooth != "43" || s.Visits[1].Tooth != "42" || s.Visits[1].Case.String() != ids["42"] {
		t.Errorf("the sitting holds %+v", s.Visits)
	}
	if len(s.Steps) < 8 || len(s.Steps[0].Teeth) != 2 {
		t.Errorf("%d steps, the first on %v", len(s.Steps), s.Steps[0].Teeth)
	}
	for _, alone := range []string{"33", "44", "41"} {
		if s := read(alone); len(s.Visits) != 0 {
			t.Errorf("%s is done with %+v", alone, s.Visits)
		}
	}
	if status, _ := c.send("GET", "/api/cases/"+strings.Repeat("0", 8)+"-0000-0000-0000-000000000000/sitting", ""); status != 404 {
		t.Errorf("an unknown case answers %d", status)
	}
}

func TestFinishesAreComparedOverHTTP(t *testing.T) {
	c := signedIn(t, "dentist")
	document := `{"schema":"obturon.case/1","tooth":"12","patient":{"age_years":30},"findings":[{"kind":"proximal_caries","site":"distal","depth":"outer_dentin","opens":"lingual"}],
		"choice":{"material":"composite","school":"adhesive"}}`
	status, answer := c.send("POST", "/api/evaluate/finishes", document)
	var finishes []Finish
	if err := json.Unmarshal([]byte(answer), &finishes); err != nil || status != 200 || len(finishes) != 2 {
		t.Fatalf("answers %d %s", status, answer)
	}
	if finishes[0].Style != "short" || finishes[1].Style != "long" || finishes[1].BondedEnamel <= finishes[0].BondedEnamel {
		t.Errorf("compared: %+v", finishes)
	}
	for field, broken := range map[string]string{
		"opens":               strings.Replace(document, `"lingual"`, `"mesial"`, 1),
		"$.gingiva.facial_mm": strings.Replace(document, `"choice"`, `"gingiva":{"facial_mm":40,"lingual_mm":0,"papilla_mm":0},"choice"`, 1),
		"$.choice.finish":     strings.Replace(document, `"adhesive"`, `"adhesive","finish":"wavy"`, 1),
		"over_neck_mm":        strings.Replace(document, `"opens":"lingual"`, `"over_neck_mm":1`, 1),
		"$.enamel":            strings.Replace(document, `"choice"`, `"enamel":"thick","choice"`, 1),
	} {
		if status, answer := c.send("POST", "/api/evaluate/finishes", broken); status != 422 || !strings.Contains(answer, field) {
			t.Errorf("%s: answers %d %s", field, status, answer)
		}
	}
}

func TestFrontTeethAreChartedFromBothSides(t *testing.T) {
	c := signedIn(t, "dentist")
	for tooth, want := range map[string]int{"12": 2, "83": 2, "46": 1} {
		status, answer := c.send("GET", "/api/teeth/"+tooth+"/chart", "")
		var chart ToothChart
		if err := json.Unmarshal([]byte(answer), &chart); err != nil || status != 200 {
			t.Fatalf("answers %d %.200s", status, answer)
		}
		sites := map[document.Site]bool{}
		for _, v := range chart.Views {
			for _, s := range v.Sites {
				if sites[s.Site] {
					t.Errorf("%s: %s is offered twice", tooth, s.Site)
				}
				sites[s.Site] = true
				if b := v.View.Bounds; s.X < b[0] || s.X > b[2] || s.Y < b[1] || s.Y > b[3] {
					t.Errorf("%s: %s lies beside its drawing", tooth, s.Site)
				}
			}
		}
		if len(chart.Views) != want || !sites["mesial"] || !sites["buccal"] || !sites["lingual"] {
			t.Errorf("%s: %d views with %v", tooth, len(chart.Views), sites)
		}
	}
}

// What can be found, where, and what can be said of it comes from the core; the
// page only shows it.
func TestTheChartSaysWhatCanBeFoundWhere(t *testing.T) {
	c := signedIn(t, "dentist")
	for _, k := range []struct {
		tooth, start string
		contacts     bool
		has          map[string]string // kind at site: a field asked for
		hasNot       []string
	}{
		{"46", "fissure_caries central", true, map[string]string{"old_restoration distal": "missing_neighbours", "cervical_caries buccal": "over_neck_mm", "proximal_caries mesial": "bitewing"}, []string{"fracture mesial_incisal", "pit_caries lingual_pit"}},
		{"12", "proximal_caries mesial", false, map[string]string{"proximal_caries distal": "opens", "fracture distal_incisal": "missing_neighbours", "pit_caries lingual_pit": "depth"}, []string{"fissure_caries central", "undermined_cusp mesiobuccal"}},
		{"16", "fissure_caries central", true, map[string]string{"fissure_caries distolingual_groove": "depth", "old_restoration lingual_pit": "fault"}, nil},
	} {
		status, answer := c.send("GET", "/api/teeth/"+k.tooth+"/chart", "")
		var chart ToothChart
		if err := json.Unmarshal([]byte(answer), &chart); err != nil || status != 200 {
			t.Fatalf("answers %d %.200s", status, answer)
		}
		offered := map[string]string{}
		for _, kind := range chart.Kinds {
			for _, site := range kind.Sites {
				offered[string(kind.Kind)+" "+string(site.Site)] = fmt.Sprint(site.Fields)
			}
		}
		for at, field := range k.has {
			if !strings.Contains(offered[at], field) {
				t.Errorf("%s: %s is asked for %q, not %s", k.tooth, at, offered[at], field)
			}
		}
		for _, at := range k.hasNot {
			if _, is := offered[at]; is {
				t.Errorf("%s: %s is offered", k.tooth, at)
			}
		}
		if start := string(chart.Start.Kind) + " " + string(chart.Start.Site); start != k.start || chart.Contacts != k.contacts {
			t.Errorf("%s starts from %s, contacts %v", k.tooth, start, chart.Contacts)
		}
	}
}

func TestIntakeStartsFromTheCoresProposal(t *testing.T) {
	c := signedIn(t, "dentist")
	for patient, says := range map[string]string{
		`{"age_years":10,"isolation":"doubtful"}`:     "under 15",
		`{"age_years":44,"kidney_disease":true}`:      "kidney disease",
		`{"age_years":44,"isolation":"none"}`:         "moisture",
		`{"age_years":44,"mercury_sensitivity":true}`: "mercury",
	} {
		status, answer := c.send("POST", "/api/advice", `{"schema":"obturon.case/1","tooth":"46","patient":`+patient+`,"findings":[{"kind":"fissure_caries","site":"central","depth":"outer_dentin"}]}`)
		var p document.Proposal
		if err := json.Unmarshal([]byte(answer), &p); err != nil || status != 200 || !strings.Contains(p.Reason, says) || p.School == "" || p.Material == "" {
			t.Errorf("%s: answers %d %s", patient, status, answer)
		}
	}
	if status, answer := c.send("POST", "/api/advice", `{"schema":"obturon.case/1","tooth":"46","patient":{},"findings":[]}`); status != 422 || !strings.Contains(answer, "age_years") {
		t.Errorf("answers %d %s", status, answer)
	}
}
