package pipeline

import (
	"context"
	"fmt"

	"obturon/core/anatomy"
	"obturon/core/cavity"
	"obturon/core/design"
	"obturon/core/intake"
	"obturon/core/solve"
)

// Proposed is what the cavities of a case rest on while its figures are changed: the tooth, those
// beside it, and the proposals. Cases that differ in figures set by hand share it.
type Proposed struct {
	Model      *anatomy.Model
	Neighbours design.Neighbours
	Basis      design.Basis
	Solutions  []solve.Solution // of the proposals, in their order; nil where they are as the forms propose them
}

// Propose has cavities proposed for a decided case on its modelled tooth. Errors are those of
// design.Propose: cavity.Refusal knows those that mean that the tooth cannot have such a cavity.
func (d *Decided) Propose(ctx context.Context, m *anatomy.Model, beside design.Neighbours) (*Proposed, error) {
	basis, err := design.Propose(ctx, d.Case, d.Decision, d.School, m, beside)
	if err != nil {
		return nil, err
	}
	return &Proposed{Model: m, Neighbours: beside, Basis: basis}, nil
}

// Solve has the figures moved until the gauges of the cavities are content, or cannot be. The
// error is the context's.
func (p *Proposed) Solve(ctx context.Context) (*Proposed, error) {
	better, solutions, err := solve.Basis(ctx, p.Model, p.Basis)
	if err != nil {
		return nil, fmt.Errorf("solving the proposal: %w", err)
	}
	return &Proposed{p.Model, p.Neighbours, better, solutions}, nil
}

// Designed is a case with its cavities as solids.
type Designed struct {
	*Decided
	*Proposed
	Cut      design.Cut
	Surfaces []string // those that the cavities open
}

// Design builds the cavities of a case with the figures set by hand, on what was proposed for it.
// The error is intake.Faults that name the figures which cannot be built.
func (d *Decided) Design(on *Proposed) (*Designed, error) {
	cut, err := on.Basis.Cut(d.Case.Overrides)
	if err != nil {
		return nil, notBuilt(on.Basis.AtFault(d.Case.Overrides), err)
	}
	return &Designed{d, on, cut, cut.Surfaces(d.Decision.Surfaces)}, nil
}

// notBuilt says of each value set by hand that is to blame why nothing can be cut.
func notBuilt(blamed []string, err error) error {
	var faults intake.Faults
	for _, id := range blamed {
		faults = append(faults, intake.Fault{Path: "$.overrides." + id, Message: err.Error()})
	}
	return faults
}

// Unless gives the case on with the reason where an error of Propose means that the tooth cannot
// have such a cavity; nil for any other error.
func (d *Decided) Unless(err error) *Decided {
	if reason := cavity.Refusal(err); reason != "" {
		return d.refuse(reason)
	}
	return nil
}

// Dimensions lists those of all cavities, in their order.
func (d *Designed) Dimensions() []cavity.Dimension {
	var all []cavity.Dimension
	for _, one := range d.Cut.Cavities {
		all = append(all, one.Dimensions...)
	}
	return all
}
