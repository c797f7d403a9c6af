package plan

import (
	"context"
	"errors"
	"fmt"
	"log/slog"
	"math"
	"sync"

	"obturon/core/anatomy"
	"obturon/core/assess"
	"obturon/core/drawing"
	"obturon/core/lesion"
	"obturon/core/measure"
	"obturon/core/notation"
	"obturon/core/prep"
	"obturon/core/school"
	"obturon/core/sequence"
	"obturon/core/solid"
)

// CoreVersion names the rules and models that made a plan.
const CoreVersion = "0.1+anatomy." + anatomy.Version

// DefaultGrid is the sample spacing while designing, in mm.
const DefaultGrid = 0.1

// Result is everything a case leads to. Prepared and the drawing are nil when
// the plan is refused.
type Result struct {
	Document   Document
	Dimensions []prep.Dimension
	Views      []drawing.View
	Model      *anatomy.Model
	Prepared   *measure.Prepared
	Screen     *solid.Mesh // the prepared tooth, coarser, for the screen
	Turning    *solid.Mesh // coarser still, while it turns
	Cavity     *prep.Cavity
	Lesions    []*lesion.Occlusal
}

// Planner runs the core for cases and remembers teeth and proposals. It is
// safe for concurrent use.
type Planner struct {
	teeth *toothCache
	bases *basisCache
}

// NewPlanner makes a planner with empty caches.
func NewPlanner() *Planner {
	return &Planner{teeth: newToothCache(), bases: newBasisCache()}
}

// Tooth returns the modelled tooth of a case.
func (p *Planner) Tooth(c *Case, grid float64) (*anatomy.Model, error) {
	return p.teeth.get(c.Tooth, anatomy.Own{}, c.Patient.AgeYears, grid)
}

// Prepare models the shapes of all teeth, so that the first view of each comes
// at once: those that can be planned first. It stops when the context ends.
func (p *Planner) Prepare(ctx context.Context, grid float64) {
	const anyAge = 35
	var teeth, later []notation.Tooth
	for _, t := range notation.All() {
		switch {
		case !t.Right():
		case t.Anterior() || t.Primary():
			later = append(later, t)
		default:
			teeth = append(teeth, t)
		}
	}
	for _, t := range append(teeth, later...) {
		if ctx.Err() != nil {
			return
		}
		if _, err := p.teeth.get(t, anatomy.Own{}, anyAge, grid); err != nil {
			slog.Warn("modelling a tooth ahead of time", "tooth", t.String(), "error", err)
		}
	}
}

