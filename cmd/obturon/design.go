package main

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"os"
	"path/filepath"
	"strings"

	"github.com/spf13/cobra"

	"obturon/core/intake"
	"obturon/core/solid"
	"obturon/internal/document"
	"obturon/internal/export"
	"obturon/internal/plan"
)

const badInput = 2

func designCommand() *cobra.Command {
	var out string
	var grid float64
	cmd := &cobra.Command{
		Use:   "design CASE.json...",
		Short: "Plan cases from files; no database needed",
		Long: `Plans each case and prints its plan document on standard output.
With --out also writes intact.stl, prepared.stl, cavity.stl, drawing.svg,
card.pdf and plan.json, and where a proximal face is diseased the tooth beside
it as neighbour_mesial.stl or neighbour_distal.stl; with several cases each gets a directory of its own
under --out, named after its file. Bad input exits with 2, one line per fault
on standard error, and nothing is written.`,
		Args: cobra.MinimumNArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			if grid < 0.04 || grid > 0.3 {
				return fmt.Errorf("--grid %v is outside 0.04 to 0.3 mm", grid)
			}
			return design(cmd, args, out, grid)
		},
	}
	cmd.Flags().StringVar(&out, "out", "", "directory to write solids, drawing and card to")
	cmd.Flags().Float64Var(&grid, "grid", plan.DefaultGrid, "sample spacing in mm")
	return cmd
}

func design(cmd *cobra.Command, files []string, out string, grid float64) error {
	cases := make([]*intake.Case, len(files))
	faulty := false
	for n, file := range files {
		data, err := os.ReadFile(file)
		if err != nil {
			fmt.Fprintf(cmd.ErrOrStderr(), "$: %v\n", err)
			faulty = true
			continue
		}
		if cases[n], err = document.ReadCase(data); err != nil {
			reportFaults(cmd.ErrOrStderr(), file, len(files) > 1, err)
			faulty = true
		}
	}
	if faulty {
		return errReported{badInput}
	}
	planner := plan.NewPlanner()
	for n, c := range cases {
		r, err := planner.Evaluate(cmd.Context(), c, grid)
		var faults intake.Faults
		if errors.As(err, &faults) {
			reportFaults(cmd.ErrOrStderr(), files[n], len(files) > 1, err)
			return errReported{badInput}
		}
		if err != nil {
			return err
		}
		planned, err := json.MarshalIndent(r.Document(), "", "  ")
		if err != nil {
			return err
		}
		fmt.Fprintf(cmd.OutOrStdout(), "%s\n", planned)
		if out == "" {
			continue
		}
		dir := out
		if len(files) > 1 {
			dir = filepath.Join(out, strings.TrimSuffix(filepath.Base(files[n]), filepath.Ext(files[n])))
		}
		if err := writeResult(dir, r, planned, c); err != nil {
			return err
		}
	}
	return nil
}

func reportFaults(w io.Writer, file string, several bool, err error) {
	for line := range strings.SplitSeq(err.Error(), "\n") {
		if several {
			line = file + ": " + line
		}
		fmt.Fprintln(w, line)
	}
}

// writeResult makes every file in memory first, so that a failure writes nothing.
func writeResult(dir string, r *plan.Result, planned []byte, c *intake.Case) error {
	files := map[string]*bytes.Buffer{"plan.json": bytes.NewBuffer(append(planned, '\n'))}
	if r.Refused() == "" {
		head := export.CardHead{Patient: c.Patient.Code, Revision: "draft", Practice: "Obturon"}
		cavity := r.Model.Surface.Uncut().Clip(r.Cut.Tool).Mesh()
		writers := map[string]func(io.Writer) error{
			"intact.stl":   stl(r.Model.Surface.Uncut().Mesh(), "intact"),
			"prepared.stl": stl(r.Prepared.Mesh, "prepared"),
			"cavity.stl":   stl(cavity, "cavity"),
			"drawing.svg":  func(w io.Writer) error { return export.WriteSVG(w, r) },
			"card.pdf":     func(w io.Writer) error { return export.WriteCard(w, r, head, export.A4) },
		}
		for side, n := range r.Neighbours {
			writers["neighbour_"+side.String()+".stl"] = stl(n.Mesh(), side.String()+" neighbour")
		}
		for name, write := range writers {
			files[name] = &bytes.Buffer{}
			if err := write(files[name]); err != nil {
				return fmt.Errorf("making %s: %w", name, err)
			}
		}
	}
	if err := os.MkdirAll(dir, 0o755); err != nil {
		return err
	}
	for name, content := range files {
		if err := os.WriteFile(filepath.Join(dir, name), content.Bytes(), 0o644); err != nil {
			return err
		}
	}
	return nil
}

func stl(m *solid.Mesh, name string) func(io.Writer) error {
	return func(w io.Writer) error { return export.WriteSTL(w, m, name) }
}
