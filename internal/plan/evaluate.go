// Package plan holds the use cases: it runs the core for a case, one stage after
// the other, and remembers what the next question about the same tooth needs again.
package plan

import (
	"context"
	"fmt"
	"slices"

	"obturon/core/advice"
	"obturon/core/anatomy"
	"obturon/core/assess"
	"obturon/core/cavity"
	"obturon/core/design"
	"obturon/core/drawing"
	"obturon/core/intake"
	"obturon/core/measure"
	"obturon/core/notation"
	"obturon/core/parallel"
	"obturon/core/procedure"
	"obturon/core/sequence"
	"obturon/core/solid"
	"obturon/core/solve"
)

// CoreVersion names the rules and models that made a plan.
const CoreVersion = "0.5+anatomy." + anatomy.Version

// DefaultGrid is the sample spacing while designing, in mm.
const DefaultGrid = 0.1

// Result is everything a case leads to. All but Case and Decision are empty when
// the plan is refused.
type Result struct {
	Case          *intake.Case
	Decision      advice.Decision
	SchoolVersion string
	Model         *anatomy.Model
	Neighbours    design.Neighbours
	Solutions     []solve.Solution // of the cavities, in their order; nil where the proposal is not solved yet
	Cut           design.Cut
	Surfaces      []string          // those that the cavities open
	Prepared      *measure.Prepared // with every cavity cut
	Subjects      []*measure.Subject
	Turning       *solid.Mesh // the prepared tooth, coarse, while it is changed or turned
	Removed       measure.Removed
	Finishes      []measure.Finish // of the cavities on smooth surfaces, in their order
	Checks        []assess.Check
	Views         []drawing.View
	Steps         []procedure.Step
	Cautions      []string
}

// Refused says why no plan is made, "" where one is.
func (r *Result) Refused() string { return r.Decision.Refused }

// CavitySolid is what the cavities take from the tooth, as a solid without the crumbs
// into which it falls where a bevel runs out or a cut grazes the surface.
func (r *Result) CavitySolid() *solid.Mesh {
	whole, _ := r.cavitySolid()
	return whole
}

// cavitySolid is CavitySolid with what the crumbs come to (mm³).
func (r *Result) cavitySolid() (whole *solid.Mesh, crumbs float64) {
	whole, _, crumbs = r.Model.Surface.Uncut().Clip(r.Cut.Tool).Mesh().WithoutCrumbs(measure.LeastPiece, measure.ThinnestPiece)
	return whole, crumbs
}

// Dimensions lists those of all cavities, in their order.
func (r *Result) Dimensions() []cavity.Dimension {
	var all []cavity.Dimension
	for _, one := range r.Cut.Cavities {
		all = append(all, one.Dimensions...)
	}
	return all
}

// Sections says where the drawing's sections lie, mm from the tooth's middle;
// nil where the measured preparation decides.
type Sections struct{ Across, Along *float64 }

// Evaluate plans a case: proposal, solved by its own gauges, solid, measurements, checks,
// drawing. It stops between stages when the context is cancelled, with the context's
// error. The latest few are remembered: a case's files are asked for one after the other.
func (p *Planner) Evaluate(ctx context.Context, c *intake.Case, grid float64) (*Result, error) {
	key := rehearsalKey(c, grid)
	if known, ok := p.evaluated.Get(key); ok {
		return known, nil
	}
	r, err := p.evaluate(ctx, c, grid, Sections{}, solved)
	if err == nil {
		p.evaluated.Add(key, r)
	}
	return r, err
}

// AtOnce is Evaluate without waiting for the proposal to be solved, where it has not been
// yet, and with the sections moved. Errors are the same.
func (p *Planner) AtOnce(ctx context.Context, c *intake.Case, grid float64, at Sections) (*Result, error) {
	return p.evaluate(ctx, c, grid, at, atOnce)
}

