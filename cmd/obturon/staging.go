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

	"obturon/core/fill"
	"obturon/core/notation"
	"obturon/core/solid"
	"obturon/internal/document"
	"obturon/internal/export"
	"obturon/internal/export/list"
	"obturon/internal/plan"
	"obturon/internal/render"
)

// maker writes one file.
type maker func(io.Writer) error

// planFiles are the names of all files that a case can lead to.
var planFiles = func() []string {
	var names []string
	for _, f := range list.Files {
		if f.Needs == "" {
			names = append(names, f.Name)
		}
	}
	for _, side := range notation.Sides {
		names = append(names, neighbourFile(side))
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

// planned is a case that was planned from a file, as export.Source: with the usual products, and
// not proven by a kit.
type planned struct {
	result *plan.Result
	text   []byte // of its plan
	filled plan.FilledCase
	forces []string
}

func (p planned) Result() *plan.Result    { return p.result }
func (p planned) Products() fill.Products { return fill.Usual() }
func (p planned) Head() export.CardHead {
	return export.CardHead{Patient: p.result.Case.Patient.Code, Revision: "draft", Practice: "Obturon"}
}
func (p planned) Plan() (document.Plan, error) { return p.result.KeptDocument(fill.Usual()), nil }
func (p planned) Steps() (d document.ProvenSequence, err error) {
	return d, errors.New("steps are proven by obturon rehearse")
}
func (p planned) Beside() (export.Beside, error) {
	return export.Beside{Forces: p.forces, Filled: p.filling()}, nil
}
func (p planned) Tray() (export.TraySheet, error) {
	return export.TraySheet{Teeth: []string{p.result.Case.Tooth.String()}, Tray: p.filling().Tray}, nil
}

func (p planned) filling() export.Filled {
	return export.Filled{
		Fill:   render.Fill(p.filled.Fillings),
		Views:  p.filled.Views,
		Before: render.Steps(p.filled.Before),
		Tray:   render.TrayItems(p.filled.Tray),
	}
}

// made lists the files that a planned case leads to; of one that is refused, its plan, which says
// why.
func (p planned) made() map[string]maker {
	files := map[string]maker{}
	if p.result.Drawn != nil {
		for _, f := range list.Files {
			if f.Needs == "" {
				files[f.Name] = func(w io.Writer) error { return export.Write(w, f.Name, p) }
			}
		}
	}
	files["plan.json"] = func(w io.Writer) error { // as it was printed
		_, err := w.Write(p.text)
		return err
	}
	if p.result.Drawn == nil {
		return files
	}
	n := 0
	for _, f := range p.filled.Fillings {
		for _, part := range f.Plans {
			for _, i := range part.Increments {
				files[incrementFile(n)] = stl(p.result.Case.Tooth, solid.Joined(i.Mesh), i.Name)
				n++
			}
		}
	}
	for side, n := range p.result.Neighbours {
		files[neighbourFile(side)] = stl(p.result.Case.Tooth, n.Mesh(), side.String()+" neighbour")
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
