package main

import (
	"context"
	"errors"
	"fmt"
	"log/slog"
	"os"
	"path/filepath"
	"time"

	"github.com/spf13/cobra"

	"dynacor/internal/app"
	"dynacor/internal/backup"
	"dynacor/internal/seal"
	"dynacor/internal/store"
)

func backupCommand() *cobra.Command {
	return &cobra.Command{Use: "backup FOLDER", Short: "Write the whole database to a folder, with a signed note of what is in it",
		Args: cobra.ExactArgs(1), RunE: func(cmd *cobra.Command, args []string) error {
			url, err := database()
			if err != nil {
				return err
			}
			k, has, err := siteKey()
			if err != nil {
				return err
			}
			key := &k
			if !has {
				key = nil
			}
			began := time.Now()
			n, path, err := backup.Write(cmd.Context(), url, args[0], key)
			if err != nil {
				return err
			}
			fmt.Fprintf(cmd.OutOrStdout(), "%s: %s\nWritten in %.1f s, %.1f MB.\n", path, holds(n), time.Since(began).Seconds(),
				float64(n.Size)/1e6)
			if key == nil {
				fmt.Fprintf(cmd.OutOrStdout(), "Nobody signed it: %s is not set.\n", keyVariable)
			}
			return nil
		}}
}

// holds says what is in a backup.
func holds(n backup.Note) string {
	return fmt.Sprintf("%d runs, %d entries, %d facts, %d seals", n.State.Runs, n.State.Entries, n.State.Facts, n.State.Seals)
}

func restoreCommand() *cobra.Command {
	var keys []string
	var over, unsigned bool
	c := &cobra.Command{Use: "restore DUMP", Short: "Put a backup into the database, with every server stopped", Args: cobra.ExactArgs(1),
		Long: "Put a backup into the database, with every server stopped. It is refused where the dump is not what the note beside it says,\n" +
			"where the note was not signed with the site's key, and where anybody else is on the database. Afterwards everybody signs in\n" +
			"anew, all of it is audited, and what was stored after the backup is gone from the server: devices that still have it send it\n" +
			"again. Heads that were written to a second place since are told by the audit; move them away once that is understood.",
		RunE: func(cmd *cobra.Command, args []string) error {
			url, err := database()
			if err != nil {
				return err
			}
			public, err := publicKeys(keys)
			if unsigned {
				public, err = nil, nil
			}
			if err != nil {
				return err
			}
			n, err := backup.Read(args[0], public...)
			if errors.Is(err, backup.ErrUnsigned) {
				err = fmt.Errorf("%w; --unsigned takes it all the same", err)
			}
			if err != nil {
				return err
			}
			began := time.Now()
			if err := backup.Restore(cmd.Context(), url, args[0], n, over); err != nil {
				return err
			}
			fmt.Fprintf(cmd.OutOrStdout(), "Restored in %.1f s, as of %s: %s.\n", time.Since(began).Seconds(),
				n.At.Format(time.DateTime+" MST"),
				holds(n))
			s, err := openMigrated(cmd.Context(), url)
			if err != nil {
				return err
			}
			defer s.Close()
			if err := s.SignOutAll(cmd.Context()); err != nil {
				return err
			}
			return audited(cmd, s, public)
		}}
	c.Flags().StringSliceVar(&keys, "key", nil, "the site's public key; else that of the file in "+keyVariable)
	c.Flags().BoolVar(&over, "over", false, "put it in the place of what is there")
	c.Flags().BoolVar(&unsigned, "unsigned", false, "take one that nobody signed")
	return c
}

// verifyBackup says whether a dump is what its note says.
func verifyBackup(cmd *cobra.Command, dump string, keys []seal.Public) error {
	n, err := backup.Read(dump, keys...)
	if err != nil {
		return err
	}
	fmt.Fprintf(cmd.OutOrStdout(), "It is what was written on %s: %s.\n", n.At.Format(time.DateTime+" MST"), holds(n))
	return nil
}

// kept are what a server does beside serving: backups and audits, every so often.
type kept struct {
	url     string
	folder  string        // of the backups; empty: none are made
	every   time.Duration // between two backups
	keep    time.Duration // how long they stay
	audit   time.Duration // between two audits; zero: none are made
	against store.Against
	key     *seal.Key
}

// lookAgain is how often it is looked whether a backup is due: another server may have
// made one, or the disk was full.
const lookAgain = 10 * time.Minute

func (k kept) begin(ctx context.Context, a *app.App) {
	if k.audit > 0 {
		go a.KeepAuditing(ctx, k.audit, k.against, func(found store.Audited, err error) {
			switch n := len(found.Faults) + found.More; {
			case err != nil:
				slog.Error("the audit broke off", "error", err)
			case n > 0:
				slog.Error("the audit found what does not hold; “dynacor audit” names it", "faults", n, "first", found.Faults[0].String())
			default:
				slog.Info("audited, all of it holds", "plans", found.Plans, "entries", found.Entries, "took", found.Ended.Sub(found.Began))
			}
		})
	}
	if k.folder != "" {
		go k.backups(ctx)
	}
}

func (k kept) backups(ctx context.Context) {
	tick := time.NewTicker(lookAgain)
	defer tick.Stop()
	for {
		if err := k.backup(ctx); err != nil && ctx.Err() == nil {
			slog.Error("no backup was made", "error", err, "folder", k.folder)
		}
		select {
		case <-ctx.Done():
			return
		case <-tick.C:
		}
	}
}

// backup makes one where it is due, and deletes those that are old.
func (k kept) backup(ctx context.Context) error {
	free, err := only(filepath.Join(k.folder, ".lock"))
	if errors.Is(err, errHeld) { // another server is at it
		return nil
	}
	if err != nil {
		return err
	}
	defer free()
	last, err := backup.Newest(k.folder)
	if err != nil || time.Since(last) < k.every {
		return err
	}
	n, path, err := backup.Write(ctx, k.url, k.folder, k.key)
	if err != nil {
		return err
	}
	slog.Info("backup written", "file", path, "entries", n.State.Entries, "bytes", n.Size)
	gone, err := backup.Tidy(k.folder, time.Now().Add(-k.keep))
	if gone > 0 {
		slog.Info("old backups deleted", "count", gone)
	}
	return err
}

// folder refuses what cannot be written to.
func folder(path string) error {
	f, err := os.CreateTemp(path, ".dynacor")
	if err != nil {
		return err
	}
	f.Close()
	return os.Remove(f.Name())
}
