package api

import (
	"bytes"
	"compress/gzip"
	"context"
	"encoding/json"
	"fmt"
	"io"
	"log/slog"
	"net/http"
	"net/http/cookiejar"
	"net/http/httptest"
	"regexp"
	"strings"
	"testing"
	"time"

	"obturon/core/parallel"
	"obturon/internal/pg/pgtest"
	"obturon/internal/store"
)

// another starts a second server on the test's database.
func another(t *testing.T, change func(*Options)) (*server, client) {
	t.Helper()
	o := testOptions
	change(&o)
	s, err := newServer(o)
	if err != nil {
		t.Fatal(err)
	}
	handler, err := s.handler()
	if err != nil {
		t.Fatal(err)
	}
	running := httptest.NewServer(handler)
	t.Cleanup(running.Close)
	jar, err := cookiejar.New(nil)
	if err != nil {
		t.Fatal(err)
	}
	return s, client{t: t, Client: &http.Client{Jar: jar}, at: running.URL}
}

func (c client) signIn(name string) {
	c.t.Helper()
	if status, body := c.send("POST", "/api/session", `{"sign_in":"`+name+`","password":"halvarra-demo"}`); status != 200 {
		c.t.Fatalf("signing in answers %d %s", status, body)
	}
}

func TestAPanicAnywhereIsAnswered(t *testing.T) {
	var log bytes.Buffer
	before := slog.Default()
	slog.SetDefault(slog.New(slog.NewTextHandler(&log, nil)))
	defer slog.SetDefault(before)
	for name, breaks := range map[string]func(){
		"in the request":   func() { panic("no floor") },
		"in its goroutine": func() { parallel.Each(8, func(int) { panic("no floor") }) },
	} {
		log.Reset()
		answer := httptest.NewRecorder()
		recoverPanics(http.HandlerFunc(func(http.ResponseWriter, *http.Request) { breaks() })).ServeHTTP(answer, httptest.NewRequest("GET", "/api/x", nil))
		var p Problem
		if err := json.Unmarshal(answer.Body.Bytes(), &p); err != nil || answer.Code != 500 || p.Reference == "" {
			t.Errorf("%s: %d %s", name, answer.Code, answer.Body)
		}
		if text := log.String(); !strings.Contains(text, p.Reference) || !strings.Contains(text, "no floor") || !strings.Contains(text, "limits_test.go") {
			t.Errorf("%s: the log says %s", name, text)
		}
		if strings.Contains(answer.Body.String(), "no floor") {
			t.Errorf("%s: the user reads what broke", name)
		}
	}
}

func TestWhatTakesTooLongIsStopped(t *testing.T) {
	s, c := another(t, func(o *Options) { o.RequestLimit = 3 * time.Millisecond })
	s.RequestLimit = time.Minute
	c.signIn("dentist")
	s.RequestLimit = 3 * time.Millisecond
	status, body := c.send("POST", "/api/evaluate", caseDocument)
	if status != 503 || !strings.Contains(body, "took too long") {
		t.Errorf("answers %d %.300s", status, body)
	}
	// The work has stopped: nobody computes any more.
	for range 100 {
		if running, waiting := s.Turns.Load(); running == 0 && waiting == 0 {
			return
		}
		time.Sleep(10 * time.Millisecond)
	}
	t.Error("the work goes on after its time")
}

func TestABusyServerSaysSoAtOnce(t *testing.T) {
	s, c := another(t, func(*Options) {})
	c.signIn("dentist")
	var done []func()
	for n := 0; ; n++ { // others take every turn
		ctx, cancel := context.WithTimeout(t.Context(), 5*time.Millisecond)
		leave, err := s.Turns.Take(ctx, fmt.Sprint("other", n), "")
		cancel()
		if err != nil {
			break
		}
		done = append(done, leave)
	}
	waitingCtx, stopWaiting := context.WithCancel(t.Context())
	for n := range waitingPlaces { // and every place to wait in
		go func() {
			if leave, err := s.Turns.Take(waitingCtx, fmt.Sprint("waiting", n), ""); err == nil {
				leave()
			}
		}()
	}
	for _, waiting := s.Turns.Load(); waiting < waitingPlaces; _, waiting = s.Turns.Load() {
		time.Sleep(time.Millisecond)
	}
	// Nobody of those was ever served; this user neither, but came last.
	status, body, headers := c.exchange("POST", "/api/evaluate", caseDocument)
	if status != 503 || !strings.Contains(body, `"type":"busy"`) || headers.Get("Retry-After") == "" {
		t.Errorf("answers %d %s, retry after %q", status, body, headers.Get("Retry-After"))
	}
	if status, _ := c.send("GET", "/api/health", ""); status != 200 {
		t.Errorf("health answers %d", status)
	}
	stopWaiting()
	for _, leave := range done {
		leave()
	}
	if status, body := c.send("POST", "/api/evaluate", caseDocument); status != 200 {
		t.Errorf("afterwards it answers %d %s", status, body)
	}
	if _, metrics := c.send("GET", "/metrics", ""); !strings.Contains(metrics, `obturon_turns_refused_total{reason="busy"} 1`) || !strings.Contains(metrics, `operation="evaluate",status="200"`) {
		t.Errorf("the metrics do not tell: %.2000s", metrics)
	}
	if status, _ := c.send("GET", "/metrics", "", "X-Forwarded-For", "192.0.2.7"); status != 404 {
		t.Errorf("metrics for others answer %d", status)
	}
}

