package solve

import (
	"context"
	"maps"

	"obturon/core/anatomy"
	"obturon/core/design"
	"obturon/core/parallel"
)

// Basis solves each cavity of a basis by itself, since each is judged alone, and gives
// the basis with what was found, beside the solutions in the order of its proposals.
// Errors are the context's.
func Basis(ctx context.Context, m *anatomy.Model, b design.Basis) (design.Basis, []Solution, error) {
	found := make([]Solution, len(b.Proposals))
	failed := make([]error, len(b.Proposals))
	err := parallel.EachUntil(ctx, len(b.Proposals), func(n int) {
		found[n], failed[n] = Proposal(ctx, m, b.Proposals[n])
	})
	if err != nil {
		return b, nil, err
	}
	solved := design.Basis{Staying: b.Staying}
	for n, p := range b.Proposals {
		if failed[n] != nil {
			return b, nil, failed[n]
		}
		solved.Proposals = append(solved.Proposals, p.With(maps.Clone(found[n].Values)))
	}
	return solved, found, nil
}
