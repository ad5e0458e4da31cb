// Command dynacor serves Dynacor, shows its demo, and checks its records.
package main

import (
	"context"
	"fmt"
	"os"
	"os/signal"
	"syscall"

	"github.com/spf13/cobra"

	"dynacor/internal/app"
)

func main() {
	root := rootCommand()
	ctx, stop := signal.NotifyContext(context.Background(), os.Interrupt, syscall.SIGTERM)
	defer stop()
	if err := root.ExecuteContext(ctx); err != nil {
		fmt.Fprintln(os.Stderr, "dynacor:", err)
		os.Exit(1)
	}
}

func rootCommand() *cobra.Command {
	root := &cobra.Command{Use: "dynacor", Short: "Plan, tighten, prove and record bolted joints", SilenceUsage: true, SilenceErrors: true,
		Version: app.Version()}
	root.AddCommand(serveCommand(), demoCommand(), initCommand(), personCommand(), migrateCommand(), auditCommand(), keyCommand(),
		verifyCommand(), simtoolCommand(), backupCommand(), restoreCommand(), settingsCommand())
	return root
}
