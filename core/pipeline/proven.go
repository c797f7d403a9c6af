package pipeline

import (
	"context"

	"obturon/core/assess"
	"obturon/core/measure"
	"obturon/core/procedure"
	"obturon/core/rehearsal"
	"obturon/core/sequence"
	"obturon/core/solid"
)

// Proven is a measured case whose cavities a kit has cut. It is safe for concurrent use.
type Proven struct {
	*Measured
	Rehearsals []*rehearsal.Rehearsal // of the cavities, in their order
	Chair      []procedure.Step       // written from them
	AsCut      []assess.Check         // the case's checks, measured on the tooth as the kit cuts it
	stages     *stages
}

// Prove has the case's kit cut its cavities, step by step. progress is told the share that is
// done, 0 to 1. The error is the context's.
func (m *Measured) Prove(ctx context.Context, progress func(share float64)) (*Proven, error) {
	p := &Proven{Measured: m}
	var beside []*solid.Mesh
	for _, n := range m.Neighbours.InOrder() {
		beside = append(beside, n.Mesh())
	}
	for n, s := range m.Subjects {
		own := func(share float64) { progress((float64(n) + share) / float64(len(m.Subjects))) }
		one, err := rehearsal.Followed(ctx, m.Case.Kit, s.Cavity, s.Prepared.Workpiece, beside, own)
		if err != nil {
			return nil, err
		}
		p.Rehearsals = append(p.Rehearsals, one)
		cut, err := assess.Cavity(ctx, measure.NewSubject(measure.NewPrepared(m.Model, one.Cut()), s.Cavity))
		if err != nil {
			return nil, err
		}
		if len(m.Subjects) > 1 {
			nameChecks(s.Cavity, cut)
		}
		p.AsCut = append(p.AsCut, cut...)
	}
	p.Chair = sequence.Of(m.Cut.Cavities, p.Rehearsals, m.Case.Kit, m.sealsStaying())
	p.stages = newStages(p)
	return p, nil
}
