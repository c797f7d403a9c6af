package render

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/cavity"
	"obturon/core/pipeline"
	"obturon/core/rehearsal"
	"obturon/core/sequence"
	"obturon/internal/document"
)

// Rehearsal writes how a kit cuts a case.
func Rehearsal(r *pipeline.Proven) document.Rehearsal {
	d := RefusedRehearsal(r.Decided)
	for _, one := range r.Rehearsals {
		d.Cavities = append(d.Cavities, rehearsedCavity(one))
	}
	return d
}

// RefusedRehearsal is that of a case that is refused.
func RefusedRehearsal(r *pipeline.Decided) document.Rehearsal {
	return document.Rehearsal{
		Schema:   document.ObturonRehearsal1,
		Core:     pipeline.CoreVersion,
		Tooth:    r.Case.Tooth.String(),
		Frame:    frameOf(r.Case.Tooth),
		Cavities: []document.RehearsedCavity{},
		Refused:  r.Refused(),
	}
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
			StandingMm: document.Thousandth(
				one.Standing.Usual,
			), MostStandingMm: document.Thousandth(one.Standing.Most), StandingMm3: document.Thousandth(one.Standing.Volume),
			OvercutMm: document.Thousandth(
				one.Overcut.Usual,
			), MostOvercutMm: document.Thousandth(one.Overcut.Most), OvercutMm3: document.Thousandth(one.Overcut.Volume),
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
		cut := document.RehearsedCut{
			Instrument: c.Instrument,
			Axis:       coordinates(s.Frame.Turn(c.Axis)),
			LengthMm:   document.Thousandth(c.Length()),
			Ways:       [][]float64{},
		}
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
