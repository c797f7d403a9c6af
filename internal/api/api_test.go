package api

import (
	"cmp"
	"context"
	"encoding/json"
	"fmt"
	"io"
	"net/http"
	"net/http/cookiejar"
	"net/http/httptest"
	"os"
	"strings"
	"testing"
	"testing/fstest"
	"time"

	"obturon/core/lesion"
	"obturon/core/pipeline"
	"obturon/internal/demo"
	"obturon/internal/job"
	"obturon/internal/pg/pgtest"
	"obturon/internal/plan"
	"obturon/internal/store"
)

var (
	testServer  *httptest.Server
	testStore   *store.Store
	testOptions Options
)

func TestMain(m *testing.M) {
	os.Exit(run(m))
}

func run(m *testing.M) int {
	ctx := context.Background()
	// The workers of a fuzz run share the database of the process that started them: a
	// worker that fills its own is still at it when the run is over.
	const shared = "OBTURON_TEST_DATABASE"
	url := os.Getenv(shared)
	fill := url == ""
	var err error
	if fill {
		var stop func()
		if url, stop, err = pgtest.Start(); err != nil {
			fmt.Fprintln(os.Stderr, err)
			return 1
		}
		defer stop()
		os.Setenv(shared, url)
	}
	if testStore, err = store.Open(ctx, url); err != nil {
		fmt.Fprintln(os.Stderr, err)
		return 1
	}
	defer testStore.Close()
	planner := plan.NewPlanner()
	if fill {
		if err := demo.Load(ctx, testStore, planner); err != nil {
			fmt.Fprintln(os.Stderr, err)
			return 1
		}
	}
	working, stopWorking := context.WithCancel(ctx)
	worked := make(chan struct{})
	go func() { // proofs are made by whoever works
		defer close(worked)
		if err := job.Run(working, testStore, planner, func(context.Context) {}); err != nil {
			fmt.Fprintln(os.Stderr, err)
		}
	}()
	defer func() {
		stopWorking()
		<-worked
	}()
	testOptions = Options{
		RequestLimit: 2 * time.Minute, // other packages are tested on the same processors
		Store:        testStore, Planner: planner,
		Site: fstest.MapFS{
			"index.html": {Data: []byte("<title>page</title>")}, "assets/a.js": {Data: []byte("1")},
			"assets/b.js": {Data: []byte("plain")}, "assets/b.js.br": {Data: []byte("brotli")}, "assets/b.js.gz": {Data: []byte("gzip")},
		},
		DemoSignIns: []DemoSignIn{{SignIn: "dentist", Password: "halvarra-demo", Name: "Dentist on duty", Role: "dentist"}},
	}
	handler, err := Handler(testOptions)
	if err != nil {
		fmt.Fprintln(os.Stderr, err)
		return 1
	}
	testServer = httptest.NewServer(handler)
	defer testServer.Close()
	return m.Run()
}

// client keeps a session of its own.
type client struct {
	t *testing.T
	*http.Client
	at string // another server than testServer, "" for that
}

func stranger(t *testing.T) client {
	jar, err := cookiejar.New(nil)
	if err != nil {
		t.Fatal(err)
	}
	return client{t: t, Client: &http.Client{Jar: jar}}
}

// sessions are kept from test to test: a name may only sign in so often.
var sessions = map[string]http.CookieJar{}

func signedIn(t *testing.T, name string) client {
	c := stranger(t)
	if jar := sessions[name]; jar != nil {
		c.Jar = jar
		return c
	}
	if status, body := c.send("POST", "/api/session", `{"sign_in":"`+name+`","password":"halvarra-demo"}`); status != 200 {
		t.Fatalf("sign-in answers %d %s", status, body)
	}
	sessions[name] = c.Jar
	return c
}

func (c client) send(method, path, body string, headers ...string) (int, string) {
	c.t.Helper()
	status, answer, _ := c.exchange(method, path, body, headers...)
	return status, answer
}

// exchange sends a request with headers, given as names and values in turn.
func (c client) exchange(method, path, body string, headers ...string) (int, string, http.Header) {
	c.t.Helper()
	r, err := http.NewRequest(method, cmp.Or(c.at, testServer.URL)+path, strings.NewReader(body))
	if err != nil {
		c.t.Fatal(err)
	}
	if body != "" {
		r.Header.Set("Content-Type", "application/json")
	}
	for n := 0; n+1 < len(headers); n += 2 {
		r.Header.Set(headers[n], headers[n+1])
	}
	answer, err := c.Do(r)
	if err != nil {
		c.t.Fatal(err)
	}
	defer answer.Body.Close()
	data, err := io.ReadAll(answer.Body)
	if err != nil {
		c.t.Fatal(err)
	}
	return answer.StatusCode, string(data), answer.Header
}

