package api

import (
	"context"
	"net/http"
	"net/http/cookiejar"
	"net/http/httptest"
	"net/url"
	"os"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/getkin/kin-openapi/openapi3"

	"obturon/internal/document"
)

// Whatever comes in at any door is answered, and never with a defect of ours.
// OBTURON_DOOR=evaluate keeps to one operation.
func FuzzEveryDoor(f *testing.F) {
	contract, err := openapi3.NewLoader().LoadFromData(document.Contract)
	if err != nil {
		f.Fatal(err)
	}
	var doors []string
	for address, name := range operationNames(contract) {
		if only := os.Getenv("OBTURON_DOOR"); only == "" || only == name {
			doors = append(doors, address)
		}
	}
	slices.Sort(doors)
	jar, err := cookiejar.New(nil)
	if err != nil {
		f.Fatal(err)
	}
	o := testOptions
	o.RequestLimit = 5 * time.Second
	o.TrustedProxies = []string{"192.0.2.0/24"}
	handler, err := Handler(o)
	if err != nil {
		f.Fatal(err)
	}
	running := httptest.NewServer(handler)
	f.Cleanup(running.Close)
	c := client{Client: &http.Client{Jar: jar}, at: running.URL}
	answer, err := c.Post(running.URL+"/api/session", "application/json", strings.NewReader(`{"sign_in":"dentist","password":"halvarra-demo"}`))
	if err != nil || answer.StatusCode != 200 {
		f.Fatalf("signing in: %v", err)
	}
	answer.Body.Close()
	home, err := url.Parse(running.URL)
	if err != nil {
		f.Fatal(err)
	}
	cookies := jar.Cookies(home)
	var known string
	if err := testStore.SQL().QueryRowContext(context.Background(), "select id from dental_case limit 1").Scan(&known); err != nil {
		f.Fatal(err)
	}
	for n, door := range doors {
		name := operationNames(contract)[door]
		try := attemptsAt[name]
		query := ""
		if _, after, found := strings.Cut(try.path, "?"); found {
			query = after
		}
		f.Add(uint8(n), known, "46", query, try.body, `"1"`, "")
		f.Add(uint8(n), "house-x", "1", query, newCaseBody("HV-998", "lower right 6"), "", "7b0b5d1e-0000-4000-8000-000000000000")
	}
	f.Add(uint8(3), known, "card.pdf", "after=1_"+known+"&archived=maybe", `{"birth_year":1e400}`, `W/"x"`, "\x00")
	f.Fuzz(func(t *testing.T, door uint8, first, second, query, body, ifMatch, key string) {
		address := doors[int(door)%len(doors)]
		method, path, _ := strings.Cut(address, " ")
		if strings.HasSuffix(path, "/session") && method == http.MethodDelete {
			return // it would sign the fuzzer out
		}
		parts := []string{first, second}
		for step := range strings.SplitSeq(path, "/") {
			if strings.HasPrefix(step, ":") && len(parts) > 0 {
				path = strings.Replace(path, "/"+step, "/"+url.PathEscape(parts[0]), 1)
				parts = parts[1:]
			}
		}
		r, err := http.NewRequest(method, "http://"+home.Host+path, strings.NewReader(body))
		if err != nil {
			return // no client can ask that
		}
		r.URL.RawQuery, r.RemoteAddr = strings.Map(printable, query), "192.0.2.1:1"
		r.Header.Set("Content-Type", "application/json")
		r.Header.Set("If-Match", strings.Map(printable, ifMatch))
		r.Header.Set("Idempotency-Key", strings.Map(printable, key))
		for _, cookie := range cookies {
			r.AddCookie(cookie)
		}
		answer := httptest.NewRecorder()
		handler.ServeHTTP(answer, r)
		if answer.Code == http.StatusInternalServerError || answer.Code == 0 {
			t.Errorf("%s %s?%s with %q answers %d %s", method, path, r.URL.RawQuery, body, answer.Code, answer.Body)
		}
		if answer.Code >= 400 && !strings.Contains(answer.Body.String(), `"title"`) {
			t.Errorf("%s %s answers %d without saying why: %q", method, path, answer.Code, answer.Body)
		}
	})
}

// printable leaves out what no HTTP client can send in a header or an address.
func printable(r rune) rune {
	if r < 0x20 || r > 0x7e {
		return -1
	}
	return r
}
