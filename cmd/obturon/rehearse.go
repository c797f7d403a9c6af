package main

import (
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"os"
	"strings"

	"github.com/spf13/cobra"

	"obturon/core/instrument"
	"obturon/core/intake"
	"obturon/internal/document"
	"obturon/internal/plan"
)

func rehearseCommand() *cobra.Command {
	var out, kit string
	cmd := &cobra.Command{
		Use:   "rehearse CASE.json",
		Short: "Cut a planned case with the kit's instruments, step by step; no database needed",
		Long: `Plans a case, derives from each cavity's surface which instrument of the kit takes
what of it and in which order, cuts the tooth with their profiles and prints the
rehearsal on standard output: steps with their ways, what each takes and how near a
running bur comes to the pulp and to the adjacent tooth, and how far the surface that
is left lies off the drawn one. With --out also writes rehearsal.json and the tooth
after each step as step_01.stl and so on, the cavities one after the other. Bad
input exits with 2, one line per fault on standard error.

The figures are a planning aid for licensed practitioners: a model of a tooth is
cut, not the patient's.`,
		Args: cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error { return rehearse(cmd, args[0], out, kit) },
	}
	cmd.Flags().StringVar(&out, "out", "", "directory to write the rehearsal and its solids to")
	kitFlag(cmd, &kit)
	return cmd
}

func rehearse(cmd *cobra.Command, file, out, kit string) (err error) {
	r, err := rehearsedFile(cmd, file, out, kit)
	if err != nil {
		return err
	}
	told, err := json.MarshalIndent(r.Document(), "", "  ")
	if err != nil {
		return err
	}
	told = append(told, '\n')
	s := &staging{out: out, ours: rehearsalNames()}
	defer func() { err = errors.Join(err, s.discard()) }()
	if out != "" {
		if err := s.add(out, rehearsalFiles(r, told)); err != nil {
			return err
		}
	}
	if _, err := cmd.OutOrStdout().Write(told); err != nil {
		return fmt.Errorf("printing the rehearsal: %w", err)
	}
	return s.keep()
}

// kitFlag lets a command take a kit of one's own.
func kitFlag(cmd *cobra.Command, file *string) {
	cmd.Flags().StringVar(file, "kit", "", "file of what there is of the instruments, obturon.kit/1; all of them without it")
}

// rehearsedFile plans and rehearses the case of a file with the kit of another, "" for all
// instruments. Faults of both are reported.
func rehearsedFile(cmd *cobra.Command, file, out, kit string) (*plan.Rehearsed, error) {
	tasks, err := readCases(cmd.ErrOrStderr(), []string{file}, out)
	if err != nil {
		return nil, err
	}
	if kit != "" {
		if tasks[0].dental.Kit, err = readKit(cmd, kit); err != nil {
			return nil, err
		}
	}
	r, err := plan.NewPlanner().Rehearse(cmd.Context(), tasks[0].dental, plan.DefaultGrid)
	var faults intake.Faults
	if errors.As(err, &faults) {
		reportFaults(cmd.ErrOrStderr(), file, false, err)
		return nil, errReported{badInput}
	}
	return r, err
}

func readKit(cmd *cobra.Command, file string) (*instrument.Kit, error) {
	text, err := os.ReadFile(file)
	if err != nil {
		fmt.Fprintf(cmd.ErrOrStderr(), "$: %v\n", err)
		return nil, errReported{badInput}
	}
	stock, err := document.ReadKit(text)
	if err != nil {
		reportFaults(cmd.ErrOrStderr(), file, true, err)
		return nil, errReported{badInput}
	}
	return stock.Kit(), nil
}

// mostSteps is how many steps a tooth's cavities can have together.
const mostSteps = 99

// rehearsalNames are the names of all files that a rehearsal can lead to.
func rehearsalNames() []string {
	names := []string{"rehearsal.json"}
	for n := range mostSteps {
		names = append(names, stepFile(n+1))
	}
	return names
}

func stepFile(n int) string { return fmt.Sprintf("step_%02d.stl", n) }

func rehearsalFiles(r *plan.Rehearsed, told []byte) map[string]maker {
	files := map[string]maker{"rehearsal.json": func(w io.Writer) error {
		_, err := w.Write(told)
		return err
	}}
	if r.Proven == nil {
		return files
	}
	n := 0
	for _, one := range r.Rehearsals {
		for k, state := range one.Workpieces() {
			n++
			name := strings.TrimSpace(one.Cavity.Name + " " + one.Steps[k].Name())
			files[stepFile(n)] = func(w io.Writer) error { return stl(r.Case.Tooth, state.Mesh(), name)(w) }
		}
	}
	return files
}
