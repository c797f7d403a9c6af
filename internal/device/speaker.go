package device

import (
	"context"
	"net/http"
	"slices"
	"sync"
	"time"

	"github.com/coder/websocket"
)

// Speaker is a device on the computer whose browser shows the pages: a handler to which
// whoever listens connects by WebSocket, and is sent text messages. The zero Speaker is ready
// to use, from any goroutine.
type Speaker struct {
	access    sync.Mutex
	listening []chan string
}

// Say tells all that listen.
func (s *Speaker) Say(text string) {
	s.access.Lock()
	defer s.access.Unlock()
	for _, l := range s.listening {
		select {
		case l <- text:
		default: // it has stopped reading
		}
	}
}

// Listening is how many are connected.
func (s *Speaker) Listening() int {
	s.access.Lock()
	defer s.access.Unlock()
	return len(s.listening)
}

// ServeHTTP sends what is said until the other side goes.
func (s *Speaker) ServeHTTP(w http.ResponseWriter, r *http.Request) {
	// Whatever page of this computer asks may know what a device says: it says nothing of anybody.
	connection, err := websocket.Accept(w, r, &websocket.AcceptOptions{InsecureSkipVerify: true})
	if err != nil {
		return // Accept has answered
	}
	defer func() { _ = connection.CloseNow() }()
	const ahead = 16
	said := make(chan string, ahead)
	s.add(said)
	defer s.remove(said)
	gone := connection.CloseRead(r.Context())
	for {
		select {
		case <-gone.Done():
			return
		case text := <-said:
			if send(gone, connection, text) != nil {
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

func (s *Speaker) add(l chan string) {
	s.access.Lock()
	defer s.access.Unlock()
	s.listening = append(s.listening, l)
}

func (s *Speaker) remove(l chan string) {
	s.access.Lock()
	defer s.access.Unlock()
	s.listening = slices.DeleteFunc(s.listening, func(other chan string) bool { return other == l })
}
