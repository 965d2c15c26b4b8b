package main

import (
	"cmp"
	"context"
	"fmt"
	"log/slog"
	"net"
	"net/http"
	"os"
	"os/signal"
	"path/filepath"
	"runtime"
	"runtime/debug"
	"slices"
	"sync"
	"syscall"
	"time"

	"github.com/spf13/cobra"

	"kollaris/core/larder"
	"kollaris/internal/store"
	"kollaris/internal/web"
)

func serveCommand() *cobra.Command {
	var addr, db string
	how := running{copies: true}
	c := &cobra.Command{
		Use: "serve", Short: "Run the application for this household", Args: cobra.NoArgs,
		RunE: func(c *cobra.Command, _ []string) error {
			db, err := dbFile(db)
			if err != nil {
				return err
			}
			if (how.cert == "") != (how.key == "") {
				return unusable("--cert and --key go together")
			}
			return run(c.Context(), addr, db, how)
		},
	}
	f := c.Flags()
	f.StringVar(&addr, "addr", "127.0.0.1:8080", "address to listen at, on this machine")
	f.StringVar(&db, "db", "", "database file (default: kollaris.db in your data directory)")
	f.BoolVar(&how.lan, "lan", false, "let other machines of the house in too, once a passphrase is set")
	f.StringArrayVar(&how.lanAt, "lan-at", nil, "address of this machine for them (default: all of its addresses); may be repeated")
	f.StringArrayVar(&how.hosts, "host", nil, "name that they may call it by, beside its addresses and its name; may be repeated")
	f.StringVar(&how.cert, "cert", "", "certificate file (PEM) for what goes over the network")
	f.StringVar(&how.key, "key", "", "its key file (PEM)")
	f.BoolVar(&how.log, "log", false, "a line in the log for each request, without what was asked")
	return c
}

// dbFile is the database file: as it is named, or in the data directory.
func dbFile(named string) (string, error) {
	if named != "" {
		if real, err := filepath.EvalSymlinks(named); err == nil { // a link to it is the same file: there is one lock for both
			return real, nil
		}
		return named, nil
	}
	dir, err := dataDir()
	return filepath.Join(dir, "kollaris.db"), err
}

// dataDir is where the system keeps a user's data: $XDG_DATA_HOME or ~/.local/share, ~/Library/Application Support,
// %LocalAppData%.
func dataDir() (string, error) {
	if d := os.Getenv("XDG_DATA_HOME"); d != "" {
		return filepath.Join(d, "kollaris"), nil
	}
	home, err := os.UserHomeDir()
	if err != nil {
		return "", fmt.Errorf("no data directory: name one with --db: %w", err)
	}
	usual := filepath.Join(home, ".local", "share", "kollaris")
	if _, err := os.Stat(filepath.Join(usual, "kollaris.db")); err == nil { // also where an older program put it
		return usual, nil
	}
	switch local := os.Getenv("LocalAppData"); {
	case runtime.GOOS == "darwin":
		return filepath.Join(home, "Library", "Application Support", "Kollaris"), nil
	case runtime.GOOS == "windows" && local != "":
		return filepath.Join(local, "Kollaris"), nil
	}
	return usual, nil
}

// loopback refuses an address that other machines reach: who comes in there needs no passphrase, and could read, change
// and delete everything.
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
			"“%s” can be reached by other machines: listen on this one, with 127.0.0.1:8080, and let them in with --lan, which asks for a passphrase",
			addr,
		)
	}
	return nil
}

// running is how the program runs beside its address and file.
type running struct {
	fill   func(context.Context, *store.Store) error          // nil for none
	beside func(context.Context, *store.Store, float64) error // stand-ins for scale and probe, nil for none
	speed  float64                                            // of the counter's clock; 0 is 1
	copies bool                                               // a copy of the file each day
	log    bool                                               // a line for each request

	lan       bool     // other machines are let in, whatever the settings say
	lanAt     []string // at these addresses of this machine, none for all
	hosts     []string // that they may call it by
	cert, key string   // "" for none

	window bool // it opens the browser, can be stopped from its pages, and takes another port where its own is taken
}

// memoryLimit is above which the program tidies up more often, in bytes: a small home server has little. It needs some 70 MB.
const memoryLimit = 112 << 20

