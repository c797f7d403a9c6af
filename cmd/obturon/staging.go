package main

import (
	"bytes"
	"errors"
	"fmt"
	"io"
	"maps"
	"os"
	"path/filepath"
	"slices"

	"obturon/core/intake"
	"obturon/core/notation"
	"obturon/core/pipeline"
	"obturon/core/solid"
	"obturon/internal/export"
	"obturon/internal/plan"
)

// maker writes one file.
type maker func(io.Writer) error

// planFiles are the names of all files that a case can lead to.
var planFiles = func() []string {
	names := []string{
		"plan.json", "intact.stl", "prepared.stl", "cavity.stl", "filling.stl", "drawing.svg", "card.pdf", neighbourFile(notation.Mesial), neighbourFile(notation.Distal),
	}
	for n := range mostIncrements {
		names = append(names, incrementFile(n))
	}
	return names
}()

// mostIncrements is more than the cavities of a tooth ever take.
const mostIncrements = 99

func incrementFile(n int) string { return fmt.Sprintf("increment_%02d.stl", n+1) }

func neighbourFile(side notation.Side) string { return "neighbour_" + side.String() + ".stl" }

// made lists the files that a planned case leads to; beside is what its card prints beside the
// plan.
func made(r *plan.Result, planned []byte, c *intake.Case, fillings []pipeline.Filling, beside export.Beside) map[string]maker {
	files := map[string]maker{"plan.json": func(w io.Writer) error {
		_, err := w.Write(planned)
		return err
	}}
	if r.Refused() != "" {
		return files
	}
	head := export.CardHead{Patient: c.Patient.Code, Revision: "draft", Practice: "Obturon"}
	files["intact.stl"] = stl(c.Tooth, r.Model.Surface.Uncut().Mesh(), "intact")
	files["prepared.stl"] = stl(c.Tooth, r.Prepared.Mesh, "prepared")
	taken, _ := r.CavitySolid()
	files["cavity.stl"] = stl(c.Tooth, taken, "cavity")
	files["filling.stl"] = stl(c.Tooth, pipeline.SolidOf(fillings), "filling")
	n := 0
	for _, f := range fillings {
		for _, p := range f.Plans {
			for _, i := range p.Increments {
				files[incrementFile(n)] = stl(c.Tooth, solid.Joined(i.Mesh), i.Name)
				n++
			}
		}
	}
	files["drawing.svg"] = func(w io.Writer) error { return export.WriteSVG(w, r) }
	files["card.pdf"] = func(w io.Writer) error { return export.WriteCard(w, r, beside, head, export.A4) }
	for side, n := range r.Neighbours {
		files[neighbourFile(side)] = stl(c.Tooth, n.Mesh(), side.String()+" neighbour")
	}
	return files
}

// stl writes a mesh that lies in the frame of a tooth.
func stl(tooth notation.Tooth, m *solid.Mesh, name string) maker {
	return func(w io.Writer) error { return export.WriteSTL(w, export.Solid{Mesh: m, Tooth: tooth, Name: name}) }
}

// staging holds files under another name beside where they go, so that a full disk
// or a failure leaves what was there as it was.
type staging struct {
	out     string
	ours    []string // names of all files that this or an earlier run can make
	dir     string   // where the files wait, "" before there are any
	targets []target
}

// target is a directory with the names of the files that wait for it.
type target struct {
	dir   string
	names []string
}

// add makes files to be kept under a directory.
func (s *staging) add(dir string, files map[string]maker) error {
	if s.dir == "" {
		if err := os.MkdirAll(s.out, 0o755); err != nil {
			return err
		}
		made, err := os.MkdirTemp(s.out, ".obturon-")
		if err != nil {
			return err
		}
		s.dir = made
	}
	waiting := s.waiting(len(s.targets))
	if err := os.Mkdir(waiting, 0o755); err != nil {
		return err
	}
	for name, make := range files {
		if err := writeFile(filepath.Join(waiting, name), make); err != nil {
			return fmt.Errorf("writing %s: %w; nothing was kept", filepath.Join(dir, name), err)
		}
	}
	s.targets = append(s.targets, target{dir, slices.Collect(maps.Keys(files))})
	return nil
}

func (s *staging) waiting(n int) string { return filepath.Join(s.dir, fmt.Sprint(n)) }

// writeFile writes through to the disk, so that one that is full says so now.
func writeFile(path string, make maker) (err error) {
	var content bytes.Buffer
	if err := make(&content); err != nil {
		return err
	}
	f, err := os.OpenFile(path, os.O_WRONLY|os.O_CREATE|os.O_EXCL, 0o644)
	if err != nil {
		return err
	}
	defer func() { err = errors.Join(err, f.Close()) }()
	if _, err := f.Write(content.Bytes()); err != nil {
		return err
	}
	return f.Sync()
}

// keep puts the files in their places, and clears those of an earlier run that
// this one does not make.
func (s *staging) keep() error {
	for n, t := range s.targets {
		if err := os.MkdirAll(t.dir, 0o755); err != nil {
			return err
		}
		for _, name := range s.ours {
			place := filepath.Join(t.dir, name)
			if slices.Contains(t.names, name) {
				if err := os.Rename(filepath.Join(s.waiting(n), name), place); err != nil {
					return err
				}
			} else if err := os.Remove(place); err != nil && !errors.Is(err, os.ErrNotExist) {
				return err
			}
		}
	}
	return nil
}

// discard removes what waits and was not kept.
func (s *staging) discard() error {
	if s.dir == "" {
		return nil
	}
	return os.RemoveAll(s.dir)
}
