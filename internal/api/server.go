// Package api is the HTTP edge: handlers parse, call one use case, render.
// The contract is document.Contract; the generated code binds to it.
package api

import (
	"context"
	"fmt"
	"io/fs"
	"log/slog"
	"net/http"
	"runtime"
	"time"

	"github.com/alexedwards/scs/postgresstore"
	"github.com/alexedwards/scs/v2"
	"github.com/getkin/kin-openapi/openapi3"
	"github.com/getkin/kin-openapi/openapi3filter"
	"github.com/getkin/kin-openapi/routers/gorillamux"
	"github.com/gin-gonic/gin"
	lru "github.com/hashicorp/golang-lru/v2"
	"github.com/klauspost/compress/gzhttp"

	"obturon/internal/document"
	"obturon/internal/plan"
	"obturon/internal/render"
	"obturon/internal/store"
	"obturon/internal/turn"
)

// Options of the server.
type Options struct {
	Store   *store.Store
	Planner *plan.Planner
	// Site is the built front end; its index.html answers every page address.
	Site fs.FS
	// DemoSignIns are offered on the sign-in page with one click.
	DemoSignIns []DemoSignIn
	// BehindTLS tells that browsers reach the server over HTTPS only, as through a
	// proxy: cookies are then sent no other way.
	BehindTLS bool
	// Background is how long work goes on beside the requests: planning drafts for the
	// day sheet, printing revisions, proving drafts at night. Without one there is none.
	Background context.Context
	// ProveAfter is how long a draft rests before it is proven by itself; 0 leaves it to a request.
	ProveAfter time.Duration
	// ProveAtNight has drafts proven before the day begins.
	ProveAtNight bool
	// RequestLimit is how long a request may take; 0 takes the usual.
	RequestLimit time.Duration
	// Turns are given to requests that compute; nil makes them for this server alone.
	Turns *turn.Queue
	// TrustedProxies are the addresses whose word on a client's address counts.
	TrustedProxies []string
}

type server struct {
	Options
	sessions *scs.SessionManager
	attempts *attempts
	studies  *lru.Cache[plan.Study, StudiedTooth]
	proofs   *lru.Cache[string, *render.Proof] // read ones, by practice and key
	names    map[string]string                 // operations by method and address
	meters   *meters
	validate gin.HandlerFunc
	heart    *heartbeat
	changes  *hearing
	// draftSaved wakes who plans drafts for the day sheet.
	draftSaved chan struct{}
	// revisionFixed wakes who prints revisions.
	revisionFixed chan struct{}
}

// studiesKept is how many teeth are kept ready packed, at some 0.8 MB each.
const studiesKept = 60

const (
	sessionLife = 12 * time.Hour // a working day
	largestBody = 1 << 20        // bytes; a case is a few kilobytes
	cookieName  = "obturon_session"
	apiPrefix   = "/api"
	changesPath = "/changes"
	usualLimit  = 30 * time.Second
	// waitingPlaces is how many may wait for a turn, some two seconds' work.
	waitingPlaces = 16
	// packedAt is the level of compression: a tenth less than the usual, for a few
	// milliseconds.
	packedAt = 7
	// worthCompressing, in bytes.
	worthCompressing = 1024
)

// Handler builds the whole application: API, its description and the site.
func Handler(o Options) (http.Handler, error) {
	s, err := newServer(o)
	if err != nil {
		return nil, err
	}
	if o.Background != nil {
		go s.keepDaySheet(o.Background)
		go s.printRevisions(o.Background)
		if o.ProveAtNight {
			go s.proveAtNight(o.Background)
		}
	}
	return s.handler()
}

// NewTurns are those of one machine.
func NewTurns() *turn.Queue { return turn.New(max(1, runtime.GOMAXPROCS(0)/2), waitingPlaces) }