// run serves until it is interrupted. The file and the port are taken before the database is touched, so that a second
// start changes nothing.
func run(ctx context.Context, addr, db string, how running) error {
	signals := []os.Signal{os.Interrupt, syscall.SIGTERM}
	if !signal.Ignored(syscall.SIGHUP) { // the terminal was closed; under nohup that is nothing
		signals = append(signals, syscall.SIGHUP)
	}
	ctx, stop := signal.NotifyContext(ctx, signals...)
	defer stop()
	if err := loopback(ctx, addr); err != nil {
		return err
	}
	if os.Getenv("GOMEMLIMIT") == "" {
		debug.SetMemoryLimit(memoryLimit)
	}
	held, at, err := hold(db)
	if err != nil {
		return err
	}
	if held == nil {
		if how.window && at != "" {
			fmt.Println("Kollaris runs already, at", at)
			return openBrowser(at)
		}
		return fmt.Errorf("%s is used by another Kollaris, at %s: stop that one, or name another file with --db", db, cmp.Or(at, "an address that it has not told"))
	}
	defer held.Unlock() //nolint:errcheck // the program ends
	l, err := net.Listen("tcp", addr)
	if how.window && store.AddressTaken(err) {
		l, err = net.Listen("tcp", "127.0.0.1:0")
	}
	if err != nil {
		if store.AddressTaken(err) {
			return fmt.Errorf("%s is taken by another program: stop it, or choose another address with --addr", addr)
		}
		return fmt.Errorf("cannot listen at %s: %w", addr, err)
	}
	defer l.Close()
	st, err := store.Open(ctx, db)
	if err != nil {
		return unopened("cannot use the database", err)
	}
	defer st.Close()
	st.Engine, st.Data = version, larder.Stamp()
	if how.fill != nil {
		if err := how.fill(ctx, st); err != nil {
			return fmt.Errorf("demo data: %w", err)
		}
	}
	if how.beside != nil {
		if err := how.beside(ctx, st, how.speed); err != nil {
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
	if how.log {
		h.LogRequests()
	}
	if how.window {
		h.CanQuit(stop)
		h.CanShow(openFolder)
	}
	srv := &http.Server{
		Handler: h, ReadHeaderTimeout: 5 * time.Second, ReadTimeout: 30 * time.Second, WriteTimeout: 60 * time.Second,
		BaseContext: func(net.Listener) context.Context { return context.WithoutCancel(ctx) },
	}
	done := make(chan error, 1)
	go func() { done <- srv.Serve(l) }()
	home := "http://" + l.Addr().String()
	slog.Info("kollaris", "address", home, "database", db)
	if err := os.WriteFile(db+".address", []byte(home), 0o600); err != nil {
		return troubled("the address cannot be written beside the file", err)
	}
	defer os.Remove(db + ".address") //nolint:errcheck // the lock says that nobody is there
	var beside sync.WaitGroup
	defer beside.Wait()
	if how.copies {
		beside.Go(func() { copyDaily(ctx, st) })
	}
	beside.Go(func() { h.Mend(ctx) })
	beside.Go(func() { keepDoor(ctx, st, h, srv, l.Addr().(*net.TCPAddr).Port, how) })
	if how.window {
		fmt.Println("Kollaris is at", home, "— its file is", db)
		if err := openBrowser(home); err != nil {
			slog.Warn("no browser could be opened", "err", err)
		}
	}
	select {
	case err := <-done:
		stop()
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

// copyDaily takes the copy of each day that the program runs.
func copyDaily(ctx context.Context, st *store.Store) {
	for {
		if err := st.Rolling(ctx, time.Now()); err != nil && ctx.Err() == nil {
			slog.Error("no copy of today was taken", "trouble", string(store.TroubleOf(err)), "err", err)
		}
		select {
		case <-ctx.Done():
			return
		case <-time.After(time.Hour):
		}
	}
}

// openStore opens the database that --db names, or the usual one.
func openStore(c *cobra.Command, db string) (*store.Store, error) {
	file, err := dbFile(db)
	if err != nil {
		return nil, err
	}
	st, err := store.Open(c.Context(), file)
	if err != nil {
		return nil, unopened("cannot use the database", err)
	}
	return st, nil
}
