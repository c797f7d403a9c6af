package plan

import (
	"context"
	"errors"
	"fmt"
	"log/slog"
	"math"
	"slices"
	"strings"
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
	Turning    *solid.Mesh // the prepared tooth, coarse, while it is changed or turned
	Cavity     *prep.Cavity
	Lesions    []lesion.Lesion
	Neighbours map[notation.Side]*anatomy.Neighbour
}

// Sections says where the drawing's sections lie, mm from the tooth's middle;
// nil where the measured preparation decides.
type Sections struct{ Across, Along *float64 }

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
	return p.EvaluateWith(ctx, c, grid, Sections{})
}

// EvaluateWith is Evaluate with the sections moved.
func (p *Planner) EvaluateWith(ctx context.Context, c *Case, grid float64, at Sections) (*Result, error) {
	s, err := p.shape(ctx, c, grid)
	if err != nil || s.Cavity == nil {
		return s.Result, err
	}
	r, design, lesions := s.Result, s.design, s.Lesions
	// The mesh for the screen, the drawing and the checks share nothing but
	// the cavity and the measured solid.
	var beside sync.WaitGroup
	defer beside.Wait()
	beside.Go(func() { r.Turning = r.Model.Turning().Uncut().Carve(r.Cavity).Mesh() })
	r.Prepared = measure.NewPrepared(r.Model, r.Model.Surface.Uncut().Carve(r.Cavity))
	if err := ctx.Err(); err != nil {
		return nil, err
	}
	dovetail := design.DovetailWidth > design.IsthmusWidth
	beside.Go(func() {
		r.Views = drawing.Preparation(drawing.Subject{
			Prepared: r.Prepared, Cavity: r.Cavity, Lesions: toolsOf(lesions, false), Fillings: toolsOf(lesions, true), Dovetail: dovetail, Boxes: design.Sides(),
			Neighbours: r.Neighbours, Facing: s.request.Facing, Contacts: c.contacts(), Sealed: prep.Sealed(s.request), AcrossAt: at.Across, AlongAt: at.Along,
		})
	})
	beside.Go(func() { r.Document.Volumes = volumes(r) })
	checks := assess.Preparation(assess.Subject{
		Prepared: r.Prepared, Lesions: lesions, Facing: s.request.Facing, Fissures: s.fissures, Boxes: design.Sides(), Contacts: c.contacts(),
		School: s.request.School, Material: s.request.Material, Occlusal: design.Occlusal, Dovetail: dovetail,
	})
	beside.Wait()
	r.Dimensions = prep.Dimensions(design, s.proposal)
	r.Document.Dimensions = documentDimensions(r.Dimensions)
	r.Document.Checks = documentChecks(checks)
	for _, c := range checks {
		if c.ID == "lesion.cleared" {
			r.Document.Volumes.LesionLeft = round(math.Max(c.Value, 0))
		}
	}
	r.Document.Sequence = documentSteps(sequence.Preparation(design, lesions, s.request.Material, len(prep.Sealed(s.request)) > 0))
	r.Document.Surfaces = openedSurfaces(r.Document.Surfaces, design)
	r.Document.Cautions = append(r.Document.Cautions, ofWeakCusps(c, r.Prepared, s.request.CuspBase())...)
	r.Document.Cautions = append(r.Document.Cautions, narrowing(c, s.request, design)...)
	for _, id := range design.Unused(c.Overrides) {
		r.Document.Cautions = append(r.Document.Cautions, fmt.Sprintf("Your value for %s is kept but plays no part: this preparation has no such dimension.", strings.ReplaceAll(id, "_", " ")))
	}
	return r, ctx.Err()
}

// Screen is the cut tooth of a case for the screen, with the result as far as
// it carries the mesh; nil where the plan is refused.
func (p *Planner) Screen(ctx context.Context, c *Case, grid float64) (*Result, *solid.Mesh, error) {
	s, err := p.shape(ctx, c, grid)
	if err != nil || s.Cavity == nil {
		return nil, nil, err
	}
	mesh := s.Model.Screen().Uncut().Carve(s.Cavity).Mesh()
	return s.Result, mesh, ctx.Err()
}

// shaped is a case as far as its cavity, which is nil where the plan is refused.
type shaped struct {
	*Result
	basis
	design prep.Design
}

