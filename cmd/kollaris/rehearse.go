//go:build !release

package main

import (
	"context"
	"fmt"
	"io"
	"math"
	"math/rand/v2"
	"net"
	"time"

	"github.com/spf13/cobra"

	"kollaris/core/adapt"
	"kollaris/core/bake"
	"kollaris/core/doneness"
	"kollaris/core/measure"
	"kollaris/core/method"
	"kollaris/core/plan"
	"kollaris/internal/device"
)

func rehearseCommand() *cobra.Command {
	var speed float64
	var of uint64
	var flags adaptFlags
	c := &cobra.Command{
		Use:   "rehearse [--speed 600] [--seed N] [adapt's flags] FILE|-",
		Short: "Run a whole bake with stand-ins, and print what a person would be told and when",
		Args:  oneFile,
		RunE: func(c *cobra.Command, args []string) error {
			if !(speed >= 60 && speed <= 2*mostSpeed) {
				return unusable("--speed is 60 to %d times", 2*mostSpeed)
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
			if res.Refused != nil {
				return exitError{exitRefused, res.Refused.Reason}
			}
			return rehearse(c.Context(), c.OutOrStdout(), res, kit, seed(of), speed)
		},
	}
	c.Flags().Float64Var(&speed, "speed", 600, "how many times as fast it goes, 60 to 1200")
	c.Flags().Uint64Var(&of, "seed", 0, "draws the same truth again; 0 draws one")
	flags.add(c.Flags())
	return c
}

// rehearsal is a bake that nobody bakes: the clock runs fast, the scale and the probe are stand-ins.
type rehearsal struct {
	out          io.Writer
	res          *adapt.Result
	kit          adapt.Kit
	sheet        bake.Sheet
	rnd          *rand.Rand
	begun        time.Time // of the wall
	speed        float64
	scale        *device.StandScale
	scaleLink    *device.Link
	probe        *device.StandProbe
	probeLink    *device.Link
	truth        drawnBake
	events       []bake.Event
	told, misses int
}

// morning is when a rehearsal begins, by its own clock.
var morning = time.Date(2026, 1, 3, 9, 0, 0, 0, time.UTC)

// rehearse runs a bake from the first gram till it is cold.
func rehearse(ctx context.Context, out io.Writer, res *adapt.Result, kit adapt.Kit, seed uint64, speed float64) error {
	ctx, stop := context.WithCancel(ctx)
	defer stop()
	hub := device.NewHub()
	defer hub.Close()
	r := &rehearsal{
		out: out, res: res, kit: kit, rnd: rand.New(rand.NewPCG(seed, 5)), begun: time.Now(), speed: speed,
		sheet: bake.Sheet{Name: res.Recipe.Title, Recipe: res.Recipe, Tasks: res.Method, Preheat: plan.UsualPreheat},
	}
	r.scale = device.NewStandScale(seed)
	r.scale.Speed = speed
	var err error
	if r.scaleLink, err = linked(ctx, hub, device.Scale, r.scale.Serve); err != nil {
		return err
	}
	if res.Bake != nil {
		if r.truth, err = draw(ctx, res, r.rnd); err != nil {
			return err
		}
		r.probe = device.NewStandProbe(seed, speed, r.truth.at)
		if r.probeLink, err = linked(ctx, hub, device.Probe, r.probe.Serve); err != nil {
			return err
		}
	}
	r.say("%s.", r.sheet.Name)
	for {
		p, _ := r.strip()
		task := p.At(r.sheet)
		if task < 0 {
			break
		}
		if err := r.task(ctx, task); err != nil {
			return err
		}
	}
	r.say("All is done.")
	return nil
}

// linked runs a stand-in on this machine and calls it.
func linked(ctx context.Context, hub *device.Hub, k device.Kind, serve func(context.Context, net.Listener) error) (*device.Link, error) {
	l, err := listenHere(ctx, "127.0.0.1:0")
	if err != nil {
		return nil, err
	}
	go func() { _ = serve(ctx, l) }()
	return hub.At(k, l.Addr().String()), nil
}

func (r *rehearsal) now() time.Time {
	return morning.Add(time.Duration(float64(time.Since(r.begun)) * r.speed))
}

// say prints what a person is told.
func (r *rehearsal) say(form string, args ...any) {
	fmt.Fprintf(r.out, "%s  %s\n", r.now().Format("15:04"), fmt.Sprintf(form, args...))
	r.told++
}

func (r *rehearsal) strip() (*bake.Strip, bake.State) {
	st := bake.Fold([]bake.Sheet{r.sheet}, r.events)
	return &st.Strips[0], st
}

func (r *rehearsal) tell(e bake.Event) {
	e.ID, e.At = fmt.Sprint("r", len(r.events)), r.now()
	r.events = append(r.events, e)
}

// wait lets so many minutes of the rehearsal's clock pass.
func (r *rehearsal) wait(ctx context.Context, minutes float64) {
	select {
	case <-ctx.Done():
	case <-time.After(time.Duration(minutes * float64(time.Minute) / r.speed)):
	}
}

// task does one task: waits till it may be begun, weighs its lines, does it.
func (r *rehearsal) task(ctx context.Context, task int) error {
	x := r.sheet.Tasks[task]
	r.say("Task %d of %d: %s", task+1, len(r.sheet.Tasks), x.Text)
	for said := ""; ; r.wait(ctx, 1) {
		p, st := r.strip()
		not := ""
		for _, ready := range p.ReadyFor(r.sheet, 0, task, st.Timers, r.now(), r.kit.Larder) {
			if !ready.Is {
				not = ready.Words
			}
		}
		if not == "" {
			break
		}
		if said == "" {
			r.say("  Not yet: %s.", not)
		}
		said = not
		switch {
		case ctx.Err() != nil:
			return ctx.Err()
		case not == "the tin is not lined yet":
			r.tell(bake.Event{What: bake.Lined})
		case not == "the oven is not on yet":
			r.tell(bake.Event{What: bake.Hot})
		}
	}
	if err := r.weigh(ctx, task); err != nil {
		return err
	}
	if x.Verb == method.Bake && r.probe != nil {
		return r.inOven(ctx, task)
	}
	r.wait(ctx, x.Hands.Mid())
	r.tell(bake.Event{What: bake.Done, Task: task})
	if x.Verb == method.Cool || x.Verb == method.CoolTin || x.Verb == method.Prove || x.Verb == method.Chill || x.Verb == method.Rest {
		r.wait(ctx, x.Wait.Min)
	}
	return nil
}

// weigh pours each line of a task onto the scale till it stands within its tolerance.
func (r *rehearsal) weigh(ctx context.Context, task int) error {
	for {
		p, _ := r.strip()
		var w *bake.Weighing
		for _, x := range p.Weighings(r.sheet, task, r.kit.Larder, r.kit.Kitchen, r.bowl().Open) {
			if !x.Is && x.Target > 0 {
				w = &x
				break
			}
		}
		if w == nil {
			return nil
		}
		g, err := r.pour(ctx, *w)
		if err != nil {
			return err
		}
		r.say("  %s: %s of %s.", w.Line.Name, measure.Grams(g), measure.Grams(w.Target))
		was := len(r.bowl().Moves)
		r.tell(bake.Event{What: bake.Put, Task: task, Line: w.Line.ID, Value: g})
		if told := r.bowl(); len(told.Moves) != was {
			for _, words := range append(told.Moves, told.Stays...) {
				r.say("    %s", words)
			}
		}
	}
}

// bowl says what comes of what lies in the bowl.
func (r *rehearsal) bowl() bake.Told {
	p, _ := r.strip()
	b := p.Bowl(r.sheet, bake.Kit{Larder: r.kit.Larder, Kitchen: r.kit.Kitchen, Demand: r.res.Request.Demand()})
	got, err := b.Solve()
	if err != nil {
		return bake.Told{}
	}
	return bake.Tell(b, got)
}

// How a rehearsal pours: eggs and fruit weigh what they weigh, a spoon is a level one give or take. Source: from
// memory, working values.
const (
	pieceSpread = 0.06
	spoonSpread = 0.08
)

// pour puts a line on the scale; it returns what the scale then shows, or what the spoon held.
func (r *rehearsal) pour(ctx context.Context, w bake.Weighing) (float64, error) {
	if w.Spoon {
		return w.Target * (1 + spoonSpread*r.rnd.NormFloat64()), nil
	}
	if err := r.tared(ctx); err != nil {
		return 0, err
	}
	want := w.Target
	if w.Whole {
		want *= 1 + pieceSpread*r.rnd.NormFloat64()
	}
	from := r.now()
	poured := 0.0
	for {
		rest := want - poured
		if rest > 0.3 {
			by := rest * (0.7 + 0.3*r.rnd.Float64())
			if rest < 12 {
				by = rest
			}
			r.scale.Pour(by)
			poured += by
		}
		select {
		case <-ctx.Done():
			return 0, ctx.Err()
		case <-time.After(120 * time.Millisecond):
		}
		var readings []bake.Reading
		for _, h := range r.scaleLink.Readings("", 3*time.Second) {
			readings = append(readings, bake.Reading{At: morning.Add(time.Duration(float64(h.Came.Sub(r.begun)) * r.speed)), Grams: h.Value, Steady: h.Flag == device.Steady})
		}
		if len(readings) == 0 {
			continue
		}
		last := readings[len(readings)-1]
		near := math.Abs(last.Grams-want) < math.Max(1, w.Tolerance)
		if w.Settled(readings) || last.Steady && near && rest <= 0.3 || r.now().Sub(from) > 6*time.Hour {
			return last.Grams, nil
		}
	}
}

// tared sets the scale to zero and waits till it shows it.
func (r *rehearsal) tared(ctx context.Context) error {
	for n := 0; n < 60; n++ {
		if h, ok := r.scaleLink.Latest(""); ok {
			if n%5 == 0 {
				if err := r.scaleLink.Tare(); err != nil {
					return err
				}
			} else if h.Flag == device.Steady && math.Abs(h.Value) < 1 {
				return nil
			}
		}
		select {
		case <-ctx.Done():
			return ctx.Err()
		case <-time.After(100 * time.Millisecond):
		}
	}
	return fmt.Errorf("the stand-in scale does not settle: %s", r.scaleLink.Words(nil))
}

// inOven watches the bake by its probe till it is done, and says how far that was from the truth.
func (r *rehearsal) inOven(ctx context.Context, task int) error {
	is, err := r.res.InOven(ctx)
	if err != nil {
		return err
	}
	low, median, high := is.End()
	r.probe.PutIn(true)
	r.tell(bake.Event{What: bake.WentIn, Task: task})
	in := r.now()
	r.say("  In the oven. First look in %.0f min; likely done in %.0f to %.0f.", r.res.Bake.FirstLook, low, high)
	look, last := math.Inf(1), -1.0
	for {
		r.wait(ctx, 1)
		if ctx.Err() != nil {
			return ctx.Err()
		}
		m := r.now().Sub(in).Minutes()
		h, ok := r.probeLink.Latest(device.Core)
		if !ok || m-last < 1 {
			continue
		}
		last = m
		is.Probe(m, h.Value)
		r.tell(bake.Event{What: bake.Probe, Value: h.Value})
		if h.Value >= float64(r.res.Bake.Done) || is.Chance(m) > 0.9 {
			break
		}
		if next := is.NextLook(m); math.Abs(next-look) > 4 {
			low, _, high := is.End()
			r.say("  %.0f min in, %s in the middle: look in %.0f min; likely done in %.0f to %.0f more.", m, r.kit.Kitchen.Temperature(measure.Celsius(h.Value)), next-m, math.Max(0, low-m), high-m)
			look = next
		}
		if is.Misplaced() && r.misses == 0 {
			r.misses++
			r.say("  The probe does not stand in the middle.")
		}
	}
	m := r.now().Sub(in).Minutes()
	is.Look(m, doneness.SkewerClean)
	r.tell(bake.Event{What: bake.CameOut, Task: task})
	r.say("  Take it out, after %.0f min. Foretold were %.0f; in truth it was done at %.0f (it bakes %.0f %% as long, the oven is %+.0f K off).", m, median, r.truth.done, 100*r.truth.pace, r.truth.offset)
	return nil
}
