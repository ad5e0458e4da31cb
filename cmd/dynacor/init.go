package main

import (
	"bufio"
	"cmp"
	"context"
	"fmt"
	"io"
	"os"
	"strings"
	"time"

	"github.com/spf13/cobra"

	"dynacor/core/person"
	"dynacor/internal/app"
	"dynacor/internal/seal"
	"dynacor/internal/store"
)

// initCommand sets a plant's database up: its site, its areas, and who keeps it.
func initCommand() *cobra.Command {
	var s app.Setup
	var begins, areas, keyFile string
	c := &cobra.Command{Use: "init", Short: "Set an empty database up: the site, its areas, its first administrator", Args: cobra.NoArgs,
		Long: "Set an empty database up. What is not given is asked for. The first administrator gets a PIN for one time; it is replaced\n" +
			"when it is first used. A database that is set up already is refused.",
		RunE: func(cmd *cobra.Command, _ []string) error {
			if keyFile == "" {
				keyFile = cmp.Or(os.Getenv(keyVariable), "seal.key")
			}
			return withApp(cmd.Context(), func(a *app.App) error {
				if err := asked(cmd.InOrStdin(), cmd.OutOrStdout(), &s, &begins, &areas); err != nil {
					return err
				}
				if err := a.IsEmpty(cmd.Context()); err != nil {
					return inWords(err)
				}
				key, err := seal.LoadOrMake(keyFile)
				if err != nil {
					return err
				}
				pin, err := a.Init(cmd.Context(), s)
				if err != nil {
					return inWords(err)
				}
				if err := a.SealWith(cmd.Context(), key, nil); err != nil {
					return err
				}
				fmt.Fprintf(cmd.OutOrStdout(), "%s is set up. %s signs in as %s with the PIN %s, once.\n", s.Site, s.First.Name,
					strings.ToLower(s.First.Login), pin)
				fmt.Fprintf(cmd.OutOrStdout(), "Records are sealed with the key in %s; its public half is\n  %s\nKeep a copy of that file apart from "+
					"the database, and give the public half to whoever gets records.\n", keyFile, key.Public())
				return nil
			})
		}}
	f := c.Flags()
	f.StringVar(&s.Site, "site", "", "name of the site")
	f.StringVar(&s.Outage, "outage", "", "name of the outage that is worked in")
	f.StringVar(&begins, "begins", time.Now().Format(time.DateOnly), "its first day")
	f.IntVar(&s.Days, "days", 14, "how many days it has")
	f.StringVar(&areas, "areas", "", "file with the names of the areas, one a line")
	f.StringVar(&s.First.Login, "login", "", "name that the first administrator signs in with")
	f.StringVar(&s.First.Name, "name", "", "their full name")
	f.StringVar(&keyFile, "key", "", "file of the key that records are sealed with; made where it is not there ("+keyVariable+", else seal.key)")
	f.StringSliceVar(&s.First.Roles, "roles", nil, "their further roles, separated by commas: "+strings.Join(person.Roles(), ", "))
	return c
}

// asked asks for what was not given.
func asked(in io.Reader, out io.Writer, s *app.Setup, begins, areas *string) (err error) {
	lines := bufio.NewScanner(in)
	ask := func(to *string, what string) {
		if *to == "" {
			fmt.Fprintf(out, "%s: ", what)
			if lines.Scan() {
				*to = strings.TrimSpace(lines.Text())
			}
		}
	}
	ask(&s.Site, "Name of the site")
	ask(&s.Outage, "Outage that is worked in")
	ask(&s.First.Name, "Full name of the first administrator")
	ask(&s.First.Login, "Name they sign in with")
	if s.Begins, err = time.Parse(time.DateOnly, *begins); err != nil {
		return fmt.Errorf("--begins: %q is no day; write it as 2026-11-25", *begins)
	}
	if *areas == "" {
		list := ""
		ask(&list, "Areas, separated by commas")
		s.Areas = named(strings.Split(list, ","))
		return nil
	}
	text, err := os.ReadFile(*areas)
	s.Areas = named(strings.Split(string(text), "\n"))
	return err
}

func named(list []string) (out []string) {
	for _, s := range list {
		if s = strings.TrimSpace(s); s != "" {
			out = append(out, s)
		}
	}
	return out
}

// withApp opens the database, brought to its newest shape, and does something with it.
func withApp(ctx context.Context, do func(*app.App) error) error {
	return withStore(ctx, func(s *store.Store) error { return do(app.New(s, time.Now)) })
}

// withStore is withApp for what needs the database alone.
func withStore(ctx context.Context, do func(*store.Store) error) error {
	url, err := database()
	if err != nil {
		return err
	}
	s, err := openMigrated(ctx, url)
	if err != nil {
		return err
	}
	defer s.Close()
	return do(s)
}
