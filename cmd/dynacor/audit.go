package main

import (
	"fmt"
	"os"

	"github.com/spf13/cobra"

	"dynacor/internal/seal"
	"dynacor/internal/store"
)

// auditAgainst is what an audit holds the database to, as far as it is set.
func auditAgainst() (by store.Against, err error) {
	by.Journal = os.Getenv(journalVariable)
	key, has, err := siteKey()
	if has {
		by.Keys = append(by.Keys, key.Public())
	}
	return by, err
}

func auditCommand() *cobra.Command {
	return &cobra.Command{Use: "audit", Short: "Recompute every chain of entries and name what was touched", Args: cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			url, err := database()
			if err != nil {
				return err
			}
			s, err := store.Open(cmd.Context(), url)
			if err != nil {
				return err
			}
			defer s.Close()
			return audited(cmd, s, nil)
		}}
}

// audited audits a database, by further keys, too, and prints what it finds.
func audited(cmd *cobra.Command, s *store.Store, keys []seal.Public) error {
	by, err := auditAgainst()
	if err != nil {
		return err
	}
	if len(by.Keys) == 0 {
		by.Keys = keys
	}
	found, err := s.Audit(cmd.Context(), by)
	if err != nil {
		return err
	}
	for _, f := range found.Faults {
		fmt.Fprintln(cmd.OutOrStdout(), f)
	}
	read := fmt.Sprintf("%d plans, %d entries, %d facts, %d seals and %d lines of the second place", found.Plans, found.Entries,
		found.Facts,
		found.Seals, found.Journal)
	if n := len(found.Faults) + found.More; n > 0 {
		return fmt.Errorf("%d faults in %s", n, read)
	}
	fmt.Fprintf(cmd.OutOrStdout(), "%s read in %.1f s, all of it holds\n", read, found.Ended.Sub(found.Began).Seconds())
	if len(by.Keys) == 0 && found.Seals > 0 {
		fmt.Fprintf(cmd.OutOrStdout(), "The seals were held to the key that the database itself names; set %s for the site's.\n",
			keyVariable)
	}
	return nil
}
