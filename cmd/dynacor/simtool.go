package main

import (
	"fmt"
	"net"
	"slices"
	"strings"
	"time"

	"github.com/spf13/cobra"

	"dynacor/internal/simtool"
	"dynacor/internal/toollink"
)

func simtoolCommand() *cobra.Command {
	t := simtool.Tool{}
	var faults []string
	var page, in string
	var reads float64
	c := &cobra.Command{Use: "simtool TAG", Short: "Play a linked tool: it pulls what it is told, with faults on request", Args: cobra.ExactArgs(1),
		Long: "Play a linked tool, as docs/tool-link.md has it. Make it a key in the Crib first; it pulls whatever a fitter has it in hand\n" +
			"for at Tighten. Faults: " + faultWords() + ".",
		RunE: func(cmd *cobra.Command, args []string) error {
			t.Tag = args[0]
			for _, f := range faults {
				if !slices.Contains(simtool.Faults(), simtool.Fault(f)) {
					return fmt.Errorf("--faults %s: say some of %s", f, faultWords())
				}
				t.Faults = append(t.Faults, simtool.Fault(f))
			}
			if cmd.Flags().Changed("reads") {
				t.Reads = &toollink.Quantity{Value: reads, Unit: in}
			}
			t.Heard = func(in toollink.Out) {
				fmt.Fprintln(cmd.OutOrStdout(), strings.TrimSpace(fmt.Sprintln(in.Kind, in.Words, in.Verdict, in.Says, in.Way)))
			}
			if page == "" {
				return t.Run(cmd.Context())
			}
			if err := onlyHere(page, "A made-up tool"); err != nil {
				return err
			}
			l, err := net.Listen("tcp", page)
			if err != nil {
				return err
			}
			p := simtool.ByHand(&t)
			fmt.Fprintf(cmd.OutOrStdout(), "Moved by hand at http://%s\n", l.Addr())
			ended := make(chan error, 1)
			go func() { ended <- p.Serve(cmd.Context(), l) }()
			if err := t.Run(cmd.Context()); err != nil {
				return err
			}
			return <-ended
		}}
	c.Flags().StringVar(&t.Server, "server", "ws://127.0.0.1:8080"+toollink.Path, "tcp://host:port, or ws://host:port"+toollink.Path)
	c.Flags().StringVar(&t.Key, "key", "", "its key, as the Crib showed it")
	c.Flags().StringVar(&t.Is, "is", "electronic wrench, made up", "what it says that it is")
	c.Flags().DurationVar(&t.Pace, "pace", 3*time.Second, "from a target to its reading")
	c.Flags().IntVar(&t.Every, "every", 5, "a fault in every so many readings")
	c.Flags().StringSliceVar(&faults, "faults", nil, "what goes wrong with it")
	c.Flags().StringVar(&page, "page", "", "of this machine that it is moved by hand at, e.g. 127.0.0.1:8077; else it pulls by itself")
	c.Flags().Float64Var(&reads, "reads", 0, "of an instrument (dial gauge, bolt-load meter, gauge, tester): about what it reads")
	c.Flags().StringVar(&in, "unit", "mm", "of what it reads: mm, kN, bar, N·m")
	c.Flags().IntVar(&t.Trace, "trace", 120, "points of each trace")
	return c
}

func faultWords() string {
	var out []string
	for _, f := range simtool.Faults() {
		out = append(out, string(f))
	}
	return strings.Join(out, ", ")
}
