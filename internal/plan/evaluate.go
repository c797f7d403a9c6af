package plan

import (
	"context"
	"errors"
	"fmt"
	"log/slog"
	"maps"
	"math"
	"slices"
	"strings"
	"sync"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/anatomy"
	"obturon/core/assess"
	"obturon/core/drawing"
	"obturon/core/face"
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
	Prepared   *measure.Prepared // with every cavity cut
	Turning    *solid.Mesh       // the prepared tooth, coarse, while it is changed or turned
	Cavity     solid.Tool        // all that is cut
	Occlusal   *prep.Cavity      // of fissures and posterior boxes, nil where there are none
	Faces      []FaceCut         // on faces and edges

	covers     solid.Tool        // the bevel round covered cusps, nil where there is none
	opened     *measure.Prepared // with the occlusal cavity alone
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
	r := s.Result
	// The mesh for the screen, the drawing and the checks share nothing but
	// the cavity and the measured solid.
	var beside sync.WaitGroup
	defer beside.Wait()
	beside.Go(func() { r.Turning = r.Model.Turning().Uncut().Carve(r.Cavity).Mesh() })
	r.Prepared = measure.NewPrepared(r.Model, r.Model.Surface.Uncut().Carve(r.Cavity))
	if err := ctx.Err(); err != nil {
		return nil, err
	}
	beside.Go(func() { r.Document.Volumes = volumes(r) })
	checks, sealed := []assess.Check{}, prep.Sealed(s.request)
	if r.Occlusal != nil {
		views, found := p.occlusal(c, s, at, sealed)
		checks, r.Views = append(checks, found...), append(r.Views, views...)
		r.Dimensions = prep.Dimensions(s.design, s.proposal)
	}
	if err := ctx.Err(); err != nil {
		return nil, err
	}
	for n := range r.Faces {
		f := &r.Faces[n]
		if f.Design.Class() == lesion.ClassV {
			g := f.Request.Gingiva
			r.Document.Gingiva = &Gingiva{Facial: round(g.Facial), Lingual: round(g.Lingual), Papilla: round(g.Papilla)}
		}
		views, found := r.face(f, at)
		dimensions := face.Dimensions(f.Design, s.faces[n].proposal)
		if len(r.Faces) > 1 || r.Occlusal != nil { // tell one cavity from another
			nameSite(", "+face.Name(f.Design.Site), views, found, dimensions)
		}
		checks, r.Views = append(checks, found...), append(r.Views, views...)
		r.Dimensions = append(r.Dimensions, dimensions...)
	}
	beside.Wait()
	r.Document.Dimensions = documentDimensions(r.Dimensions)
	r.Document.Checks = documentChecks(checks)
	for _, c := range checks {
		if c.ID == "lesion.cleared" {
			r.Document.Volumes.LesionLeft = round(r.Document.Volumes.LesionLeft + math.Max(c.Value, 0))
		}
	}
	r.Document.Sequence = documentSteps(r.steps(s, len(sealed) > 0))
	r.Document.Surfaces = openedSurfaces(r.Document.Surfaces, s.design, r.Faces)
	r.Document.Cautions = append(r.Document.Cautions, r.measuredCautions(c, s)...)
	return r, ctx.Err()
}

// occlusal draws and judges the cavity of fissures and posterior boxes.
func (p *Planner) occlusal(c *Case, s shaped, at Sections, sealed [][]r3.Vec) (views []drawing.View, checks []assess.Check) {
	r, design := s.Result, s.design
	r.opened = r.Prepared
	if len(r.Faces) > 0 {
		tools := []solid.Tool{r.Occlusal}
		if r.covers != nil {
			tools = append(tools, r.covers)
		}
		r.opened = r.alone(solid.Union(tools))
	}
	lesions := s.request.AllLesions()
	dovetail := design.DovetailWidth > design.IsthmusWidth
	var drawn sync.WaitGroup
	drawn.Go(func() {
		views = drawing.Preparation(drawing.Subject{
			Prepared: r.opened, Cavity: r.Cavity, Lesions: toolsOf(lesions, false), Fillings: append(toolsOf(lesions, true), toolsOf(s.staying, true)...), Dovetail: dovetail, Boxes: design.Sides(),
			Neighbours: r.Neighbours, Facing: s.request.Facing, Contacts: c.contacts(), Sealed: sealed, AcrossAt: at.Across, AlongAt: at.Along,
		})
	})
	checks = assess.Preparation(assess.Subject{
		Prepared: r.opened, Lesions: lesions, Facing: s.request.Facing, Fissures: s.fissures, Boxes: design.Sides(), Contacts: c.contacts(),
		School: s.request.School, Material: s.request.Material, Occlusal: design.Occlusal, Dovetail: dovetail,
	})
	drawn.Wait()
	return views, checks
}

