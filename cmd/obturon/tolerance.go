package main

import (
	"errors"
	"fmt"
	"text/tabwriter"

	"github.com/spf13/cobra"

	"obturon/core/tolerance"
)

func toleranceCommand() *cobra.Command {
	h := tolerance.Usual
	runs, seed, kit := 200, uint64(1), ""
	cmd := &cobra.Command{
		Use:   "tolerance CASE.json",
		Short: "Cut a planned case again and again with a hand that errs; no database needed",
		Long: `Rehearses a case, cuts each of its cavities again and again with errors drawn for an
operator's hand, has the gauges read every one, and prints how often each criterion
is met, where it fails first, and what would lower the risk most at what cost in
tooth. The same seed draws the same hands. It is a model: no hand was measured.
Bad input exits with 2, one line per fault on standard error.`,
		Args: cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			if runs < 1 || runs > tolerance.MostRuns {
				return fmt.Errorf("--runs %d: give 1 to %d", runs, tolerance.MostRuns)
			}
			if _, why := h.Check(); why != "" {
				return errors.New(why)
			}
			return tolerate(cmd, args[0], kit, h, seed, runs)
		},
	}
	kitFlag(cmd, &kit)
	f := cmd.Flags()
	f.IntVar(&runs, "runs", runs, "how often it is cut")
	f.Uint64Var(&seed, "seed", seed, "of the first hand")
	f.Float64Var(&h.DepthBias, "depth-bias", h.DepthBias, "mm that every cut goes deeper")
	f.Float64Var(&h.DepthScatter, "depth-scatter", h.DepthScatter, "mm, standard deviation of a cut's depth")
	f.Float64Var(&h.Tilt, "tilt", h.Tilt, "degrees, standard deviation of the bur's axis")
	f.Float64Var(&h.Wander, "wander", h.Wander, "mm, standard deviation sideways")
	f.Float64Var(&h.Extension, "extension", h.Extension, "mm that walls end up past what was meant")
	return cmd
}

func tolerate(cmd *cobra.Command, file, kit string, h tolerance.Hand, seed uint64, runs int) error {
	r, err := rehearsedFile(cmd, file, "", kit)
	if err != nil {
		return err
	}
	out := tabwriter.NewWriter(cmd.OutOrStdout(), 0, 0, 2, ' ', 0)
	if why := r.Refused(); why != "" {
		fmt.Fprintln(out, why)
		return out.Flush()
	}
	parts := tolerance.Parts(seed, runs)
	outcomes := make([][][]tolerance.Outcome, len(parts))
	for n, p := range parts {
		if outcomes[n], err = r.CutPart(cmd.Context(), h, p, func(float64) {}); err != nil {
			return err
		}
	}
	drawn, err := r.DrawnCavities(cmd.Context())
	if err != nil {
		return err
	}
	for _, told := range tolerance.Tolerances(drawn, parts, outcomes) {
		printTolerance(out, told)
	}
	return out.Flush()
}

func printTolerance(out *tabwriter.Writer, told tolerance.Tolerance) {
	const percent = 100
	fmt.Fprintf(out, "%s\tmet in %%\tfrom\tto\tmissed\tmean\tdeviates\tunit\n", told.Cavity)
	for _, c := range told.Chances {
		fmt.Fprintf(
			out,
			"%s\t%.0f\t%.0f\t%.0f\t%.0f\t%.3f\t%.3f\t%s\n",
			c.Check.Label,
			percent*c.Met,
			percent*c.Low,
			percent*c.High,
			percent*c.Missed,
			c.Mean,
			c.Deviates,
			c.Check.Unit,
		)
	}
	for _, c := range told.Weakest {
		fmt.Fprintf(out, "Fails first: %s\n", c.Check.Label)
	}
	for _, g := range told.Gains {
		fmt.Fprintf(out, "%s Risk %.2f to %.2f, %+.2f mm³ of tooth\n", g.Aim.Words, g.Before, g.Risk, g.Tooth)
	}
	fmt.Fprintln(out, "A model of a hand, not a measurement of yours.")
}
