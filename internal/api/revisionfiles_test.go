package api

import (
	"bytes"
	"compress/zlib"
	"context"
	"fmt"
	"io"
	"os"
	"path"
	"regexp"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"

	"obturon/core/notation"
	"obturon/internal/document"
)

// behind runs statements behind the server's back, and gives the connection.
func behind(t *testing.T, statements ...string) *pgx.Conn {
	t.Helper()
	ctx := context.Background()
	conn, err := pgx.Connect(ctx, os.Getenv("OBTURON_TEST_DATABASE"))
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() { _ = conn.Close(ctx) })
	for _, s := range append([]string{"set session_replication_role = replica"}, statements...) { // no trigger keeps it from anything
		if _, err := conn.Exec(ctx, s); err != nil {
			t.Fatalf("%s: %v", s, err)
		}
	}
	return conn
}

var (
	stream       = regexp.MustCompile(`(?s)stream\n(.*?)\nendstream`)
	embeddedFont = regexp.MustCompile(`base64,[A-Za-z0-9+/=]+`)
)

// shown is what a document shows: of a PDF its pages, of a drawing all but its fonts, which
// hold the time at which they were embedded.
func shown(t *testing.T, file, content string) string {
	t.Helper()
	switch path.Ext(file) {
	case ".svg":
		return embeddedFont.ReplaceAllString(content, "")
	case ".pdf":
		var pages strings.Builder
		for _, found := range stream.FindAllStringSubmatch(content, -1) {
			r, err := zlib.NewReader(strings.NewReader(found[1]))
			if err != nil {
				continue
			}
			if page, _ := io.ReadAll(r); bytes.Contains(page, []byte(" Tf")) {
				pages.Write(page)
			}
		}
		if pages.Len() == 0 {
			t.Fatalf("%s has no pages", file)
		}
		return pages.String()
	default:
		return content
	}
}

var revisionFiles = []string{
	"plan.json", "case.json", "card.pdf", "card-letter.pdf", "tray.pdf", "drawing.svg", "drawing.png", "steps.csv", "steps.json",
	"prepared.stl", "cavity.obj", "filling.ply",
}

