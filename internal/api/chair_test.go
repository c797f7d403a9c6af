package api

import (
	"encoding/json"
	"fmt"
	"os"
	"strings"
	"testing"

	"github.com/google/uuid"

	"obturon/core/procedure"
	"obturon/internal/document"
)

const cervicalDocument = `{"schema":"obturon.case/1","tooth":"46","patient":{"age_years":34},
 "findings":[{"kind":"cervical_caries","site":"buccal","depth":"outer_dentin"}],"choice":{"material":"composite","school":"adhesive"}}`

func decoded[T any](t *testing.T, wanted int, status int, body string) T {
	t.Helper()
	var v T
	if status != wanted {
		t.Fatalf("answers %d %.300s", status, body)
	}
	if err := json.Unmarshal([]byte(body), &v); err != nil {
		t.Fatal(err)
	}
	return v
}

// A sequence is proven, drawn step by step, and gone through at the chair.
func TestASequenceIsProvenAndGoneThrough(t *testing.T) {
	practice := practiceOf(t)
	_, c := member(t, practice, document.Dentist)
	_, other := member(t, practice, document.Dentist)

	status, body := c.send("POST", "/api/evaluate/sequence", cervicalDocument)
	sequence := decoded[ProvenSequence](t, 200, status, body)
	if len(sequence.Steps) < 4 || len(sequence.Cavities) != 1 || len(sequence.Cavities[0].Unproven) != 0 {
		t.Fatalf("the sequence is %.500s", body)
	}
	cut := 0
	for _, s := range sequence.Steps {
		if s.Cut != nil {
			cut++
		}
	}
	if left := sequence.Cavities[0].LeftMm3; cut < 2 || left > 0.1 {
		t.Errorf("%d steps cut, and leave %v mm³", cut, left)
	}
	status, body = c.send("POST", "/api/evaluate/sequence/stage?step=2", cervicalDocument)
	if stage := decoded[Stage](t, 200, status, body); len(stage.Views) != 3 || stage.Mesh.Triangles == 0 {
		t.Errorf("a stage has %d views, %d triangles", len(stage.Views), stage.Mesh.Triangles)
	}
	if status, body = c.send("POST", "/api/evaluate/sequence/stage?step=90", cervicalDocument); status != 422 || !strings.Contains(body, "there is no step 90") {
		t.Errorf("a stage that there is not answers %d %.200s", status, body)
	}

	dental := decoded[Case](t, 201, 201, mustCreate(t, c, "HV-975", cervicalDocument))
	status, body = c.send("POST", fmt.Sprintf("/api/cases/%s/revisions", dental.Id), "", "If-Match", "1")
	decoded[Revision](t, 201, status, body)
	status, body = c.send("GET", fmt.Sprintf("/api/cases/%s/files/plan.json?revision=1", dental.Id), "")
	if fixed := decoded[document.Plan](t, 200, status, body); fixed.Proven == nil || len(fixed.Proven.Steps) != len(sequence.Steps) {
		t.Errorf("the revision does not hold what was proven: %.300s", body)
	}
	runs := fmt.Sprintf("/api/cases/%s/runs", dental.Id)
	key := []string{"Idempotency-Key", "7b0b5d1e-0000-4000-8000-00000000c0de"}
	status, body = c.send("POST", runs, `{}`, key...)
	run := decoded[ChairRun](t, 201, status, body)
	status, body = c.send("POST", runs, `{}`, key...)
	if again := decoded[ChairRun](t, 201, status, body); again.Id != run.Id {
		t.Error("the same request begins another run")
	}
	events := fmt.Sprintf("%s/%s/events", runs, run.Id)
	kept := func(list string) ChairState {
		status, body := c.send("POST", events, list)
		return decoded[ChairState](t, 200, status, body)
	}
	kept(`[{"id":"00000000-0000-4000-8000-000000000001","kind":"done","step":0,"at_seconds":30},{"id":"00000000-0000-4000-8000-000000000002","kind":"too_deep","step":1,"at_seconds":40,"mm":0.4}]`)
	state := kept(`[{"id":"00000000-0000-4000-8000-000000000002","kind":"too_deep","step":1,"at_seconds":40,"mm":0.4},{"id":"00000000-0000-4000-8000-000000000003","kind":"skipped","step":1,"at_seconds":50}]`)
	if state.Step != 2 || state.Seconds != 50 || len(state.Sequels) != 1 || !strings.Contains(state.Sequels[0].Text, "0.4 mm too deep") || !state.Steps[1].Skipped {
		t.Errorf("the run stands at %+v", state)
	}
	for name, wrong := range map[string]string{
		"no such step":  `[{"id":"00000000-0000-4000-8000-000000000004","kind":"done","step":98,"at_seconds":60}]`,
		"no such kind":  `[{"id":"00000000-0000-4000-8000-000000000004","kind":"slept","step":1,"at_seconds":60}]`,
		"before it all": `[{"id":"00000000-0000-4000-8000-000000000004","kind":"done","step":1,"at_seconds":-1}]`,
		"no id":         `[{"id":"first","kind":"done","step":1,"at_seconds":60}]`,
		"nothing":       `[]`,
	} {
		if status, body := c.send("POST", events, wrong); status != 422 {
			t.Errorf("%s: answers %d %.200s", name, status, body)
		}
	}
	if status, body := other.send("POST", events, `[{"id":"00000000-0000-4000-8000-000000000004","kind":"done","step":1,"at_seconds":60}]`); status != 403 {
		t.Errorf("somebody else's run answers %d %.200s", status, body)
	}
	if status, body := c.send("POST", events, `[{"id":"00000000-0000-4000-8000-000000000003","kind":"done","step":1,"at_seconds":50}]`); status != 409 || !strings.Contains(body, "$[0].id") {
		t.Errorf("an event of the same id with other content: %d %s", status, body)
	}
	kept(`[{"id":"00000000-0000-4000-8000-000000000004","kind":"finished","step":2,"at_seconds":70}]`)
	// A window that was cut off meanwhile still has a note.
	if late := kept(`[{"id":"00000000-0000-4000-8000-000000000005","kind":"pulp_seen","step":1,"at_seconds":65}]`); len(late.Sequels) != 2 || !late.Finished {
		t.Errorf("after a late note: %+v", late)
	}
	status, body = other.send("GET", runs, "")
	if list := decoded[[]ChairRunSummary](t, 200, status, body); len(list) != 1 || list[0].Own || !list[0].Finished || list[0].Slips != 2 {
		t.Errorf("listed are %+v", list)
	}
	// What a step took is the past of the next run.
	status, body = c.send("POST", runs, `{"examination":true,"limit_minutes":45}`)
	next := decoded[ChairRun](t, 201, status, body)
	if next.PastSeconds[0] != 30 || next.PastSeconds[1] != 0 || !next.Examination || next.LimitMinutes != 45 || len(next.Events) != 0 {
		t.Errorf("the next run: past %v, %+v", next.PastSeconds, next.State)
	}
}