func TestEveryDoorIsBounded(t *testing.T) {
	c := signedIn(t, "dentist")
	many := func(what string, n int) string { return strings.TrimSuffix(strings.Repeat(what+",", n), ",") }
	finding := `{"kind":"fissure_caries","site":"central","depth":"outer_dentin"}`
	base := "/api/cases/" + c.newCase("HV-931").Id.String()
	for _, k := range []struct {
		name, method, path, body string
		status                   int
		want                     string
	}{
		{"findings", "POST", "/api/evaluate", strings.Replace(caseDocument, finding, many(finding, 10_000), 1), 422, "holds more than"},
		{"contacts", "POST", "/api/evaluate", strings.Replace(caseDocument, `"choice"`, `"occlusal_contacts":[`+many(`{"mesial_mm":0,"facial_mm":0}`, 500)+`],"choice"`, 1), 422, "holds more than"},
		{"text", "POST", "/api/evaluate", strings.Replace(caseDocument, `"school":"board"`, `"school":"board","reason":"`+strings.Repeat("x", 3000)+`"`, 1), 422, "longer than"},
		{"size", "POST", "/api/evaluate", `{"x":"` + strings.Repeat("x", 2<<20) + `"}`, 413, "too large"},
		{"size of a case", "POST", "/api/cases", strings.Repeat(" ", 2<<20), 413, "too large"},
		{"NUL", "POST", "/api/evaluate", strings.Replace(caseDocument, `"school":"board"`, `"school":"board","reason":"\u0000"`, 1), 422, "NUL"},
		{"half a pair", "PUT", base + "/draft", strings.Replace(caseDocument, `"school":"board"`, `"school":"board","reason":"\ud83e"`, 1), 422, "surrogate"},
		{"NUL in rules", "POST", "/api/schools", `{"base":"board","name":"a\u0000"}`, 422, "NUL"},
		{"NUL in a sign-in", "POST", "/api/session", `{"sign_in":"a\u0000","password":"x"}`, 422, "NUL"},
		{"a number past all", "POST", "/api/evaluate", strings.Replace(caseDocument, `34`, `1e999`, 1), 422, "age_years"},
		{"a year past all", "PUT", base + "/birth-year", `{"birth_year":1e999}`, 422, ""},
		{"a year past integers", "PUT", base + "/birth-year", `{"birth_year":99999999999999999999}`, 422, ""},
		{"half a year", "PUT", base + "/birth-year", `{"birth_year":1990.5}`, 422, ""},
		{"a year in words", "PUT", base + "/birth-year", `{"birth_year":"1990abc"}`, 422, ""},
		{"a revision past integers", "GET", base + "/revisions/99999999999999999999", ``, 422, ""},
		{"NUL in an address", "GET", "/api/schools/%00", ``, 422, "NUL"},
		{"NUL in a query", "GET", "/api/teeth/46/bitewing?site=%00", ``, 422, "NUL"},
		{"a page past all", "GET", "/api/cases?page=100000", ``, 200, `"total":0`},
		{"no page", "GET", "/api/cases?page=0", ``, 422, "page"},
		{"no order", "GET", "/api/cases?order=best", ``, 422, "order"},
		{"a search with signs", "GET", "/api/cases?q=%25%27%3B--%20%5C", ``, 200, `"cases":[]`},
	} {
		if status, body := c.send(k.method, k.path, k.body); status != k.status || !strings.Contains(body, k.want) {
			t.Errorf("%s: answers %d %.300s", k.name, status, body)
		}
	}
}