// version is the header that names a draft's version.
func version(n int) []string { return []string{"If-Match", fmt.Sprintf("%q", fmt.Sprint(n))} }

var bornIn = time.Now().Year() - 34

const caseDocument = `{"schema":"obturon.case/1","tooth":"46","patient":{"age_years":34},
 "findings":[{"kind":"fissure_caries","site":"central","depth":"outer_dentin"}],"choice":{"material":"amalgam","school":"board"}}`

func newCaseBody(code, answer string) string {
	return `{"patient":{"code":"` + code + `","birth_year":` + fmt.Sprint(bornIn) + `},"confirmation":{"method":"count","answer":"` + answer + `"},"document":` + caseDocument + `}`
}

func (c client) newCase(code string) Case {
	c.t.Helper()
	status, body := c.send("POST", "/api/cases", newCaseBody(code, "lower right 6"))
	if status != 201 {
		c.t.Fatalf("creating answers %d %s", status, body)
	}
	var made Case
	if err := json.Unmarshal([]byte(body), &made); err != nil {
		c.t.Fatal(err)
	}
	return made
}

func TestNothingWithoutASignIn(t *testing.T) {
	c := stranger(t)
	for _, path := range []string{"/api/cases", "/api/session", "/api/schools", "/api/teeth", "/api/cases/7b0b5d1e-0000-4000-8000-000000000000/files/card.pdf"} {
		if status, body := c.send("GET", path, ""); status != 401 || !strings.Contains(body, "not signed in") {
			t.Errorf("%s answers %d %s", path, status, body)
		}
	}
	if status, _ := c.send("POST", "/api/evaluate", caseDocument); status != 401 {
		t.Errorf("evaluate answers %d", status)
	}
	for _, path := range []string{"/api/health", "/api/demo-sign-ins"} {
		if status, _ := c.send("GET", path, ""); status != 200 {
			t.Errorf("%s answers %d", path, status)
		}
	}
}

func TestSignInAndOut(t *testing.T) {
	c := stranger(t)
	if status, body := c.send("POST", "/api/session", `{"sign_in":"dentist","password":"wrong"}`); status != 401 || !strings.Contains(body, "wrong") {
		t.Errorf("a wrong password answers %d %s", status, body)
	}
	if status, _ := c.send("POST", "/api/session", `{"sign_in":"nobody","password":"x"}`); status != 401 {
		t.Errorf("an unknown name answers %d", status)
	}
	c = stranger(t)
	if status, body := c.send("POST", "/api/session", `{"sign_in":"DENTIST","password":"halvarra-demo"}`); status != 200 {
		t.Fatalf("sign-in answers %d %s", status, body)
	}
	if status, body := c.send("GET", "/api/session", ""); status != 200 || !strings.Contains(body, "Halvarra") {
		t.Errorf("session answers %d %s", status, body)
	}
	c.send("DELETE", "/api/session", "")
	if status, _ := c.send("GET", "/api/session", ""); status != 401 {
		t.Errorf("after signing out: %d", status)
	}
}

func TestAnotherSiteCannotPost(t *testing.T) {
	r, err := http.NewRequest("POST", testServer.URL+"/api/session", strings.NewReader(`{}`))
	if err != nil {
		t.Fatal(err)
	}
	r.Header.Set("Sec-Fetch-Site", "cross-site")
	answer, err := http.DefaultClient.Do(r)
	if err != nil {
		t.Fatal(err)
	}
	answer.Body.Close()
	if answer.StatusCode != 403 {
		t.Errorf("answers %d", answer.StatusCode)
	}
}

