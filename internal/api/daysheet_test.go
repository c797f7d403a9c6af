package api

import (
	"context"
	"encoding/json"
	"fmt"
	"net/http/httptest"
	"net/url"
	"testing"
	"time"
)

// listed asks for the day sheet.
func (c client) listed(query string) CasePage {
	c.t.Helper()
	status, body := c.send("GET", "/api/cases?"+query, "")
	var page CasePage
	if err := json.Unmarshal([]byte(body), &page); status != 200 || err != nil {
		c.t.Fatalf("%s answers %d %.200s, %v", query, status, body, err)
	}
	return page
}

func TestTheDaySheetPlansDraftsByItself(t *testing.T) {
	ctx, stop := context.WithCancel(t.Context())
	defer stop()
	o := testOptions
	o.Background = ctx
	handler, err := Handler(o)
	if err != nil {
		t.Fatal(err)
	}
	server := httptest.NewServer(handler)
	defer server.Close()
	c := signedIn(t, "dentist")
	c.at = server.URL
	// Every draft of the demonstration comes to its plan, however long it takes here.
	var page CasePage
	for waited := time.Duration(0); ; waited += 100 * time.Millisecond {
		page = c.listed("size=200")
		waiting := 0
		for _, k := range page.Cases {
			if !k.Planned {
				waiting++
			}
		}
		if waiting == 0 {
			break
		}
		if waited > 5*time.Minute {
			t.Fatalf("%d of %d are not planned", waiting, len(page.Cases))
		}
		time.Sleep(100 * time.Millisecond)
	}
	verdicts := map[string]int{}
	for _, k := range page.Cases {
		verdicts[k.Verdict]++
		if (k.Verdict == "refused") != (k.Refused != "") || len(k.Emblem.Crown) == 0 || (k.Verdict == "refused") == (len(k.Emblem.Cavity) > 0) {
			t.Errorf("%s tooth %s: %s, %q, %d outlines of the cavity", k.Patient, k.Tooth, k.Verdict, k.Refused, len(k.Emblem.Cavity))
		}
		if k.Verdict != "refused" && (k.Class == "" || k.Surfaces == "" || k.School == "") {
			t.Errorf("%s tooth %s: class %q, surfaces %v, school %q", k.Patient, k.Tooth, k.Class, k.Surfaces, k.School)
		}
	}
	if verdicts["near"] == 0 || verdicts["missed"] == 0 {
		t.Errorf("verdicts %v", verdicts)
	}
	one := page.Cases[0]
	for _, q := range []string{one.Tooth, one.Patient, "class " + one.Class, one.School + " " + one.Verdict, one.Surfaces, one.ToothName} {
		found := false
		for _, k := range c.listed("size=200&q=" + url.QueryEscape(q)).Cases {
			found = found || k.Id == one.Id
		}
		if !found {
			t.Errorf("%s tooth %s is not found by %q", one.Patient, one.Tooth, q)
		}
	}
	if page := c.listed(fmt.Sprintf("size=1&page=%d", page.Total)); len(page.Cases) != 1 {
		t.Errorf("the last page has %d", len(page.Cases))
	}
}