// shape decides class, material and school, and builds the cavity.
func (p *Planner) shape(ctx context.Context, c *Case, grid float64) (shaped, error) {
	class, surfaces := lesion.Classify(c.coreFindings(), c.Tooth)
	choice, reason := choose(c)
	doc := Document{
		Schema: Schema, Core: CoreVersion, Tooth: c.Tooth, Class: class, Surfaces: surfaces,
		Material: choice.Material, School: choice.School, Reason: reason,
		Dimensions: map[string]float64{}, Checks: []Check{}, Sequence: []Step{}, Cautions: cautions(c, choice),
		Decision: choice.Reason, Advice: advise(c),
	}
	if doc.Surfaces == nil {
		doc.Surfaces = []string{}
	}
	if doc.Refused = refusal(c, class); doc.Refused == "" {
		doc.Refused = notDrilled(c, doc.Advice)
	}
	if doc.Refused != "" {
		return shaped{Result: &Result{Document: doc}}, nil
	}
	chosen, err := c.schoolOf(choice)
	if err != nil {
		return shaped{}, err
	}
	doc.SchoolVersion = chosen.Version
	model, err := p.Tooth(c, grid)
	if err != nil {
		return shaped{}, fmt.Errorf("modelling the tooth: %w", err)
	}
	if err := ctx.Err(); err != nil {
		return shaped{}, err
	}
	b, err := p.bases.get(c.key(false), grid, func() (basis, error) { return p.newBasis(c, model, chosen, choice, grid) })
	if reason := unplannable(err); reason != "" {
		doc.Refused = reason
		return shaped{Result: &Result{Document: doc}}, nil
	}
	if err != nil {
		return shaped{}, fmt.Errorf("proposing the preparation: %w", err)
	}
	design := b.proposal.Apply(c.Overrides)
	cavity, err := prep.Build(b.request, design)
	if err != nil {
		return shaped{}, Faults{{"$.overrides", err.Error()}}
	}
	r := &Result{Document: doc, Model: model, Cavity: cavity, Lesions: b.request.AllLesions(), Neighbours: b.neighbours}
	return shaped{Result: r, basis: b, design: design}, ctx.Err()
}

// openedSurfaces adds what the design opens beside the diseased surfaces, in
// the order in which a charge or a record names them.
func openedSurfaces(diseased []string, d prep.Design) []string {
	var all []string
	for _, s := range []string{"mesial", "occlusal", "distal", "buccal", "lingual"} {
		if slices.Contains(diseased, s) || s == "occlusal" && (d.Occlusal || d.AnyBox()) {
			all = append(all, s)
		}
	}
	return all
}

// newBasis places a case's lesions and the teeth beside, and proposes from them.
func (p *Planner) newBasis(c *Case, model *anatomy.Model, chosen *school.School, choice Choice, grid float64) (basis, error) {
	var undermined []string
	for _, f := range c.Findings {
		if f.Kind == lesion.UnderminedCusp {
			undermined = append(undermined, f.Site.Cusp())
		}
	}
	b := basis{request: prep.Request{Undermined: undermined,
		Model: model, School: chosen, Material: choice.Material, Form: prep.Form(choice.Form), Facing: map[notation.Side]*anatomy.Facing{}, Contacts: c.contacts(),
	}}
	for _, f := range c.coreFindings() {
		if f.Kind == lesion.Crack || f.Kind == lesion.UnderminedCusp || b.request.LeavesToSeal(f) && c.anyInDentin() {
			continue // recorded, or sealed: not cut
		}
		if f.Proximal() {
			l, err := lesion.NewProximal(model, f)
			if err != nil {
				return b, fmt.Errorf("placing the lesion: %w", err)
			}
			b.request.Proximal = append(b.request.Proximal, l)
			continue
		}
		l, err := lesion.NewOcclusal(model, f)
		if err != nil {
			return b, fmt.Errorf("placing the lesion: %w", err)
		}
		b.request.Lesions = append(b.request.Lesions, l)
	}
	var err error
	if b.neighbours, err = p.neighbours(c, model, grid); err != nil {
		return b, err
	}
	for side, n := range b.neighbours {
		const reach = 2 // mm past the contact
		b.request.Facing[side] = n.Facing(contactOf(model, side), reach)
	}
	if err := withinReachOfThePulp(b.request); err != nil {
		return b, err
	}
	b.fissures = prep.Fissures(b.request)
	b.proposal, err = prep.Propose(b.request)
	return b, err
}

