package main

import (
	"context"
	"errors"
	"fmt"
	"log/slog"
	"net"
	"net/http"
	"os/signal"
	"runtime/debug"
	"syscall"
	"time"

	"github.com/caarlos0/env/v11"
	"github.com/spf13/cobra"

	"obturon/core/pipeline"
	"obturon/internal/api"
	"obturon/internal/demo"
	"obturon/internal/job"
	"obturon/internal/pg"
	"obturon/internal/plan"
	"obturon/internal/store"
	"obturon/web"
)

// settings come from the environment.
type settings struct {
	// DatabaseURL names a database of the user's; empty starts one of our own.
	DatabaseURL string `env:"OBTURON_DATABASE_URL"`
	Addr        string `env:"OBTURON_ADDR" envDefault:"127.0.0.1:8080"`
	// DataDir holds our own database.
	DataDir string `env:"OBTURON_DATA_DIR" envDefault:".data"`
	// BehindTLS tells that browsers come over HTTPS only, through a proxy.
	BehindTLS bool `env:"OBTURON_BEHIND_TLS"`
	// TrustedProxies may say which address a request comes from.
	TrustedProxies []string `env:"OBTURON_TRUSTED_PROXIES" envSeparator:","`
	// ProveAfter is how long a draft rests before it is proven by itself; 0 on a weak machine,
	// where that waits for a request.
	ProveAfter time.Duration `env:"OBTURON_PROVE_AFTER" envDefault:"3s"`
	// ProveAtNight has the drafts of the last month proven between three and six.
	ProveAtNight bool `env:"OBTURON_PROVE_AT_NIGHT" envDefault:"true"`
	// ModelAhead has all teeth modelled as the server starts, so that the first view of each
	// comes at once; a weak machine has something better to do then.
	ModelAhead bool `env:"OBTURON_MODEL_AHEAD" envDefault:"true"`
}

// longestYield is how long a job waits at a time for those who ask at the screen.
const longestYield = 5 * time.Second

func serveCommand() *cobra.Command {
	return &cobra.Command{
		Use:   "serve",
		Short: "Serve the application",
		Args:  cobra.NoArgs,
		RunE:  func(cmd *cobra.Command, _ []string) error { return serve(cmd, false) },
	}
}

func demoCommand() *cobra.Command {
	return &cobra.Command{
		Use:   "demo",
		Short: "Serve the application with the demonstration practice",
		Args:  cobra.NoArgs,
		RunE:  func(cmd *cobra.Command, _ []string) error { return serve(cmd, true) },
	}
}

func versionCommand() *cobra.Command {
	return &cobra.Command{
		Use:   "version",
		Short: "Print the version of the core",
		Args:  cobra.NoArgs,
		Run:   func(cmd *cobra.Command, _ []string) { fmt.Fprintln(cmd.OutOrStdout(), pipeline.CoreVersion) },
	}
}

