package api

import (
	"context"
	"errors"
	"net/http"
	"strings"

	"github.com/getkin/kin-openapi/openapi3"
	"github.com/gin-gonic/gin"
	"github.com/google/uuid"

	"obturon/internal/document"
	"obturon/internal/store"
	"obturon/internal/turn"
)

// operation is how a request of the contract is let through.
type operation struct {
	// open needs no sign-in.
	open bool
	// needs is what the user must be allowed to do; "" is open to all who are
	// signed in.
	needs Permission
	// computes tells that it takes its turn: it models, cuts or measures.
	computes bool
	// dragged is asked again and again; of one user's, only the newest waits.
	dragged bool
	// long ones may take several times as long as others.
	long bool
}

// operations lists every operation of the contract. What is not listed is refused.
var operations = map[string]operation{
	"getHealth": {open: true}, "signIn": {open: true}, "signOut": {open: true}, "listDemoSignIns": {open: true},
	"getSession": {},
	"listTeeth":  {}, "readTooth": {}, "listArches": {}, "listSchools": {}, "listInstruments": {}, "getHouseRules": {},
	"chartTooth": {computes: true}, "benchBitewing": {computes: true}, "readFilm": {computes: true},
	"getConstants": {}, "saveConstants": {needs: document.MayChangeRules},
	"getProducts": {}, "saveProducts": {needs: document.MayChangeRules},
	"getKit": {}, "saveKit": {needs: document.MayChangeRules},
	"studyTooth": {computes: true}, "studyNeighbours": {computes: true}, "studySection": {computes: true, dragged: true}, "studyTouch": {computes: true, dragged: true},
	"askQuiz": {computes: true}, "answerQuiz": {computes: true}, "listQuizResults": {},
	"advise":   {},
	"evaluate": {computes: true, dragged: true}, "evaluateSolid": {computes: true, dragged: true}, "compareFinishes": {computes: true, dragged: true},
	"solveProposal":   {computes: true, dragged: true},
	"evaluateFilling": {computes: true, dragged: true},
	"evaluateHold":    {computes: true, dragged: true}, "evaluateDeflection": {computes: true, dragged: true}, "evaluateStrain": {computes: true, dragged: true},
	"evaluatePull": {computes: true, dragged: true}, "evaluateSections": {computes: true, long: true},
	"rehearseSequence": {long: true}, "drawStage": {computes: true, dragged: true, long: true},
	"compareSchools": {computes: true, dragged: true},
	"copySchool":     {needs: document.MayChangeRules}, "saveHouseRules": {needs: document.MayChangeRules},
	"archiveHouseRules": {needs: document.MayChangeRules}, "unarchiveHouseRules": {needs: document.MayChangeRules},
	"listCases": {needs: document.MayReadCase}, "findPatient": {needs: document.MayStartCase},
	"createCase": {needs: document.MayStartCase},
	"getCase":    {needs: document.MayReadCase}, "getRevision": {needs: document.MayReadCase},
	"getCaseFile": {needs: document.MayReadCase, computes: true, long: true}, "judgeUnder": {needs: document.MayReadCase, computes: true},
	"planSitting": {needs: document.MayReadCase, computes: true, long: true},
	"saveDraft":   {needs: document.MayChangeCase}, "fixRevision": {needs: document.MayChangeCase, computes: true},
	"listRuns": {needs: document.MayReadCase}, "getRun": {needs: document.MayReadCase},
	"startRun": {needs: document.MayChangeCase, computes: true, long: true}, "keepRunEvents": {needs: document.MayChangeCase},
	"lastTolerance": {needs: document.MayReadCase}, "startTolerance": {needs: document.MayChangeCase}, "cancelTolerance": {needs: document.MayChangeCase},
	"lastFineRun": {needs: document.MayReadCase}, "startFineRun": {needs: document.MayChangeCase}, "cancelFineRun": {needs: document.MayChangeCase},
	"archiveCase": {needs: document.MayArchiveCase}, "unarchiveCase": {needs: document.MayArchiveCase},
	"correctBirthYear": {needs: document.MayCorrectPatient},
}

