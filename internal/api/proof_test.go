package api

import (
	"encoding/json"
	"fmt"
	"net/http/httptest"
	"testing"
	"time"

	"obturon/internal/document"
	"obturon/internal/plan"
	"obturon/internal/store"
)

// atServer is a client at a server of its own, which remembers nothing.
func atServer(t *testing.T, c client) client {
	t.Helper()
	o := testOptions
	o.Planner = plan.NewPlanner()
	handler, err := Handler(o)
	if err != nil {
		t.Fatal(err)
	}
	server := httptest.NewServer(handler)
	t.Cleanup(server.Close)
	c.at = server.URL
	return c
}

// Whoever asks for a proof first, it is told how far it is; once it is made it is read, also by
// a server that has never cut anything.
func TestAProofIsKept(t *testing.T) {
	_, c := member(t, practiceOf(t), document.Dentist)
	text := fmt.Sprintf(`{"schema":"obturon.case/1","tooth":"34","patient":{"age_years":%d},"findings":[{"kind":"cervical_caries","site":"buccal","depth":"outer_dentin"}],"choice":{"material":"composite","school":"adhesive"}}`, 41)
	status, body := c.send("POST", "/api/evaluate/sequence?wait=0", text)
	if share := decoded[ProofShare](t, 202, status, body); share.Share < 0 || share.Share >= 1 {
		t.Errorf("at first %v of it is made", share.Share)
	}
	status, body = c.send("POST", "/api/evaluate/sequence", text)
	made := decoded[ProvenSequence](t, 200, status, body)

	elsewhere := atServer(t, c)
	status, body = elsewhere.send("POST", "/api/evaluate/sequence?wait=0", text)
	if again := decoded[ProvenSequence](t, 200, status, body); len(again.Steps) != len(made.Steps) || again.Steps[3].Action != made.Steps[3].Action {
		t.Errorf("%d steps are read, %d were proven", len(again.Steps), len(made.Steps))
	}
	// Another practice has its own.
	_, other := member(t, practiceOf(t), document.Dentist)
	if status, body := other.send("POST", "/api/evaluate/sequence?wait=0", text); status != 202 {
		t.Errorf("another practice's answers %d %.100s", status, body)
	}
}

// The chair, the tray and the filling go by the kept proof: none is cut anew for them.
func TestTheChairBeginsAtTheProof(t *testing.T) {
	_, c := member(t, practiceOf(t), document.Dentist)
	dental := decoded[Case](t, 201, 201, mustCreate(t, c, "HV-976", cervicalDocument))
	status, body := c.send("POST", "/api/evaluate/sequence", string(mustJSON(t, dental.Document)))
	proven := decoded[ProvenSequence](t, 200, status, body)

	elsewhere := atServer(t, c)
	if status, body := elsewhere.send("POST", "/api/evaluate/filling", string(mustJSON(t, dental.Document))); status != 200 { // models the tooth
		t.Fatalf("the filling answers %d %.200s", status, body)
	}
	before := time.Now()
	status, body = elsewhere.send("POST", fmt.Sprintf("/api/cases/%s/runs", dental.Id), `{}`)
	run := decoded[ChairRun](t, 201, status, body)
	t.Logf("begun in %v", time.Since(before))
	cut := 0
	for _, s := range run.Sequence.Steps {
		if s.Cut != nil && s.Action != proven.Steps[s.Shown-1].Action {
			t.Errorf("%s at the chair is not what was proven", s.Id)
		}
		if s.Cut != nil {
			cut++
		}
	}
	if cut < 2 || len(run.Sequence.Cavities) != 1 {
		t.Errorf("%d steps cut", cut)
	}
}

// A draft is proven at night: whoever opens it in the morning reads the kept proof.
func TestDraftsAreProvenBeforeTheDay(t *testing.T) {
	_, c := member(t, practiceOf(t), document.Dentist)
	dental := decoded[Case](t, 201, 201, mustCreate(t, c, "HV-978", cervicalDocument))
	drafts, err := testStore.ChangedSince(t.Context(), time.Now().Add(-time.Hour))
	if err != nil {
		t.Fatal(err)
	}
	o := testOptions
	s, err := newServer(o)
	if err != nil {
		t.Fatal(err)
	}
	for n := range drafts {
		if drafts[n].ID == dental.Id {
			if err := s.proveDraft(t.Context(), &drafts[n]); err != nil {
				t.Error(err)
			}
		}
	}
	if status, body := atServer(t, c).send("POST", "/api/evaluate/sequence?wait=0", string(mustJSON(t, dental.Document))); status != 200 {
		t.Errorf("in the morning it answers %d %.100s", status, body)
	}
	var priority int
	err = testStore.SQL().QueryRowContext(t.Context(), "select priority from job where kind = 'proof' order by started_at desc limit 1").Scan(&priority)
	if err != nil || priority != int(store.Batch) {
		t.Errorf("the night's proof has priority %d, %v: those who look come first", priority, err)
	}
	for hour, night := range map[int]bool{2: false, 3: true, 5: true, 6: false, 14: false} {
		if atNight(time.Date(2026, 12, 1, hour, 30, 0, 0, time.Local)) != night {
			t.Errorf("at %d it is night: %v", hour, !night)
		}
	}
}

func mustJSON(t *testing.T, v any) []byte {
	t.Helper()
	data, err := json.Marshal(v)
	if err != nil {
		t.Fatal(err)
	}
	return data
}
