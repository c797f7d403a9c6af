package api

import (
	"context"
	"fmt"
	"net/http"
	"slices"

	"github.com/google/uuid"

	"obturon/internal/document"
	"obturon/internal/store"
)

// allowed lists what each role may do, and with whose cases. What is not listed is
// refused.
var allowed = map[Role]map[Permission]whose{
	document.Dentist: {
		document.MayStartCase: own, document.MayReadCase: everyones, document.MayChangeCase: everyones,
		document.MayArchiveCase: everyones, document.MayCorrectPatient: everyones, document.MayChangeRules: everyones,
	},
	document.Learner: {
		document.MayStartCase: own, document.MayReadCase: own, document.MayChangeCase: own, document.MayCorrectPatient: own,
	},
	document.Teacher: {
		document.MayStartCase: own, document.MayReadCase: learners, document.MayChangeCase: own,
		document.MayArchiveCase: learners, document.MayCorrectPatient: learners, document.MayChangeRules: everyones,
	},
	document.Administrator: {
		document.MayReadCase: everyones, document.MayArchiveCase: everyones, document.MayCorrectPatient: everyones, document.MayChangeRules: everyones,
	},
}

// whose cases a permission holds for.
type whose int

const (
	nobodys   whose = iota
	own             // started by the user
	learners        // the user's own, and those that learners have started
	everyones       // of the practice
)

// refusals say who can do instead what a role may not.
var refusals = map[Permission]string{
	document.MayStartCase:      "Ask a dentist to start it.",
	document.MayReadCase:       "It is another's. Go back to your own cases.",
	document.MayChangeCase:     "You may look at it; whoever started it, or a dentist, can change it.",
	document.MayArchiveCase:    "Ask a teacher or a dentist.",
	document.MayCorrectPatient: "Ask a dentist.",
	document.MayChangeRules:    "Ask a teacher or a dentist.",
}

func refused(p Permission) *problem {
	return &problem{status: http.StatusForbidden, title: "Your sign-in may not do this", detail: refusals[p]}
}

// may reports what a user may do with cases started by somebody.
func may(u *store.User, p Permission, startedBy uuid.UUID, startersRole string) bool {
	switch allowed[Role(u.Role)][p] {
	case everyones:
		return true
	case learners:
		return startedBy == u.ID || Role(startersRole) == document.Learner
	case own:
		return startedBy == u.ID
	default:
		return false
	}
}

var permissions = []Permission{
	document.MayStartCase, document.MayReadCase, document.MayChangeCase, document.MayArchiveCase, document.MayCorrectPatient, document.MayChangeRules,
}

// permissionsOf lists what a user may do at all.
func permissionsOf(u *store.User) []Permission {
	return slices.DeleteFunc(slices.Clone(permissions), func(p Permission) bool { return allowed[Role(u.Role)][p] == nobodys })
}

// permissionsWith lists what a user may do with a case.
func permissionsWith(u *store.User, startedBy uuid.UUID, startersRole string) []Permission {
	ofCases := []Permission{document.MayReadCase, document.MayChangeCase, document.MayArchiveCase, document.MayCorrectPatient}
	return slices.DeleteFunc(ofCases, func(p Permission) bool { return !may(u, p, startedBy, startersRole) })
}

// reachOf is whose cases a user's lists show.
func reachOf(u *store.User) store.Reach {
	r := store.Reach{Practice: u.PracticeID, User: u.ID}
	switch allowed[Role(u.Role)][document.MayReadCase] {
	case everyones:
		r.All = true
	case learners:
		r.Roles = []string{string(document.Learner)}
	}
	return r
}

// authorise refuses what a user may not do: by role, and where the address names a
// case, by whose it is. Another practice's case is not found.
func (s *server) authorise(ctx context.Context, u *store.User, p Permission, caseID string) error {
	if allowed[Role(u.Role)][p] == nobodys {
		return refused(p)
	}
	if caseID == "" {
		return nil
	}
	id, err := uuid.Parse(caseID)
	if err != nil {
		return fmt.Errorf("%w: %q names no case", store.ErrNotFound, caseID)
	}
	owner, err := s.Store.Owner(ctx, u.PracticeID, id)
	if err != nil {
		return err
	}
	if !may(u, p, owner.CreatedBy, owner.CreatorRole) {
		return refused(p)
	}
	return nil
}
