package main

import (
	"context"
	"errors"
	"fmt"
	"os"
	"slices"
	"strings"
	"time"

	"github.com/spf13/cobra"

	"dynacor/internal/app"
	"dynacor/internal/seal"
	"dynacor/internal/store"
)

// siteKey reads the key that records are sealed with; has is false where none is named.
func siteKey() (k seal.Key, has bool, err error) {
	path := os.Getenv(keyVariable)
	if path == "" {
		return k, false, nil
	}
	k, err = seal.Load(path)
	if err != nil {
		return k, false, fmt.Errorf("%s: %w", keyVariable, err)
	}
	return k, true, nil
}

// sealed has the use cases seal with the site's key, and write heads to the second place.
// A database that has a key wants it: without, records would go unsealed and nobody know.
func sealed(ctx context.Context, a *app.App, s *store.Store) error {
	k, has, err := siteKey()
	if err != nil {
		return err
	}
	known, err := s.Keys(ctx)
	if err != nil {
		return err
	}
	switch {
	case !has && len(known) > 0:
		return fmt.Errorf("this database is sealed with the key %s: set %s to its file", known[len(known)-1], keyVariable)
	case !has:
		fmt.Fprintf(os.Stderr, "dynacor: nothing is sealed: make a key with “dynacor key FILE” and set %s to it\n", keyVariable)
		return nil
	case len(known) > 0 && !slices.Contains(known, k.Public()):
		return fmt.Errorf("%s is not the key of this database, which is %s; “dynacor key --add” takes it as a further one", keyVariable,
			known[len(known)-1])
	}
	var journal *seal.Journal
	if folder := os.Getenv(journalVariable); folder != "" {
		if journal, err = seal.NewJournal(folder); err != nil {
			return fmt.Errorf("%s: %w", journalVariable, err)
		}
	}
	return a.SealWith(ctx, k, journal)
}

func keyCommand() *cobra.Command {
	var add bool
	c := &cobra.Command{Use: "key FILE", Short: "Make the key that records are sealed with, or print its public half",
		Args: cobra.ExactArgs(1),
		Long: "Make the key that records are sealed with, in a file that only its owner reads, and print its public half. Where the file is\n" +
			"there, only the public half is printed. Keep a copy of the file apart from the database and its backups.",
		RunE: func(cmd *cobra.Command, args []string) error {
			k, err := seal.LoadOrMake(args[0])
			if err != nil {
				return err
			}
			fmt.Fprintln(cmd.OutOrStdout(), k.Public())
			if !add {
				return nil
			}
			return withStore(cmd.Context(), func(s *store.Store) error { return s.AddKey(cmd.Context(), k.Public(), time.Now()) })
		}}
	c.Flags().BoolVar(&add, "add", false, "note it in the database as the site’s, beside those it has")
	return c
}

// errNotWhatWasSigned ends a verification that found something.
var errNotWhatWasSigned = errors.New("this is not what was signed")

// errUnread ends a verification of which the pages could not be compared.
var errUnread = errors.New("the pages of this file were not looked at: go by what is printed here, or get the record anew from the server")

func verifyCommand() *cobra.Command {
	var keys []string
	c := &cobra.Command{Use: "verify FILE", Short: "Say whether a record, as PDF or JSON, or a backup is what was signed",
		Args: cobra.ExactArgs(1),
		Long: "Say whether a record, as PDF or JSON, or a backup is what was signed, by the site's public key alone: no database and no\n" +
			"network is needed. The key is what “dynacor init” printed; take it from the site, not from the file.",
		RunE: func(cmd *cobra.Command, args []string) error {
			public, err := publicKeys(keys)
			if err != nil {
				return err
			}
			if strings.HasSuffix(args[0], ".dump") {
				return verifyBackup(cmd, args[0], public)
			}
			file, err := os.ReadFile(args[0])
			if err != nil {
				return err
			}
			v, err := app.Verify(file, public...)
			if err != nil {
				return err
			}
			out := cmd.OutOrStdout()
			r := v.Record
			if r.Tag != "" {
				fmt.Fprintf(out, "%s, %s: %s, %s, plan %d, %s\n", r.Site, r.Area, r.Tag, r.Title, r.Revision, r.State)
				for _, s := range r.Signatures {
					fmt.Fprintf(out, "  %s by %s, %s\n", s.Part, s.By, s.At.Format("2 Jan 2006 15:04 MST"))
				}
			}
			for _, n := range v.Notes {
				fmt.Fprintln(out, "Note:", n)
			}
			for _, f := range v.Faults {
				fmt.Fprintln(out, "Fault:", f)
			}
			if len(v.Faults) > 0 {
				return errNotWhatWasSigned
			}
			is := "It is what was signed"
			switch {
			case v.Unread != "":
				fmt.Fprintln(out, "Note:", v.Unread)
				is = "Its proof is what was signed, and what is printed here follows from it"
			case len(v.Notes) > 0:
				is += ", but for what the notes say"
			}
			fmt.Fprintf(out, "%s: %d entries, seal %d of %s.\n", is, len(r.Entries), r.Seal.Number, r.Seal.At.Format("2 Jan 2006 15:04 MST"))
			if v.Unread != "" {
				return errUnread
			}
			return nil
		}}
	c.Flags().StringSliceVar(&keys, "key", nil, "the site's public key, 64 hexadecimal digits; else that of the file in "+keyVariable)
	return c
}

// publicKeys are those that were given, else that of the site's key.
func publicKeys(given []string) (out []seal.Public, err error) {
	for _, text := range given {
		k, err := seal.ParsePublic(text)
		if err != nil {
			return nil, err
		}
		out = append(out, k)
	}
	if len(out) > 0 {
		return out, nil
	}
	k, has, err := siteKey()
	if err != nil {
		return nil, err
	}
	if !has {
		return nil, fmt.Errorf("name the site's public key with --key, or set %s to its key's file", keyVariable)
	}
	return []seal.Public{k.Public()}, nil
}
