package plan

import (
	"context"
	"errors"

	"obturon/core/intake"
	"obturon/core/pipeline"
)

// Rehearsed is a case whose cavities the kit has cut, or the decision that refuses it. It is safe
// for concurrent use.
type Rehearsed struct {
	*pipeline.Decided
	*pipeline.Proven // nil where the case is refused
}

// Rehearse plans a case and cuts its cavities with the kit's instruments, step by step,
// once for each state of a case, however many ask. Errors are those of Evaluate.
func (p *Planner) Rehearse(ctx context.Context, c *intake.Case, grid float64) (*Rehearsed, error) {
	return p.RehearseTold(ctx, c, grid, func(float64) {})
}

// RehearseTold is Rehearse that tells the share that is done, 0 to 1; not where somebody else's
// is waited for.
func (p *Planner) RehearseTold(ctx context.Context, c *intake.Case, grid float64, progress func(share float64)) (*Rehearsed, error) {
	key := caseAndKit(c, grid)
	for {
		if known, ok := p.rehearsed.Get(key); ok {
			return known, nil
		}
		made, err, shared := p.rehearsing.Do(key, func() (any, error) { return p.rehearse(ctx, c, grid, progress) })
		if err == nil {
			p.rehearsed.Add(key, made.(*Rehearsed))
			return made.(*Rehearsed), nil
		}
		if !shared || ctx.Err() != nil || !errors.Is(err, context.Canceled) {
			return nil, err
		}
		// Whoever asked first has given up.
	}
}

func (p *Planner) rehearse(ctx context.Context, c *intake.Case, grid float64, progress func(share float64)) (*Rehearsed, error) {
	judged, err := p.Judged(ctx, c, grid)
	if err != nil || judged.Measured == nil {
		return &Rehearsed{Decided: judged.Decided}, err
	}
	proven, err := judged.Prove(ctx, progress)
	return &Rehearsed{judged.Decided, proven}, err
}
