package api

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"log/slog"
	"net/http"
	"strconv"

	"github.com/gin-gonic/gin"

	"obturon/core/intake"
	"obturon/internal/document"
	"obturon/internal/store"
	"obturon/internal/turn"
)

// problem is an error that tells the user what is wrong and what to do
// (RFC 9457).
type problem struct {
	status    int
	kind      document.ProblemType // what the screen does something about
	title     string
	detail    string
	reference string // of the entry in the log
	wait      int    // seconds after which it is worth asking again; 0 for no such hope
	faults    intake.Faults
}

func (p *problem) Error() string { return p.title }

// givenUp answers a request whose client has gone; nobody reads it.
var givenUp = &problem{status: 499, title: "The request was given up"}

func unprocessable(title string, faults intake.Faults) *problem {
	return &problem{status: http.StatusUnprocessableEntity, title: title, faults: faults}
}

// unforeseen answers for a defect; what happened is in the log under the reference.
func unforeseen() *problem {
	reference := newReference()
	return &problem{
		status: http.StatusInternalServerError, title: "Something went wrong on the server", reference: reference,
		detail: "Nothing was changed. Try again; if it stays, give whoever runs the server the reference " + reference + ".",
	}
}

// asProblem finds the problem that an error stands for. What nobody foresaw is
// logged and shown without its inner text.
func asProblem(err error) *problem {
	var p *problem
	var faults intake.Faults
	var large *http.MaxBytesError
	switch {
	case errors.As(err, &p):
		return p
	case errors.As(err, &faults):
		return unprocessable("The case has faults", faults)
	case errors.As(err, &large):
		return &problem{
			status: http.StatusRequestEntityTooLarge,
			title:  "This is too large",
			detail: fmt.Sprintf("At most %d kB are taken at once: leave something out.", large.Limit/1024),
		}
	case errors.Is(err, store.ErrNotFound):
		return &problem{
			status: http.StatusNotFound,
			title:  "Not found",
			detail: "The address names nothing of this practice. Go back to the day sheet.",
		}
	case errors.Is(err, store.ErrArchived):
		return &problem{
			status: http.StatusConflict,
			kind:   document.ArchivedCase,
			title:  "The case is archived",
			detail: "Bring it back from the archive of the day sheet, then change it.",
		}
	case errors.Is(err, store.ErrStale):
		return &problem{
			status: http.StatusConflict,
			kind:   document.StaleDraft,
			title:  "The draft has changed meanwhile",
			detail: "Someone else, or another window, has saved it. Nothing was overwritten: choose which to keep.",
		}
	case errors.Is(err, store.ErrTaken):
		return &problem{
			status: http.StatusConflict,
			title:  "This is in use already",
			detail: "Someone else has taken the name or the key meanwhile: read anew, then try again.",
		}
	case errors.Is(err, store.ErrPatientDiffers):
		return unprocessable(
			"The patient does not match",
			intake.Faults{{Path: "$.patient.birth_year", Message: err.Error() + ": check the code and the year"}},
		)
	case errors.Is(err, turn.ErrBusy), errors.Is(err, turn.ErrOutdated):
		return &problem{
			status: http.StatusServiceUnavailable,
			kind:   document.Busy,
			wait:   1,
			title:  "The server is busy",
			detail: "Others are planning as well. Wait a moment; the screen asks again by itself.",
		}
	case errors.Is(err, context.Canceled):
		return givenUp
	case store.Unreachable(err):
		slog.Error("the database does not answer", "error", err)
		return &problem{
			status: http.StatusServiceUnavailable,
			wait:   2,
			title:  "The database does not answer",
			detail: "Nothing was changed. The screen asks again by itself; if it stays, tell whoever runs the server.",
		}
	case errors.Is(err, context.DeadlineExceeded):
		return &problem{
			status: http.StatusServiceUnavailable,
			title:  "This took too long and was stopped",
			detail: "Nothing was changed. Try again in a moment; a case with fewer findings is planned faster.",
		}
	default:
		p := unforeseen()
		slog.Error("unexpected error", "reference", p.reference, "error", err)
		return p
	}
}

// body is the problem document.
func (p *problem) body() []byte {
	whole := Problem{Type: p.kind, Title: p.title, Status: p.status, Detail: p.detail, Reference: p.reference}
	for _, f := range p.faults {
		whole.Faults = append(whole.Faults, Fault{Path: f.Path, Message: f.Message})
	}
	data, err := json.Marshal(whole)
	if err != nil {
		slog.Error("writing a problem", "error", err)
	}
	return data
}

// write renders the problem document.
func (p *problem) write(c *gin.Context) {
	if p.wait > 0 {
		c.Header("Retry-After", strconv.Itoa(p.wait))
	}
	c.Data(p.status, problemType, p.body())
	c.Abort()
}

const problemType = "application/problem+json"

// send is write where there is no router. What has begun to be answered stays as it
// is.
func (p *problem) send(w http.ResponseWriter) {
	w.Header().Set("Content-Type", problemType)
	w.Header().Del("Content-Length")
	if p.wait > 0 {
		w.Header().Set("Retry-After", strconv.Itoa(p.wait))
	}
	w.WriteHeader(p.status)
	if _, err := w.Write(p.body()); err != nil {
		slog.Debug("a problem did not reach its client", "error", err)
	}
}

// reportErrors renders whatever error a handler left behind.
func reportErrors(c *gin.Context) {
	c.Next()
	if err := c.Errors.Last(); err != nil && !c.Writer.Written() {
		answerError(c, err.Err)
	}
}

// answerError renders an error. Whatever a driver says of it, a request that its
// client closed was given up, and one whose time is over was stopped.
func answerError(c *gin.Context, err error) {
	if ended := c.Request.Context().Err(); ended != nil && !isFault(err) {
		err = ended
	}
	asProblem(err).write(c)
}

// isFault reports an error that says something of the request itself.
func isFault(err error) bool {
	var p *problem
	var faults intake.Faults
	return errors.As(err, &p) || errors.As(err, &faults)
}