func serve(cmd *cobra.Command, withDemo bool) error {
	set, err := env.ParseAs[settings]()
	if err != nil {
		return fmt.Errorf("reading the settings: %w", err)
	}
	ctx, stop := signal.NotifyContext(cmd.Context(), syscall.SIGINT, syscall.SIGTERM)
	defer stop()

	// The port first: there is no point in starting a database for nothing.
	listener, err := net.Listen("tcp", set.Addr)
	if err != nil {
		if errors.Is(err, syscall.EADDRINUSE) {
			return fmt.Errorf(
				"%s is in use by another program: stop that, or choose another address with OBTURON_ADDR, such as OBTURON_ADDR=127.0.0.1:8090",
				set.Addr,
			)
		}
		return fmt.Errorf("cannot listen on %s: %w; choose another address with OBTURON_ADDR", set.Addr, err)
	}
	defer listener.Close()

	url := set.DatabaseURL
	var lost <-chan error // never, where the database is the user's
	if url == "" {
		server, err := pg.Start(ctx, pg.Options{Dir: set.DataDir + "/pg"})
		if err != nil {
			return err
		}
		defer server.Leave()
		url, lost = server.URL, server.Lost()
	}
	st, err := store.Open(ctx, url)
	if err != nil {
		return err
	}
	defer st.Close()

	planner, turns := plan.NewPlanner(), api.NewTurns()
	options := api.Options{
		Store:          st,
		Planner:        planner,
		Site:           web.Site(),
		Background:     ctx,
		BehindTLS:      set.BehindTLS,
		TrustedProxies: set.TrustedProxies,
		ProveAfter:     set.ProveAfter,
		ProveAtNight:   set.ProveAtNight,
		Turns:          turns,
	}
	if withDemo {
		if err := demo.Load(ctx, st, planner); err != nil {
			return fmt.Errorf("loading the demonstration: %w", err)
		}
		for _, s := range demo.SignIns {
			options.DemoSignIns = append(
				options.DemoSignIns,
				api.DemoSignIn{SignIn: s.SignIn, Password: s.Password, Name: s.Name, Role: api.Role(s.Role)},
			)
		}
	}
	handler, err := api.Handler(options)
	if err != nil {
		return err
	}
	if err := announce(ctx, cmd, st, listener.Addr().String(), withDemo); err != nil {
		return err
	}
	if set.ModelAhead {
		go prepare(ctx, planner)
	}
	working, stopWorking := context.WithCancel(ctx)
	worked := make(chan struct{})
	go func() {
		defer close(worked)
		if err := job.Run(working, st, planner, func(ctx context.Context) { turns.Yield(ctx, longestYield) }); err != nil {
			slog.Error("no work is taken from the queue", "error", err)
		}
	}()
	defer func() { // before the database goes
		stopWorking()
		<-worked
	}()
	return run(ctx, listener, handler, lost)
}

// prepare models teeth ahead of time. A defect there must not end the server.
func prepare(ctx context.Context, planner *plan.Planner) {
	defer func() {
		if value := recover(); value != nil {
			slog.Error("modelling teeth ahead of time", "panic", value, "stack", string(debug.Stack()))
		}
	}()
	planner.Prepare(ctx, plan.DefaultGrid)
}

func announce(ctx context.Context, cmd *cobra.Command, st *store.Store, address string, withDemo bool) error {
	out := cmd.OutOrStdout()
	fmt.Fprintf(out, "Obturon is at http://%s\n", address)
	if withDemo {
		for _, s := range demo.SignIns {
			fmt.Fprintf(out, "  sign in as %-14s password %s\n", s.SignIn, s.Password)
		}
	}
	users, err := st.Users(ctx)
	if err != nil {
		return err
	}
	if len(users) == 0 {
		fmt.Fprintln(out, `Nobody can sign in yet: add someone with
  obturon user add SIGN-IN --practice "Name of the practice" --name "Name of the person" --role dentist`)
	}
	fmt.Fprintln(out, "Ctrl-C stops it.")
	return nil
}

// run serves until the context ends or the database is lost, then lets open requests finish.
func run(ctx context.Context, listener net.Listener, handler http.Handler, lost <-chan error) error {
	// Reading and writing take longer than a request may compute; a client that
	// sends or reads nothing is not waited for.
	const headerLimit, readLimit, writeLimit, idleLimit, grace = 10 * time.Second, 30 * time.Second, 5 * time.Minute, 2 * time.Minute, 10 * time.Second
	const largestHeader = 64 << 10
	server := &http.Server{
		Handler: handler, ReadHeaderTimeout: headerLimit, ReadTimeout: readLimit, WriteTimeout: writeLimit, IdleTimeout: idleLimit, MaxHeaderBytes: largestHeader,
	}
	failed := make(chan error, 1)
	go func() { failed <- server.Serve(listener) }()
	var why error
	select {
	case err := <-failed:
		return fmt.Errorf("serving: %w", err)
	case why = <-lost:
	case <-ctx.Done():
	}
	slog.Info("stopping")
	closing, cancel := context.WithTimeout(context.WithoutCancel(ctx), grace)
	defer cancel()
	return errors.Join(why, server.Shutdown(closing))
}
