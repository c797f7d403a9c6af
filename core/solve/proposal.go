package solve

import (
	"context"
	"errors"
	"math"

	"obturon/core/anatomy"
	"obturon/core/assess"
	"obturon/core/cavity"
	"obturon/core/measure"
	"obturon/core/notation"
)

// Proposal solves a cavity as its form proposes it, cut alone in its tooth. Errors are the
// context's.
func Proposal(ctx context.Context, m *anatomy.Model, p cavity.Proposal) (Solution, error) {
	c, err := p.Cut(nil)
	if cavity.Refusal(err) != "" {
		return Solution{}, nil // said where it is cut for good
	}
	if err != nil {
		return Solution{}, err
	}
	intact := m.Surface.Uncut()
	least := steps{}
	return Solve(ctx, c.Dimensions, effortFor(c), func(ctx context.Context, values map[string]float64) (Judged, error) {
		c, err := p.Cut(values)
		if err != nil {
			return Judged{}, err
		}
		s := measure.NewSubject(measure.NewPrepared(m, intact.Carve(c.Tool())), c)
		if len(values) == 0 {
			least.learn(s)
		} else if !least.kept(s) {
			return Judged{}, errNoStep
		}
		checks, err := assess.Cavity(ctx, s)
		return Judged{checks, -s.Mesh.Volume()}, err
	})
}

// effortFor is what a cavity may take: each box makes a cut slower, and a dentist waits
// three seconds for an MOD. Past twenty, little is gained (measured).
func effortFor(c *cavity.Cavity) Effort {
	switch len(c.Boxes) {
	case 0:
		return Effort{Moves: 20, Conflicts: 6}
	case 1:
		return Effort{Moves: 13, Conflicts: 3}
	default:
		return Effort{Moves: 10, Conflicts: 2}
	}
}

// errNoStep means that a seat would no longer be a step of its own.
var errNoStep = errors.New("the axial wall would be too low for a seat of its own")

// steps are the heights (mm) of the axial walls that solving may not lower further: no
// school asks for them by figure, so nothing else would keep a seat from being raised to
// the floor for the sake of its clearance.
type steps map[notation.Side]float64

func (k steps) learn(s *measure.Subject) {
	for _, side := range s.Cavity.Boxes {
		if r, ok := s.Box(side).AxialHeight(); ok {
			const step = 0.05 // mm: a figure's own
			k[side] = math.Min(r.Value, cavity.LeastStep) - r.Uncertainty - step
		}
	}
}

func (k steps) kept(s *measure.Subject) bool {
	for side, least := range k {
		if r, ok := s.Box(side).AxialHeight(); ok && r.Value < least {
			return false
		}
	}
	return true
}
