package oven

import (
	"context"
	"math"

	"kollaris/core/heat"
	"kollaris/core/nutrition"
)

// Simulation is a bake minute by minute. Its clock is the foretold one: the model's,
// stretched so that it is done when the estimate says.
type Simulation struct {
	Estimate
	Width   float64 // cm of the cut, wall to wall
	Height  float64 // cm of the baked shape
	Funnel  float64 // cm of radius that a ring's funnel takes
	Cells   [2]int  // from the middle (or the funnel) outwards, and upwards
	Frames  []Frame // at even times, of one half of the cut
	Curve   []Point // at every frame
	Passes  float64 // minutes when the slowest point comes to the temperature of done
	Slowest [2]int  // the cell that is done last
	Loss    float64 // share of the batter's mass that has left as steam when done
	Golden  float64 // minutes until the top is golden, 0 where it does not get there or the bake is too short to tell
	Brown   float64 // until it is darker than most people like, likewise
	Colour  float64 // of the top when it is done; 1 is golden
	Tent    float64 // when to lay foil over it, 0 where that is not called for
	Out     Point   // as it leaves the oven
	Peak    Point   // the middle's warmest moment, after it has left the oven
}

// Stretch lets the whole bake take so many times as long, as a recipe's own pace asks; a change of heat that the clock sets
// moves along, by as little as paces differ.
func (s *Simulation) Stretch(times float64) {
	s.Estimate.Stretch(times)
	for _, m := range []*float64{&s.Passes, &s.Golden, &s.Brown, &s.Tent, &s.Out.Minutes, &s.Peak.Minutes} {
		*m *= times
	}
	for n := range s.Frames {
		s.Frames[n].Minutes *= times
	}
	for n := range s.Curve {
		s.Curve[n].Minutes *= times
	}
}

// Stretch lets the times of an estimate be so many times as long.
func (e *Estimate) Stretch(times float64) {
	for _, m := range []*float64{&e.Minutes, &e.Low, &e.High, &e.FirstLook, &e.Topping} {
		*m *= times
	}
}

// Frame is the cut at a moment: °C, column by column from the middle outwards, upwards
// in each; NaN where there is nothing.
type Frame struct {
	Minutes float64
	T       []float64
}

// Point is a moment of the bake: °C of the air, the top's skin and the slowest point.
type Point struct {
	Minutes, Air, Crust, Centre float64
	Done                        float64 // share of the cut's volume past the temperature of done
	Colour                      float64 // of the top; 1 is golden
}

// Browning of a top: its rate grows with the crust's temperature as Arrhenius says.
// Sources: activation energy of browning in baked crusts 60 to 110 kJ/mol, 60 taken
// (memory); the scale is calculated so that the tests' loaf is golden at two thirds
// of its time and a half hour's cake when it is done, as bakers see (practice).
const (
	activation = 60e3        // J/mol
	gasR       = 8.314       // J/(mol K)
	browningAt = 150.0 + 273 // K, where the rate is 1
	goldenIn   = 3.5         // minutes at that temperature
	shortest   = 22.0        // minutes; the colour of what is done sooner is that of its edges, which this does not follow
	darkTimes  = 1.9         // times the golden integral
	frames     = 56          // about as many in the oven
	rests      = 20.0        // minutes followed out of the oven
	outside    = 15.0        // W/(m² K) in a room, with what still evaporates [memory]
	skin       = 0.015       // m² K/W, 1.5 mm of dry crust at 0.1 W/(m K) [memory]
)

// ColourFollowed reports whether the bake lasts long enough for the colour of its top
// to say anything.
func (s *Simulation) ColourFollowed() bool { return s.Minutes >= shortest }

// browning is the colour gained in a minute, 1 in all for golden.
func browning(crust, colour float64) float64 {
	if crust < 100 {
		return 0
	}
	return colour * math.Exp(-activation/gasR*(1/(crust+273)-1/browningAt)) / goldenIn
}