func TestACaseFromStartToFiles(t *testing.T) {
	c := signedIn(t, "dentist")
	made := c.newCase("HV-902")
	base := "/api/cases/" + made.Id.String()
	changed := strings.Replace(caseDocument, `"choice"`, `"overrides":{"isthmus_width":1.3},"choice"`, 1)
	if status, body := c.send("PUT", base+"/draft", changed, version(1)...); status != 200 {
		t.Fatalf("saving answers %d %s", status, body)
	}
	status, body := c.send("POST", base+"/revisions", "", version(2)...)
	if status != 201 {
		t.Fatalf("fixing answers %d %s", status, body)
	}
	var fixed Revision
	if err := json.Unmarshal([]byte(body), &fixed); err != nil {
		t.Fatal(err)
	}
	if fixed.Number != 1 || fixed.Plan.Dimensions["isthmus_width"] != 1.3 || fixed.Plan.Core != pipeline.CoreVersion {
		t.Errorf("fixed %d with %v by %s", fixed.Number, fixed.Plan.Dimensions, fixed.Plan.Core)
	}
	// The draft moves on; the revision stays.
	c.send("PUT", base+"/draft", caseDocument, version(2)...)
	if _, body := c.send("GET", base+"/revisions/1", ""); !strings.Contains(body, `"isthmus_width":1.3`) {
		t.Error("the revision followed the draft")
	}
	for file, start := range map[string]string{
		"card.pdf": "%PDF-", "drawing.svg": "<svg", "prepared.stl": "obturon tooth 46, mm, x distal, y facial, z occlusal; prepared", "intact.stl": "obturon tooth 46",
		"cavity.stl": "obturon tooth 46", "filling.stl": "obturon tooth 46", "plan.json": "{", "case.json": "{",
		"steps.csv": "number,cavity,step,", "steps.json": "{",
	} {
		for _, query := range []string{"", "?revision=1"} {
			if status, body := c.send("GET", base+"/files/"+file+query, ""); status != 200 || !strings.HasPrefix(body, start) {
				t.Errorf("%s%s answers %d %.40q", file, query, status, body)
			}
		}
	}
	if status, _ := c.send("GET", base+"/files/card.pdf?revision=9", ""); status != 404 {
		t.Errorf("a missing revision answers %d", status)
	}
	if status, _ := c.send("DELETE", base, ""); status != 204 {
		t.Errorf("archiving answers %d", status)
	}
	if status, body := c.send("GET", base, ""); status != 200 || !strings.Contains(body, `"archived":true`) {
		t.Errorf("an archived case answers %d %s", status, body)
	}
	if status, _ := c.send("GET", base+"/revisions/1", ""); status != 200 {
		t.Errorf("a revision in the archive answers %d", status)
	}
	for name, answer := range map[string]func() (int, string){
		"a draft":    func() (int, string) { return c.send("PUT", base+"/draft", caseDocument, version(3)...) },
		"a revision": func() (int, string) { return c.send("POST", base+"/revisions", "", version(3)...) },
	} {
		if status, body := answer(); status != 409 || !strings.Contains(body, `"type":"archived"`) {
			t.Errorf("%s in the archive answers %d %s", name, status, body)
		}
	}
	if status, _ := c.send("POST", base+"/unarchive", ""); status != 204 {
		t.Errorf("bringing it back answers %d", status)
	}
	if _, list := c.send("GET", "/api/cases", ""); !strings.Contains(list, made.Id.String()) {
		t.Error("the case is not back on the day sheet")
	}
}

func TestTheToothStaysLockedUntilConfirmed(t *testing.T) {
	c := signedIn(t, "dentist")
	status, body := c.send("POST", "/api/cases", newCaseBody("HV-903", "lower left 6"))
	if status != 422 || !strings.Contains(body, "$.confirmation.answer") || !strings.Contains(body, "lower left first molar") {
		t.Errorf("answers %d %s", status, body)
	}
	if _, list := c.send("GET", "/api/cases", ""); strings.Contains(list, "HV-903") {
		t.Error("the refused case was kept")
	}
	made := c.newCase("HV-904")
	other := strings.Replace(caseDocument, `"46"`, `"36"`, 1)
	if status, body := c.send("PUT", "/api/cases/"+made.Id.String()+"/draft", other, version(1)...); status != 422 || !strings.Contains(body, "$.tooth") {
		t.Errorf("changing a confirmed tooth answers %d %s", status, body)
	}
}

