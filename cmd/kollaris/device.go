//go:build !release

package main

import (
	"context"
	"errors"
	"fmt"
	"io"
	"log/slog"
	"math"
	"math/rand/v2"
	"net"
	"net/http"
	"os"
	"os/signal"
	"syscall"
	"time"

	"github.com/spf13/cobra"

	"kollaris/core/adapt"
	"kollaris/core/reader"
	"kollaris/internal/demo/recipes"
	"kollaris/internal/device"
	"kollaris/internal/store"
)

// mostSpeed is how many times as fast a bake is tried at most.
const mostSpeed = 600

// How far the truth of a stand-in lies from what is foretold: the logarithm of its pace, and its oven. Source:
// the priors that the filter has for a bake that nobody logged (core/adapt/curves.go).
const (
	drawnPace = 0.13
	drawnOven = 6.0 // K
)

// drawnBake is a bake whose true pace and oven are drawn.
type drawnBake struct {
	pace, offset float64
	done         float64 // minutes
	at           func(minutes float64) (core, air float64)
}

// draw draws the truth of a predicted result.
func draw(ctx context.Context, res *adapt.Result, rnd *rand.Rand) (drawnBake, error) {
	d := drawnBake{pace: math.Exp(drawnPace * rnd.NormFloat64()), offset: drawnOven * rnd.NormFloat64()}
	var err error
	d.at, d.done, err = res.Truth(ctx, d.pace, d.offset)
	return d, err
}

func deviceCommand() *cobra.Command {
	c := &cobra.Command{Use: "device", Short: "Stand-ins for a scale and a probe, to try the counter without either"}
	c.AddCommand(scaleCommand(), probeCommand())
	return c
}

func scaleCommand() *cobra.Command {
	var addr, page string
	c := &cobra.Command{
		Use: "scale", Short: "A bowl to pour into", Args: cobra.NoArgs,
		RunE: func(c *cobra.Command, _ []string) error {
			s := device.NewStandScale(seed(0))
			return stands(c.Context(), c.OutOrStdout(), "scale", addr, page, s.Serve, s.Page())
		},
	}
	c.Flags().StringVar(&addr, "addr", "127.0.0.1:7411", "address of its line protocol")
	c.Flags().StringVar(&page, "page", "127.0.0.1:7412", "address of its page")
	return c
}

func probeCommand() *cobra.Command {
	var addr, page string
	var speed float64
	var of uint64
	var flags adaptFlags
	c := &cobra.Command{
		Use: "probe [--speed 60] [adapt's flags] [FILE]", Short: "A loaf in a simulated oven, of which nobody is told how long it takes", Args: cobra.MaximumNArgs(1),
		RunE: func(c *cobra.Command, args []string) error {
			if !(speed >= 1 && speed <= mostSpeed) {
				return unusable("--speed is 1 to %d times", mostSpeed)
			}
			kit := adapt.DefaultKit()
			req, err := flags.request(kit)
			if err != nil {
				return err
			}
			res, err := bakedFrom(c.InOrStdin(), args, req, kit)
			if err != nil {
				return err
			}
			d, err := draw(c.Context(), res, rand.New(rand.NewPCG(seed(of), 3)))
			if err != nil {
				return unusable("%v", err)
			}
			p := device.NewStandProbe(seed(of), speed, d.at)
			return stands(c.Context(), c.OutOrStdout(), "probe", addr, page, p.Serve, p.Page())
		},
	}
	c.Flags().StringVar(&addr, "addr", "127.0.0.1:7413", "address of its line protocol")
	c.Flags().StringVar(&page, "page", "127.0.0.1:7414", "address of its page")
	c.Flags().Float64Var(&speed, "speed", 1, "how many times as fast it bakes, 1 to 600")
	c.Flags().Uint64Var(&of, "seed", 0, "draws the same truth again; 0 draws one")
	flags.add(c.Flags())
	return c
}