// Simulate follows a bake into and out of the oven. Errors are those of Foretell.
func Simulate(ctx context.Context, known, now Baking) (*Simulation, error) {
	e, err := ForetellWithin(ctx, known, now)
	if err != nil {
		return nil, err
	}
	const finer = 2
	done, err := now.crossing(ctx, finer, e.Factor)
	if err != nil {
		return nil, err
	}
	run, err := now.run(finer, e.Factor)
	if err != nil {
		return nil, err
	}
	run.Stages = append(until(run.Stages, done), resting())
	s := &Simulation{Estimate: e}
	across, size := run.Grid.Across()
	s.Cells = [2]int{across, run.Grid.N[2]}
	s.Funnel = 100 * run.Grid.Inner
	s.Width, s.Height = 2*(s.Funnel+100*size*float64(across)), 100*run.Grid.Height()
	clock := e.Minutes / done // foretold minutes a second of the model
	s.Passes = e.Minutes - 60*held*clock
	every := tick(e.Minutes)
	colour := now.Colour
	if colour == 0 {
		colour = 1
	}
	target := float64(e.Done)
	boils := heat.Boils(now.Setup.Altitude)
	gained, last, boiled := 0.0, 0.0, 0.0
	err = run.Follow(ctx, done+rests/clock, func(x *heat.Moment) bool {
		minutes := x.Seconds * clock
		if minutes <= e.Minutes+1e-9 {
			gained += browning(x.Surface, colour) * (minutes - last)
			if s.Golden == 0 && s.ColourFollowed() && gained >= 1 {
				s.Golden = minutes
			}
			if s.Golden > 0 && s.Brown == 0 && gained >= darkTimes {
				s.Brown = minutes
			}
			boiled, s.Colour = x.Over(boils), gained
		}
		last = minutes
		p := Point{minutes, x.Air, x.Surface, x.Coldest, x.Over(target), gained}
		if minutes <= e.Minutes {
			s.Out = p
		}
		if p.Centre > s.Peak.Centre {
			s.Peak = p
		}
		if minutes >= every*float64(len(s.Frames)) {
			s.Curve = append(s.Curve, p)
			s.Frames = append(s.Frames, Frame{minutes, x.Plane(nil)})
		}
		return true
	})
	if err != nil {
		return nil, err
	}
	s.Slowest = coldest(s.at(e.Minutes).T, s.Cells[1])
	if s.Golden > 0 && s.Brown > 0 && !now.Setup.Covered {
		s.Tent = s.Golden + (s.Brown-s.Golden)/2
	}
	s.Loss = now.lost(boiled)
	return s, nil
}

// lost is the share of mass that leaves: what is usual for the kind, more where more of
// the bake comes to boil than in an ordinary loaf, within 0.6 to 1.4 times. Source:
// calculated from the usual loss (practice).
func (b Baking) lost(boiled float64) float64 {
	const ordinary = 0.68 // of the volume, the tests' loaf
	return nutrition.Loss(b.Kind) * math.Max(0.6, math.Min(1.4, math.Sqrt(boiled/ordinary)))
}

// At is a moment of the bake, between the kept ones.
func (s *Simulation) At(minutes float64) Point {
	last := s.Curve[0]
	for _, p := range s.Curve {
		if p.Minutes > s.Minutes && minutes <= s.Minutes { // it left the oven in between
			p = s.Out
			p.Minutes = s.Minutes
		}
		if p.Minutes >= minutes {
			f := 0.0
			if p.Minutes > last.Minutes {
				f = (minutes - last.Minutes) / (p.Minutes - last.Minutes)
			}
			mix := func(a, b float64) float64 { return a + f*(b-a) }
			return Point{
				minutes, mix(last.Air, p.Air), mix(last.Crust, p.Crust), mix(last.Centre, p.Centre),
				mix(last.Done, p.Done), mix(last.Colour, p.Colour),
			}
		}
		last = p
	}
	return last
}

// at is the frame nearest to a time.
func (s *Simulation) at(minutes float64) Frame {
	best := s.Frames[0]
	for _, f := range s.Frames {
		if math.Abs(f.Minutes-minutes) < math.Abs(best.Minutes-minutes) {
			best = f
		}
	}
	return best
}

func coldest(t []float64, high int) [2]int {
	at := 0
	for n, x := range t {
		if x < t[at] { // false for NaN
			at = n
		}
	}
	return [2]int{at / high, at % high}
}

// tick is the time between frames, minutes.
func tick(minutes float64) float64 {
	for _, t := range []float64{0.1, 0.25, 0.5, 1, 2, 5} {
		if minutes/t <= frames {
			return t
		}
	}
	return 10
}

// until cuts the stages off at a time, s.
func until(list []heat.Stage, end float64) []heat.Stage {
	at := 0.0
	for n, st := range list {
		if at+st.Seconds >= end || n == len(list)-1 {
			if st.Seconds > 0 {
				st.To = st.From + (st.To-st.From)*math.Min(1, (end-at)/st.Seconds)
			}
			st.Seconds = end - at
			return append(append([]heat.Stage(nil), list[:n]...), st)
		}
		at += st.Seconds
	}
	return list
}

// resting is the bake in its tin on the side.
func resting() heat.Stage {
	st := heat.Stage{Seconds: 3600, From: roomAt, To: roomAt}
	for n := range st.H {
		st.H[n] = outside
	}
	return st
}
