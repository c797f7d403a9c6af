// Package plan holds the use cases: it takes a case through the core's pipeline as far as somebody
// asks, and remembers what the next question about the same tooth needs again.
package plan

import (
	"context"
	"fmt"

	"obturon/core/anatomy"
	"obturon/core/design"
	"obturon/core/intake"
	"obturon/core/notation"
	"obturon/core/pipeline"
	"obturon/core/solid"
)

// DefaultGrid is the sample spacing while designing, in mm.
const DefaultGrid = 0.1

// Result is what a case comes to: its plan, or the decision that refuses one.
type Result struct {
	*pipeline.Decided
	*pipeline.Drawn // nil where the plan is refused
}

// Worst is the worst verdict of a plan, or "refused".
func (r *Result) Worst() string {
	if r.Drawn == nil {
		return pipeline.WorstOf(r.Decided, nil)
	}
	return r.Drawn.Worst()
}

// Opened are the surfaces that a case is about: those that its cavities open, or that are diseased.
func (r *Result) Opened() []string {
	if r.Drawn == nil {
		return r.Decision.Surfaces
	}
	return r.Drawn.Surfaces
}

// SearchWords are what a list finds a plan by, in small letters.
func (r *Result) SearchWords() string { return r.Decided.SearchWords(r.Opened(), r.Worst()) }

// Judged is a case cut, measured and judged, without pictures and volumes, or the decision that
// refuses it.
type Judged struct {
	*pipeline.Decided
	*pipeline.Measured // nil where the case is refused
}

// Worst is the worst verdict of a case, or "refused".
func (j *Judged) Worst() string {
	if j.Measured == nil {
		return pipeline.WorstOf(j.Decided, nil)
	}
	return j.Measured.Worst()
}

// Evaluate plans a case: proposal, solved by its own gauges, solid, measurements, checks,
// drawing. It stops between stages when the context is cancelled, with the context's
// error. The latest few are remembered: a case's files are asked for one after the other.
func (p *Planner) Evaluate(ctx context.Context, c *intake.Case, grid float64) (*Result, error) {
	return remembered(p.evaluated, caseAndKit(c, grid), func() (*Result, error) { return p.draw(ctx, c, grid, pipeline.Sections{}, solved) })
}

// AtOnce is Evaluate without waiting for the proposal to be solved, where it has not been
// yet, and with the sections moved. Errors are the same.
func (p *Planner) AtOnce(ctx context.Context, c *intake.Case, grid float64, at pipeline.Sections) (*Result, error) {
	return p.draw(ctx, c, grid, at, atOnce)
}

func (p *Planner) draw(ctx context.Context, c *intake.Case, grid float64, at pipeline.Sections, wanted ProposalMode) (*Result, error) {
	decided, designed, err := p.design(ctx, c, grid, wanted)
	if err != nil || designed == nil {
		return &Result{Decided: decided}, err
	}
	drawn, err := designed.Draw(ctx, at)
	return &Result{decided, drawn}, err
}

// Judged is Evaluate without pictures and volumes. The latest are remembered: filling, sitting and
// chair ask for one after the other. Errors are the same.
func (p *Planner) Judged(ctx context.Context, c *intake.Case, grid float64) (*Judged, error) {
	return remembered(p.judgements, caseAndKit(c, grid), func() (*Judged, error) { return p.judge(ctx, c, grid, solved) })
}

func (p *Planner) judge(ctx context.Context, c *intake.Case, grid float64, wanted ProposalMode) (*Judged, error) {
	decided, designed, err := p.design(ctx, c, grid, wanted)
	if err != nil || designed == nil {
		return &Judged{Decided: decided}, err
	}
	measured, err := designed.Measure(ctx)
	return &Judged{decided, measured}, err
}

// Screen is the cut tooth of a case for the screen, as AtOnce has it, or filled to what it was,
// with the design that it comes from; nil where the plan is refused. Errors are
// those of Evaluate.
func (p *Planner) Screen(ctx context.Context, c *intake.Case, grid float64, filled bool) (*pipeline.Designed, *solid.Mesh, error) {
	_, designed, err := p.design(ctx, c, grid, atOnce)
	if err != nil || designed == nil {
		return nil, nil, err
	}
	return designed, designed.Screen(filled), ctx.Err()
}

// ProposalMode is how a case's proposals are wanted.
type ProposalMode int

const (
	solved ProposalMode = iota
	atOnce              // as they are known: solved where they have been before
)

// design takes a case as far as its cavities; designed is nil where it is refused. The error is
// intake.Faults where the dentist's own values cannot be built.
func (p *Planner) design(ctx context.Context, c *intake.Case, grid float64, wanted ProposalMode) (
	decided *pipeline.Decided, designed *pipeline.Designed, err error,
) {
	if decided, err = pipeline.Decide(c); err != nil || decided.Refused() != "" {
		return decided, nil, err
	}
	proposed, err := p.proposals(ctx, decided, grid, wanted)
	if err != nil {
		if refused := decided.Unless(err); refused != nil {
			return refused, nil, nil
		}
		return nil, nil, fmt.Errorf("proposing the preparation: %w", err)
	}
	if designed, err = decided.Design(proposed); err != nil {
		return nil, nil, err
	}
	return decided, designed, ctx.Err()
}

// proposals are those of a case. Errors are those of Propose and the context's.
func (p *Planner) proposals(ctx context.Context, d *pipeline.Decided, grid float64, wanted ProposalMode) (*pipeline.Proposed, error) {
	key := proposalKey(d.Case, grid)
	if known, ok := p.solved.Get(key); ok {
		return known, nil
	}
	plain, err := remembered(p.proposed, key, func() (*pipeline.Proposed, error) {
		model, err := p.Tooth(d.Case, grid)
		if err != nil {
			return nil, fmt.Errorf("modelling the tooth: %w", err)
		}
		beside, err := p.neighbours(model, design.SidesTouched(d.Case), d.Case.Patient.AgeYears, grid)
		if err != nil {
			return nil, err
		}
		return d.Propose(ctx, model, beside)
	})
	if err != nil || wanted == atOnce {
		return plain, err
	}
	return remembered(p.solved, key, func() (*pipeline.Proposed, error) { return plain.Solve(ctx) })
}

// Solved designs a case whose proposals are solved, without its being drawn or judged; nil where it
// is refused. Values set by hand play no part. Errors are those of Evaluate.
func (p *Planner) Solved(ctx context.Context, c *intake.Case, grid float64) (*pipeline.Designed, error) {
	untouched := *c
	untouched.Overrides = nil
	_, designed, err := p.design(ctx, &untouched, grid, solved)
	return designed, err
}

// neighbours models the teeth beside one on some of its sides: those that stand at that age.
func (p *Planner) neighbours(m *anatomy.Model, sides []notation.Side, ageYears, grid float64) (design.Neighbours, error) {
	beside := design.Neighbours{}
	for _, side := range sides {
		t, stands := m.Tooth.Neighbour(side, ageYears)
		if !stands {
			continue
		}
		n, err := p.teeth.get(t, anatomy.MeasuredSizes{}, ageYears, grid)
		if err != nil {
			return nil, fmt.Errorf("modelling the %s neighbour: %w", side, err)
		}
		beside[side] = anatomy.Place(m, side, n)
	}
	return beside, nil
}
