package main

import (
	"context"
	"errors"
	"fmt"
	"log/slog"
	"net"
	"net/http"
	"os"
	"os/signal"
	"path/filepath"
	"slices"
	"syscall"
	"time"

	"github.com/spf13/cobra"

	"kollaris/core/larder"
	"kollaris/internal/demo"
	"kollaris/internal/store"
	"kollaris/internal/web"
)

func serveCommand() *cobra.Command {
	var addr, db string
	c := &cobra.Command{
		Use: "serve", Short: "Run the application for this household", Args: cobra.NoArgs,
		RunE: func(c *cobra.Command, _ []string) error {
			db, err := dbFile(db)
			if err != nil {
				return err
			}
			return run(c.Context(), addr, db, running{})
		},
	}
	c.Flags().StringVar(&addr, "addr", "127.0.0.1:8080", "address to listen at, on this machine alone")
	c.Flags().StringVar(&db, "db", "", "database file (default: kollaris.db in your data directory)")
	return c
}

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
			return run(c.Context(), addr, filepath.Join(dir, "demo.db"), running{season, true, speed})
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

// dbFile is the database file: as it is named, or in the data directory.
func dbFile(named string) (string, error) {
	if named != "" {
		return named, nil
	}
	dir, err := dataDir()
	return filepath.Join(dir, "kollaris.db"), err
}

// dataDir is where a program keeps a user's data: $XDG_DATA_HOME, else
// ~/.local/share, else the system's configuration directory.
func dataDir() (string, error) {
	if d := os.Getenv("XDG_DATA_HOME"); d != "" {
		return filepath.Join(d, "kollaris"), nil
	}
	home, err := os.UserHomeDir()
	if err != nil {
		return "", fmt.Errorf("no data directory: name one with --db: %w", err)
	}
	return filepath.Join(home, ".local", "share", "kollaris"), nil
}

// loopback refuses an address that other machines reach: there is no passphrase yet, and
// whoever reached the program could read, change and delete everything in it.
func loopback(ctx context.Context, addr string) error {
	host, _, err := net.SplitHostPort(addr)
	if err != nil {
		return unusable("“%s” is no address to listen at: try 127.0.0.1:8080", addr)
	}
	ips := []net.IPAddr{}
	if host != "" { // all addresses of this machine
		if ips, err = net.DefaultResolver.LookupIPAddr(ctx, host); err != nil {
			return unusable("“%s” is no address of this machine: try 127.0.0.1:8080", addr)
		}
	}
	if len(ips) == 0 || slices.ContainsFunc(ips, func(ip net.IPAddr) bool { return !ip.IP.IsLoopback() }) {
		return unusable(
			"“%s” can be reached by other machines, and there is no passphrase yet to keep them out: listen on this one alone, with 127.0.0.1:8080",
			addr,
		)
	}
	return nil
}

// running is how the program runs beside its address and file.
type running struct {
	fill  func(context.Context, *store.Store) error // nil for none
	stand bool                                      // with stand-ins for scale and probe
	speed float64                                   // of the counter's clock; 0 is 1
}

// run serves until it is interrupted. The port is taken before the database is
// touched, so that a second start changes nothing.
func run(ctx context.Context, addr, db string, how running) error {
	ctx, stop := signal.NotifyContext(ctx, os.Interrupt, syscall.SIGTERM)
	defer stop()
	if err := loopback(ctx, addr); err != nil {
		return err
	}
	l, err := net.Listen("tcp", addr)
	if err != nil {
		if errors.Is(err, syscall.EADDRINUSE) {
			return fmt.Errorf("%s is taken by another program: stop it, or choose another address with --addr", addr)
		}
		return fmt.Errorf("cannot listen at %s: %w", addr, err)
	}
	defer l.Close()
	st, err := store.Open(ctx, db)
	if err != nil {
		return fmt.Errorf("cannot use the database: %w", err)
	}
	defer st.Close()
	st.Engine, st.Data = version, larder.Stamp()
	if how.fill != nil {
		if err := how.fill(ctx, st); err != nil {
			return fmt.Errorf("demo data: %w", err)
		}
	}
	if how.stand {
		if err := standBeside(ctx, st, how.speed); err != nil {
			return fmt.Errorf("stand-ins: %w", err)
		}
	}
	h, err := web.New(st)
	if err != nil {
		return err
	}
	defer h.Close()
	if how.speed > 1 {
		h.Hasten(how.speed)
	}
	srv := &http.Server{
		Handler: h, ReadHeaderTimeout: 5 * time.Second, ReadTimeout: 30 * time.Second, WriteTimeout: 60 * time.Second,
		BaseContext: func(net.Listener) context.Context { return context.WithoutCancel(ctx) },
	}
	done := make(chan error, 1)
	go func() { done <- srv.Serve(l) }()
	slog.Info("kollaris", "address", "http://"+l.Addr().String(), "database", db)
	select {
	case err := <-done:
		return err
	case <-ctx.Done():
	}
	slog.Info("stopping")
	h.Close() // the streams end, so that nothing waits for them
	grace, cancel := context.WithTimeout(context.Background(), 5*time.Second)
	defer cancel()
	if err := srv.Shutdown(grace); err != nil {
		return fmt.Errorf("stopping: %w", err)
	}
	return nil
}

// openStore opens the database that --db names, or the usual one.
func openStore(c *cobra.Command, db string) (*store.Store, error) {
	file, err := dbFile(db)
	if err != nil {
		return nil, err
	}
	st, err := store.Open(c.Context(), file)
	if err != nil {
		return nil, fmt.Errorf("cannot use the database: %w", err)
	}
	return st, nil
}