// Everything that can be changed is changed after a revision was fixed: each of its documents
// stays as it was, also where it is made only then; the draft's follow.
func TestWhatIsFixedStaysFixed(t *testing.T) {
	_, c := member(t, practiceOf(t), document.Dentist)
	put := func(path, body string, headers ...string) {
		t.Helper()
		if status, answer := c.send("PUT", path, body, headers...); status != 200 {
			t.Fatalf("%s answers %d %.300s", path, status, answer)
		}
	}
	status, body := c.send("POST", "/api/schools", `{"base":"adhesive","name":"Bench"}`)
	rules := decoded[HouseRules](t, 201, status, body)
	put("/api/products", `{"version":0,"products":[{"kind":"packable","name":"Ours","figures":{"cure_depth_mm":1.8}}]}`)
	start := func(tooth, answer, finding string) string {
		body := fmt.Sprintf(`{"patient":{"code":"HV-933","birth_year":%d},"confirmation":{"method":"count","answer":"%s"},"document":{"schema":"obturon.case/1","tooth":"%s","patient":{"age_years":34},"findings":[%s],"choice":{"material":"composite","school":"%s"}}}`, bornIn, answer, tooth, finding, rules.Id)
		status, made := c.send("POST", "/api/cases", body)
		return "/api/cases/" + decoded[Case](t, 201, status, made).Id.String()
	}
	base := start("43", "lower right 3", `{"kind":"cervical_caries","site":"buccal","depth":"outer_dentin"}`)
	status, body = c.send("POST", base+"/revisions", "", version(1)...)
	fixed := decoded[Revision](t, 201, status, body)

	get := func(file, query string) string {
		t.Helper()
		status, content := c.send("GET", base+"/files/"+file+query, "")
		if status != 200 {
			t.Fatalf("%s%s answers %d %.300s", file, query, status, content)
		}
		return content
	}
	then, draft := map[string]string{}, map[string]string{}
	for _, file := range revisionFiles {
		then[file], draft[file] = get(file, "?revision=1"), get(file, "")
	}

	put("/api/products", `{"version":1,"products":[{"kind":"packable","name":"Theirs","figures":{"cure_depth_mm":1}},{"kind":"lamp","name":"Lamp two","readings":[{"on":"2026-11-01","output":500}]}]}`)
	put("/api/kit", `{"version":0,"kit":{"schema":"obturon.kit/1","items":[{"instrument":"micro-diamond","pieces":0},{"instrument":"2","pieces":0}]}}`)
	put("/api/strength-constants", `{"version":0,"own":[{"id":"dentin","value":12,"source":"our own bench"}]}`)
	put("/api/schools/"+rules.Id, strings.Replace(string(rules.Document), `"name":"Bench"`, `"name":"Other bench"`, 1))
	put(base+"/draft", strings.Replace(string(fixed.Document), `"outer_dentin"`, `"middle_dentin"`, 1), version(1)...)
	id := strings.TrimPrefix(base, "/api/cases/")
	behind(t, "update practice set name = 'Another name' where id = (select practice_id from dental_case where id = '"+id+"')")

	for _, file := range revisionFiles {
		if get(file, "?revision=1") != then[file] {
			t.Errorf("%s of the revision is not the same bytes", file)
		}
	}
	// So does what the sheet asks of it.
	for query, product := range map[string]string{"": "Theirs", "&revision=1": "Ours"} {
		status, body := c.send("POST", "/api/evaluate/filling?case="+id+query, string(mustJSON(t, fixed.Document)))
		if filled := decoded[FilledCase](t, 200, status, body); !slices.ContainsFunc(filled.Fill[0].Parts[0].Increments, func(i document.FillIncrement) bool { return i.Product == product }) {
			t.Errorf("asked with %q it is laid in %+v, want %s", query, filled.Fill[0].Parts[0].Increments, product)
		}
	}
	behind(t, "delete from revision_file where revision_id in (select id from plan_revision where case_id = '"+id+"')")
	for _, file := range revisionFiles {
		if shown(t, file, get(file, "?revision=1")) != shown(t, file, then[file]) {
			t.Errorf("made anew, %s of the revision is another one", file)
		}
		if shown(t, file, get(file, "")) == shown(t, file, draft[file]) {
			t.Errorf("%s of the draft does not follow", file)
		}
	}

	// What cannot be made from what was fixed is refused with the reason.
	behind(t, "delete from revision_file where revision_id in (select id from plan_revision where case_id = '"+id+"')")
	refused := func(file, why string) {
		t.Helper()
		if status, answer := c.send("GET", base+"/files/"+file+"?revision=1", ""); status != 409 || !strings.Contains(answer, why) {
			t.Errorf("%s answers %d %.300s, want a word of %q", file, status, answer, why)
		}
	}
	refused("sitting.pdf", "drafts of several teeth")
	of := " where case_id = '" + id + "'"
	behind(t, "update plan_revision set core_version = '0.1'"+of)
	refused("card.pdf", "fixed by version 0.1")
	behind(t, "update plan_revision set core_version = '"+fixed.Plan.Core+"', plan_document = jsonb_set(plan_document, '{volumes,cavity}', '1')"+of)
	refused("drawing.svg", "other figures than its plan.json")
	behind(t, "update plan_revision set basis = null"+of)
	refused("tray.pdf", "before its kit, materials and rules were kept")
	if get("case.json", "?revision=1") != then["case.json"] {
		t.Error("case.json is another one")
	}
}

// The boxes of other teeth that were open towards it belong to what a revision rests on.
func TestARevisionKnowsTheBoxesThatFacedIt(t *testing.T) {
	_, c := member(t, practiceOf(t), document.Dentist)
	start := func(tooth, answer, side string) string {
		body := fmt.Sprintf(`{"patient":{"code":"HV-934","birth_year":%d},"confirmation":{"method":"count","answer":"%s"},"document":{"schema":"obturon.case/1","tooth":"%s","patient":{"age_years":34},"findings":[{"kind":"proximal_caries","site":"%s","depth":"outer_dentin"}],"choice":{"material":"composite","school":"adhesive","form":"slot"}}}`, bornIn, answer, tooth, side)
		status, made := c.send("POST", "/api/cases", body)
		return "/api/cases/" + decoded[Case](t, 201, status, made).Id.String()
	}
	base := start("45", "lower right 5", "distal")
	facing := start("46", "lower right 6", "mesial")
	status, body := c.send("POST", base+"/revisions", "", version(1)...)
	decoded[Revision](t, 201, status, body)
	if status, _ := c.send("DELETE", facing, ""); status != 204 {
		t.Fatalf("archiving the adjacent tooth answers %d", status)
	}
	id := uuid.MustParse(strings.TrimPrefix(base, "/api/cases/"))
	var practice uuid.UUID
	kept := behind(t)
	if err := kept.QueryRow(context.Background(), "select practice_id from dental_case where id = $1", id).Scan(&practice); err != nil {
		t.Fatal(err)
	}
	fixed, err := testStore.Revision(context.Background(), practice, id, 1)
	if err != nil {
		t.Fatal(err)
	}
	one, err := fixedOn(fixed)
	if err != nil {
		t.Fatal(err)
	}
	if len(one.facing) != 1 || one.facing[0].Tooth.String() != "46" || one.facing[0].Side != notation.Distal {
		t.Errorf("boxes %+v faced it", one.facing)
	}
}

