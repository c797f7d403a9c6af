package main

import (
	"fmt"
	"strconv"

	"github.com/spf13/cobra"

	"obturon/internal/device"
)

func radiometerCommand() *cobra.Command {
	address, output := device.RadiometerAddress, 1100.0
	cmd := &cobra.Command{
		Use:   "radiometer",
		Short: "Stand in for a radiometer that speaks WebSocket",
		Long: `Listens on this computer as such a radiometer does; at a lamp of the materials the browser
finds it there. An empty line on standard input reads the lamp that is held to it, which
goes out as a text message in mW/cm²; a number holds a lamp of that output to it.`,
		Args: cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			const seed = 1
			r := device.NewRadiometer(0, seed)
			if err := r.Hold(strconv.FormatFloat(output, 'g', -1, 64)); err != nil {
				return err
			}
			return standIn{"radiometer", "Enter: read the lamp; a number: hold a lamp of that output", r, reading(r)}.run(cmd, address)
		},
	}
	cmd.Flags().StringVar(&address, "listen", address, "address; browsers look at the usual one")
	cmd.Flags().Float64Var(&output, "output", output, "of the lamp, mW/cm²")
	return cmd
}

// reading reads the lamp, or holds the one to it that a line names.
func reading(r *device.Radiometer) func(line string) (string, error) {
	return func(line string) (string, error) {
		if line != "" {
			if err := r.Hold(line); err != nil {
				return err.Error(), nil
			}
			return fmt.Sprintf("a lamp of %g mW/cm²", r.Output), nil
		}
		return fmt.Sprintf("%d mW/cm², heard by %d", r.Read(), r.Listening()), nil
	}
}
