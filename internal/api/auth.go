package api

import (
	"context"
	"crypto/sha256"
	"encoding/hex"
	"errors"
	"net"
	"net/http"

	"github.com/gin-gonic/gin"

	"obturon/internal/password"
	"obturon/internal/store"
)

// What a session holds.
const (
	sessionUser  = "user"
	sessionStamp = "stamp"
)

// stamp tells the password that a session was started with from a later one.
func stamp(u *store.User) string {
	sum := sha256.Sum256([]byte(u.PasswordHash))
	return hex.EncodeToString(sum[:8])
}

type addressKey struct{}

// rememberAddress keeps the client's address where use cases find it.
func rememberAddress(c *gin.Context) {
	address := c.ClientIP()
	if address == "" {
		address, _, _ = net.SplitHostPort(c.Request.RemoteAddr)
	}
	c.Request = c.Request.WithContext(context.WithValue(c.Request.Context(), addressKey{}, address))
}

func addressOf(ctx context.Context) string {
	address, _ := ctx.Value(addressKey{}).(string)
	return address
}

// SignIn checks a password and starts a session.
func (s *server) SignIn(ctx context.Context, r SignInRequestObject) (SignInResponseObject, error) {
	name, address := theName(r.Body.SignIn), addressOf(ctx)
	allowed, err := s.attempts.allow(ctx, name, address)
	if err != nil {
		return nil, err
	}
	if !allowed {
		return nil, &problem{status: http.StatusTooManyRequests, title: "Too many attempts", detail: "Wait half a minute, then try again."}
	}
	u, err := s.Store.UserBySignIn(ctx, name)
	if err != nil && !errors.Is(err, store.ErrNotFound) {
		return nil, err
	}
	// Unknown names cost as much time as wrong passwords.
	hash := password.Decoy
	if u != nil {
		hash = u.PasswordHash
	}
	same, err := password.Matches(ctx, hash, r.Body.Password)
	if err != nil {
		return nil, err
	}
	if !same || u == nil {
		if err := s.Store.AuditStranger(ctx, "sign-in refused", name+" from "+address); err != nil {
			return nil, err
		}
		return nil, &problem{
			status: http.StatusUnauthorized,
			title:  "Sign-in name or password is wrong",
			detail: "Check both; capitals count in the password.",
		}
	}
	s.attempts.succeeded(name, address)
	if err := s.sessions.RenewToken(ctx); err != nil {
		return nil, err
	}
	s.sessions.Put(ctx, sessionUser, u.ID.String())
	s.sessions.Put(ctx, sessionStamp, stamp(u))
	if err := s.Store.Audit(ctx, u, "sign in", ""); err != nil {
		return nil, err
	}
	return SignIn200JSONResponse(s.userAnswer(u)), nil
}

// SignOut ends the session.
func (s *server) SignOut(ctx context.Context, _ SignOutRequestObject) (SignOutResponseObject, error) {
	u, err := s.signedIn(ctx)
	if err == nil {
		err = s.Store.Audit(ctx, u, "sign out", "")
	}
	if err != nil && !errors.Is(err, errSignedOut) {
		return nil, err
	}
	if err := s.sessions.Destroy(ctx); err != nil {
		return nil, err
	}
	return SignOut204Response{}, nil
}

// GetSession tells who is signed in.
func (s *server) GetSession(ctx context.Context, _ GetSessionRequestObject) (GetSessionResponseObject, error) {
	return GetSession200JSONResponse(s.userAnswer(currentUser(ctx))), nil
}

// ListDemoSignIns lists the sign-ins of the demonstration.
func (s *server) ListDemoSignIns(context.Context, ListDemoSignInsRequestObject) (ListDemoSignInsResponseObject, error) {
	return ListDemoSignIns200JSONResponse(append([]DemoSignIn{}, s.DemoSignIns...)), nil
}

func (s *server) userAnswer(u *store.User) User {
	return User{
		ProveAfterSeconds: int(s.ProveAfter.Seconds()),
		SignIn:            u.SignIn,
		Name:              u.Name,
		Role:              Role(u.Role),
		Practice:          u.Practice.Name,
		May:               permissionsOf(u),
	}
}