// Evaluate plans a case: proposal, solid, measurements, checks, drawing. It
// stops between stages when the context is cancelled.
func (p *Planner) Evaluate(ctx context.Context, c *Case, grid float64) (*Result, error) {
	class, surfaces := lesion.Classify(c.coreFindings(), c.Tooth)
	choice, reason := choose(c)
	doc := Document{
		Schema: Schema, Core: CoreVersion, Tooth: c.Tooth, Class: class, Surfaces: surfaces,
		Material: choice.Material, School: choice.School, Reason: reason,
		Dimensions: map[string]float64{}, Checks: []Check{}, Sequence: []Step{}, Cautions: cautions(c, choice),
	}
	if doc.Surfaces == nil {
		doc.Surfaces = []string{}
	}
	if doc.Refused = refusal(c, class); doc.Refused != "" {
		return &Result{Document: doc}, nil
	}
	chosen, err := school.Get(choice.School)
	if err != nil {
		return nil, err
	}
	model, err := p.Tooth(c, grid)
	if err != nil {
		return nil, fmt.Errorf("modelling the tooth: %w", err)
	}
	if err := ctx.Err(); err != nil {
		return nil, err
	}
	r := &Result{Document: doc, Model: model}
	basis, err := p.bases.get(c.key(false), grid, func() (basis, error) { return newBasis(c, model, chosen, choice.Material) })
	if reason := unplannable(err); reason != "" {
		r.Document.Refused = reason
		return &Result{Document: r.Document}, nil
	}
	if err != nil {
		return nil, fmt.Errorf("proposing the preparation: %w", err)
	}
	request, proposal := basis.request, basis.proposal
	r.Lesions = request.Lesions
	design := proposal.Apply(c.Overrides)
	if r.Cavity, err = prep.Build(request, design); err != nil {
		return nil, Faults{{"$.overrides", err.Error()}}
	}
	if err := ctx.Err(); err != nil {
		return nil, err
	}
	// The meshes for the screen, the drawing and the checks share nothing but
	// the cavity and the measured solid.
	var beside sync.WaitGroup
	defer beside.Wait()
	beside.Go(func() {
		r.Screen = model.Screen().Uncut().Carve(r.Cavity).Mesh()
		r.Turning = model.Turning().Uncut().Carve(r.Cavity).Mesh()
	})
	r.Prepared = measure.NewPrepared(model, model.Surface.Uncut().Carve(r.Cavity))
	if err := ctx.Err(); err != nil {
		return nil, err
	}
	r.Dimensions = prep.Dimensions(design, proposal)
	dovetail := design.DovetailWidth > design.IsthmusWidth
	beside.Go(func() {
		r.Views = drawing.ClassI(drawing.Subject{Prepared: r.Prepared, Cavity: r.Cavity, Lesions: asTools(r.Lesions), Dovetail: dovetail})
	})
	checks := assess.ClassI(assess.Subject{Prepared: r.Prepared, Lesions: r.Lesions, School: chosen, Material: choice.Material, Dovetail: dovetail})
	beside.Wait()
	r.Document.Dimensions = documentDimensions(r.Dimensions)
	r.Document.Checks = documentChecks(checks)
	r.Document.Sequence = documentSteps(sequence.ClassI(design, r.Lesions, choice.Material))
	r.Document.Volumes = volumes(r, checks)
	return r, ctx.Err()
}

// newBasis places a case's lesions and proposes from them.
func newBasis(c *Case, model *anatomy.Model, chosen *school.School, material string) (basis, error) {
	b := basis{request: prep.Request{Model: model, School: chosen, Material: material}}
	for _, f := range c.coreFindings() {
		l, err := lesion.NewOcclusal(model, f)
		if err != nil {
			return b, fmt.Errorf("placing the lesion: %w", err)
		}
		b.request.Lesions = append(b.request.Lesions, l)
	}
	var err error
	b.proposal, err = prep.Propose(b.request)
	return b, err
}

// unplannable says why a tooth or its lesion cannot have a Class I, or "".
func unplannable(err error) string {
	switch {
	case errors.Is(err, prep.ErrNoCentralFissure):
		return "A transverse ridge divides this tooth's occlusal surface. Its pits are prepared separately, which is not planned yet."
	case errors.Is(err, prep.ErrBeyondRidge):
		return "A lesion lies beyond the oblique ridge, which is not crossed. Preparations on both sides of it are not planned yet."
	case errors.Is(err, prep.ErrOffSurface):
		return "The lesion reaches past the occlusal surface: this is more than a Class I. Check its sizes; larger preparations are not planned yet."
	default:
		return ""
	}
}

func asTools(lesions []*lesion.Occlusal) []solid.Tool {
	tools := make([]solid.Tool, len(lesions))
	for n, l := range lesions {
		tools[n] = l
	}
	return tools
}

// volumes splits what was removed by tissue: the total comes from the closed
// meshes, the shares from samples inside the cavity.
func volumes(r *Result, checks []assess.Check) Volumes {
	v := Volumes{Cavity: r.Model.Surface.Volume() - r.Prepared.Mesh.Volume()}
	removed, dentin := r.Cavity.Shares(r.Model)
	if removed > 0 {
		v.Dentin = v.Cavity * dentin / removed
	}
	v.Enamel = v.Cavity - v.Dentin
	for _, l := range r.Lesions {
		v.Lesion += l.Volume()
	}
	for _, c := range checks {
		if c.ID == "lesion.cleared" {
			v.LesionLeft = c.Value
		}
	}
	for _, f := range []*float64{&v.Enamel, &v.Dentin, &v.Lesion, &v.Cavity, &v.LesionLeft} {
		*f = round(math.Max(*f, 0))
	}
	return v
}
