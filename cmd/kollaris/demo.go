//go:build !release

package main

import (
	"context"
	"os"
	"path/filepath"

	"github.com/spf13/cobra"

	"kollaris/internal/demo"
	"kollaris/internal/store"
)

// What helps to try the program is not in what is given out.
func init() { helpers = append(helpers, demoCommand, rehearseCommand, deviceCommand) }

func demoCommand() *cobra.Command {
	var addr string
	var speed float64
	c := &cobra.Command{
		Use: "demo", Short: "Run the application with the boathouse breakfast in a scratch database", Args: cobra.NoArgs,
		RunE: func(c *cobra.Command, _ []string) error {
			dir, err := os.MkdirTemp("", "kollaris-demo-")
			if err != nil {
				return err
			}
			defer os.RemoveAll(dir)
			if !(speed >= 1 && speed <= mostSpeed) {
				return unusable("--speed is 1 to %d times", mostSpeed)
			}
			return run(c.Context(), addr, filepath.Join(dir, "demo.db"), running{fill: season, beside: standBeside, speed: speed})
		},
	}
	c.Flags().Float64Var(&speed, "speed", 1, "how many times as fast the counter's clock and the loaf in the oven run")
	c.Flags().StringVar(&addr, "addr", "127.0.0.1:8080", "address to listen at, on this machine alone")
	return c
}

// season fills the demo: the boathouse's shelf, and what was baked there.
func season(ctx context.Context, st *store.Store) error {
	if err := demo.Fill(ctx, st); err != nil {
		return err
	}
	return demo.Season(ctx, st)
}
