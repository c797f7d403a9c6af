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
)

// standIn is a device that lines of input move, and that says what happens by WebSocket.
type standIn struct {
	name    string
	usage   string
	handler http.Handler
	// take does what a line says, and tells what became of it; "" of a line that says nothing.
	take func(line string) (string, error)
}

// run listens until the input ends or it is interrupted.
func (s standIn) run(cmd *cobra.Command, address string) error {
	ctx, stop := signal.NotifyContext(cmd.Context(), syscall.SIGINT, syscall.SIGTERM)
	defer stop()
	listener, err := (&net.ListenConfig{}).Listen(ctx, "tcp", address)
	if err != nil {
		return fmt.Errorf("listening as a %s: %w", s.name, err)
	}
	server := &http.Server{Handler: s.handler, ReadHeaderTimeout: 5 * time.Second}
	failed := make(chan error, 1)
	go func() { failed <- server.Serve(listener) }()
	fmt.Fprintf(cmd.OutOrStdout(), "A %s at ws://%s. %s; Ctrl-C or the end of input stops it.\n", s.name, listener.Addr(), s.usage)
	over := make(chan error, 1)
	go func() { over <- s.follow(cmd.InOrStdin(), cmd.OutOrStdout()) }()
	select {
	case <-ctx.Done():
	case err = <-over:
	case err = <-failed:
	}
	return errors.Join(err, server.Close())
}

// follow does what lines of input say.
func (s standIn) follow(in io.Reader, out io.Writer) error {
	lines := bufio.NewScanner(in)
	for lines.Scan() {
		said, err := s.take(lines.Text())
		if err != nil {
			return err
		}
		if said == "" {
			said = s.usage
		}
		fmt.Fprintln(out, said)
	}
	return lines.Err()
}
