package device

import (
	"context"
	"fmt"
	"net/http"
	"slices"
	"sync"
	"time"

	"github.com/coder/websocket"
)

// PedalAddress is where a foot switch that speaks WebSocket listens, on the computer whose
// browser shows the chair.
const PedalAddress = "127.0.0.1:8087"

// Pedals of a foot switch; each press is sent as a text message that names the pedal.
var Pedals = []string{"next", "back", "pause"}

// Pedal is a foot switch: a handler to which whoever listens connects by WebSocket. The
// zero Pedal is ready to use, from any goroutine.
type Pedal struct {
	access    sync.Mutex
	listening []chan string
}

// Press tells all that listen. It fails for a pedal that there is not.
func (p *Pedal) Press(pedal string) error {
	if !slices.Contains(Pedals, pedal) {
		return fmt.Errorf("there is no pedal %q: press one of %v", pedal, Pedals)
	}
	p.access.Lock()
	defer p.access.Unlock()
	for _, l := range p.listening {
		select {
		case l <- pedal:
		default: // it has stopped reading
		}
	}
	return nil
}

// Listening is how many are connected.
func (p *Pedal) Listening() int {
	p.access.Lock()
	defer p.access.Unlock()
	return len(p.listening)
}

// ServeHTTP sends presses until the other side goes.
func (p *Pedal) ServeHTTP(w http.ResponseWriter, r *http.Request) {
	// Whatever page of this computer asks may know of a press: there is no more to know.
	connection, err := websocket.Accept(w, r, &websocket.AcceptOptions{InsecureSkipVerify: true})
	if err != nil {
		return // Accept has answered
	}
	defer func() { _ = connection.CloseNow() }()
	const ahead = 16
	presses := make(chan string, ahead)
	p.add(presses)
	defer p.remove(presses)
	gone := connection.CloseRead(r.Context())
	for {
		select {
		case <-gone.Done():
			return
		case pedal := <-presses:
			if send(gone, connection, pedal) != nil {
				return
			}
		}
	}
}

func send(ctx context.Context, connection *websocket.Conn, text string) error {
	const patience = 2 * time.Second
	ctx, done := context.WithTimeout(ctx, patience)
	defer done()
	return connection.Write(ctx, websocket.MessageText, []byte(text))
}

func (p *Pedal) add(l chan string) {
	p.access.Lock()
	defer p.access.Unlock()
	p.listening = append(p.listening, l)
}

func (p *Pedal) remove(l chan string) {
	p.access.Lock()
	defer p.access.Unlock()
	p.listening = slices.DeleteFunc(p.listening, func(other chan string) bool { return other == l })
}
