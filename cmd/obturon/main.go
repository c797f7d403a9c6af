// Command obturon designs cavity preparations: it serves the application and
// plans single cases from files.
package main

import (
	"context"
	"errors"
	"fmt"
	"os"

	"github.com/spf13/cobra"
)

// errReported marks errors already written for the user; code is the exit code.
type errReported struct{ code int }

func (errReported) Error() string { return "reported" }

func main() {
	root := &cobra.Command{
		Use:           "obturon",
		Short:         "Design cavity preparations for direct fillings",
		SilenceUsage:  true,
		SilenceErrors: true,
	}
	root.AddCommand(
		designCommand(),
		rehearseCommand(),
		toleranceCommand(),
		serveCommand(),
		workCommand(),
		pedalCommand(),
		radiometerCommand(),
		demoCommand(),
		userCommand(),
		versionCommand(),
	)
	err := root.ExecuteContext(context.Background())
	var reported errReported
	switch {
	case err == nil:
	case errors.As(err, &reported):
		os.Exit(reported.code)
	default:
		fmt.Fprintln(os.Stderr, "obturon:", err)
		os.Exit(1)
	}
}
