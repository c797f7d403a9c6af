package api

import (
	"context"
	"errors"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/anatomy"
	"obturon/core/drawing"
	"obturon/core/intake"
	"obturon/core/notation"
	"obturon/core/solid"
	"obturon/internal/document"
	"obturon/internal/export"
	"obturon/internal/plan"
)

// ListArches gives the outlines of all teeth in their arches.
func (s *server) ListArches(context.Context, ListArchesRequestObject) (ListArchesResponseObject, error) {
	teeth, err := anatomy.AllArches()
	if err != nil {
		return nil, err
	}
	answer := ListArches200JSONResponse{}
	for _, t := range teeth {
		drawn := ArchTooth{Iso: t.Tooth.String(), Name: t.Tooth.Name(), Outline: flatLine(t.Outline, true), Grooves: []Line{}}
		for _, g := range t.Grooves {
			drawn.Grooves = append(drawn.Grooves, flatLine(g, false))
		}
		answer = append(answer, drawn)
	}
	return answer, nil
}

func flatLine(points [][2]float64, closed bool) Line {
	own := make([]solid.Point2, len(points))
	for n, p := range points {
		own[n] = solid.Point2{X: p[0], Y: p[1]}
	}
	return lineAnswer(own, closed)
}

// StudyTooth shows a sound tooth.
func (s *server) StudyTooth(_ context.Context, r StudyToothRequestObject) (StudyToothResponseObject, error) {
	study, err := studyOf(r.Tooth, r.Params.Age, r.Params.Height, r.Params.Mesiodistal, r.Params.Buccolingual, r.Params.Enamel)
	if err != nil {
		return nil, err
	}
	answer, known := s.studies.Get(study)
	if !known {
		m, err := s.Planner.StudyModel(study)
		if err != nil {
			return nil, notShown(err)
		}
		answer = studiedTooth(m)
		s.studies.Add(study, answer)
	}
	return StudyTooth200JSONResponse(answer), nil
}

func studiedTooth(m *anatomy.Model) StudiedTooth {
	average := anatomy.Describe(m.Tooth)
	answer := StudiedTooth{
		Tooth: toothAnswer(m.Tooth),
		Sizes: CrownSizes{
			Height:       document.Thousandth(m.Sizes.Height),
			Mesiodistal:  document.Thousandth(m.Sizes.Mesiodistal),
			Buccolingual: document.Thousandth(m.Sizes.Buccolingual),
		},
		Average: CrownSizes{
			Height: document.Thousandth(
				average.Height,
			), Mesiodistal: document.Thousandth(average.Mesiodistal), Buccolingual: document.Thousandth(average.Buccolingual),
		},
		Outer:     packed(export.NewToothMesh(m, m.Screen().Uncut().Mesh())),
		Turning:   packed(export.NewToothMesh(m, m.Turning().Uncut().Mesh())),
		Dentin:    packed(export.NewTissueMesh(m, m.DentinSolid(), export.DentinWall)),
		Pulp:      packed(export.NewTissueMesh(m, m.PulpSolid(), export.PulpSurface)),
		Landmarks: landmarksAnswer(m), Lines: linesAnswer(m), Figures: figuresAnswer(m),
	}
	plane := m.AntagonistPlane()
	answer.Antagonist = SpacePlane{Origin: document.Triple(plane.Origin), Normal: document.Triple(plane.W)}
	return answer
}

// StudyNeighbours shows the teeth in contact with it.
func (s *server) StudyNeighbours(_ context.Context, r StudyNeighboursRequestObject) (StudyNeighboursResponseObject, error) {
	study, err := studyOf(r.Tooth, r.Params.Age, r.Params.Height, r.Params.Mesiodistal, r.Params.Buccolingual, r.Params.Enamel)
	if err != nil {
		return nil, err
	}
	beside, err := s.Planner.StudyNeighbours(study)
	if err != nil {
		return nil, notShown(err)
	}
	answer := StudyNeighbours200JSONResponse{}
	for _, n := range beside {
		side := document.StudyNeighbourSide(notation.Mesial.String())
		if n.Offset.X < 0 {
			side = document.StudyNeighbourSide(notation.Distal.String())
		}
		answer = append(answer, StudyNeighbour{
			Iso: n.Tooth.String(), Name: n.Tooth.Name(), Side: side, Gap: document.Thousandth(n.Gap),
			Mirrored: n.Mirrored, Yaw: n.Yaw, Offset: document.Triple(n.Offset),
			Mesh: packed(export.NewToothMesh(n.Model, n.Turning().Uncut().Mesh())),
		})
	}
	return answer, nil
}