// face draws, judges and measures one cavity on a face or an edge.
func (r *Result) face(f *FaceCut, at Sections) (views []drawing.View, checks []assess.Check) {
	f.Prepared = r.alone(f.Cavity)
	var beside sync.WaitGroup
	beside.Go(func() { views = f.views(r.Neighbours, at) })
	beside.Go(func() { r.Document.Finishes = append(r.Document.Finishes, f.finish(r.Neighbours)) })
	checks = f.checks()
	beside.Wait()
	return views, checks
}

// nameSite puts a cavity's name behind what is said of it.
func nameSite(name string, views []drawing.View, checks []assess.Check, dimensions []prep.Dimension) {
	for n := range views {
		views[n].Title += name
	}
	for n := range checks {
		checks[n].Label += name
	}
	for n := range dimensions {
		dimensions[n].Label += name
	}
}

// alone is the tooth with one of its cavities cut.
func (r *Result) alone(cavity solid.Tool) *measure.Prepared {
	if r.Cavity == cavity {
		return r.Prepared
	}
	return measure.NewPrepared(r.Model, r.Model.Surface.Uncut().Carve(cavity))
}

// steps are those of every cavity, each finished before the next.
func (r *Result) steps(s shaped, seal bool) []sequence.Step {
	var steps []sequence.Step
	if r.Occlusal != nil {
		steps = sequence.Preparation(s.design, s.request.AllLesions(), s.request.Material, seal)
	}
	for _, f := range r.Faces {
		steps = append(steps, sequence.Face(f.Design, f.Request.Lesions, f.Request.Material, f.Cavity.Frame.W.Y > 0)...)
	}
	if len(s.staying) > 0 {
		steps = append(steps, sequence.SealStaying())
	}
	return steps
}