func newServer(o Options) (*server, error) {
	studies, err := lru.New[plan.Study, StudiedTooth](studiesKept)
	if err != nil {
		return nil, fmt.Errorf("making room for studies: %w", err)
	}
	contract, err := openapi3.NewLoader().LoadFromData(document.Contract)
	if err != nil {
		return nil, fmt.Errorf("reading the API description: %w", err)
	}
	validate, err := contractCheck(contract)
	if err != nil {
		return nil, err
	}
	if o.RequestLimit == 0 {
		o.RequestLimit = usualLimit
	}
	proofs, err := lru.New[string, *render.Proof](proofsKept)
	if err != nil {
		return nil, fmt.Errorf("making room for proofs: %w", err)
	}
	s := &server{
		Options:       o,
		proofs:        proofs,
		validate:      validate,
		heart:         &heartbeat{ping: o.Store.Ping},
		changes:       &hearing{listen: o.Store.Listen},
		attempts:      newAttempts(),
		studies:       studies,
		names:         operationNames(contract),
		meters:        newMeters(o.Store.SQL()),
		draftSaved:    make(chan struct{}, 1),
		revisionFixed: make(chan struct{}, 1),
	}
	if s.Turns == nil {
		s.Turns = NewTurns()
	}
	s.Turns.WhenRefused(s.meters.turnRefused)
	s.meters.watch(s.Turns)
	s.sessions = o.sessionManager()
	return s, nil
}

// handler puts the layers around the use cases: what comes first looks first.
func (s *server) handler() (http.Handler, error) {
	engine, err := s.engine()
	if err != nil {
		return nil, err
	}
	compress, err := gzhttp.NewWrapper(gzhttp.MinSize(worthCompressing), gzhttp.CompressionLevel(packedAt), gzhttp.EnableZstd(false))
	if err != nil {
		return nil, fmt.Errorf("setting up compression: %w", err)
	}
	return http.NewCrossOriginProtection().Handler(compress(recoverPanics(s.sessions.LoadAndSave(engine)))), nil
}

func (o Options) sessionManager() *scs.SessionManager {
	m := scs.New()
	m.Store = postgresstore.New(o.Store.SQL())
	m.HashTokenInStore = true // a copy of the database signs nobody in
	m.Lifetime = sessionLife
	m.Cookie.Name = cookieName
	m.Cookie.HttpOnly = true
	m.Cookie.SameSite = http.SameSiteLaxMode
	if o.BehindTLS {
		m.Cookie.Name, m.Cookie.Secure = "__Host-"+cookieName, true
	}
	m.ErrorFunc = func(w http.ResponseWriter, _ *http.Request, err error) { asProblem(err).send(w) }
	return m
}

func (s *server) engine() (*gin.Engine, error) {
	gin.SetMode(gin.ReleaseMode)
	engine := gin.New()
	if err := engine.SetTrustedProxies(s.TrustedProxies); err != nil {
		return nil, fmt.Errorf("reading the trusted proxies: %w", err)
	}
	engine.ContextWithFallback = true
	engine.HandleMethodNotAllowed = true
	engine.NoMethod(func(c *gin.Context) {
		(&problem{status: http.StatusMethodNotAllowed, title: "This address does not take that method"}).write(c)
	})
	engine.Use(limitBody, s.secureHeaders, s.meters.measure(s.names))
	engine.GET("/metrics", s.meters.serve)
	guarded := engine.Group(apiPrefix, reportErrors, neverKept, rememberAddress, s.letThrough)
	guarded.GET("/openapi.yaml", func(c *gin.Context) { c.Data(http.StatusOK, "application/yaml", document.Contract) })
	guarded.GET("/docs", describeAPI)
	guarded.GET(changesPath, s.streamChanges)
	contracted := guarded.Group("", checkText, s.validate, s.withDeadline, s.takeTurn)
	RegisterHandlersWithOptions(contracted, NewStrictHandlerWithOptions(s, []StrictMiddlewareFunc{ownContext}, StrictGinServerOptions{
		RequestErrorHandlerFunc: func(c *gin.Context, err error) {
			(&problem{status: http.StatusBadRequest, title: "The request cannot be read", detail: err.Error()}).write(c)
		},
		HandlerErrorFunc:         answerError,
		ResponseErrorHandlerFunc: answerError,
	}), GinServerOptions{ErrorHandler: func(c *gin.Context, err error, _ int) {
		slog.Debug("address not read", "error", err)
		(&problem{status: http.StatusNotFound, title: "Not found", detail: "This address names no case. Go back to the day sheet."}).write(c)
	}})
	serveSite(engine, s.Site)
	return engine, nil
}

// contractCheck validates requests against the contract.
func contractCheck(contract *openapi3.T) (gin.HandlerFunc, error) {
	router, err := gorillamux.NewRouter(contract)
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
