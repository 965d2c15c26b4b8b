package device

import (
	"bufio"
	"context"
	"fmt"
	"math"
	"math/rand/v2"
	"net"
	"strings"
	"sync"
	"time"
)

// stand is what both stand-ins share: it sends lines to all who call.
type stand struct {
	mu      sync.Mutex
	seq     int64
	callers map[net.Conn]bool
	greets  string
	rnd     *rand.Rand
}

// every is how often a stand-in sends.
const every = 200 * time.Millisecond

// serve takes calls till ctx ends; tick makes the readings of one moment, told what callers say.
func (s *stand) serve(ctx context.Context, l net.Listener, tick func(now time.Time) []Reading, told func(line string) string) error {
	s.callers = map[net.Conn]bool{}
	stop := context.AfterFunc(ctx, func() { l.Close() })
	defer stop()
	go func() {
		t := time.NewTicker(every)
		defer t.Stop()
		for {
			select {
			case <-ctx.Done():
				return
			case now := <-t.C:
				s.send(now, tick)
			}
		}
	}()
	for {
		conn, err := l.Accept()
		if err != nil {
			if ctx.Err() != nil {
				return nil
			}
			return err
		}
		go s.hear(ctx, conn, told)
	}
}

func (s *stand) send(now time.Time, tick func(time.Time) []Reading) {
	s.mu.Lock()
	defer s.mu.Unlock()
	var b strings.Builder
	for _, r := range tick(now) {
		s.seq++
		r.Seq, r.At = s.seq, now
		b.WriteString(r.String() + "\n")
	}
	for conn := range s.callers {
		_ = conn.SetWriteDeadline(now.Add(time.Second))
		if _, err := conn.Write([]byte(b.String())); err != nil {
			conn.Close()
			delete(s.callers, conn)
		}
	}
}

func (s *stand) hear(ctx context.Context, conn net.Conn, told func(string) string) {
	stop := context.AfterFunc(ctx, func() { conn.Close() })
	defer stop()
	s.mu.Lock()
	fmt.Fprintln(conn, s.greets)
	s.callers[conn] = true
	s.mu.Unlock()
	in := bufio.NewScanner(conn)
	for in.Scan() {
		s.mu.Lock()
		if answer := told(strings.TrimSpace(in.Text())); answer != "" {
			fmt.Fprintln(conn, answer)
		}
		s.mu.Unlock()
	}
	s.mu.Lock()
	delete(s.callers, conn)
	s.mu.Unlock()
	conn.Close()
}

// What a household's scale is like. Source: from memory, kitchen scales to 5 kg.
const (
	mostLoad   = 5000.0
	scaleNoise = 0.08  // g
	scaleDrift = 0.004 // g a second, at most
	mostDrift  = 0.4   // g in all
	settling   = 0.35  // s, of the way to what lies on it
	stillFor   = 0.6   // s that it must stand to be called steady
)

// StandScale is a scale that is none: a bowl to pour into.
type StandScale struct {
	stand
	Speed      float64 // seconds of its own in a second; 0 is 1
	load, zero float64 // g on it, and when it was tared
	shown      float64
	drift      float64
	still      time.Time
	last       time.Time
}

// NewStandScale is a stand-in with an empty bowl on it.
func NewStandScale(seed uint64) *StandScale {
	s := &StandScale{load: 640, zero: 640}
	s.greets, s.rnd = "device scale 1 Stand-in scale", rand.New(rand.NewPCG(seed, 7))
	s.shown = s.load
	return s
}

// Serve sends its readings to all who call at l, till ctx ends.
func (s *StandScale) Serve(ctx context.Context, l net.Listener) error {
	return s.serve(ctx, l, s.tick, func(line string) string {
		if line == "tare" {
			s.zero = s.load
			return "ok tare"
		}
		return "no " + line
	})
}

// Pour puts so much more on it, g; less where negative.
func (s *StandScale) Pour(grams float64) {
	s.mu.Lock()
	defer s.mu.Unlock()
	s.load = math.Max(0, s.load+grams)
}

// Shows is what it shows and what was poured since it was tared, g.
func (s *StandScale) Shows() (shown, truth float64) {
	s.mu.Lock()
	defer s.mu.Unlock()
	return s.shown - s.zero, s.load - s.zero
}

func (s *StandScale) tick(now time.Time) []Reading {
	passed := every.Seconds()
	if !s.last.IsZero() {
		passed = now.Sub(s.last).Seconds()
	}
	s.last = now
	speed := math.Max(s.Speed, 1)
	passed *= speed
	s.drift += (s.rnd.Float64()*2 - 1) * scaleDrift * min(passed, 60)
	s.drift = math.Max(-mostDrift, math.Min(mostDrift, s.drift))
	s.shown += (s.load - s.shown) * (1 - math.Exp(-passed/settling))
	if math.Abs(s.load-s.shown) > 0.5 {
		s.still = now
	}
	r := Reading{Value: s.shown - s.zero + s.drift + s.rnd.NormFloat64()*scaleNoise, Flag: Moving}
	switch {
	case s.load > mostLoad:
		r.Flag, r.Value = Overload, 0
	case now.Sub(s.still).Seconds()*speed >= stillFor:
		r.Flag = Steady
	}
	return []Reading{r}
}

// StandProbe is a probe in a loaf that is none: the truth runs as a curve that nobody else knows.
type StandProbe struct {
	stand
	Truth func(minutes float64) (core, oven float64) // °C, since it went in
	Speed float64                                    // minutes of a bake in a minute
	in    time.Time
	air   bool // it slipped out
}

// probeNoise is how far a reading lies from the truth. Source: from memory, household probes.
const probeNoise = 0.8 // K

// NewStandProbe is a stand-in that lies on the counter.
func NewStandProbe(seed uint64, speed float64, truth func(float64) (core, oven float64)) *StandProbe {
	s := &StandProbe{Truth: truth, Speed: speed}
	s.greets, s.rnd = "device probe 1 Stand-in probe", rand.New(rand.NewPCG(seed, 11))
	return s
}

// Serve sends its readings to all who call at l, till ctx ends.
func (s *StandProbe) Serve(ctx context.Context, l net.Listener) error {
	return s.serve(ctx, l, s.tick, func(string) string { return "" })
}

// PutIn puts the loaf into the oven, or takes it out.
func (s *StandProbe) PutIn(in bool) {
	s.mu.Lock()
	defer s.mu.Unlock()
	s.in = time.Time{}
	if in {
		s.in = time.Now()
	}
}

// Slip lets the probe slip into the air of the oven, or puts it back.
func (s *StandProbe) Slip(air bool) {
	s.mu.Lock()
	defer s.mu.Unlock()
	s.air = air
}

// Minutes are how long the loaf has been in, of its own time; 0 while it is not.
func (s *StandProbe) Minutes() float64 {
	s.mu.Lock()
	defer s.mu.Unlock()
	return s.minutes(time.Now())
}

func (s *StandProbe) minutes(now time.Time) float64 {
	if s.in.IsZero() {
		return 0
	}
	return now.Sub(s.in).Minutes() * s.Speed
}

func (s *StandProbe) tick(now time.Time) []Reading {
	core, oven := 21.0, 21.0
	if !s.in.IsZero() {
		core, oven = s.Truth(s.minutes(now))
		if s.air {
			core = oven
		}
	}
	noise := func() float64 { return s.rnd.NormFloat64() * probeNoise }
	return []Reading{
		{Value: core + noise(), Flag: OK, Channel: Core}, {Value: oven + noise(), Flag: OK, Channel: Oven},
	}
}