func mustCreate(t *testing.T, c client, code, doc string) string {
	t.Helper()
	body := strings.Replace(newCaseBody(code, "lower right 6"), caseDocument, doc, 1)
	status, answer := c.send("POST", "/api/cases", body)
	if status != 201 {
		t.Fatalf("creating answers %d %.300s", status, answer)
	}
	return answer
}

// A run that was begun before steps had kinds opens, and tells how long its steps took.
func TestARunOfBeforeOpens(t *testing.T) {
	_, c := member(t, practiceOf(t), document.Dentist)
	dental := decoded[Case](t, 201, 201, mustCreate(t, c, "HV-979", cervicalDocument))
	runs := fmt.Sprintf("/api/cases/%s/runs", dental.Id)
	status, body := c.send("POST", runs, `{}`)
	before := decoded[ChairRun](t, 201, status, body)
	text, err := os.ReadFile("../document/testdata/runs-before-kinds.json")
	if err != nil {
		t.Fatal(err)
	}
	var stored []json.RawMessage
	if err := json.Unmarshal(text, &stored); err != nil {
		t.Fatal(err)
	}
	if _, err := behind(t).Exec(t.Context(), "update chair_run set sequence = $1 where id = $2", string(stored[0]), before.Id); err != nil {
		t.Fatal(err)
	}
	own := runs + "/" + before.Id.String()
	events := fmt.Sprintf(`[{"id":"%s","kind":"done","step":0,"at_seconds":42},{"id":"%s","kind":"finished","step":1,"at_seconds":50}]`, uuid.New(), uuid.New())
	if status, body := c.send("POST", own+"/events", events); status != 200 {
		t.Fatalf("its events answer %d %.200s", status, body)
	}
	status, body = c.send("GET", own, "")
	if run := decoded[ChairRun](t, 200, status, body); len(run.Sequence.Steps) != 29 || run.Sequence.Steps[2].Step != "Prove it numb" || run.Sequence.Steps[2].Kind != procedure.ConfirmAnaesthesia {
		t.Errorf("it has %d steps, the third %+v", len(run.Sequence.Steps), run.Sequence.Steps[2])
	}
	status, body = c.send("POST", runs, `{}`)
	if next := decoded[ChairRun](t, 201, status, body); next.PastSeconds[0] != 42 || next.PastSeconds[1] != 0 {
		t.Errorf("steps took before %v", next.PastSeconds)
	}
}
