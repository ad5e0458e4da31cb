package main

import (
	"fmt"

	"github.com/google/uuid"
	"github.com/spf13/cobra"

	"dynacor/internal/store"
)

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
			faults, plans, entries, err := s.Audit(cmd.Context())
			if err != nil {
				return err
			}
			for _, f := range faults {
				where := fmt.Sprintf("%s, plan %d", f.Joint, f.Revision)
				if f.Seq > 0 {
					where += fmt.Sprintf(", entry %d", f.Seq)
				}
				if f.Entry != uuid.Nil {
					where += " (" + f.Entry.String() + ")"
				}
				fmt.Fprintf(cmd.OutOrStdout(), "%s: %s\n", where, f.What)
			}
			if len(faults) > 0 {
				return fmt.Errorf("%d faults in %d plans and %d entries", len(faults), plans, entries)
			}
			fmt.Fprintf(cmd.OutOrStdout(), "%d plans and %d entries read, every chain holds\n", plans, entries)
			return nil
		}}
}
