package main

import (
	"errors"
	"fmt"
	"strings"

	"github.com/google/uuid"
	"github.com/spf13/cobra"

	"dynacor/core/person"
	"dynacor/core/refusal"
	"dynacor/internal/app"
)

// personCommand enters people and changes what they may do, for whoever runs the server;
// in the log of the site it is the command line that did it.
func personCommand() *cobra.Command {
	c := &cobra.Command{Use: "person", Short: "Enter people, and change who may do what"}
	roles := "Roles: " + strings.Join(person.Roles(), ", ") + "."
	var may []string
	add := &cobra.Command{Use: "add LOGIN NAME ROLE...", Short: "Enter somebody; prints a PIN for one time", Long: roles,
		Args: cobra.MinimumNArgs(3),
		RunE: func(cmd *cobra.Command, args []string) error {
			return withApp(cmd.Context(), func(a *app.App) error {
				pin, err := a.AddPerson(cmd.Context(), app.Who{}, person.Person{Login: args[0], Name: args[1], Roles: args[2:],
					Qualifications: may})
				if err == nil {
					fmt.Fprintf(cmd.OutOrStdout(), "%s signs in as %s with the PIN %s, once.\n", args[1], strings.ToLower(args[0]), pin)
				}
				return inWords(err)
			})
		}}
	add.Flags().StringSliceVar(&may, "qualified", nil, "what they may be asked for beside a role, e.g. rigger")
	to := func(use, short, done string, args cobra.PositionalArgs, do change) *cobra.Command {
		return &cobra.Command{Use: use, Short: short, Long: roles, Args: args, RunE: func(cmd *cobra.Command, args []string) error {
			return withApp(cmd.Context(), func(a *app.App) error {
				id, err := a.Login(cmd.Context(), args[0])
				if err != nil {
					return fmt.Errorf("nobody signs in as %q", args[0])
				}
				words, err := do(cmd, a, id, args[1:])
				if err == nil {
					fmt.Fprintf(cmd.OutOrStdout(), done+"\n", args[0], words)
				}
				return inWords(err)
			})
		}}
	}
	active := func(on bool) change {
		return func(cmd *cobra.Command, a *app.App, id uuid.UUID, _ []string) (string, error) {
			return "", a.ChangePerson(cmd.Context(), app.Who{}, id, app.Changed{Active: &on})
		}
	}
	c.AddCommand(add,
		to("pin LOGIN", "Give somebody a PIN for one time, and sign them out", "%s signs in with the PIN %s, once.", cobra.ExactArgs(1),
			func(cmd *cobra.Command, a *app.App, id uuid.UUID, _ []string) (string, error) {
				return a.NewPin(cmd.Context(), app.Who{}, id)
			}),
		to("off LOGIN", "Let somebody sign in no more, from now on", "%s may not sign in any more.%s", cobra.ExactArgs(1), active(false)),
		to("on LOGIN", "Let somebody sign in again", "%s may sign in again.%s", cobra.ExactArgs(1), active(true)),
		to("roles LOGIN ROLE...", "Give somebody these roles, and no others", "%s is %s.", cobra.MinimumNArgs(2),
			func(cmd *cobra.Command, a *app.App, id uuid.UUID, roles []string) (string, error) {
				return strings.Join(roles, ", "), a.ChangePerson(cmd.Context(), app.Who{}, id, app.Changed{Roles: &roles})
			}))
	return c
}

// change does something to somebody and returns what is to be said of it.
type change func(cmd *cobra.Command, a *app.App, id uuid.UUID, args []string) (string, error)

// inWords adds the way out to what was refused.
func inWords(err error) error {
	var use *app.Error
	var refused *refusal.Error
	switch {
	case errors.As(err, &use):
		return errors.New(strings.TrimSpace(use.Text + " " + use.Way))
	case errors.As(err, &refused):
		return errors.New(refused.Error())
	}
	return err
}