func (p *Planner) evaluate(ctx context.Context, c *intake.Case, grid float64, at Sections, wanted how) (*Result, error) {
	r, basis, err := p.cut(ctx, c, grid, wanted)
	if err != nil || r.Refused() != "" {
		return r, err
	}
	// The mesh for the screen, the volumes, the drawing and the checks share nothing
	// but the solids.
	var beside parallel.Group
	defer beside.Wait()
	beside.Go(func() { r.Turning = r.Model.Turning().Uncut().Carve(r.Cut.Tool).Mesh() })
	r.Prepared = carve(r.Model, r.Cut.Tool)
	if err := ctx.Err(); err != nil {
		return nil, err
	}
	beside.Go(func() { r.Removed = r.Prepared.Removed(r.Cut.Lesions()) })
	for n, one := range r.Cut.Cavities {
		s := measure.NewSubject(r.alone(one), one)
		r.Subjects = append(r.Subjects, s)
		views, finish, checks, err := r.look(ctx, s, basis, at)
		if err != nil {
			return nil, err
		}
		r.explain(n, checks)
		if len(r.Cut.Cavities) > 1 {
			nameViews(one, views)
			nameChecks(one, checks)
			nameDimensions(one)
		}
		r.Views, r.Checks = append(r.Views, views...), append(r.Checks, checks...)
		if one.Kind != cavity.Occlusal {
			r.Finishes = append(r.Finishes, finish)
		}
	}
	r.Steps = sequence.Of(r.Cut.Cavities, nil, c.Kit, len(basis.Staying) > 0)
	r.Cautions = append(r.Decision.Cautions, assess.Cautions(c, r.Prepared, r.Subjects)...)
	return r, ctx.Err()
}

// Judged is Evaluate without pictures and volumes: cut, measured and judged.
// Errors are the same.
func (p *Planner) Judged(ctx context.Context, c *intake.Case, grid float64) (*Result, error) {
	r, _, err := p.judged(ctx, c, grid, solved)
	return r, err
}

// judgement is a case cut, measured and judged, with what its cavities rest on.
type judgement struct {
	*Result
	basis design.Basis
}

// judged is Judged with what the cavities rest on. The latest are remembered: filling, sitting
// and chair ask for one after the other.
func (p *Planner) judged(ctx context.Context, c *intake.Case, grid float64, wanted how) (*Result, design.Basis, error) {
	key := rehearsalKey(c, grid)
	if wanted == solved {
		if known, ok := p.judgements.Get(key); ok {
			return known.Result, known.basis, nil
		}
	}
	r, basis, err := p.judge(ctx, c, grid, wanted)
	if err == nil && wanted == solved {
		p.judgements.Add(key, judgement{r, basis})
	}
	return r, basis, err
}

func (p *Planner) judge(ctx context.Context, c *intake.Case, grid float64, wanted how) (*Result, design.Basis, error) {
	r, basis, err := p.cut(ctx, c, grid, wanted)
	if err != nil || r.Refused() != "" {
		return r, basis, err
	}
	r.Prepared = carve(r.Model, r.Cut.Tool)
	for n, one := range r.Cut.Cavities {
		s := measure.NewSubject(r.alone(one), one)
		checks, err := assess.Cavity(ctx, s)
		if err != nil {
			return nil, basis, err
		}
		r.explain(n, checks)
		r.Subjects, r.Checks = append(r.Subjects, s), append(r.Checks, checks...)
	}
	r.Steps = sequence.Of(r.Cut.Cavities, nil, c.Kit, len(basis.Staying) > 0)
	return r, basis, ctx.Err()
}

// look draws, measures and judges one cavity; the three only read the solid. The
// error is the context's.
func (r *Result) look(ctx context.Context, s *measure.Subject, basis design.Basis, at Sections) (views []drawing.View, finish measure.Finish, checks []assess.Check, err error) {
	var beside parallel.Group
	beside.Go(func() {
		views = drawing.Views(r.subject(s, basis, at))
	})
	if s.Cavity.Kind != cavity.Occlusal {
		beside.Go(func() { finish = s.Finish(r.Neighbours) })
	}
	checks, err = assess.Cavity(ctx, s)
	beside.Wait()
	return views, finish, checks, err
}

// nameViews puts a cavity's name behind the titles of its views, to tell them from the others
// of its tooth; so do nameChecks and nameDimensions.
func nameViews(c *cavity.Cavity, views []drawing.View) {
	for n := range views {
		views[n].Title = withName(views[n].Title, c)
	}
}

func nameChecks(c *cavity.Cavity, checks []assess.Check) {
	for n := range checks {
		checks[n].Label = withName(checks[n].Label, c)
	}
}

func nameDimensions(c *cavity.Cavity) {
	for n := range c.Dimensions {
		c.Dimensions[n].Label = withName(c.Dimensions[n].Label, c)
	}
}

func withName(text string, c *cavity.Cavity) string {
	if c.Name == "" {
		return text
	}
	return text + ", " + c.Name
}

func carve(m *anatomy.Model, tool solid.Tool) *measure.Prepared {
	return measure.NewPrepared(m, m.Surface.Uncut().Carve(tool))
}