// measuredCautions are those that follow from what was measured, and from values
// that play no part.
func (r *Result) measuredCautions(c *Case, s shaped) []string {
	var list []string
	if r.Occlusal != nil {
		list = append(list, ofWeakCusps(c, r.opened, s.request.CuspBase())...)
		list = append(list, narrowing(c, s.request, s.design)...)
	}
	several := len(r.Faces) > 1 || len(r.Faces) == 1 && r.Occlusal != nil
	if bridge, ok := r.Prepared.Bridge(); several && ok && bridge.Value < prep.LeastBridge {
		list = append(list, fmt.Sprintf("Only %.1f mm of tooth is left between two of the cavities: join them, or draw them apart.", bridge.Value))
	}
	for _, id := range slices.Sorted(maps.Keys(c.Overrides)) {
		if !slices.ContainsFunc(r.Dimensions, func(d prep.Dimension) bool { return d.ID == id }) {
			list = append(list, fmt.Sprintf("Your value for %s is kept but plays no part: this preparation has no such dimension.", strings.ReplaceAll(id, "_", " ")))
		}
	}
	return list
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
	design prep.Design // of fissures and posterior boxes
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
	if doc.Refused = refusal(c, class, choice.Material); doc.Refused == "" {
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
	r := &Result{Document: doc, Model: model, Lesions: b.request.AllLesions(), Neighbours: b.neighbours}
	made := shaped{Result: r, basis: b}
	var tools []solid.Tool
	if len(r.Lesions) > 0 {
		made.design = b.proposal.Apply(c.Overrides)
		if r.Occlusal, err = prep.Build(b.request, made.design); err != nil {
			return shaped{}, Faults{{"$.overrides", err.Error()}}
		}
		tools = append(tools, r.Occlusal)
		if bevel := face.NewCuspBevel(model, r.Occlusal, made.design.CuspBevel); bevel != nil {
			r.covers = bevel
			tools = append(tools, bevel)
		}
	}
	if r.Faces, err = cutFaces(c, b.faces); err != nil {
		return shaped{}, Faults{{"$.overrides", err.Error()}}
	}
	for _, f := range b.faces {
		r.Lesions = append(r.Lesions, f.request.Lesions...)
	}
	r.Cavity = solid.Union(append(tools, toolsOfFaces(r.Faces)...))
	return made, ctx.Err()
}

// openedSurfaces adds what the design opens beside the diseased surfaces, in
// the order in which a charge or a record names them.
func openedSurfaces(diseased []string, d prep.Design, faces []FaceCut) []string {
	opened := map[string]bool{"occlusal": d.Occlusal || d.AnyBox()}
	for _, f := range faces {
		switch f.Design.Class() {
		case lesion.ClassIII:
			opened["buccal"] = opened["buccal"] || f.Cavity.Frame.W.Y > 0
			opened["lingual"] = opened["lingual"] || f.Cavity.Frame.W.Y < 0
		case lesion.ClassIV:
			opened["buccal"], opened["lingual"] = true, true
		}
	}
	var all []string
	for _, s := range []string{"mesial", "occlusal", "distal", "buccal", "lingual", "incisal"} {
		if slices.Contains(diseased, s) || opened[s] {
			all = append(all, s)
		}
	}
	return all
}

// newBasis places a case's lesions and the teeth beside, and proposes from them.
func (p *Planner) newBasis(c *Case, model *anatomy.Model, chosen *school.School, choice Choice, grid float64) (basis, error) {
	var undermined []string
	lost := map[string]float64{}
	for _, f := range c.Findings {
		if f.Kind == lesion.UnderminedCusp {
			undermined = append(undermined, f.Site.Cusp())
		}
		if f.core().OnCusp() {
			lost[f.Site.Cusp()], _ = lesion.LostHeight(f.core())
		}
	}
	b := basis{request: prep.Request{Undermined: undermined, Lost: lost,
		Model: model, School: chosen, Material: choice.Material, Form: prep.Form(choice.Form), Facing: map[notation.Side]*anatomy.Facing{}, Contacts: c.contacts(),
	}}
	toSeal := func(f lesion.Finding) bool { return b.request.LeavesToSeal(f) && c.anyInDentin() }
	all := c.coreFindings()
	for _, f := range all {
		if f.Kind == lesion.Crack || f.Kind == lesion.UnderminedCusp || f.OnCusp() || toSeal(f) || faceSite(f, all, c.Tooth) != "" {
			continue // recorded, sealed, or cut from a face
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
	for _, f := range c.staying() {
		l, err := lesion.New(model, f)
		if err != nil {
			return b, fmt.Errorf("placing the old filling: %w", err)
		}
		b.staying = append(b.staying, l)
	}
	if b.faces, err = p.newFaces(c, model, chosen, choice, b.request.Facing, toSeal); err != nil {
		return b, err
	}
	if len(b.request.AllLesions()) == 0 && len(b.faces) > 0 {
		return b, nil
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
		side := sideOf(f.Site)
		if !f.core().Proximal() && !f.core().OnCorner() || beside[side] != nil || slices.Contains(c.Missing, side.String()) {
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

// leastDentin (mm) between lesion and pulp is less than anyone can leave on purpose.
const leastDentin = 0.15

// withinReachOfThePulp refuses lesions that leave no dentin to stop at.
func withinReachOfThePulp(r prep.Request) error {
	for _, l := range r.Proximal {
		if lesionReachesPulp(r.Model, l) {
			return errPulpReached
		}
	}
	for _, l := range r.Lesions {
		for _, q := range l.Floor() {
			if r.Model.Pulp().Distance(q) < leastDentin {
				return errPulpReached
			}
		}
	}
	return nil
}

// unplannable says why a tooth or its lesion cannot have a cavity, or "".
func unplannable(err error) string {
	switch {
	case errors.Is(err, errPulpReached):
		return "On this tooth's model the lesion reaches the pulp. Test vitality and decide on the pulp first; a filling is planned after that. If the film shows dentin left, give the lesion its own sizes."
	case errors.Is(err, lesion.ErrOffTooth):
		return "A finding reaches past what this tooth has. Check its sizes."
	case errors.Is(err, face.ErrNoCornerLeft):
		return "Over this lesion nothing would be left of the incisal corner: look whether the corner stands, and enter it as lost, or check the lesion's sizes."
	case errors.Is(err, face.ErrOffFace):
		return "The lesion reaches past the face it lies on. Check its sizes and its height over the neck."
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
		switch l.Is() {
		case lesion.OldRestoration:
			v.OldFilling += l.Volume()
		case lesion.Fracture:
			v.Lost += l.Volume()
		default:
			v.Lesion += l.Volume()
			continue
		}
		// What a filling had taken before, or has broken off, is not spent by
		// this cavity.
		inDentin := lesion.VolumeWithin(l, r.Model.Dentin().Distance)
		v.Dentin -= inDentin
		v.Enamel -= l.Volume() - inDentin
	}
	for _, f := range []*float64{&v.Enamel, &v.Dentin, &v.Lesion, &v.OldFilling, &v.Lost, &v.Cavity} {
		*f = round(math.Max(*f, 0))
	}
	return v
}