// bakedFrom adapts the file that is named, or the demo's loaf.
func bakedFrom(stdin io.Reader, args []string, req adapt.Request, kit adapt.Kit) (*adapt.Result, error) {
	if len(args) == 0 {
		rd, err := reader.Read(recipes.Text("1-pear-cardamom-loaf.txt"), reader.Options{})
		if err != nil {
			return nil, err
		}
		return adapt.Predicted(rd.Recipe, req, kit)
	}
	_, res, err := adapted(stdin, args[0], req, kit)
	return res, err
}

// seed is what is asked for, else one of the moment.
func seed(of uint64) uint64 {
	if of == 0 {
		return uint64(time.Now().UnixNano())
	}
	return of
}

// stands runs a stand-in till it is interrupted: its line protocol and its page, on this machine alone.
func stands(ctx context.Context, out io.Writer, name, addr, page string, serve func(context.Context, net.Listener) error, h http.Handler) error {
	ctx, stop := signal.NotifyContext(ctx, os.Interrupt, syscall.SIGTERM)
	defer stop()
	l, err := listenHere(ctx, addr)
	if err != nil {
		return err
	}
	defer l.Close()
	p, err := listenHere(ctx, page)
	if err != nil {
		return err
	}
	fmt.Fprintf(out, "%s at %s, its page at http://%s\n", name, l.Addr(), p.Addr())
	servePage(ctx, p, h)
	return serve(ctx, l)
}

// servePage serves a stand-in's page till ctx ends.
func servePage(ctx context.Context, l net.Listener, h http.Handler) {
	srv := &http.Server{Handler: h, ReadHeaderTimeout: 5 * time.Second}
	context.AfterFunc(ctx, func() { srv.Close() })
	go func() {
		if err := srv.Serve(l); err != nil && !errors.Is(err, http.ErrServerClosed) {
			slog.Error("stand-in", "err", err)
		}
	}()
}

func listenHere(ctx context.Context, addr string) (net.Listener, error) {
	if err := loopback(ctx, addr); err != nil {
		return nil, err
	}
	return (&net.ListenConfig{}).Listen(ctx, "tcp", addr)
}

// standBeside runs both stand-ins beside the demo and tells the household where they are. Where a port is
// taken another is used.
func standBeside(ctx context.Context, st *store.Store, speed float64) error {
	res, err := bakedFrom(nil, nil, adapt.Request{}, adapt.DefaultKit())
	if err != nil {
		return err
	}
	d, err := draw(ctx, res, rand.New(rand.NewPCG(seed(0), 3)))
	if err != nil {
		return err
	}
	scale, probe := device.NewStandScale(seed(0)), device.NewStandProbe(seed(0), max(speed, 1), d.at)
	var at store.Devices
	if at.Scale, err = beside(ctx, "scale", 7411, scale.Serve, scale.Page()); err != nil {
		return err
	}
	if at.Probe, err = beside(ctx, "probe", 7413, probe.Serve, probe.Page()); err != nil {
		return err
	}
	return st.ChangeHousehold(ctx, store.AnyRev, func(h *store.Household) { h.Devices = at })
}

// beside runs one stand-in at a port, or at any that is free.
func beside(ctx context.Context, name string, port int, serve func(context.Context, net.Listener) error, h http.Handler) (string, error) {
	free := func(port int) (net.Listener, error) {
		l, err := listenHere(ctx, fmt.Sprintf("127.0.0.1:%d", port))
		if err != nil {
			return listenHere(ctx, "127.0.0.1:0")
		}
		return l, nil
	}
	l, err := free(port)
	if err != nil {
		return "", err
	}
	p, err := free(port + 1)
	if err != nil {
		return "", err
	}
	servePage(ctx, p, h)
	go func() {
		if err := serve(ctx, l); err != nil {
			slog.Error("stand-in", "device", name, "err", err)
		}
	}()
	slog.Info("stand-in", "device", name, "address", l.Addr().String(), "page", "http://"+p.Addr().String())
	return l.Addr().String(), nil
}
