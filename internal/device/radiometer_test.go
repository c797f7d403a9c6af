package device

import (
	"math"
	"net/http/httptest"
	"strconv"
	"strings"
	"testing"
	"time"

	"github.com/coder/websocket"
)

// A radiometer reads about what its lamp gives, and says so to whoever listens.
func TestARadiometerReads(t *testing.T) {
	r := NewRadiometer(1100, 1)
	server := httptest.NewServer(r)
	defer server.Close()
	c, answer, err := websocket.Dial(t.Context(), strings.Replace(server.URL, "http", "ws", 1), nil)
	if err != nil {
		t.Fatal(err)
	}
	if answer.Body != nil {
		_ = answer.Body.Close()
	}
	defer func() { _ = c.CloseNow() }()
	for range 200 {
		if r.Listening() == 1 {
			break
		}
		time.Sleep(10 * time.Millisecond)
	}
	sum := 0.0
	const readings = 12
	for range readings {
		read := r.Read()
		_, text, err := c.Read(t.Context())
		if err != nil || string(text) != strconv.Itoa(read) {
			t.Fatalf("heard %q, %v, read %d", text, err, read)
		}
		if off := math.Abs(float64(read)/1100 - 1); off > 2*spread+0.001 {
			t.Errorf("%d off a lamp of 1100", read)
		}
		sum += float64(read)
	}
	if mean := sum / readings; math.Abs(mean/1100-1) > spread {
		t.Errorf("it reads %.0f on average", mean)
	}
	for _, wrong := range []string{"-1", "bright", "1e9", "NaN"} {
		if err := r.Hold(wrong); err == nil {
			t.Errorf("a lamp of %q is held to it", wrong)
		}
	}
	if err := r.Hold("0"); err != nil || r.Read() != 0 {
		t.Errorf("a dark lamp reads otherwise, %v", err)
	}
}
