package api

import (
	"bytes"
	"cmp"
	"errors"
	"html/template"
	"io"
	"log/slog"
	"net/http"

	"github.com/getkin/kin-openapi/openapi3"
	"github.com/getkin/kin-openapi/openapi3filter"
	"github.com/getkin/kin-openapi/routers"
	"github.com/gin-gonic/gin"

	"obturon/core/intake"
	"obturon/internal/document"
)

// requestFaults lists what is wrong with a request that breaks the contract. A
// case is read whole, so that what its schema cannot know is said with the rest.
func requestFaults(c *gin.Context, route *routers.Route, err error) intake.Faults {
	faults := contractFaults(err)
	body := route.Operation.RequestBody
	if body == nil || body.Value.GetMediaType("application/json").Schema.Ref != "#/components/schemas/CaseDocument" {
		return faults
	}
	data, unread := io.ReadAll(c.Request.Body)
	if unread != nil {
		return faults
	}
	var all intake.Faults
	if _, err := document.ReadCase(data); errors.As(err, &all) {
		return all
	}
	return faults
}

// contractFaults lists what a request breaks of the contract, by JSON path or by the
// name of a parameter.
func contractFaults(err error) intake.Faults {
	//nolint:errorlint // the outermost error is meant: those within say nothing of the parameter
	if request, is := err.(*openapi3filter.RequestError); is && request.Parameter != nil {
		faults := document.SchemaFaults(request.Err)
		if len(faults) == 0 {
			faults = intake.Faults{{Message: request.Error()}}
		}
		for n := range faults {
			faults[n].Path = request.Parameter.Name
		}
		return faults
	}
	var many openapi3.MultiError
	if errors.As(err, &many) {
		var faults intake.Faults
		for _, e := range many {
			faults = append(faults, contractFaults(e)...)
		}
		return faults
	}
	var schema *openapi3.SchemaError
	if errors.As(err, &schema) {
		return document.SchemaFaults(schema)
	}
	var request *openapi3filter.RequestError
	if errors.As(err, &request) {
		err = cmp.Or(errors.Unwrap(request), error(request))
	}
	return intake.Faults{{Path: "$", Message: err.Error()}}
}

var docsPage = template.Must(template.New("docs").Parse(`<!doctype html>
<html lang="en"><meta charset="utf-8"><title>{{.Info.Title}} API</title>
<style>body{font:16px/1.5 system-ui,sans-serif;max-width:60rem;margin:2rem auto;padding:0 1rem;color:#1f2a33;background:#fdfbf6}
table{border-collapse:collapse;width:100%}td,th{text-align:left;padding:.35rem .6rem;border-bottom:1px solid #d9d3c6;vertical-align:top}
code{font-family:ui-monospace,monospace}</style>
<h1>{{.Info.Title}} API</h1><p>{{.Info.Description}}</p>
<p>The whole contract: <a href="openapi.yaml">openapi.yaml</a> (OpenAPI {{.OpenAPI}}).</p>
<table><thead><tr><th>Method</th><th>Address</th><th>What it does</th><th>Answers</th></tr></thead><tbody>
{{range $path, $item := .Paths.Map}}{{range $method, $op := $item.Operations}}<tr><td><code>{{$method}}</code></td><td><code>/api{{$path}}</code></td><td>{{$op.Summary}}</td>
<td>{{range $status, $r := $op.Responses.Map}}<code>{{$status}}</code> {{end}}</td></tr>
{{end}}{{end}}</tbody></table></html>`))

// describeAPI serves a page made from the contract.
func describeAPI(c *gin.Context) {
	doc, err := openapi3.NewLoader().LoadFromData(document.Contract)
	if err != nil {
		asProblem(err).write(c)
		return
	}
	var page bytes.Buffer
	if err := docsPage.Execute(&page, doc); err != nil {
		slog.Error("rendering the API page", "error", err)
		asProblem(err).write(c)
		return
	}
	c.Data(http.StatusOK, "text/html; charset=utf-8", page.Bytes())
}