func TestBadRequestsNameFieldAndRemedy(t *testing.T) {
	c := signedIn(t, "dentist")
	for _, k := range []struct {
		method, path, body string
		status             int
		want               string
	}{
		{"POST", "/api/evaluate", `{"tooth":"99"}`, 422, "$.tooth"},
		{"POST", "/api/evaluate", `not json`, 422, "invalid character"},
		{"POST", "/api/evaluate", ``, 422, "the file is empty"},
		{"POST", "/api/cases", `{"patient":{"code":"Somebody","birth_year":1}}`, 422, "$.patient.code"},
		{"GET", "/api/cases/not-a-case", ``, 404, "names nothing"},
		{"GET", "/api/cases/7b0b5d1e-0000-4000-8000-000000000000", ``, 404, "Not found"},
		{"GET", "/api/teeth/99", ``, 422, "names no tooth"},
		{"GET", "/api/nothing", ``, 404, "nothing at this address"},
		{"PATCH", "/api/cases", ``, 405, "method"},
	} {
		status, body := c.send(k.method, k.path, k.body)
		if status != k.status || !strings.Contains(body, k.want) {
			t.Errorf("%s %s answers %d %s, want %d with %q", k.method, k.path, status, body, k.status, k.want)
		}
		if !strings.Contains(body, `"title"`) {
			t.Errorf("%s %s is no problem document", k.method, k.path)
		}
	}
}

func TestEvaluationIsStatelessAndComplete(t *testing.T) {
	c := signedIn(t, "learner")
	status, body := c.send("POST", "/api/evaluate", caseDocument)
	if status != 200 {
		t.Fatalf("answers %d %s", status, body)
	}
	var e Evaluation
	if err := json.Unmarshal([]byte(body), &e); err != nil {
		t.Fatal(err)
	}
	if len(e.Views) != 3 || len(e.Plan.Checks) < 13 || len(e.Dimensions) == 0 || e.Mesh == nil || e.Mesh.Triangles < 2_000 {
		t.Errorf("%d views, %d checks, %d dimensions", len(e.Views), len(e.Plan.Checks), len(e.Dimensions))
	}
	for _, v := range e.Views {
		if len(v.Tags) == 0 || len(v.Layers) < 3 {
			t.Errorf("view %s has %d tags and %d layers", v.Id, len(v.Tags), len(v.Layers))
		}
	}
	status, body = c.send("POST", "/api/evaluate/solid", caseDocument)
	var fine MeshData
	if err := json.Unmarshal([]byte(body), &fine); status != 200 || err != nil {
		t.Fatalf("the solid answers %d %v", status, err)
	}
	if fine.Triangles < 2*e.Mesh.Triangles {
		t.Errorf("the solid comes with %d triangles after a mesh of %d", fine.Triangles, e.Mesh.Triangles)
	}
}

// goingBody is a request's body whose client goes away once it is read.
type goingBody struct {
	io.Reader
	gone context.CancelFunc
}

func (b *goingBody) Read(into []byte) (int, error) {
	n, err := b.Reader.Read(into)
	if err == io.EOF {
		b.gone()
	}
	return n, err
}

// A request whose client has gone after sending it is given up by the use case
// itself: signed in, read and found in order, it gets no plan.
func TestAClosedRequestStopsTheWork(t *testing.T) {
	c := signedIn(t, "dentist")
	ask := func(goes bool) *httptest.ResponseRecorder {
		ctx, cancel := context.WithCancel(context.Background())
		defer cancel()
		body := &goingBody{strings.NewReader(caseDocument), func() {}}
		if goes {
			body.gone = cancel
		}
		r, err := http.NewRequestWithContext(ctx, "POST", testServer.URL+"/api/evaluate", body)
		if err != nil {
			t.Fatal(err)
		}
		r.Header.Set("Content-Type", "application/json")
		for _, cookie := range c.Jar.Cookies(r.URL) {
			r.AddCookie(cookie)
		}
		answer := httptest.NewRecorder()
		testServer.Config.Handler.ServeHTTP(answer, r)
		return answer
	}
	if stays := ask(false); stays.Code != 200 {
		t.Fatalf("a request whose client stays is answered %d %.300s", stays.Code, stays.Body)
	}
	if goes := ask(true); goes.Code != 499 || strings.Contains(goes.Body.String(), "checks") {
		t.Errorf("a request whose client has gone is answered %d %.300s", goes.Code, goes.Body)
	}
}

// Every fault of a case is said at once: those of its shape and those of its sense.
func TestFaultsOfShapeAndSenseComeTogether(t *testing.T) {
	c := signedIn(t, "dentist")
	broken := strings.Replace(caseDocument, `"depth":"outer_dentin"`, `"depth":"deep"`, 1)
	broken = strings.Replace(broken, `"site":"central"`, `"site":"mesial_incisal"`, 1)
	for _, path := range []string{"/api/evaluate", "/api/advice"} {
		status, body := c.send("POST", path, broken)
		if status != 422 || !strings.Contains(body, "$.findings[0].depth") || !strings.Contains(body, "$.findings[0].site") {
			t.Errorf("%s answers %d %s", path, status, body)
		}
	}
}

