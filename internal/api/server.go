// Package api is the HTTP edge: handlers parse, call one use case, render.
// The contract is document.Contract; the generated code binds to it.
package api

import (
	"context"
	"fmt"
	"io/fs"
	"log/slog"
	"net/http"
	"strings"
	"time"

	"github.com/alexedwards/scs/postgresstore"
	"github.com/alexedwards/scs/v2"
	"github.com/getkin/kin-openapi/openapi3"
	"github.com/getkin/kin-openapi/openapi3filter"
	"github.com/getkin/kin-openapi/routers/gorillamux"
	"github.com/gin-gonic/gin"
	lru "github.com/hashicorp/golang-lru/v2"

	"obturon/internal/document"
	"obturon/internal/plan"
	"obturon/internal/store"
)

// Options of the server.
type Options struct {
	Store   *store.Store
	Planner *plan.Planner
	// Site is the built front end; its index.html answers every page address.
	Site fs.FS
	// DemoSignIns are offered on the sign-in page with one click.
	DemoSignIns []DemoSignIn
}

type server struct {
	Options
	sessions *scs.SessionManager
	attempts *attempts
	studies  *lru.Cache[plan.Study, StudiedTooth]
}

// studiesKept is how many teeth are kept ready packed, at some 0.8 MB each.
const studiesKept = 60

const (
	sessionLife  = 12 * time.Hour // a working day
	largestBody  = 1 << 20        // bytes; a case is a few kilobytes
	cookieName   = "obturon_session"
	apiPrefix    = "/api"
	requestLimit = 60 * time.Second
)

// Handler builds the whole application: API, its description and the site.
func Handler(o Options) (http.Handler, error) {
	studies, err := lru.New[plan.Study, StudiedTooth](studiesKept)
	if err != nil {
		return nil, fmt.Errorf("making room for studies: %w", err)
	}
	s := &server{Options: o, sessions: scs.New(), attempts: newAttempts(), studies: studies}
	s.sessions.Store = postgresstore.New(o.Store.SQL())
	s.sessions.Lifetime = sessionLife
	s.sessions.Cookie.Name = cookieName
	s.sessions.Cookie.HttpOnly = true
	s.sessions.Cookie.SameSite = http.SameSiteLaxMode

	validate, err := contractCheck()
	if err != nil {
		return nil, err
	}
	gin.SetMode(gin.ReleaseMode)
	engine := gin.New()
	engine.ContextWithFallback = true
	engine.HandleMethodNotAllowed = true
	engine.NoMethod(func(c *gin.Context) {
		(&problem{status: http.StatusMethodNotAllowed, title: "This address does not take that method"}).write(c)
	})
	engine.Use(recoverPanics, limitBody, secureHeaders)
	api := engine.Group(apiPrefix, reportErrors)
	api.GET("/openapi.yaml", func(c *gin.Context) { c.Data(http.StatusOK, "application/yaml", document.Contract) })
	api.GET("/docs", describeAPI)
	guarded := api.Group("", s.requireSignIn, validate, withDeadline)
	RegisterHandlersWithOptions(guarded, NewStrictHandlerWithOptions(s, nil, StrictGinServerOptions{
		RequestErrorHandlerFunc: func(c *gin.Context, err error) {
			(&problem{status: http.StatusBadRequest, title: "The request cannot be read", detail: err.Error()}).write(c)
		},
		HandlerErrorFunc:         answerError,
		ResponseErrorHandlerFunc: answerError,
	}), GinServerOptions{ErrorHandler: func(c *gin.Context, err error, _ int) {
		slog.Debug("address not read", "error", err)
		(&problem{status: http.StatusNotFound, title: "Not found", detail: "This address names no case. Go back to the day sheet."}).write(c)
	}})
	serveSite(engine, o.Site)
	return http.NewCrossOriginProtection().Handler(s.sessions.LoadAndSave(engine)), nil
}

// contractCheck validates requests against openapi.yaml.
func contractCheck() (gin.HandlerFunc, error) {
	doc, err := openapi3.NewLoader().LoadFromData(document.Contract)
	if err != nil {
		return nil, fmt.Errorf("reading the API description: %w", err)
	}
	router, err := gorillamux.NewRouter(doc)
	if err != nil {
		return nil, fmt.Errorf("reading the API description: %w", err)
	}
	return func(c *gin.Context) {
		route, params, err := router.FindRoute(c.Request)
		if err != nil {
			(&problem{status: http.StatusNotFound, title: "There is nothing at this address"}).write(c)
			return
		}
		err = openapi3filter.ValidateRequest(c.Request.Context(), &openapi3filter.RequestValidationInput{
			Request: c.Request, PathParams: params, Route: route,
			Options: &openapi3filter.Options{MultiError: true, AuthenticationFunc: openapi3filter.NoopAuthenticationFunc},
		})
		if err != nil {
			unprocessable("The request does not fit the contract", requestFaults(c, route, err)).write(c)
		}
	}, nil
}

func withDeadline(c *gin.Context) {
	ctx, cancel := context.WithTimeout(c.Request.Context(), requestLimit)
	defer cancel()
	c.Request = c.Request.WithContext(ctx)
	c.Next()
}

func limitBody(c *gin.Context) {
	c.Request.Body = http.MaxBytesReader(c.Writer, c.Request.Body, largestBody)
}

// recoverPanics keeps a defect from reaching the user as a broken connection.
func recoverPanics(c *gin.Context) {
	defer func() {
		if r := recover(); r != nil {
			asProblem(fmt.Errorf("panic: %v", r)).write(c)
		}
	}()
	c.Next()
}

func secureHeaders(c *gin.Context) {
	h := c.Writer.Header()
	h.Set("X-Content-Type-Options", "nosniff")
	h.Set("Referrer-Policy", "same-origin")
	h.Set("X-Frame-Options", "SAMEORIGIN")
	h.Set("Content-Security-Policy", "default-src 'self'; img-src 'self' data: blob:; style-src 'self' 'unsafe-inline'; worker-src 'self' blob:; connect-src 'self'")
}

// serveSite answers files of the built front end, and its page for every
// other address, so that each view has an address of its own.
func serveSite(engine *gin.Engine, site fs.FS) {
	files := http.FileServerFS(site)
	engine.NoRoute(func(c *gin.Context) {
		path := strings.TrimPrefix(c.Request.URL.Path, "/")
		if strings.HasPrefix(c.Request.URL.Path, apiPrefix+"/") {
			(&problem{status: http.StatusNotFound, title: "There is nothing at this address"}).write(c)
			return
		}
		if info, err := fs.Stat(site, path); err == nil && !info.IsDir() {
			if strings.HasPrefix(path, "assets/") { // names carry a hash of the content
				c.Header("Cache-Control", "public, max-age=31536000, immutable")
			}
			files.ServeHTTP(c.Writer, c.Request)
			return
		}
		page, err := fs.ReadFile(site, "index.html")
		if err != nil {
			page, err = fs.ReadFile(site, "placeholder.html")
		}
		if err != nil {
			slog.Error("reading the page", "error", err)
			c.Status(http.StatusInternalServerError)
			return
		}
		c.Header("Cache-Control", "no-cache")
		c.Data(http.StatusOK, "text/html; charset=utf-8", page)
	})
}
