package main

import (
	"fmt"

	"github.com/spf13/cobra"

	"obturon/internal/device"
)

func pedalCommand() *cobra.Command {
	address := device.PedalAddress
	cmd := &cobra.Command{
		Use:   "pedal",
		Short: "Stand in for a foot switch that speaks WebSocket",
		Long: `Listens on this computer as such a foot switch does; at the chair the browser finds it
there. A line on standard input presses a pedal: an empty one for next, b for back,
p for pause. Each press goes out as a text message: next, back or pause.`,
		Args: cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			p := &device.Pedal{}
			return standIn{"foot switch", "Enter: next, b: back, p: pause", p, pressing(p)}.run(cmd, address)
		},
	}
	cmd.Flags().StringVar(&address, "listen", address, "address; browsers look at the usual one")
	return cmd
}

// pressing presses the pedal that a line names.
func pressing(p *device.Pedal) func(line string) (string, error) {
	pedals := map[string]string{"": "next", "b": "back", "p": "pause"}
	return func(line string) (string, error) {
		pedal, ok := pedals[line]
		if !ok {
			return "", nil
		}
		if err := p.Press(pedal); err != nil {
			return "", err
		}
		return fmt.Sprintf("%s, heard by %d", pedal, p.Listening()), nil
	}
}
