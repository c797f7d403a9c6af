package main

import (
	"bufio"
	"errors"
	"fmt"
	"io"
	"net"
	"net/http"
	"os/signal"
	"syscall"
	"time"

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
		RunE: func(cmd *cobra.Command, _ []string) error { return pedal(cmd, address) },
	}
	cmd.Flags().StringVar(&address, "listen", address, "address; browsers look at the usual one")
	return cmd
}

func pedal(cmd *cobra.Command, address string) error {
	ctx, stop := signal.NotifyContext(cmd.Context(), syscall.SIGINT, syscall.SIGTERM)
	defer stop()
	listener, err := (&net.ListenConfig{}).Listen(ctx, "tcp", address)
	if err != nil {
		return fmt.Errorf("listening as a foot switch: %w", err)
	}
	p := &device.Pedal{}
	server := &http.Server{Handler: p, ReadHeaderTimeout: 5 * time.Second}
	failed := make(chan error, 1)
	go func() { failed <- server.Serve(listener) }()
	fmt.Fprintf(cmd.OutOrStdout(), "A foot switch at ws://%s. Enter: next, b: back, p: pause; Ctrl-C or the end of input stops it.\n", listener.Addr())
	over := make(chan error, 1)
	go func() { over <- pressed(cmd.InOrStdin(), cmd.OutOrStdout(), p) }()
	select {
	case <-ctx.Done():
	case err = <-over:
	case err = <-failed:
	}
	return errors.Join(err, server.Close())
}

// pressed presses the pedals that lines of input name.
func pressed(in io.Reader, out io.Writer, p *device.Pedal) error {
	pedals := map[string]string{"": "next", "b": "back", "p": "pause"}
	lines := bufio.NewScanner(in)
	for lines.Scan() {
		pedal, ok := pedals[lines.Text()]
		if !ok {
			fmt.Fprintln(out, "Enter: next, b: back, p: pause")
			continue
		}
		if err := p.Press(pedal); err != nil {
			return err
		}
		fmt.Fprintf(out, "%s, heard by %d\n", pedal, p.Listening())
	}
	return lines.Err()
}
