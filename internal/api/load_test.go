package api

import (
	"fmt"
	"io"
	"math/rand/v2"
	"net/http"
	"net/http/cookiejar"
	"os"
	"runtime"
	"slices"
	"strconv"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/google/uuid"

	"obturon/internal/document"
	"obturon/internal/password"
	"obturon/internal/store"
)

// dragger is somebody who drags an MOD: asks, waits where told to, asks anew with the
// next figure.
type dragger struct {
	*http.Client
	at   string
	kept []time.Duration // from the first asking to the answer
	told int             // to wait
}

// modDrag is an MOD with a figure as it is dragged.
func modDrag(isthmus float64) string {
	return fmt.Sprintf(`{"schema":"obturon.case/1","tooth":"46","patient":{"age_years":34},
 "findings":[{"kind":"proximal_caries","site":"distal","depth":"outer_dentin"},{"kind":"proximal_caries","site":"mesial","depth":"outer_dentin"}],
 "choice":{"material":"amalgam","school":"board"},"overrides":{"isthmus_width":%.2f}}`, isthmus)
}

// drag goes on until the time is over, and until there was an answer at all. The
// error is what a user would see as one.
func (d *dragger) drag(until time.Time) error {
	for n := 0; len(d.kept) == 0 || time.Now().Before(until); n++ {
		asked := time.Now()
		for {
			r, err := http.NewRequest("POST", d.at+"/api/evaluate?relief=false", strings.NewReader(modDrag(0.9+float64(n%20)/20)))
			if err != nil {
				return err
			}
			r.Header.Set("Content-Type", "application/json")
			r.Header.Set("Accept-Encoding", "gzip")
			answer, err := d.Do(r)
			if err != nil {
				return err
			}
			size, err := io.Copy(io.Discard, answer.Body)
			answer.Body.Close()
			if err != nil {
				return err
			}
			wait, _ := strconv.Atoi(answer.Header.Get("Retry-After"))
			if answer.StatusCode == 503 && wait > 0 {
				d.told++
				time.Sleep(time.Duration((0.5 + rand.Float64()) * float64(wait) * float64(time.Second))) // as the screen does
				if len(d.kept) > 0 && time.Now().After(until) {
					return nil
				}
				continue
			}
			if answer.StatusCode != 200 {
				return fmt.Errorf("answered %d with %d bytes", answer.StatusCode, size)
			}
			break
		}
		d.kept = append(d.kept, time.Since(asked))
	}
	return nil
}

// Many people drag at once: nobody sees an error, everybody is served, and the server
// says it is well throughout. A short run is part of the tests; the whole of it is
// make load, which prints how long answers took and how much memory there was.
func TestManyDragAtOnce(t *testing.T) {
	people, lasting := 12, time.Second
	long := os.Getenv("OBTURON_LOAD")
	if long != "" {
		var err error
		if lasting, err = time.ParseDuration(long); err != nil {
			t.Fatal(err)
		}
		people = 64
	}
	_, server := another(t, func(o *Options) { o.TrustedProxies = []string{"127.0.0.1"} })
	draggers := make([]*dragger, people)
	practice := practiceOf(t)
	hash, err := password.Hash("bench-password")
	if err != nil {
		t.Fatal(err)
	}
	for n := range draggers {
		u, err := testStore.AddUser(t.Context(), store.User{PracticeID: practice.ID, SignIn: "drag" + uuid.NewString()[:8], Name: "Someone", Role: string(document.Dentist), PasswordHash: hash})
		if err != nil {
			t.Fatal(err)
		}
		jar, err := cookiejar.New(nil)
		if err != nil {
			t.Fatal(err)
		}
		own := client{t: t, Client: &http.Client{Jar: jar}, at: server.at}
		if status, body := own.send("POST", "/api/session", `{"sign_in":"`+u.SignIn+`","password":"bench-password"}`, "X-Forwarded-For", fmt.Sprintf("192.0.2.%d", n)); status != 200 {
			t.Fatalf("signing in answers %d %s", status, body)
		}
		draggers[n] = &dragger{Client: own.Client, at: server.at}
	}
	until := time.Now().Add(lasting)
	var dragging, watching sync.WaitGroup
	for n, d := range draggers {
		dragging.Go(func() {
			if err := d.drag(until); err != nil {
				t.Errorf("person %d: %v", n, err)
			}
		})
	}
	var health []time.Duration
	most := uint64(0)
	over := make(chan struct{})
	watching.Go(func() {
		for {
			select {
			case <-over:
				return
			case <-time.After(50 * time.Millisecond):
			}
			asked := time.Now()
			answer, err := http.Get(server.at + "/api/health")
			if err != nil {
				t.Error(err)
				return
			}
			answer.Body.Close()
			if answer.StatusCode != 200 {
				t.Errorf("health answers %d", answer.StatusCode)
			}
			health = append(health, time.Since(asked))
			most = max(most, resident())
		}
	})
	dragging.Wait()
	close(over)
	watching.Wait()
	var all []time.Duration
	told, fewest := 0, len(draggers[0].kept)
	for _, d := range draggers {
		all, told, fewest = append(all, d.kept...), told+d.told, min(fewest, len(d.kept))
	}
	slices.Sort(all)
	slices.Sort(health)
	if len(all) == 0 || len(health) == 0 {
		t.Fatal("nothing was measured")
	}
	t.Logf("%d people, %v, %d processors: %d answers (%.1f a second, at least %d each), told to wait %d times", people, lasting, runtime.GOMAXPROCS(0), len(all), float64(len(all))/lasting.Seconds(), fewest, told)
	t.Logf("answer after %v in the median, %v for nine of ten, %v at most", part(all, 0.5), part(all, 0.9), part(all, 1))
	t.Logf("health after %v in the median, %v for 99 of 100, %v at most; %d MB resident at most", part(health, 0.5), part(health, 0.99), part(health, 1), most>>20)
}

// part is the time within which so large a part of sorted times lies.
func part(times []time.Duration, of float64) time.Duration {
	return times[int(of*float64(len(times)-1))].Round(time.Millisecond)
}

// resident is the memory of this process, in bytes.
func resident() uint64 {
	text, err := os.ReadFile("/proc/self/statm")
	if err != nil {
		return 0
	}
	var size, pages uint64
	if _, err := fmt.Sscan(string(text), &size, &pages); err != nil {
		return 0
	}
	return pages * uint64(os.Getpagesize())
}
