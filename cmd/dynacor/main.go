// Command dynacor serves Dynacor, shows its demo, and checks its records.
package main

import (
	"context"
	"fmt"
	"os"
	"os/signal"
	"runtime/debug"
	"syscall"

	"github.com/spf13/cobra"
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
		Version: version()}
	root.AddCommand(serveCommand(), demoCommand(), initCommand(), personCommand(), migrateCommand(), auditCommand())
	return root
}

// version is the commit this was built from, where the builder knew it.
func version() string {
	info, ok := debug.ReadBuildInfo()
	if !ok {
		return "unknown"
	}
	set := map[string]string{}
	for _, s := range info.Settings {
		set[s.Key] = s.Value
	}
	v := set["vcs.revision"]
	if v == "" {
		return info.Main.Version
	}
	if set["vcs.modified"] == "true" {
		v += ", changed"
	}
	return fmt.Sprintf("%s of %s, %s", v, set["vcs.time"], info.GoVersion)
}