func TestRefusedPlansAreNotFixed(t *testing.T) {
	c := signedIn(t, "dentist")
	body := strings.Replace(newCaseBody("HV-906", "lower right 6"), `"fissure_caries","site":"central"`, `"fracture","site":"mesiobuccal"`, 1)
	status, answer := c.send("POST", "/api/cases", body)
	if status != 201 {
		t.Fatalf("answers %d %s", status, answer)
	}
	var made Case
	if err := json.Unmarshal([]byte(answer), &made); err != nil {
		t.Fatal(err)
	}
	base := "/api/cases/" + made.Id.String()
	if status, answer := c.send("POST", base+"/revisions", "", version(1)...); status != 409 || !strings.Contains(answer, "weakened it") {
		t.Errorf("fixing answers %d %s", status, answer)
	}
	if status, answer := c.send("GET", base+"/files/drawing.svg", ""); status != 422 || !strings.Contains(answer, "weakened it") {
		t.Errorf("drawing answers %d %s", status, answer)
	}
}

func TestPagesHaveAddressesOfTheirOwn(t *testing.T) {
	c := stranger(t)
	for _, path := range []string{"/", "/cases", "/cases/new", "/anything/else"} {
		if status, body := c.send("GET", path, ""); status != 200 || !strings.Contains(body, "<title>page") {
			t.Errorf("%s answers %d %s", path, status, body)
		}
	}
	if status, body := c.send("GET", "/assets/a.js", ""); status != 200 || body != "1" {
		t.Errorf("asset answers %d %s", status, body)
	}
	if status, body := signedIn(t, "dentist").send("GET", "/api/docs", ""); status != 200 || !strings.Contains(body, "/api/evaluate") {
		t.Errorf("docs answer %d %.80s", status, body)
	}
}

func TestTheDemonstrationHasCasesInEveryState(t *testing.T) {
	c := signedIn(t, "dentist")
	_, body := c.send("GET", "/api/cases?size=200", "")
	var page CasePage
	if err := json.Unmarshal([]byte(body), &page); err != nil {
		t.Fatal(err)
	}
	teeth, revisions := map[string]bool{}, map[int]bool{}
	for _, k := range page.Cases {
		teeth[k.Tooth], revisions[k.Revisions] = true, true
	}
	if len(teeth) < 6 || !revisions[0] || !revisions[1] {
		t.Errorf("teeth %v, revisions %v", teeth, revisions)
	}
	before := len(page.Cases)
	if err := demo.Load(context.Background(), testStore, plan.NewPlanner()); err != nil {
		t.Fatal(err)
	}
	_, body = c.send("GET", "/api/cases?size=200", "")
	if err := json.Unmarshal([]byte(body), &page); err != nil || len(page.Cases) != before {
		t.Errorf("loading again made %d cases of %d", len(page.Cases), before)
	}
}

func TestATeethsPlacesAreNamedForIntake(t *testing.T) {
	c := signedIn(t, "dentist")
	for tooth, want := range map[string][]lesion.Site{
		"46": {"central", "distobuccal_groove", "distal_cusp", "buccal_pit"},
		"25": {"central", "buccal_cusp"},
		"85": {"central"},
		"11": {"lingual_pit", "mesial_incisal", "buccal"},
	} {
		status, body := c.send("GET", "/api/teeth/"+tooth+"/chart", "")
		var chart ToothChart
		if err := json.Unmarshal([]byte(body), &chart); status != 200 || err != nil {
			t.Fatalf("%s answers %d %v", tooth, status, err)
		}
		named := map[lesion.Site]bool{}
		for _, kind := range chart.Kinds {
			for _, site := range kind.Sites {
				named[site.Site] = site.Label != ""
			}
		}
		for _, w := range want {
			if !named[w] {
				t.Errorf("%s: %s is not offered", tooth, w)
			}
		}
		if anterior := tooth == "11"; named["central"] == anterior || chart.Contacts == anterior {
			t.Errorf("%s: central fissure %v, contacts %v", tooth, named["central"], chart.Contacts)
		}
	}
}

func TestARefusedCaseHasNoCutTooth(t *testing.T) {
	c := signedIn(t, "dentist")
	refused := strings.Replace(caseDocument, `outer_dentin`, `inner_enamel`, 1)
	if status, body := c.send("POST", "/api/evaluate/solid", refused); status != 422 || !strings.Contains(body, "not cut") {
		t.Errorf("answers %d %s", status, body)
	}
}