// alone is the tooth with one of its cavities cut.
func (r *Result) alone(c *cavity.Cavity) *measure.Prepared {
	if len(r.Cut.Cavities) == 1 {
		return r.Prepared
	}
	return carve(r.Model, c.Tool())
}

// Screen is the cut tooth of a case for the screen, as AtOnce has it, or filled to what it was,
// with the result as far as it carries the mesh; nil where the plan is refused. Errors are
// those of Evaluate.
func (p *Planner) Screen(ctx context.Context, c *intake.Case, grid float64, filled bool) (*Result, *solid.Mesh, error) {
	r, _, err := p.cut(ctx, c, grid, atOnce)
	if err != nil || r.Refused() != "" {
		return nil, nil, err
	}
	tooth := r.Model.Screen().Uncut()
	if !filled {
		tooth = tooth.Carve(r.Cut.Tool)
	}
	return r, tooth.Mesh(), ctx.Err()
}

// explain tells of the checks of an untouched cavity that stay off their targets what would
// be lost for them.
func (r *Result) explain(n int, checks []assess.Check) {
	if r.Solutions == nil || slices.ContainsFunc(r.Cut.Cavities[n].Dimensions, cavity.Dimension.Overridden) {
		return
	}
	r.Solutions[n].Explain(checks)
}

// cut takes a case as far as its cavities: advised, modelled, proposed, built.
// The error is intake.Faults where the dentist's own values cannot be built.
func (p *Planner) cut(ctx context.Context, c *intake.Case, grid float64, wanted how) (*Result, design.Basis, error) {
	r := &Result{Case: c, Decision: advice.Decide(c)}
	r.Surfaces, r.Cautions = r.Decision.Surfaces, r.Decision.Cautions
	if r.Refused() != "" {
		return r, design.Basis{}, nil
	}
	school, err := c.SchoolOf(r.Decision.Choice)
	if err != nil {
		return nil, design.Basis{}, err
	}
	r.SchoolVersion = school.Version
	if r.Model, err = p.Tooth(c, grid); err != nil {
		return nil, design.Basis{}, fmt.Errorf("modelling the tooth: %w", err)
	}
	if err := ctx.Err(); err != nil {
		return nil, design.Basis{}, err
	}
	kept, err := p.proposals(ctx, c, r.Decision, school, r.Model, grid, wanted)
	if reason := cavity.Refusal(err); reason != "" {
		r.Decision.Refused = reason
		return r, design.Basis{}, nil
	}
	if err != nil {
		return nil, design.Basis{}, fmt.Errorf("proposing the preparation: %w", err)
	}
	r.Neighbours, r.Solutions = kept.neighbours, kept.solutions
	if r.Cut, err = kept.Cut(c.Overrides); err != nil {
		return nil, design.Basis{}, notBuilt(kept.AtFault(c.Overrides), err)
	}
	r.Surfaces = r.Cut.Surfaces(r.Decision.Surfaces)
	return r, kept.Basis, ctx.Err()
}

// notBuilt says of each value set by hand that is to blame why nothing can be cut.
func notBuilt(blamed []string, err error) error {
	var faults intake.Faults
	for _, id := range blamed {
		faults = append(faults, intake.Fault{Path: "$.overrides." + id, Message: err.Error()})
	}
	return faults
}

// neighbours models the adjacent teeth that the findings of a case touch: those that
// stand at the patient's age.
func (p *Planner) neighbours(c *intake.Case, m *anatomy.Model, grid float64) (design.Neighbours, error) {
	beside := design.Neighbours{}
	for _, side := range design.SidesTouched(c) {
		n, err := p.neighbour(m, side, c.Patient.AgeYears, grid)
		if err != nil {
			return nil, err
		}
		if n != nil {
			beside[side] = n
		}
	}
	return beside, nil
}

// neighbour models the adjacent tooth, nil where none stands at that age.
func (p *Planner) neighbour(m *anatomy.Model, side notation.Side, ageYears, grid float64) (*anatomy.Neighbour, error) {
	t, stands := m.Tooth.Neighbour(side, ageYears)
	if !stands {
		return nil, nil
	}
	n, err := p.teeth.get(t, anatomy.MeasuredSizes{}, ageYears, grid)
	if err != nil {
		return nil, fmt.Errorf("modelling the %s neighbour: %w", side, err)
	}
	return anatomy.Place(m, side, n), nil
}
