package main

import (
	"bufio"
	"context"
	"crypto/tls"
	"fmt"
	"log/slog"
	"net"
	"net/http"
	"os"
	"slices"
	"strings"
	"time"

	"github.com/boombuler/barcode/qr"
	"github.com/spf13/cobra"

	"kollaris/internal/store"
	"kollaris/internal/web"
)

// keepDoor listens on the addresses of the house while it is wanted there and a passphrase is set, and not a moment
// without one.
func keepDoor(ctx context.Context, st *store.Store, h *web.App, srv *http.Server, port int, how running) {
	var open []net.Listener
	shut := func() {
		for _, l := range open {
			l.Close()
		}
		open = nil
		h.CloseDoor()
	}
	defer shut()
	for said := false; ; {
		home, err := st.Household(ctx)
		set, err2 := st.HasPassphrase(ctx)
		want := err == nil && err2 == nil && set && (home.LAN || how.lan)
		switch {
		case ctx.Err() != nil:
			return
		case how.lan && !set && !said:
			said = true
			fmt.Printf("No passphrase is set, so that no other machine is let in yet: set one at http://127.0.0.1:%d/settings#door\n", port)
		case want && len(open) == 0:
			var urls []string
			if open, urls, err = listenAt(how, port); err != nil {
				slog.Error("other machines cannot be let in", "err", err)
			}
			if len(open) > 0 {
				h.OpenDoor(housesNames(open, how.hosts), urls)
				for _, l := range open {
					go srv.Serve(l) //nolint:errcheck // it ends when the listener is closed
				}
				showDoor(urls)
			}
		case !want && len(open) > 0:
			shut()
			slog.Info("other machines are no longer let in")
		}
		select {
		case <-ctx.Done():
			return
		case <-h.Knocks():
		case <-time.After(30 * time.Second): // the passphrase may have been set from the command line
		}
	}
}

// listenAt listens at the addresses of this machine that others reach. An address that cannot be had is passed over; an
// error is returned beside those that could.
func listenAt(how running, port int) (open []net.Listener, urls []string, err error) {
	hosts := how.lanAt
	if len(hosts) == 0 {
		if hosts, err = addresses(); err != nil {
			return nil, nil, err
		}
	}
	scheme, conf := "http", (*tls.Config)(nil)
	if how.cert != "" {
		pair, err := tls.LoadX509KeyPair(how.cert, how.key)
		if err != nil {
			return nil, nil, fmt.Errorf("the certificate cannot be used: %w", err)
		}
		scheme, conf = "https", &tls.Config{Certificates: []tls.Certificate{pair}, MinVersion: tls.VersionTLS12}
	}
	for _, host := range hosts {
		l, lerr := net.Listen("tcp", net.JoinHostPort(host, fmt.Sprint(port)))
		if lerr != nil {
			err = fmt.Errorf("%s: %w", host, lerr)
			continue
		}
		if conf != nil {
			l = tls.NewListener(l, conf)
		}
		open = append(open, l)
		urls = append(urls, scheme+"://"+l.Addr().String())
	}
	return open, urls, err
}

// addresses are those of this machine that others of the house reach: private ones first, IPv4 before IPv6.
func addresses() ([]string, error) {
	all, err := net.InterfaceAddrs()
	if err != nil {
		return nil, err
	}
	var ips []net.IP
	for _, a := range all {
		if n, ok := a.(*net.IPNet); ok && !n.IP.IsLoopback() && n.IP.IsGlobalUnicast() {
			ips = append(ips, n.IP)
		}
	}
	rank := func(ip net.IP) (r int) {
		if !ip.IsPrivate() {
			r += 2
		}
		if ip.To4() == nil {
			r++
		}
		return r
	}
	slices.SortStableFunc(ips, func(a, b net.IP) int { return rank(a) - rank(b) })
	var out []string
	for _, ip := range ips {
		out = append(out, ip.String())
	}
	return out, nil
}

// housesNames are what other machines may call it: its addresses, its name, that name as the house's network gives it, and
// what was named.
func housesNames(open []net.Listener, named []string) []string {
	var out []string
	for _, l := range open {
		if host, _, err := net.SplitHostPort(l.Addr().String()); err == nil {
			out = append(out, host)
		}
	}
	if name, err := os.Hostname(); err == nil && name != "" {
		short, _, _ := strings.Cut(strings.ToLower(name), ".")
		out = append(out, strings.ToLower(name), short, short+".local")
	}
	for _, n := range named {
		out = append(out, strings.ToLower(n))
	}
	return out
}

// showDoor prints the addresses, and the first as a QR code of half blocks.
func showDoor(urls []string) {
	fmt.Println("Other machines of the house come in, with the passphrase, at", strings.Join(urls, " or "))
	code, err := qr.Encode(urls[0], qr.M, qr.Auto)
	if err != nil {
		return
	}
	size := code.Bounds().Dx()
	dark := func(x, y int) bool {
		if x < 0 || y < 0 || x >= size || y >= size {
			return false
		}
		r, _, _, _ := code.At(x, y).RGBA()
		return r == 0
	}
	for y := -2; y < size+2; y += 2 {
		for x := -2; x < size+2; x++ { // light is drawn, for terminals are dark
			fmt.Print(map[[2]bool]string{{false, false}: "█", {false, true}: "▀", {true, false}: "▄", {true, true}: " "}[[2]bool{dark(x, y), dark(x, y+1)}])
		}
		fmt.Println()
	}
}

func passphraseCommand() *cobra.Command {
	var db string
	var clear bool
	c := &cobra.Command{
		Use: "passphrase [--clear] [--db FILE]", Short: "Set the passphrase that other machines of the house need, from standard input", Args: cobra.NoArgs,
		RunE: func(c *cobra.Command, _ []string) error {
			st, err := openStore(c, db)
			if err != nil {
				return err
			}
			defer st.Close()
			if clear {
				if err := st.ClearPassphrase(c.Context()); err != nil {
					return troubled("it was not cleared", err)
				}
				fmt.Fprintln(c.OutOrStdout(), "There is no passphrase any more, and no other machine is let in.")
				return nil
			}
			fmt.Fprintln(c.ErrOrStderr(), "Passphrase, then Enter (it is seen as you type):")
			line, _ := bufio.NewReader(c.InOrStdin()).ReadString('\n')
			if err := st.SetPassphrase(c.Context(), strings.TrimRight(line, "\r\n")); err != nil {
				return unusable("it was not set: %v", err)
			}
			fmt.Fprintln(c.OutOrStdout(), "The passphrase is set. Whoever was let in before has to type it anew.")
			return nil
		},
	}
	c.Flags().BoolVar(&clear, "clear", false, "take it away: no other machine is let in")
	c.Flags().StringVar(&db, "db", "", "database file (default: kollaris.db in your data directory)")
	return c
}
