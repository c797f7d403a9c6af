package api

import (
	"context"
	"errors"
	"net/http"
	"strings"
	"sync"
	"time"

	"github.com/gin-gonic/gin"
	"github.com/google/uuid"
	"golang.org/x/time/rate"

	"obturon/internal/password"
	"obturon/internal/store"
)

type userKey struct{}

const sessionUser = "user"

// open addresses need no sign-in.
var open = map[string]bool{
	"POST " + apiPrefix + "/session":      true,
	"DELETE " + apiPrefix + "/session":    true,
	"GET " + apiPrefix + "/health":        true,
	"GET " + apiPrefix + "/demo-sign-ins": true,
}

// requireSignIn lets signed-in users through and carries them in the context.
func (s *server) requireSignIn(c *gin.Context) {
	if open[c.Request.Method+" "+c.Request.URL.Path] {
		return
	}
	unknown := &problem{status: http.StatusUnauthorized, title: "You are not signed in", detail: "Sign in, then do it again. Nothing was lost."}
	id, err := uuid.Parse(s.sessions.GetString(c.Request.Context(), sessionUser))
	if err != nil {
		unknown.write(c)
		return
	}
	u, err := s.Store.User(c.Request.Context(), id)
	if errors.Is(err, store.ErrNotFound) {
		unknown.write(c)
		return
	}
	if err != nil {
		asProblem(err).write(c)
		return
	}
	c.Request = c.Request.WithContext(context.WithValue(c.Request.Context(), userKey{}, u))
}

func currentUser(ctx context.Context) *store.User { return ctx.Value(userKey{}).(*store.User) }

// SignIn checks a password and starts a session.
func (s *server) SignIn(ctx context.Context, r SignInRequestObject) (SignInResponseObject, error) {
	if !s.attempts.allow(strings.ToLower(r.Body.SignIn)) {
		return nil, &problem{status: http.StatusTooManyRequests, title: "Too many attempts", detail: "Wait half a minute, then try again."}
	}
	u, err := s.Store.UserBySignIn(ctx, r.Body.SignIn)
	if err != nil && !errors.Is(err, store.ErrNotFound) {
		return nil, err
	}
	// Unknown names cost as much time as wrong passwords.
	hash := password.Decoy
	if u != nil {
		hash = u.PasswordHash
	}
	if !password.Matches(hash, r.Body.Password) || u == nil {
		return nil, &problem{status: http.StatusUnauthorized, title: "Sign-in name or password is wrong", detail: "Check both; capitals count in the password."}
	}
	if err := s.sessions.RenewToken(ctx); err != nil {
		return nil, err
	}
	s.sessions.Put(ctx, sessionUser, u.ID.String())
	if err := s.Store.Audit(ctx, u, "sign in", ""); err != nil {
		return nil, err
	}
	return SignIn200JSONResponse(userAnswer(u)), nil
}

// SignOut ends the session.
func (s *server) SignOut(ctx context.Context, _ SignOutRequestObject) (SignOutResponseObject, error) {
	if err := s.sessions.Destroy(ctx); err != nil {
		return nil, err
	}
	return SignOut204Response{}, nil
}

// GetSession tells who is signed in.
func (s *server) GetSession(ctx context.Context, _ GetSessionRequestObject) (GetSessionResponseObject, error) {
	return GetSession200JSONResponse(userAnswer(currentUser(ctx))), nil
}

// ListDemoSignIns lists the sign-ins of the demonstration.
func (s *server) ListDemoSignIns(context.Context, ListDemoSignInsRequestObject) (ListDemoSignInsResponseObject, error) {
	return ListDemoSignIns200JSONResponse(append([]DemoSignIn{}, s.DemoSignIns...)), nil
}

func userAnswer(u *store.User) User {
	return User{Name: u.Name, Role: Role(u.Role), Practice: u.Practice.Name}
}

// attempts slows down guessing, one limit a sign-in name.
type attempts struct {
	mu     sync.Mutex
	limits map[string]*rate.Limiter
}

const (
	attemptEvery = 3 * time.Second
	attemptBurst = 10
	namesKept    = 10_000
)

func newAttempts() *attempts { return &attempts{limits: map[string]*rate.Limiter{}} }

func (a *attempts) allow(name string) bool {
	a.mu.Lock()
	defer a.mu.Unlock()
	if len(a.limits) > namesKept { // forget rather than grow without bound
		a.limits = map[string]*rate.Limiter{}
	}
	l, ok := a.limits[name]
	if !ok {
		l = rate.NewLimiter(rate.Every(attemptEvery), attemptBurst)
		a.limits[name] = l
	}
	return l.Allow()
}