// neighbours are the teeth beside that of a case, where its findings touch
// them: those that stand at the patient's age and are not said to be missing.
func (p *Planner) neighbours(c *Case, model *anatomy.Model, grid float64) (map[notation.Side]*anatomy.Neighbour, error) {
	beside := map[notation.Side]*anatomy.Neighbour{}
	for _, f := range c.Findings {
		side := notation.Mesial
		if f.Site == lesion.Distal {
			side = notation.Distal
		}
		if !f.core().Proximal() || beside[side] != nil || slices.Contains(c.Missing, side.String()) {
			continue
		}
		t, stands := c.Tooth.Neighbour(side, c.Patient.AgeYears)
		if !stands {
			continue
		}
		n, err := p.teeth.get(t, anatomy.Own{}, c.Patient.AgeYears, grid)
		if err != nil {
			return nil, fmt.Errorf("modelling the %s neighbour: %w", side, err)
		}
		beside[side] = anatomy.Place(model, side, n)
	}
	return beside, nil
}

func contactOf(m *anatomy.Model, side notation.Side) anatomy.Contact {
	if side == notation.Distal {
		return m.DistalContact
	}
	return m.MesialContact
}

// errPulpReached means that caries itself lies at the pulp.
var errPulpReached = errors.New("the lesion reaches the pulp")

// withinReachOfThePulp refuses lesions that leave no dentin to stop at.
func withinReachOfThePulp(r prep.Request) error {
	const least = 0.15 // mm of dentin between lesion and pulp, less than anyone can leave on purpose
	for _, l := range r.Proximal {
		if r.Model.Pulp().Distance(l.Deepest()) < least {
			return errPulpReached
		}
	}
	for _, l := range r.Lesions {
		for _, q := range l.Floor() {
			if r.Model.Pulp().Distance(q) < least {
				return errPulpReached
			}
		}
	}
	return nil
}

// unplannable says why a tooth or its lesion cannot have a Class I or II, or "".
func unplannable(err error) string {
	switch {
	case errors.Is(err, errPulpReached):
		return "On this tooth's model the lesion reaches the pulp. Test vitality and decide on the pulp first; a filling is planned after that. If the film shows dentin left, give the lesion its own sizes."
	case errors.Is(err, prep.ErrNothingToOpen):
		return "No finding of this case opens the occlusal or a proximal surface."
	case errors.Is(err, prep.ErrBoxOffTooth):
		return "The proximal lesion reaches past what a box on this tooth can take in. Check its sizes; larger preparations are not planned yet."
	case errors.Is(err, prep.ErrOffSurface):
		return "The lesion reaches past the occlusal surface: this is more than a Class I or II. Check its sizes; larger preparations are not planned yet."
	default:
		return ""
	}
}

// toolsOf lists the old fillings among lesions, or all but these.
func toolsOf(lesions []lesion.Lesion, fillings bool) []solid.Tool {
	var tools []solid.Tool
	for _, l := range lesions {
		if (l.Is() == lesion.OldRestoration) == fillings {
			tools = append(tools, l)
		}
	}
	return tools
}

// volumes splits what was removed by tissue: the total comes from the closed
// meshes, the shares from samples of the solid.
func volumes(r *Result) Volumes {
	v := Volumes{Cavity: r.Model.Surface.Volume() - r.Prepared.Mesh.Volume()}
	sampled := r.Prepared.Volumes()
	if removed := sampled.Enamel + sampled.Dentin; removed > 0 {
		v.Dentin = v.Cavity * sampled.Dentin / removed
	}
	v.Enamel = v.Cavity - v.Dentin
	for _, l := range r.Lesions {
		if l.Is() != lesion.OldRestoration {
			v.Lesion += l.Volume()
			continue
		}
		// What a filling had taken before is not spent by this cavity.
		inDentin := lesion.VolumeWithin(l, r.Model.Dentin().Distance)
		v.OldFilling += l.Volume()
		v.Dentin -= inDentin
		v.Enamel -= l.Volume() - inDentin
	}
	for _, f := range []*float64{&v.Enamel, &v.Dentin, &v.Lesion, &v.OldFilling, &v.Cavity} {
		*f = round(math.Max(*f, 0))
	}
	return v
}
