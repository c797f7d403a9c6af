package solve

import (
	"context"
	"slices"

	"obturon/core/anatomy"
	"obturon/core/assess"
	"obturon/core/cavity"
	"obturon/core/measure"
	"obturon/core/school"
)

// Proposal solves a cavity as its form proposes it, cut alone in its tooth. Errors are the
// context's.
func Proposal(ctx context.Context, m *anatomy.Model, p cavity.Proposal) (Solution, error) {
	proposed, err := p.Cut(nil)
	if cavity.Refusal(err) != "" {
		return Solution{}, nil // said where it is cut for good
	}
	if err != nil {
		return Solution{}, err
	}
	intact := m.Surface.Uncut()
	return Solve(ctx, movable(proposed), effortFor(proposed), func(ctx context.Context, values map[string]float64) (Judged, error) {
		c, err := p.Cut(values)
		if err != nil {
			return Judged{}, err
		}
		if c.Narrow && !proposed.Narrow {
			return Judged{}, cavity.ErrNarrowFloor
		}
		s := measure.NewSubject(measure.NewPrepared(m, intact.Carve(c.Tool())), c)
		checks, err := assess.Cavity(ctx, s)
		return Judged{checks, -s.Mesh.Volume()}, err
	})
}

// movable are the figures that may be moved. A bevel that nobody asked for is no remedy for
// another margin's fault.
func movable(c *cavity.Cavity) []cavity.Dimension {
	if c.Kind != cavity.Occlusal || c.Requires(school.RetainBevelWidth) {
		return c.Dimensions
	}
	return slices.DeleteFunc(slices.Clone(c.Dimensions), func(d cavity.Dimension) bool {
		return d.ID == c.Figure("bevel_width", "") && d.Value == 0
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
		return Effort{Moves: 9, Conflicts: 2}
	}
}
