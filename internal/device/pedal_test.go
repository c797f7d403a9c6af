package device

import (
	"net/http/httptest"
	"strings"
	"testing"
	"time"

	"github.com/coder/websocket"
)

// Presses come to all that listen, in their order, and to nobody who has gone.
func TestAPedalIsHeard(t *testing.T) {
	p := &Pedal{}
	server := httptest.NewServer(p)
	defer server.Close()
	listen := func() *websocket.Conn {
		c, answer, err := websocket.Dial(t.Context(), strings.Replace(server.URL, "http", "ws", 1), nil)
		if err != nil {
			t.Fatal(err)
		}
		if answer.Body != nil {
			_ = answer.Body.Close()
		}
		return c
	}
	await := func(n int) {
		for range 200 {
			if p.Listening() == n {
				return
			}
			time.Sleep(10 * time.Millisecond)
		}
		t.Fatalf("%d listen, want %d", p.Listening(), n)
	}
	one, other := listen(), listen()
	await(2)
	for _, pedal := range []string{"next", "back"} {
		if err := p.Press(pedal); err != nil {
			t.Fatal(err)
		}
	}
	for _, c := range []*websocket.Conn{one, other} {
		for _, want := range []string{"next", "back"} {
			if _, got, err := c.Read(t.Context()); err != nil || string(got) != want {
				t.Errorf("heard %q, %v, want %s", got, err, want)
			}
		}
	}
	if err := one.Close(websocket.StatusNormalClosure, ""); err != nil {
		t.Error(err)
	}
	await(1)
	if err := p.Press("jump"); err == nil || !strings.Contains(err.Error(), "next") {
		t.Errorf("a pedal that there is not: %v", err)
	}
	_ = other.CloseNow()
	await(0)
}