// A draft may name a version of house rules itself: its revision is drawn like any other.
func TestARevisionOfAnOlderVersionOfTheRulesIsDrawn(t *testing.T) {
	_, c := member(t, practiceOf(t), document.Dentist)
	status, body := c.send("POST", "/api/schools", `{"base":"adhesive","name":"Bench"}`)
	rules := decoded[HouseRules](t, 201, status, body)
	if status, answer := c.send("PUT", "/api/schools/"+rules.Id, strings.Replace(string(rules.Document), `"name":"Bench"`, `"name":"Other bench"`, 1)); status != 200 {
		t.Fatalf("changing the rules answers %d %.300s", status, answer)
	}
	body = fmt.Sprintf(`{"patient":{"code":"HV-935","birth_year":%d},"confirmation":{"method":"count","answer":"lower right 3"},"document":{"schema":"obturon.case/1","tooth":"43","patient":{"age_years":34},"findings":[{"kind":"cervical_caries","site":"buccal","depth":"outer_dentin"}],"choice":{"material":"composite","school":"%s.1"}}}`, bornIn, rules.Id)
	status, body = c.send("POST", "/api/cases", body)
	base := "/api/cases/" + decoded[Case](t, 201, status, body).Id.String()
	status, body = c.send("POST", base+"/revisions", "", version(1)...)
	if fixed := decoded[Revision](t, 201, status, body); fixed.Plan.SchoolVersion != "1" {
		t.Errorf("version %s of the rules is fixed, the draft names 1", fixed.Plan.SchoolVersion)
	}
	if status, answer := c.send("GET", base+"/files/drawing.svg?revision=1", ""); status != 200 {
		t.Errorf("its drawing answers %d %.300s", status, answer)
	}
}

// The documents of a revision are made as soon as it is fixed: a later version of the core hands
// them out as they are.
func TestARevisionIsPrintedWhenItIsFixed(t *testing.T) {
	_, c := member(t, practiceOf(t), document.Dentist)
	dental := decoded[Case](t, 201, 201, mustCreate(t, c, "HV-977", cervicalDocument))
	base := "/api/cases/" + dental.Id.String()
	status, body := c.send("POST", base+"/revisions", "", version(1)...)
	decoded[Revision](t, 201, status, body)
	last := printed[len(printed)-1] // whoever is quicker than the printer takes nothing from it
	if status, answer := c.send("GET", base+"/files/"+last+"?revision=1", ""); status != 200 {
		t.Fatalf("%s answers %d %.200s", last, status, answer)
	}
	ctx, stop := context.WithCancel(t.Context())
	defer stop()
	o := testOptions
	o.Background = ctx
	if _, err := Handler(o); err != nil { // it finds what nobody has printed, newest first
		t.Fatal(err)
	}
	kept := behind(t)
	made := 0
	for waited := 0; made < len(printed) && waited < 3000; waited++ {
		if err := kept.QueryRow(ctx, "select count(*) from revision_file f join plan_revision r on r.id = f.revision_id where r.case_id = $1", dental.Id).Scan(&made); err != nil {
			t.Fatal(err)
		}
		time.Sleep(100 * time.Millisecond)
	}
	if made != len(printed) {
		t.Fatalf("%d of %d documents are made", made, len(printed))
	}
	stop()
	if _, err := kept.Exec(context.Background(), "update plan_revision set core_version = '0.1' where case_id = $1", dental.Id); err != nil {
		t.Fatal(err)
	}
	for _, file := range printed {
		if status, answer := c.send("GET", base+"/files/"+file+"?revision=1", ""); status != 200 || answer == "" {
			t.Errorf("%s answers %d %.200s after an update of the core", file, status, answer)
		}
	}
}
