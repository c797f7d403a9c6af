package api

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"io"
	"log/slog"
	"net/http"
	"net/url"
	"path"
	"runtime/debug"
	"strings"

	"github.com/gin-gonic/gin"
	"github.com/google/uuid"

	"obturon/core/intake"
	"obturon/core/parallel"
	"obturon/internal/device"
	"obturon/internal/document"
)

// newReference names an entry of the log to whoever has to ask about it.
func newReference() string { return strings.ToUpper(uuid.NewString()[:8]) }

// recoverPanics keeps a defect, wherever in the request's work it shows, from
// reaching the user as a broken connection.
func recoverPanics(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		defer func() {
			value := recover()
			if value == nil {
				return
			}
			if err, is := value.(error); is && errors.Is(err, http.ErrAbortHandler) {
				panic(value) // the connection is to be cut
			}
			p := unforeseen()
			stack := debug.Stack()
			if inner, is := value.(*parallel.Panic); is {
				value, stack = inner.Value, inner.Stack
			}
			slog.Error("panic", "reference", p.reference, "method", r.Method, "path", r.URL.Path, "value", value, "stack", string(stack))
			p.send(w)
		}()
		next.ServeHTTP(w, r)
	})
}

// contained turns a defect in work beside the requests into an error: it must not end the server.
func contained(err *error) {
	if value := recover(); value != nil {
		*err = fmt.Errorf("panic: %v\n%s", value, debug.Stack())
	}
}

// limitBody refuses what is larger than any document of ours.
func limitBody(c *gin.Context) {
	c.Request.Body = http.MaxBytesReader(c.Writer, c.Request.Body, largestBody)
}

// checkText refuses what could neither be shown nor kept, in the address and in the
// body, before anything else looks at it.
func checkText(c *gin.Context) {
	for _, part := range []string{c.Request.URL.Path, c.Request.URL.RawQuery} {
		plain := part
		if decoded, err := url.QueryUnescape(part); err == nil {
			plain = decoded
		}
		if trouble := document.CheckPlain([]byte(plain)); trouble != "" {
			unprocessable("The address cannot be read", intake.Faults{{Path: "address", Message: trouble}}).write(c)
			return
		}
	}
	if c.Request.Body == nil || c.Request.Body == http.NoBody {
		return
	}
	data, err := io.ReadAll(c.Request.Body)
	if err != nil {
		answerError(c, err)
		return
	}
	if faults := document.CheckText(data); len(faults) > 0 {
		unprocessable("The request holds text that cannot be kept", faults).write(c)
		return
	}
	c.Request.Body = io.NopCloser(bytes.NewReader(data))
}

// longer is how many times as long as others a request may take that cuts a tooth step by
// step, the time for its turn included.
const longer = 8

func (s *server) withDeadline(c *gin.Context) {
	limit := s.RequestLimit
	if operations[s.names[c.Request.Method+" "+c.FullPath()]].long {
		limit *= longer
	}
	ctx, cancel := context.WithTimeout(c.Request.Context(), limit)
	defer cancel()
	c.Request = c.Request.WithContext(ctx)
	c.Next()
}

func (s *server) secureHeaders(c *gin.Context) {
	h := c.Writer.Header()
	if s.BehindTLS {
		h.Set("Strict-Transport-Security", "max-age=31536000")
	}
	h.Set("X-Content-Type-Options", "nosniff")
	h.Set("Referrer-Policy", "same-origin")
	h.Set("X-Frame-Options", "DENY")
	h.Set("Cross-Origin-Opener-Policy", "same-origin")
	if passive := path.Ext(c.Request.URL.Path); passive != ".woff2" && passive != ".css" { // their page's policy holds for them
		h.Set(
			"Content-Security-Policy",
			"default-src 'self'; img-src 'self' data: blob:; style-src 'self' 'unsafe-inline'; worker-src 'self' blob:; connect-src 'self' ws://"+device.PedalAddress+" ws://"+device.RadiometerAddress+"; object-src 'none'; base-uri 'none'; form-action 'self'; frame-ancestors 'none'",
		)
	}
}

// ownContext gives use cases a context that stays theirs: the router hands its own
// to the next request while a driver may still be looking at it.
func ownContext(next StrictHandlerFunc, _ string) StrictHandlerFunc {
	return func(c *gin.Context, request any) (any, error) { return next(c.Copy(), request) }
}

// neverKept keeps what is said of patients out of caches.
func neverKept(c *gin.Context) { c.Header("Cache-Control", "no-store") }
