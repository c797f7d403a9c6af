package api

import (
	"context"
	"errors"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/anatomy"
	"obturon/core/drawing"
	"obturon/core/notation"
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
	l := Line{Closed: closed, Points: make([]float32, 0, 2*len(points))}
	for _, p := range points {
		l.Points = append(l.Points, thousandth(p[0]), thousandth(p[1]))
	}
	return l
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
		Sizes: CrownSizes{Height: thousandth(m.Sizes.Height), Mesiodistal: thousandth(m.Sizes.Mesiodistal), Buccolingual: thousandth(m.Sizes.Buccolingual)},
		Average: CrownSizes{
			Height: thousandth(average.Height), Mesiodistal: thousandth(average.Mesiodistal), Buccolingual: thousandth(average.Buccolingual),
		},
		Outer:     packed(export.NewToothMesh(m, m.Screen().Uncut().Mesh())),
		Turning:   packed(export.NewToothMesh(m, m.Turning().Uncut().Mesh())),
		Dentin:    packed(export.NewTissueMesh(m, m.DentinSolid(), export.DentinWall)),
		Pulp:      packed(export.NewTissueMesh(m, m.PulpSolid(), export.PulpSurface)),
		Landmarks: landmarksAnswer(m), Lines: linesAnswer(m), Figures: figuresAnswer(m),
	}
	plane := m.AntagonistPlane()
	answer.Antagonist = SpacePlane{Origin: triple(plane.Origin), Normal: triple(plane.W)}
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
		side := StudyNeighbourSide(notation.Mesial.String())
		if n.Offset.X < 0 {
			side = StudyNeighbourSide(notation.Distal.String())
		}
		answer = append(answer, StudyNeighbour{
			Iso: n.Tooth.String(), Name: n.Tooth.Name(), Side: side, Gap: thousandth(n.Gap),
			Mirrored: n.Mirrored, Yaw: float32(n.Yaw), Offset: triple(n.Offset),
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
	view, err := s.Planner.StudySection(study, drawing.Axis(r.Params.Axis), float64(r.Params.At), neighbours)
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
	t, err := s.Planner.StudyTouch(study, r3.Vec{X: float64(r.Params.X), Y: float64(r.Params.Y), Z: float64(r.Params.Z)})
	if err != nil {
		return nil, notShown(err)
	}
	return StudyTouch200JSONResponse{
		At: triple(t.At), Enamel: thousandth(t.Enamel), Dentin: thousandth(t.Dentin), Pulp: thousandth(t.Pulp), PulpAt: triple(t.PulpAt), Horn: t.Horn,
	}, nil
}

// notShown words a fault of what was asked for; other errors stay as they are.
func notShown(err error) error {
	var faults plan.Faults
	if errors.As(err, &faults) {
		return unprocessable("The tooth cannot be shown so", faults)
	}
	return err
}

func studyOf(tooth string, age float32, height, mesiodistal, buccolingual, enamel *float32) (plan.Study, error) {
	t, err := notation.ParseISO(tooth)
	if err != nil {
		return plan.Study{}, unprocessable("No tooth has this number", plan.Faults{{Path: "tooth", Message: err.Error()}})
	}
	size := func(v *float32) float64 {
		if v == nil {
			return 0
		}
		return float64(*v)
	}
	return plan.Study{
		Tooth: t, AgeYears: float64(age),
		Own: anatomy.Own{Height: size(height), Mesiodistal: size(mesiodistal), Buccolingual: size(buccolingual), EnamelAtContact: size(enamel)},
	}, nil
}

func packed(m *export.WebMesh) MeshData {
	return MeshData{Vertices: m.Vertices, Triangles: m.Triangles, Mirrored: m.Mirrored, Data: m.Data}
}

func landmarksAnswer(m *anatomy.Model) []Landmark {
	list := []Landmark{}
	add := func(kind LandmarkKind, name string, at r3.Vec) {
		list = append(list, Landmark{Name: name, Kind: kind, At: triple(at)})
	}
	for _, tip := range m.CuspTips {
		add("cusp", cuspName(tip.Name), tip.At)
	}
	for _, p := range m.Pits {
		add("pit", p.Name, p.At)
	}
	if m.Tooth.Anterior() {
		add("lingual", "cingulum", m.Cingulum)
		add("lingual", "lingual fossa", m.LingualFossa)
	} else {
		add("ridge", "mesial marginal ridge", m.MesialRidge)
		add("ridge", "distal marginal ridge", m.DistalRidge)
	}
	add("contact", "mesial contact", m.MesialContact.At)
	add("contact", "distal contact", m.DistalContact.At)
	add("contour", "facial height of contour", m.FacialContour)
	add("contour", "lingual height of contour", m.LingualContour)
	for _, h := range m.Horns {
		add("horn", h.Name+" pulp horn", h.At)
	}
	return list
}

// cuspName spells out the letters that cusps go by.
func cuspName(short string) string {
	names := map[string]string{
		"MB": "mesiobuccal", "DB": "distobuccal", "ML": "mesiolingual", "DL": "distolingual", "B": "buccal", "L": "lingual", "D": "distal",
	}
	if name, ok := names[short]; ok {
		return name + " cusp"
	}
	return short
}

func linesAnswer(m *anatomy.Model) []SpaceLine {
	lines := []SpaceLine{}
	add := func(kind SpaceLineKind, name string, closed bool, points []r3.Vec) {
		l := SpaceLine{Kind: kind, Name: name, Closed: closed, Points: make([]float32, 0, 3*len(points))}
		for _, p := range points {
			l.Points = append(l.Points, triple(p)...)
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
	add := func(label string, value float64, unit FigureUnit) {
		list = append(list, Figure{Label: label, Value: thousandth(value), Unit: unit})
	}
	add("Crown height", m.Sizes.Height, "mm")
	add("Mesiodistal size", m.Sizes.Mesiodistal, "mm")
	add("Buccolingual size", m.Sizes.Buccolingual, "mm")
	if m.Intercuspal > 0 {
		add("Between cusp tips, across", m.Intercuspal, "mm")
	}
	add("Lingual lean of the crown", m.LingualLean, "deg")
	add("Mesial contact over the neck", m.MesialContact.At.Z, "mm")
	add("Distal contact over the neck", m.DistalContact.At.Z, "mm")
	deepest := noPit
	for _, p := range m.Pits {
		if d := m.Pulp().Distance(p.At); d < deepest {
			deepest = d
		}
	}
	if deepest < noPit {
		add("Least from a pit to the pulp", deepest, "mm")
	}
	highest := m.Horns[0]
	for _, h := range m.Horns {
		if h.At.Z > highest.At.Z {
			highest = h
		}
	}
	add("Highest horn over the neck ("+highest.Name+")", highest.At.Z, "mm")
	return list
}

const noPit = 99.0 // mm, more than any tooth is high