// ginPath writes an address of the contract as the router does.
func ginPath(path string) string {
	return apiPrefix + strings.NewReplacer("{", ":", "}", "").Replace(path)
}

// operationNames finds the operation of a method and address.
func operationNames(contract *openapi3.T) map[string]string {
	names := map[string]string{}
	for path, item := range contract.Paths.Map() {
		for method, op := range item.Operations() {
			names[method+" "+ginPath(path)] = op.OperationID
		}
	}
	return names
}

type userKey struct{}

func currentUser(ctx context.Context) *store.User { return ctx.Value(userKey{}).(*store.User) }

// letThrough finds out who asks, and whether they may.
func (s *server) letThrough(c *gin.Context) {
	name := s.names[c.Request.Method+" "+c.FullPath()]
	op, listed := operations[name]
	if !listed && c.FullPath() != "" && name != "" {
		refused("").write(c)
		return
	}
	if op.open {
		return
	}
	u, err := s.signedIn(c.Request.Context())
	if err != nil {
		answerError(c, err)
		return
	}
	c.Request = c.Request.WithContext(context.WithValue(c.Request.Context(), userKey{}, u))
	if op.needs == "" {
		return
	}
	caseID := ""
	if strings.HasPrefix(c.FullPath(), ginPath("/cases/{id}")) {
		caseID = c.Param("id")
	}
	if err := s.authorise(c.Request.Context(), u, op.needs, caseID); err != nil {
		answerError(c, err)
	}
}

var errSignedOut = &problem{status: http.StatusUnauthorized, title: "You are not signed in", detail: "Sign in, then do it again. Nothing was lost."}

// signedIn finds who is signed in. A password that was changed since ends the
// session.
func (s *server) signedIn(ctx context.Context) (*store.User, error) {
	id, err := uuid.Parse(s.sessions.GetString(ctx, sessionUser))
	if err != nil {
		return nil, errSignedOut
	}
	u, err := s.Store.User(ctx, id)
	if errors.Is(err, store.ErrNotFound) || (err == nil && s.sessions.GetString(ctx, sessionStamp) != stamp(u)) {
		return nil, errSignedOut
	}
	return u, err
}

// takeTurn waits until the machine can compute for this user.
func (s *server) takeTurn(c *gin.Context) {
	name := s.names[c.Request.Method+" "+c.FullPath()]
	op := operations[name]
	if !op.computes {
		return
	}
	question := ""
	if op.dragged {
		question = name
	}
	held := &heldTurn{queue: s.Turns, user: currentUser(c.Request.Context()).ID.String(), question: question}
	if err := held.take(c.Request.Context()); err != nil {
		answerError(c, err)
		return
	}
	defer held.release()
	c.Request = c.Request.WithContext(context.WithValue(c.Request.Context(), turnKey{}, held))
	c.Next()
}

type turnKey struct{}

// heldTurn is the turn that a request computes in. It is given back while the request only
// waits.
type heldTurn struct {
	queue          *turn.Queue
	user, question string
	done           func() // nil while it is not held
}

func (h *heldTurn) take(ctx context.Context) (err error) {
	h.done, err = h.queue.Take(ctx, h.user, h.question)
	return err
}

func (h *heldTurn) release() {
	if h.done != nil {
		h.done()
		h.done = nil
	}
}

// withoutTurn does what only waits, so that others can compute meanwhile. Errors are those of
// waiting, and of the turn that is taken again.
func withoutTurn(ctx context.Context, wait func() error) error {
	held, ok := ctx.Value(turnKey{}).(*heldTurn)
	if !ok {
		return wait()
	}
	held.release()
	if err := wait(); err != nil {
		return err
	}
	return held.take(ctx)
}
