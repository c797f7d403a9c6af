package api

import (
	"context"
	"encoding/json"
	"errors"
	"log/slog"
	"net/http"

	"github.com/gin-gonic/gin"

	"obturon/core/intake"
	"obturon/internal/store"
)

// problem is an error that tells the user what is wrong and what to do
// (RFC 9457).
type problem struct {
	status int
	title  string
	detail string
	faults intake.Faults
}

func (p *problem) Error() string { return p.title }

// givenUp answers a request whose client has gone; nobody reads it.
var givenUp = &problem{status: 499, title: "The request was given up"}

func unprocessable(title string, faults intake.Faults) *problem {
	return &problem{status: http.StatusUnprocessableEntity, title: title, faults: faults}
}

// asProblem finds the problem that an error stands for. What nobody foresaw
// is logged and shown without its inner text.
func asProblem(err error) *problem {
	var p *problem
	var faults intake.Faults
	switch {
	case errors.As(err, &p):
		return p
	case errors.As(err, &faults):
		return unprocessable("The case has faults", faults)
	case errors.Is(err, store.ErrNotFound):
		return &problem{status: http.StatusNotFound, title: "Not found", detail: "It may have been archived. Go back to the day sheet."}
	case errors.Is(err, store.ErrPatientDiffers):
		return unprocessable("The patient does not match", intake.Faults{{Path: "$.patient.birth_year", Message: err.Error() + ": check the code and the year"}})
	case errors.Is(err, context.Canceled):
		return givenUp
	default:
		slog.Error("unexpected error", "error", err)
		return &problem{status: http.StatusInternalServerError, title: "Something went wrong on the server", detail: "Nothing was changed. Try again; if it stays, tell whoever runs the server to look at its log."}
	}
}

// write renders the problem document.
func (p *problem) write(c *gin.Context) {
	body := Problem{Title: p.title, Status: p.status, Detail: p.detail}
	for _, f := range p.faults {
		body.Faults = append(body.Faults, Fault{Path: f.Path, Message: f.Message})
	}
	data, err := json.Marshal(body)
	if err != nil {
		slog.Error("writing a problem", "error", err)
	}
	c.Data(p.status, "application/problem+json", data)
	c.Abort()
}

// reportErrors renders whatever error a handler left behind.
func reportErrors(c *gin.Context) {
	c.Next()
	if err := c.Errors.Last(); err != nil && !c.Writer.Written() {
		answerError(c, err.Err)
	}
}

// answerError renders an error. Whatever a driver says of it, a request that
// its client closed was given up.
func answerError(c *gin.Context, err error) {
	if errors.Is(c.Request.Context().Err(), context.Canceled) {
		err = context.Canceled
	}
	asProblem(err).write(c)
}