func TestAnswersArePackedAndNotKept(t *testing.T) {
	c := signedIn(t, "dentist")
	r, err := http.NewRequest("POST", testServer.URL+"/api/evaluate", strings.NewReader(caseDocument))
	if err != nil {
		t.Fatal(err)
	}
	r.Header.Set("Content-Type", "application/json")
	r.Header.Set("Accept-Encoding", "gzip")
	answer, err := c.Do(r)
	if err != nil {
		t.Fatal(err)
	}
	defer answer.Body.Close()
	packed, err := io.ReadAll(answer.Body)
	if err != nil {
		t.Fatal(err)
	}
	if answer.Header.Get("Content-Encoding") != "gzip" || answer.Header.Get("Cache-Control") != "no-store" {
		t.Errorf("headers %v", answer.Header)
	}
	plain, err := gzip.NewReader(bytes.NewReader(packed))
	if err != nil {
		t.Fatal(err)
	}
	var e Evaluation
	if err := json.NewDecoder(plain).Decode(&e); err != nil || len(e.Views) == 0 {
		t.Errorf("unpacked: %v", err)
	}
	for accepted, want := range map[string]string{"br, gzip": "brotli", "gzip": "gzip", "": "plain", "br;q=0, gzip": "gzip"} {
		r, err := http.NewRequest("GET", testServer.URL+"/assets/b.js", nil)
		if err != nil {
			t.Fatal(err)
		}
		r.Header.Set("Accept-Encoding", accepted)
		answer := httptest.NewRecorder()
		testServer.Config.Handler.ServeHTTP(answer, r)
		if answer.Body.String() != want || !strings.Contains(answer.Header().Get("Cache-Control"), "immutable") {
			t.Errorf("%q is answered %q with %v", accepted, answer.Body, answer.Header())
		}
	}
}

func TestTheSiteIsForItsOwnPagesOnly(t *testing.T) {
	_, _, headers := stranger(t).exchange("GET", "/cases", "")
	policy := headers.Get("Content-Security-Policy")
	for _, want := range []string{"base-uri 'none'", "form-action 'self'", "frame-ancestors 'none'", "object-src 'none'"} {
		if !strings.Contains(policy, want) {
			t.Errorf("%s is missing of %s", want, policy)
		}
	}
	_, c := another(t, func(o *Options) { o.BehindTLS = true })
	status, _, headers := c.exchange("POST", "/api/session", `{"sign_in":"dentist","password":"halvarra-demo"}`)
	cookie := headers.Get("Set-Cookie")
	if status != 200 || !regexp.MustCompile(`^__Host-obturon_session=.*Secure`).MatchString(cookie) || strings.Contains(cookie, "Domain") || !strings.Contains(cookie, "Path=/") {
		t.Errorf("answers %d with %s", status, cookie)
	}
	if headers.Get("Strict-Transport-Security") == "" {
		t.Error("browsers are not told to come back over TLS")
	}
	token := regexp.MustCompile(`=([^;]+)`).FindStringSubmatch(cookie)[1]
	var kept int
	if err := testStore.SQL().QueryRow("select count(*) from sessions where token = $1", token).Scan(&kept); err != nil || kept != 0 {
		t.Errorf("the database holds the token itself: %d, %v", kept, err)
	}
}

// What a drag of an MOD sends is small enough for a slow line, even where more
// than its height lines have to come.
func TestADragIsSmallOnTheWire(t *testing.T) {
	c := signedIn(t, "dentist")
	mod := strings.Replace(caseDocument, `{"kind":"fissure_caries","site":"central","depth":"outer_dentin"}`,
		`{"kind":"proximal_caries","site":"distal","depth":"outer_dentin"},{"kind":"proximal_caries","site":"mesial","depth":"outer_dentin"}`, 1)
	for path, most := range map[string]int{"/api/evaluate?relief=false": 63_000, "/api/evaluate": 69_000} {
		status, body, headers := c.exchange("POST", path, mod, "Accept-Encoding", "gzip")
		if status != 200 || headers.Get("Content-Encoding") != "gzip" || len(body) > most {
			t.Errorf("%s answers %d with %d bytes", path, status, len(body))
		}
	}
}

// While the database is gone nobody reads of a defect: the screen waits and asks
// again.
func TestADatabaseThatHasGoneIsWaitedFor(t *testing.T) {
	url, stop, err := pgtest.Start()
	if err != nil {
		t.Fatal(err)
	}
	stopped := false
	defer func() {
		if !stopped {
			stop()
		}
	}()
	own, err := store.Open(t.Context(), url)
	if err != nil {
		t.Fatal(err)
	}
	defer own.Close()
	_, c := another(t, func(o *Options) { o.Store = own })
	if status, _ := c.send("POST", "/api/session", `{"sign_in":"nobody","password":"x"}`); status != 401 {
		t.Fatalf("answers %d", status)
	}
	stop()
	stopped = true
	for name, headers := range map[string][]string{"signing in": nil, "with a session": {"Cookie", cookieName + "=something"}} {
		status, body, answered := c.exchange("POST", "/api/session", `{"sign_in":"nobody","password":"x"}`, headers...)
		if status != 503 || answered.Get("Retry-After") == "" || !strings.Contains(body, "database does not answer") {
			t.Errorf("%s: answers %d %s", name, status, body)
		}
	}
}
