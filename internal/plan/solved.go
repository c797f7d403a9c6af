package plan

import (
	"context"
	"fmt"

	"obturon/core/advice"
	"obturon/core/anatomy"
	"obturon/core/cavity"
	"obturon/core/design"
	"obturon/core/intake"
	"obturon/core/school"
	"obturon/core/solve"
)

// basis is what a drag leaves alone, with the adjacent teeth. Solutions are those of its
// proposals, nil where it is as the forms propose it.
type basis struct {
	design.Basis
	neighbours design.Neighbours
	solutions  []solve.Solution
}

// how a case's proposals are wanted.
type how int

const (
	solved how = iota
	atOnce     // as they are known: solved where they have been before
)

// proposals are those of a case. Errors are those of design.Propose and the context's.
func (p *Planner) proposals(ctx context.Context, c *intake.Case, decided advice.Decision, s *school.School, m *anatomy.Model, grid float64, wanted how) (basis, error) {
	key := caseKey(c)
	if known, ok := p.solved.peek(key, grid); ok {
		return known, nil
	}
	plain, err := p.bases.get(key, grid, func() (basis, error) {
		neighbours, err := p.neighbours(c, m, grid)
		if err != nil {
			return basis{}, err
		}
		proposed, err := design.Propose(ctx, c, decided, s, m, neighbours)
		return basis{Basis: proposed, neighbours: neighbours}, err
	})
	if err != nil || wanted == atOnce {
		return plain, err
	}
	return p.solved.get(key, grid, func() (basis, error) {
		better, solutions, err := solve.Basis(ctx, m, plain.Basis)
		if err != nil {
			return basis{}, fmt.Errorf("solving the proposal: %w", err)
		}
		return basis{better, plain.neighbours, solutions}, nil
	})
}

// Moved is a figure that was moved from what its form proposed.
type Moved struct {
	cavity.Dimension
	To float64
}

// Solved cuts a case whose proposals are solved, without its being drawn or judged. Values
// set by hand play no part. Errors are those of Evaluate.
func (p *Planner) Solved(ctx context.Context, c *intake.Case, grid float64) (*Result, error) {
	untouched := *c
	untouched.Overrides = nil
	r, _, err := p.cut(ctx, &untouched, grid, solved)
	return r, err
}

// Solved reports a result whose proposals were solved, or that has none.
func (r *Result) Solved() bool { return r.Refused() != "" || r.Solutions != nil }

// Solution tells which figures solving moved, and what that gained; nothing where the
// proposals were not solved.
func (r *Result) Solution() (moved []Moved, gained []VerdictChange) {
	for n, found := range r.Solutions {
		named := ""
		if one := r.Cut.Cavities[n]; len(r.Solutions) > 1 && one.Name != "" {
			named = ", " + one.Name
		}
		for _, d := range found.Proposed {
			if to, ok := found.Values[d.ID]; ok {
				d.Label += named
				moved = append(moved, Moved{d, to})
			}
		}
		for _, g := range found.Gained() {
			gained = append(gained, VerdictChange{g.Label + named, g.Before, g.After})
		}
	}
	return moved, gained
}
