package api

import (
	"fmt"
	"slices"
	"strings"
	"testing"

	"obturon/core/instrument"
	"obturon/internal/document"
)

// The practice's kit is kept by those who keep its rules, cuts what is rehearsed, and is
// counted at the chair.
func TestAPracticesKitCutsAndIsCounted(t *testing.T) {
	practice := practiceOf(t)
	_, c := member(t, practice, document.Dentist)
	_, learner := member(t, practice, document.Learner)
	_, elsewhere := member(t, practiceOf(t), document.Dentist)

	status, body := c.send("GET", "/api/kit", "")
	if k := decoded[PracticeKit](t, 200, status, body); k.Version != 0 || len(k.Kit.Items) != 0 {
		t.Fatalf("before anything is written: %s", body)
	}
	kit := func(version int, items string) string {
		return fmt.Sprintf(`{"version":%d,"kit":{"schema":"obturon.kit/1","items":[%s]}}`, version, items)
	}
	for name, wrong := range map[string]struct {
		body, says string
		by         client
		status     int
	}{
		"a learner":        {kit(0, ""), "Ask a teacher or a dentist", learner, 403},
		"another's width":  {kit(0, `{"instrument":"330","width_mm":1.4}`), "$.kit.items[0].width_mm", c, 422},
		"no instrument":    {kit(0, `{"instrument":"331"}`), "instrument", c, 422},
		"a later version":  {kit(7, ""), "changed meanwhile", c, 409},
		"no kit":           {`{"version":0}`, "kit", c, 422},
		"another document": {`{"version":0,"kit":{"schema":"obturon.case/1","items":[]}}`, "schema", c, 422},
	} {
		if status, body := wrong.by.send("PUT", "/api/kit", wrong.body); status != wrong.status || !strings.Contains(body, wrong.says) {
			t.Errorf("%s: answers %d %.300s", name, status, body)
		}
	}
	status, body = c.send("PUT", "/api/kit", kit(0, `{"instrument":"micro-diamond","pieces":0},{"instrument":"330","pieces":1,"uses_each":1,"uses_left":1}`))
	if k := decoded[PracticeKit](t, 200, status, body); k.Version != 1 || len(k.Notes) != 2 || !k.Notes[0].Out || k.Notes[1].Out {
		t.Fatalf("kept is %s", body)
	}

	status, body = c.send("POST", "/api/evaluate/sequence", cervicalDocument)
	ours := decoded[ProvenSequence](t, 200, status, body)
	at, lacks := -1, ""
	for n, s := range ours.Steps {
		for _, id := range s.Instruments {
			if id == instrument.MicroDiamond {
				t.Errorf("%s takes up what is used up", s.Step)
			}
			if id == instrument.Pear {
				at = n
			}
		}
		lacks += s.Lack
	}
	if at < 0 || !strings.Contains(lacks, "micro-diamond") {
		t.Fatalf("the pear does not stand in: %q", lacks)
	}
	status, body = elsewhere.send("POST", "/api/evaluate/sequence", cervicalDocument)
	for _, s := range decoded[ProvenSequence](t, 200, status, body).Steps {
		if s.Lack != "" {
			t.Errorf("another practice lacks %q", s.Lack)
		}
	}

	dental := decoded[Case](t, 201, 201, mustCreate(t, c, "HV-976", cervicalDocument))
	runs := fmt.Sprintf("/api/cases/%s/runs", dental.Id)
	status, body = c.send("POST", runs, `{}`)
	run := decoded[ChairRun](t, 201, status, body)
	if !slices.Equal(run.MadeWith, []string{"kit version 1"}) {
		t.Errorf("the run is made with %q", run.MadeWith)
	}
	events := fmt.Sprintf("%s/%s/events", runs, run.Id)
	// What makes the tooth numb and dry comes before its first cut.
	at = slices.IndexFunc(run.Sequence.Steps, func(s document.Step) bool { return s.Shown == at+1 })
	var done []string
	for n := range at + 1 {
		done = append(done, fmt.Sprintf(`{"id":"00000000-0000-4000-8000-%012d","kind":"done","step":%d,"at_seconds":%d}`, n+1, n, 30*(n+1)))
	}
	over := fmt.Sprintf(`{"id":"00000000-0000-4000-8000-%012d","kind":"finished","step":%d,"at_seconds":900}`, at+2, at+1)
	all := strings.Join(done, ",")
	for _, list := range []string{all, all + "," + over, over} {
		if status, body := c.send("POST", events, "["+list+"]"); status != 200 {
			t.Fatalf("keeping answers %d %.300s", status, body)
		}
	}
	status, body = c.send("GET", "/api/kit", "")
	if k := decoded[PracticeKit](t, 200, status, body); k.Version != 2 || len(k.Notes) != 2 || !k.Notes[1].Out || *k.Kit.Items[1].Pieces != 0 {
		t.Errorf("after the run: %s", body)
	}
	// What is fixed names the version of its day, whatever is kept later.
	status, body = c.send("POST", fmt.Sprintf("/api/cases/%s/revisions", dental.Id), "", "If-Match", fmt.Sprintf("%q", fmt.Sprint(dental.Version)))
	decoded[Revision](t, 201, status, body)
	if status, body := c.send("PUT", "/api/kit", kit(2, "")); status != 200 {
		t.Errorf("a later kit: %d %.200s", status, body)
	}
	status, body = c.send("GET", fmt.Sprintf("/api/cases/%s/revisions/1", dental.Id), "")
	if r := decoded[Revision](t, 200, status, body); !slices.Equal(r.MadeWith, []string{"kit version 2"}) {
		t.Errorf("the revision is made with %q", r.MadeWith)
	}
	if status, body := c.send("PUT", "/api/kit", kit(1, "")); status != 409 {
		t.Errorf("a change of the kit before the run answers %d %.200s", status, body)
	}
}
