package api

import (
	"bufio"
	"cmp"
	"context"
	"encoding/json"
	"errors"
	"net/http"
	"strings"
	"testing"
	"time"

	"github.com/google/uuid"

	"obturon/internal/document"
	"obturon/internal/store"
)

// A window hears what others of its practice change, and nothing of another's.
func TestChangesReachTheBrowser(t *testing.T) {
	practice := practiceOf(t)
	_, mine := member(t, practice, document.Dentist)
	_, theirs := member(t, practiceOf(t), document.Dentist)
	stranger := client{t: t, Client: &http.Client{}, at: mine.at}
	if status, body := stranger.send("GET", "/api/changes", ""); status != 401 {
		t.Fatalf("a stranger is answered %d %s", status, body)
	}
	status, body := mine.send("PUT", "/api/kit", `{"version":0,"kit":{"schema":"obturon.kit/1","items":[]}}`)
	decoded[PracticeKit](t, 200, status, body)
	ctx, stop := context.WithTimeout(t.Context(), time.Minute)
	defer stop()
	request, err := http.NewRequestWithContext(ctx, "GET", cmp.Or(mine.at, testServer.URL)+"/api/changes", nil)
	if err != nil {
		t.Fatal(err)
	}
	answer, err := mine.Do(request)
	if err != nil {
		t.Fatal(err)
	}
	defer answer.Body.Close()
	lines := bufio.NewScanner(answer.Body)
	if kind := answer.Header.Get("Content-Type"); kind != "text/event-stream" {
		t.Fatalf("it is %s", kind)
	}
	for _, want := range []string{"retry: 1000", "event: versions", `data: {"kit":1}`, ""} {
		if !lines.Scan() || lines.Text() != want {
			t.Fatalf("it begins with %q, want %q", lines.Text(), want)
		}
	}
	theirs.newCase("HV-891")
	made := mine.newCase("HV-890")
	for lines.Scan() {
		text, is := strings.CutPrefix(lines.Text(), "data: ")
		if !is {
			continue
		}
		var c store.Change
		if err := json.Unmarshal([]byte(text), &c); err != nil {
			t.Fatal(err)
		}
		if c.Case == nil || *c.Case != made.Id {
			t.Fatalf("told of %+v", c)
		}
		return
	}
	t.Errorf("nothing is told: %v", lines.Err())
}

// Whoever falls behind, or loses the database, is sent away to look at everything anew; who comes
// later listens again.
func TestNoChangeEscapesUnnoticed(t *testing.T) {
	practice := uuid.New()
	tell, lose := make(chan store.Change), make(chan struct{})
	h := &hearing{listen: func(ctx context.Context, ready func(), told func(store.Change)) error {
		ready()
		for {
			select {
			case c := <-tell:
				told(c)
			case <-lose:
				return errors.New("the database has gone")
			case <-ctx.Done():
				return ctx.Err()
			}
		}
	}}
	for _, gone := range []func(){
		func() {
			for range unheard + 2 {
				tell <- store.Change{Practice: practice}
			}
		},
		func() { lose <- struct{}{} },
	} {
		told, leave, err := h.join(t.Context(), practice)
		if err != nil {
			t.Fatal(err)
		}
		tell <- store.Change{Practice: uuid.New()}
		tell <- store.Change{Practice: practice, What: "case"}
		if c := <-told; c.What != "case" {
			t.Errorf("told %+v", c)
		}
		gone()
		for range told { // what came before it was sent away
		}
		leave()
	}
}
