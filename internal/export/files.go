package export

import (
	"encoding/json"
	"io"

	"obturon/core/fill"
	"obturon/core/pipeline"
	"obturon/internal/document"
	"obturon/internal/plan"
)

// Source is a planned case as its files are written from it. What takes long is made when a
// file needs it.
type Source interface {
	Result() *plan.Result
	Head() CardHead
	Products() fill.Products
	Plan() (document.Plan, error)
	Steps() (document.ProvenSequence, error)
	Beside() (Beside, error) // of a card
	Tray() (TraySheet, error)
}

// Write writes a file of the list, but for those that are kept as they are: case.json, and
// sitting.pdf of several cases. Errors are those of the writer and of the source.
func Write(w io.Writer, name string, s Source) error {
	return writers[name](w, s)
}

var writers = map[string]func(w io.Writer, s Source) error{
	"card.pdf":        cardOn(A4),
	"card-letter.pdf": cardOn(Letter),
	"tray.pdf":        writeTray,
	"drawing.svg":     func(w io.Writer, s Source) error { return WriteSVG(w, s.Result()) },
	"drawing.png":     func(w io.Writer, s Source) error { return WritePNG(w, s.Result()) },
	"steps.csv":       writeStepTable,
	"steps.json":      writeSteps,
	"plan.json":       writePlan,
	"intact.stl": solidFile(
		intact,
		WriteSTL,
	), "prepared.stl": solidFile(prepared, WriteSTL), "cavity.stl": solidFile(taken, WriteSTL), "filling.stl": solidFile(filled, WriteSTL),
	"prepared.obj": solidFile(prepared, WriteOBJ), "cavity.obj": solidFile(taken, WriteOBJ), "filling.obj": solidFile(filled, WriteOBJ),
	"prepared.ply": solidFile(prepared, WritePLY), "cavity.ply": solidFile(taken, WritePLY), "filling.ply": solidFile(filled, WritePLY),
}

func cardOn(paper Paper) func(w io.Writer, s Source) error {
	return func(w io.Writer, s Source) error {
		beside, err := s.Beside()
		if err != nil {
			return err
		}
		return WriteCard(w, s.Result(), beside, s.Head(), paper)
	}
}

func writeTray(w io.Writer, s Source) error {
	sheet, err := s.Tray()
	if err != nil {
		return err
	}
	return WriteTray(w, s.Head(), sheet, A4)
}

func writeStepTable(w io.Writer, s Source) error {
	steps, err := s.Steps()
	if err != nil {
		return err
	}
	return WriteSteps(w, steps)
}

func writeSteps(w io.Writer, s Source) error {
	steps, err := s.Steps()
	if err != nil {
		return err
	}
	return indented(w, steps)
}

func writePlan(w io.Writer, s Source) error {
	planned, err := s.Plan()
	if err != nil {
		return err
	}
	return indented(w, planned)
}

func indented(w io.Writer, v any) error {
	encoder := json.NewEncoder(w)
	encoder.SetIndent("", "  ")
	return encoder.Encode(v)
}

func solidFile(of func(s Source) Solid, write func(w io.Writer, s Solid) error) func(w io.Writer, s Source) error {
	return func(w io.Writer, s Source) error { return write(w, of(s)) }
}

func intact(s Source) Solid {
	r := s.Result()
	return Solid{Mesh: r.Model.Surface.Uncut().Mesh(), Tooth: r.Case.Tooth, Name: "intact"}
}

func prepared(s Source) Solid {
	r := s.Result()
	return Solid{Mesh: r.Prepared.Mesh, Tooth: r.Case.Tooth, Name: "prepared"}
}

func taken(s Source) Solid {
	r := s.Result()
	mesh, _ := r.CavitySolid()
	return Solid{Mesh: mesh, Tooth: r.Case.Tooth, Name: "cavity"}
}

func filled(s Source) Solid {
	r := s.Result()
	return Solid{Mesh: pipeline.SolidOf(r.Fill(s.Products()).Fillings), Tooth: r.Case.Tooth, Name: "filling"}
}
