package main

import (
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"os"
	"path/filepath"
	"strings"

	"github.com/spf13/cobra"

	"obturon/core/fill"
	"obturon/core/intake"
	"obturon/core/pipeline"
	"obturon/internal/document"
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
With --out also writes its files: card and tray (PDF), drawing (SVG, PNG), solids (STL, OBJ, PLY)
and plan.json, each increment of composite as increment_01.stl and on, and where a proximal surface
is diseased the adjacent tooth as neighbour_mesial.stl or neighbour_distal.stl; with several cases
each gets a directory of its own under --out, named after its file. Files of an earlier run are replaced, and those
that this one does not make are removed; other files stay. Every case is planned
before anything is written. Bad input exits with 2, one line per fault on standard
error; a full disk or a closed output with 1. Either way nothing is written.`,
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

// task is one case with where its files go.
type task struct {
	file, dir string
	dental    *intake.Case
}

func design(cmd *cobra.Command, files []string, out string, grid float64) (err error) {
	tasks, err := readCases(cmd.ErrOrStderr(), files, out)
	if err != nil {
		return err
	}
	s := &staging{out: out, ours: planFiles}
	defer func() { err = errors.Join(err, s.discard()) }()
	planner := plan.NewPlanner()
	var plans [][]byte
	for _, t := range tasks {
		r, err := planner.Evaluate(cmd.Context(), t.dental, grid)
		var faults intake.Faults
		if errors.As(err, &faults) {
			reportFaults(cmd.ErrOrStderr(), t.file, len(files) > 1, err)
			return errReported{badInput}
		}
		if err != nil {
			return err
		}
		text, err := json.MarshalIndent(r.KeptDocument(fill.Usual()), "", "  ")
		if err != nil {
			return err
		}
		plans = append(plans, append(text, '\n'))
		if out == "" {
			continue
		}
		p := planned{result: r, text: plans[len(plans)-1]}
		if p.forces, err = planner.HoldLines(cmd.Context(), t.dental, grid); err != nil {
			return err
		}
		if p.filled, err = planner.FillOf(cmd.Context(), t.dental, nil, fill.Usual(), nil, grid, pipeline.Sections{}); err != nil {
			return err
		}
		if err := s.add(t.dir, p.made()); err != nil {
			return err
		}
	}
	for _, planned := range plans {
		if _, err := cmd.OutOrStdout().Write(planned); err != nil {
			return fmt.Errorf("printing the plan: %w", err)
		}
	}
	return s.keep()
}

// readCases reads every case before any is planned. Faults are written where they
// are read.
func readCases(faultsTo io.Writer, files []string, out string) ([]task, error) {
	tasks := make([]task, len(files))
	taken := map[string]string{}
	faulty := false
	for n, file := range files {
		tasks[n] = task{file: file, dir: out}
		if len(files) > 1 {
			name := strings.TrimSuffix(filepath.Base(file), filepath.Ext(file))
			if other, twice := taken[name]; twice && out != "" {
				fmt.Fprintf(faultsTo, "%s: $: %s would be written to the same directory: rename one of the two\n", file, other)
				faulty = true
			}
			taken[name] = file
			tasks[n].dir = filepath.Join(out, name)
		}
		data, err := os.ReadFile(file)
		if err != nil {
			fmt.Fprintf(faultsTo, "$: %v\n", err)
			faulty = true
			continue
		}
		if tasks[n].dental, err = document.ReadCase(data); err != nil {
			reportFaults(faultsTo, file, len(files) > 1, err)
			faulty = true
		}
	}
	if faulty {
		return nil, errReported{badInput}
	}
	return tasks, nil
}

func reportFaults(w io.Writer, file string, several bool, err error) {
	for line := range strings.SplitSeq(err.Error(), "\n") {
		if several {
			line = file + ": " + line
		}
		fmt.Fprintln(w, line)
	}
}