// StudySection cuts the sound tooth.
func (s *server) StudySection(_ context.Context, r StudySectionRequestObject) (StudySectionResponseObject, error) {
	study, err := studyOf(r.Tooth, r.Params.Age, r.Params.Height, r.Params.Mesiodistal, r.Params.Buccolingual, r.Params.Enamel)
	if err != nil {
		return nil, err
	}
	neighbours := r.Params.Neighbours != nil && *r.Params.Neighbours
	view, err := s.Planner.StudySection(study, drawing.Axis(r.Params.Axis), r.Params.At, neighbours)
	if err != nil {
		return nil, notShown(err)
	}
	return StudySection200JSONResponse(viewAnswer(view)), nil
}

// StudyTouch feels the sound tooth at a point.
func (s *server) StudyTouch(_ context.Context, r StudyTouchRequestObject) (StudyTouchResponseObject, error) {
	study, err := studyOf(r.Tooth, r.Params.Age, r.Params.Height, r.Params.Mesiodistal, r.Params.Buccolingual, r.Params.Enamel)
	if err != nil {
		return nil, err
	}
	t, err := s.Planner.StudyTouch(study, r3.Vec{X: r.Params.X, Y: r.Params.Y, Z: r.Params.Z})
	if err != nil {
		return nil, notShown(err)
	}
	return StudyTouch200JSONResponse{
		At: document.Triple(
			t.At,
		), Enamel: document.Thousandth(t.Enamel), Dentin: document.Thousandth(t.Dentin), Pulp: document.Thousandth(t.Pulp), PulpAt: document.Triple(t.PulpAt), Horn: t.Horn,
	}, nil
}

// notShown words a fault of what was asked for; other errors stay as they are.
func notShown(err error) error {
	var faults intake.Faults
	if errors.As(err, &faults) {
		return unprocessable("The tooth cannot be shown so", faults)
	}
	return err
}

func studyOf(tooth string, age float64, height, mesiodistal, buccolingual, enamel *float64) (plan.Study, error) {
	t, err := notation.ParseISO(tooth)
	if err != nil {
		return plan.Study{}, unprocessable("No tooth has this number", intake.Faults{{Path: "tooth", Message: err.Error()}})
	}
	size := func(v *float64) float64 {
		if v == nil {
			return 0
		}
		return *v
	}
	return plan.Study{
		Tooth: t, AgeYears: age,
		Measured: anatomy.MeasuredSizes{
			Height:          size(height),
			Mesiodistal:     size(mesiodistal),
			Buccolingual:    size(buccolingual),
			EnamelAtContact: size(enamel),
		},
	}, nil
}

func packed(m *export.WebMesh) MeshData {
	return MeshData{Vertices: m.Vertices, Triangles: m.Triangles, Step: m.Step, Hand: m.Hand, Data: m.Data}
}

func landmarksAnswer(m *anatomy.Model) []Landmark {
	list := []Landmark{}
	for _, p := range m.NamedLandmarks() {
		list = append(list, Landmark{Name: p.Name, Kind: document.LandmarkKind(p.Kind), At: document.Triple(p.At)})
	}
	return list
}

func linesAnswer(m *anatomy.Model) []SpaceLine {
	lines := []SpaceLine{}
	add := func(kind document.SpaceLineKind, name string, closed bool, points []r3.Vec) {
		l := SpaceLine{Kind: kind, Name: name, Closed: closed, Points: make([]float64, 0, 3*len(points))}
		for _, p := range points {
			l.Points = append(l.Points, document.Triple(p)...)
		}
		lines = append(lines, l)
	}
	for _, g := range m.Grooves {
		if !g.Supplemental {
			add("groove", g.Name, false, g.Points)
		}
	}
	if len(m.IncisalEdge) > 0 {
		add("edge", "incisal edge", false, m.IncisalEdge)
	}
	add("cervical", "cervical line", true, m.CervicalLine())
	add("gingiva", "gingival margin", true, m.GingivalLine(anatomy.GingivaAt(m.AgeYears)))
	return lines
}

func figuresAnswer(m *anatomy.Model) []Figure {
	list := []Figure{}
	for _, f := range m.Figures() {
		list = append(list, Figure{Label: f.Label, Value: document.Thousandth(f.Value), Unit: document.FigureUnit(f.Unit)})
	}
	return list
}
