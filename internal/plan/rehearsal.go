package plan

import (
	"context"
	"errors"
	"fmt"
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/assess"
	"obturon/core/cavity"
	"obturon/core/intake"
	"obturon/core/measure"
	"obturon/core/notation"
	"obturon/core/procedure"
	"obturon/core/rehearsal"
	"obturon/core/sequence"
	"obturon/core/solid"
	"obturon/internal/document"
)

// Rehearsed is a case whose cavities the kit has cut. It is safe for concurrent use.
type Rehearsed struct {
	*Result
	Rehearsals []*rehearsal.Rehearsal // of the cavities, in their order
	Chair      []procedure.Step       // written from them
	AsCut      []assess.Check         // the plan's checks, measured on the tooth as the kit cuts it
	stages     *stages
}

// Rehearse plans a case and cuts its cavities with the kit's instruments, step by step,
// once for each state of a case, however many ask. Errors are those of Evaluate.
func (p *Planner) Rehearse(ctx context.Context, c *intake.Case, grid float64) (*Rehearsed, error) {
	return p.RehearseTold(ctx, c, grid, func(float64) {})
}

// RehearseTold is Rehearse that tells the share that is done, 0 to 1; not where somebody else's
// is waited for.
func (p *Planner) RehearseTold(ctx context.Context, c *intake.Case, grid float64, progress func(share float64)) (*Rehearsed, error) {
	key := rehearsalKey(c, grid)
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
	r, basis, err := p.judged(ctx, c, grid, solved)
	if err != nil {
		return nil, err
	}
	all := &Rehearsed{Result: r}
	var beside []*solid.Mesh
	for _, side := range notation.Sides {
		if n := r.Neighbours[side]; n != nil {
			beside = append(beside, n.Mesh())
		}
	}
	for n, s := range r.Subjects {
		own := func(share float64) { progress((float64(n) + share) / float64(len(r.Subjects))) }
		one, err := rehearsal.Followed(ctx, c.Kit, s.Cavity, s.Prepared.Workpiece, beside, own)
		if err != nil {
			return nil, err
		}
		all.Rehearsals = append(all.Rehearsals, one)
		cut, err := assess.Cavity(ctx, measure.NewSubject(measure.NewPrepared(r.Model, one.Cut()), s.Cavity))
		if err != nil {
			return nil, err
		}
		if len(r.Subjects) > 1 {
			nameChecks(s.Cavity, cut)
		}
		all.AsCut = append(all.AsCut, cut...)
	}
	if r.Refused() == "" {
		all.Chair = sequence.Of(r.Cut.Cavities, all.Rehearsals, c.Kit, len(basis.Staying) > 0)
	}
	all.stages = newStages(all, basis)
	return all, nil
}

// rehearsalKey identifies what a rehearsal is made from: the case with the values set by
// hand, and the kit.
func rehearsalKey(c *intake.Case, grid float64) string {
	return fmt.Sprintf("%s %v %s", basisKey(caseKey(c), grid), c.Overrides, c.Kit.Fingerprint())
}

// Document writes the rehearsal.
func (r *Rehearsed) Document() document.Rehearsal {
	d := document.Rehearsal{Schema: document.ObturonRehearsal1, Core: CoreVersion, Tooth: r.Case.Tooth.String(), Frame: frameOf(r.Case.Tooth), Cavities: []document.RehearsedCavity{}, Refused: r.Refused()}
	for _, one := range r.Rehearsals {
		d.Cavities = append(d.Cavities, rehearsedCavity(one))
	}
	return d
}

func rehearsedCavity(r *rehearsal.Rehearsal) document.RehearsedCavity {
	toGo := r.Survey.Volume(r.Survey.ToGo)
	d := document.RehearsedCavity{
		Name: r.Cavity.Name, ToGoMm3: document.Thousandth(toGo), LeftMm3: document.Thousandth(toGo), ProvenWithinMm: rehearsal.Proven,
		Steps: []document.RehearsedStep{}, Surfaces: []document.SurfaceDeviation{}, Unproven: []document.UnprovenSurface{}, Undone: sequence.Undone(r), Alarms: []string{},
	}
	for _, s := range r.Steps {
		d.LeftMm3 = document.Thousandth(s.Left)
		d.Steps = append(d.Steps, rehearsedStep(r.Survey, s))
	}
	for _, one := range r.Deviations {
		d.Surfaces = append(d.Surfaces, document.SurfaceDeviation{
			Surface: cavity.FeatureName(one.Feature), AreaMm2: document.Thousandth(one.Area),
			StandingMm: document.Thousandth(one.Standing.Usual), MostStandingMm: document.Thousandth(one.Standing.Most), StandingMm3: document.Thousandth(one.Standing.Volume),
			OvercutMm: document.Thousandth(one.Overcut.Usual), MostOvercutMm: document.Thousandth(one.Overcut.Most), OvercutMm3: document.Thousandth(one.Overcut.Volume),
		})
	}
	for _, a := range r.Alarms() {
		d.Alarms = append(d.Alarms, r.Steps[a.Step].Name()+": "+a.Text)
	}
	for _, one := range r.Unproven() {
		d.Unproven = append(d.Unproven, document.UnprovenSurface{Text: one.Words(), Worst: coordinates(one.Worst)})
	}
	return d
}

func rehearsedStep(s *rehearsal.Survey, step rehearsal.Step) document.RehearsedStep {
	d := document.RehearsedStep{
		Step: step.Name(), Why: step.Why, ByHand: step.ByHand, Instruments: step.Instruments, ShellMm: step.Behind, TakenMm3: document.Thousandth(step.Taken), LeftMm3: document.Thousandth(step.Left),
		NearestNeighbourMm: known(step.Nearest.Beside), NearestPulpMm: known(step.Nearest.Pulp), Cuts: []document.RehearsedCut{},
	}
	for _, c := range step.Cuts {
		cut := document.RehearsedCut{Instrument: c.Instrument, Axis: coordinates(s.Frame.Turn(c.Axis)), LengthMm: document.Thousandth(c.Length()), Ways: [][]float64{}}
		for _, w := range c.Ways {
			var way []float64
			for _, p := range w {
				way = append(way, coordinates(s.Frame.From(p))...)
			}
			cut.Ways = append(cut.Ways, way)
		}
		d.Cuts = append(d.Cuts, cut)
	}
	return d
}

// known is a length as a document has it: nothing where it is infinite.
func known(mm float64) float64 {
	if math.IsInf(mm, 1) {
		return 0
	}
	return document.Thousandth(mm)
}

func coordinates(p r3.Vec) []float64 {
	return []float64{document.Thousandth(p.X), document.Thousandth(p.Y), document.Thousandth(p.Z)}
}
