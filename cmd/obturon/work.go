package main

import (
	"context"
	"errors"
	"fmt"
	"os/signal"
	"syscall"

	"github.com/caarlos0/env/v11"
	"github.com/spf13/cobra"

	"obturon/internal/job"
	"obturon/internal/plan"
	"obturon/internal/store"
)

func workCommand() *cobra.Command {
	return &cobra.Command{
		Use:   "work",
		Short: "Take long computations from the database of a server elsewhere",
		Long: `Cuts parts of tolerance runs and loads teeth on fine cells, one after the other, until it is
stopped; the server does the same beside its requests. Any number of machines may work on one database, whose
address OBTURON_DATABASE_URL holds.`,
		Args: cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			set, err := env.ParseAs[settings]()
			if err != nil {
				return fmt.Errorf("reading the settings: %w", err)
			}
			if set.DatabaseURL == "" {
				return errors.New("there is no database to work for: give the server's in OBTURON_DATABASE_URL")
			}
			ctx, stop := signal.NotifyContext(cmd.Context(), syscall.SIGINT, syscall.SIGTERM)
			defer stop()
			st, err := store.Open(ctx, set.DatabaseURL)
			if err != nil {
				return err
			}
			defer st.Close()
			fmt.Fprintln(cmd.OutOrStdout(), "Working. Ctrl-C stops it.")
			return job.Run(ctx, st, plan.NewPlanner(), func(context.Context) {})
		},
	}
}
