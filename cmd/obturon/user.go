package main

import (
	"bufio"
	"errors"
	"fmt"
	"io"
	"strings"
	"text/tabwriter"

	"github.com/caarlos0/env/v11"
	"github.com/spf13/cobra"

	"obturon/internal/document"
	"obturon/internal/password"
	"obturon/internal/pg"
	"obturon/internal/store"
)

func userCommand() *cobra.Command {
	cmd := &cobra.Command{
		Use:   "user",
		Short: "Add, list, reset or archive the people who sign in",
		Long: `Works on the database that serve uses, whether it runs or not: set the same
OBTURON_DATABASE_URL or OBTURON_DATA_DIR.`,
	}
	cmd.AddCommand(userAddCommand(), userListCommand(), userResetCommand(), userArchiveCommand())
	return cmd
}

func userAddCommand() *cobra.Command {
	var practice, name, role string
	var typed bool
	cmd := &cobra.Command{
		Use:   "add SIGN-IN",
		Short: "Add someone to a practice, which is made when it is new",
		Args:  cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			if !document.Role(role).Valid() {
				return fmt.Errorf("--role %q is unknown: use dentist, learner, teacher or administrator", role)
			}
			for flag, value := range map[string]string{"--practice": practice, "--name": name, "SIGN-IN": args[0]} {
				if strings.TrimSpace(value) == "" {
					return fmt.Errorf("%s is missing: see obturon user add --help", flag)
				}
			}
			return withStore(cmd, func(st *store.Store) error {
				secret, hash, err := newPassword(cmd.InOrStdin(), typed)
				if err != nil {
					return err
				}
				p, err := st.EnsurePractice(cmd.Context(), strings.TrimSpace(practice))
				if err != nil {
					return err
				}
				u, err := st.AddUser(
					cmd.Context(),
					store.User{PracticeID: p.ID, SignIn: args[0], Name: strings.TrimSpace(name), Role: role, PasswordHash: hash},
				)
				if errors.Is(err, store.ErrTaken) {
					return fmt.Errorf("the sign-in %q is in use: choose another, or give it a new password with obturon user reset", args[0])
				}
				if err != nil {
					return err
				}
				return report(cmd.OutOrStdout(), secret, "%s signs in at %s as %s", u.SignIn, p.Name, u.Role)
			})
		},
	}
	cmd.Flags().StringVar(&practice, "practice", "", "name of the practice")
	cmd.Flags().StringVar(&name, "name", "", "how the screens call the person")
	cmd.Flags().StringVar(&role, "role", "dentist", "dentist, learner, teacher or administrator")
	cmd.Flags().BoolVar(&typed, "password-stdin", false, "read the password from standard input instead of making one")
	return cmd
}

func userListCommand() *cobra.Command {
	return &cobra.Command{
		Use:   "list",
		Short: "List everyone, with practice and role",
		Args:  cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			return withStore(cmd, func(st *store.Store) error {
				users, err := st.Users(cmd.Context())
				if err != nil {
					return err
				}
				table := tabwriter.NewWriter(cmd.OutOrStdout(), 0, 4, 2, ' ', 0)
				fmt.Fprintln(table, "SIGN-IN\tNAME\tROLE\tPRACTICE\tSTATE")
				for _, u := range users {
					state := "signs in"
					if u.ArchivedAt != nil {
						state = "archived " + u.ArchivedAt.Format("2006-01-02")
					}
					fmt.Fprintf(table, "%s\t%s\t%s\t%s\t%s\n", u.SignIn, u.Name, u.Role, u.Practice.Name, state)
				}
				return table.Flush()
			})
		},
	}
}

func userResetCommand() *cobra.Command {
	var typed bool
	cmd := &cobra.Command{
		Use:   "reset SIGN-IN",
		Short: "Give someone a new password; open sessions end",
		Args:  cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			return withUser(cmd, args[0], func(st *store.Store, u *store.User) error {
				secret, hash, err := newPassword(cmd.InOrStdin(), typed)
				if err != nil {
					return err
				}
				if err := st.SetPassword(cmd.Context(), u, hash); err != nil {
					return err
				}
				return report(cmd.OutOrStdout(), secret, "%s has a new password", u.SignIn)
			})
		},
	}
	cmd.Flags().BoolVar(&typed, "password-stdin", false, "read the password from standard input instead of making one")
	return cmd
}

func userArchiveCommand() *cobra.Command {
	return &cobra.Command{
		Use:   "archive SIGN-IN",
		Short: "Keep someone from signing in; what they did stays",
		Args:  cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			return withUser(cmd, args[0], func(st *store.Store, u *store.User) error {
				if err := st.ArchiveUser(cmd.Context(), u); err != nil {
					return err
				}
				return report(cmd.OutOrStdout(), "", "%s no longer signs in", u.SignIn)
			})
		},
	}
}

// withStore opens the database that serve uses. One that runs is left running.
func withStore(cmd *cobra.Command, do func(*store.Store) error) error {
	set, err := env.ParseAs[settings]()
	if err != nil {
		return fmt.Errorf("reading the settings: %w", err)
	}
	url := set.DatabaseURL
	if url == "" {
		server, err := pg.Start(cmd.Context(), pg.Options{Dir: set.DataDir + "/pg"})
		if err != nil {
			return err
		}
		defer server.Leave()
		url = server.URL
	}
	st, err := store.Open(cmd.Context(), url)
	if err != nil {
		return err
	}
	defer st.Close()
	return do(st)
}

func withUser(cmd *cobra.Command, signIn string, do func(*store.Store, *store.User) error) error {
	return withStore(cmd, func(st *store.Store) error {
		u, err := st.UserBySignIn(cmd.Context(), signIn)
		if errors.Is(err, store.ErrNotFound) {
			return fmt.Errorf("nobody signs in as %q: obturon user list shows who does", signIn)
		}
		if err != nil {
			return err
		}
		return do(st, u)
	})
}

// newPassword makes a password, or reads one; secret is what must be told, "" where
// it is known already.
func newPassword(in io.Reader, typed bool) (secret, hash string, err error) {
	chosen := password.Random()
	secret = chosen
	if typed {
		line, err := bufio.NewReader(in).ReadString('\n')
		if err != nil && !errors.Is(err, io.EOF) {
			return "", "", fmt.Errorf("reading the password: %w", err)
		}
		chosen, secret = strings.TrimRight(line, "\r\n"), ""
		const shortest = 10
		if len([]rune(chosen)) < shortest {
			return "", "", fmt.Errorf("the password is shorter than %d characters: choose a longer one", shortest)
		}
	}
	hash, err = password.Hash(chosen)
	return secret, hash, err
}

// report says what was done, and the password where one was made.
func report(out io.Writer, secret, format string, args ...any) error {
	text := fmt.Sprintf(format, args...) + ".\n"
	if secret != "" {
		text += "Password, shown once: " + secret + "\n"
	}
	_, err := io.WriteString(out, text)
	return err
}
