package plan

import (
	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/anatomy"
	"obturon/core/drawing"
	"obturon/core/intake"
	"obturon/core/lesion"
	"obturon/core/notation"
	"obturon/core/pipeline"
)

// Study is a sound tooth to look at: which, at what age, and what is known of
// its measured sizes.
type Study struct {
	Tooth    notation.Tooth
	AgeYears float64
	Measured anatomy.MeasuredSizes
}

// StudyModel is the tooth of a study. Errors are intake.Faults for sizes and
// ages out of range.
func (p *Planner) StudyModel(s Study) (*anatomy.Model, error) {
	m, err := p.teeth.get(s.Tooth, s.Measured, s.AgeYears, DefaultGrid)
	if err != nil {
		return nil, intake.Faults{{Path: "$", Message: err.Error()}}
	}
	return m, nil
}

// StudyNeighbours are the teeth in contact with that of a study, mesial first; a
// side where no tooth stands at that age is left out. Errors are those of
// StudyModel.
func (p *Planner) StudyNeighbours(s Study) ([]*anatomy.Neighbour, error) {
	m, err := p.StudyModel(s)
	if err != nil {
		return nil, err
	}
	beside, err := p.neighbours(m, notation.Sides, s.AgeYears, DefaultGrid)
	return beside.InOrder(), err
}

// StudySection draws a section of the tooth with its neighbours. Errors are
// intake.Faults, also for an unknown axis.
func (p *Planner) StudySection(s Study, axis drawing.Axis, at float64, withNeighbours bool) (drawing.View, error) {
	m, err := p.StudyModel(s)
	if err != nil {
		return drawing.View{}, err
	}
	var beside []*anatomy.Neighbour
	if withNeighbours {
		if beside, err = p.StudyNeighbours(s); err != nil {
			return drawing.View{}, err
		}
	}
	v, err := drawing.StudySection(m, axis, at, beside)
	if err != nil {
		return v, intake.Faults{{Path: "$.axis", Message: err.Error()}}
	}
	return v, nil
}

// StudyTouch feels the tooth at a point of its surface. Errors are those of
// StudyModel.
func (p *Planner) StudyTouch(s Study, at r3.Vec) (anatomy.Touch, error) {
	m, err := p.StudyModel(s)
	if err != nil {
		return anatomy.Touch{}, err
	}
	t, ok := m.Touch(at)
	if !ok {
		return t, intake.Faults{{Path: "$.at", Message: "this point is not on the tooth's surface: touch the tooth itself"}}
	}
	return t, nil
}

// Chart is a tooth that findings are placed on.
type Chart struct {
	Views []pipeline.ChartView
	Sizes []lesion.KindSize
}

// Chart draws a tooth for intake. It fails for an age that no tooth is modelled
// at.
func (p *Planner) Chart(t notation.Tooth, ageYears float64) (Chart, error) {
	m, err := p.teeth.get(t, anatomy.MeasuredSizes{}, ageYears, DefaultGrid)
	if err != nil {
		return Chart{}, err
	}
	return Chart{Views: pipeline.ChartViews(m), Sizes: lesion.DefaultSizes(m)}, nil
}
