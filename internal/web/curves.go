package web

import (
	"encoding/json"
	"fmt"
	"math"

	"kollaris/core/measure"
	"kollaris/core/oven"
	"kollaris/core/tin"
)

// heatData is what the script draws the heat field from: B the set-up shown, A the one
// that was pinned.
type heatData struct {
	Unit string     `json:"unit"`
	A    *heatField `json:"a,omitempty"`
	B    heatField  `json:"b"`
	a    *oven.Simulation
}

// JSON is the data as the page carries it.
func (d heatData) JSON() (string, error) {
	b, err := json.Marshal(d)
	return string(b), err
}

// heatField is one half of the cut through time. Lengths in cm, temperatures in whole
// °C, -99 where there is nothing.
type heatField struct {
	Width  float64     `json:"width"`
	Height float64     `json:"height"`
	Funnel float64     `json:"funnel"`
	Across int         `json:"across"`
	Up     int         `json:"up"`
	Done   float64     `json:"done"`    // °C
	Ready  float64     `json:"ready"`   // minutes
	Look   float64     `json:"look"`    // minutes
	Slow   [2]int      `json:"slowest"` // cell
	Heat   string      `json:"heat"`    // what the air's curve is of: "oven" or "pan"
	Tin    float64     `json:"tin"`     // its depth, 0 where there is none
	Batter float64     `json:"batter"`  // its depth before baking
	Frames []heatFrame `json:"frames"`
}

type heatFrame struct {
	Minutes float64 `json:"m"`
	T       []int   `json:"t"`
	Air     int     `json:"air"`
	Crust   int     `json:"crust"`
	Middle  int     `json:"middle"`
}

func fieldOf(s *oven.Simulation) heatField {
	f := heatField{
		Width: s.Width, Height: s.Height, Funnel: s.Funnel, Across: s.Cells[0], Up: s.Cells[1], Done: float64(s.Done),
		Ready: s.Minutes, Look: s.FirstLook, Slow: s.Slowest,
	}
	f.Heat = heatedBy(s)
	if s.Fill.Tin.Shape != tin.Free {
		f.Tin, f.Batter = s.Fill.Tin.Depth, s.Fill.Depth
	}
	whole := func(x float64) int {
		if math.IsNaN(x) {
			return -99
		}
		return int(math.Round(x))
	}
	for n, frame := range s.Frames {
		p := s.Curve[n]
		out := heatFrame{
			Minutes: math.Round(100*frame.Minutes) / 100, Air: whole(p.Air), Crust: whole(p.Crust),
			Middle: whole(p.Centre),
		}
		for _, x := range frame.T {
			out.T = append(out.T, whole(x))
		}
		f.Frames = append(f.Frames, out)
	}
	return f
}

// heatedBy names what the air's curve is of.
func heatedBy(s *oven.Simulation) string {
	if s.Setup.Flame {
		return "pan"
	}
	return "oven"
}

// chartView is the curves of a bake: air, crust and middle against minutes, with the
// window in which it is likely done.
type chartView struct {
	Summary                  string
	Curves                   []curveView
	Across, Up               []tick
	WindowX                  string
	WindowW                  string
	Marks                    []markView
	DoneY, DoneTxt           string
	PerMinute                string // px, from Left on
	Left, Right, Top, Bottom float64
}

type curveView struct{ Class, Path, Words, X, Y string }

// markView is a moment on the chart.
type markView struct{ X, Y, Text, From string }

// The chart's drawing, px.
const (
	chartLeft, chartRight = 52.0, 482.0
	chartTop, chartFloor  = 26.0, 218.0
	markRoom              = 34.0 // that a moment's word needs beside the first look; what lacks it is said in the list
)

// plot is what minutes and temperatures are drawn on.
type plot struct{ end, hottest float64 }

func plotOf(sims ...*oven.Simulation) plot {
	var p plot
	for _, s := range sims {
		if s == nil {
			continue
		}
		p.end = math.Max(p.end, s.High+math.Max(2, s.Minutes*0.06))
		for _, at := range s.Curve {
			p.hottest = math.Max(p.hottest, at.Air)
		}
	}
	p.hottest += 10
	return p
}

func (p plot) x(minutes float64) float64 { return chartLeft + (chartRight-chartLeft)*minutes/p.end }
func (p plot) y(celsius float64) float64 { return chartFloor - (chartFloor-chartTop)*celsius/p.hottest }

// chartOf draws a bake, with the middle of a pinned one beside it.
func chartOf(b, a *oven.Simulation, k measure.Kitchen) *chartView {
	p := plotOf(a, b)
	v := &chartView{
		Left: chartLeft, Right: chartRight, Top: chartTop, Bottom: chartFloor,
		PerMinute: fmt.Sprintf("%.4f", (chartRight-chartLeft)/p.end),
		WindowX:   f1(p.x(b.Low)), WindowW: f1(p.x(b.High) - p.x(b.Low)),
		DoneY: f1(p.y(float64(b.Done))), DoneTxt: "done " + k.Temperature(b.Done),
		Across: p.across(), Up: p.up(k), Marks: p.marks(b),
	}
	middle := func(p oven.Point) float64 { return p.Centre }
	if a != nil {
		v.Curves = append(v.Curves, p.curve(a, "middle hollow", middle, "A", 0.8))
	}
	v.Curves = append(v.Curves,
		p.curve(b, "air", func(p oven.Point) float64 { return p.Air }, heatedBy(b), 0.3),
		p.curve(b, "crust", func(p oven.Point) float64 { return p.Crust }, "crust", 0.35),
		p.curve(b, "middle", middle, "middle", 0.55))
	v.Summary = fmt.Sprintf("The middle passes %s at %.0f min and is done at %.0f; the crust is then at %s. "+
		"First look at %.0f, likely done from %.0f to %.0f min.", k.Temperature(b.Done), b.Passes, b.Minutes,
		k.Temperature(measure.Celsius(b.Out.Crust)), b.FirstLook, b.Low, b.High)
	return v
}

// curve is one temperature through time; its word stands on it, along so much of the bake.
func (p plot) curve(
	s *oven.Simulation, class string, of func(oven.Point) float64, words string, along float64,
) curveView {
	path, op := "", "M"
	for _, at := range s.Curve {
		if at.Minutes > p.end {
			break
		}
		path += op + f1(p.x(at.Minutes)) + " " + f1(p.y(of(at)))
		op = "L"
	}
	x, y := p.free(s, of, words, along)
	return curveView{class, path, words, f1(x), f1(y)}
}

// free is a place for a curve's word on no line: near where it belongs along the bake, above its curve or below, at a distance
// from the other curves and from the line of what is done.
func (p plot) free(s *oven.Simulation, of func(oven.Point) float64, words string, along float64) (x, y float64) {
	half, high := 4*float64(len([]rune(words)))+3, 11.0
	clear := func(x, y float64) bool { // y is the word's foot
		if x-half < chartLeft || x+half > chartRight || y-high < chartTop || y > chartFloor-3 || math.Abs(y-high/2-p.y(float64(s.Done))) < high/2+4 {
			return false
		}
		for n, q := range s.Curve {
			next := s.Curve[min(n+1, len(s.Curve)-1)]
			if p.x(next.Minutes) < x-half || p.x(q.Minutes) > x+half {
				continue
			}
			for _, line := range []func(oven.Point) float64{func(q oven.Point) float64 { return q.Air }, func(q oven.Point) float64 { return q.Crust }, func(q oven.Point) float64 { return q.Centre }} {
				a, b := p.y(line(q)), p.y(line(next))
				if math.Min(a, b) < y+3 && math.Max(a, b) > y-high-3 {
					return false
				}
			}
		}
		return true
	}
	pointAt := func(share float64) oven.Point {
		at := s.Curve[0]
		for _, q := range s.Curve {
			if q.Minutes <= share*s.Minutes {
				at = q
			}
		}
		return at
	}
	for _, away := range []float64{0, 0.1, -0.1, 0.2, -0.2, 0.3, -0.3, 0.4, -0.4, 0.5} {
		if along+away < 0.03 || along+away > 1 {
			continue
		}
		q := pointAt(along + away)
		for _, dy := range []float64{-7, 18, -14, 25, -22, 33, -32} {
			if x, y := p.x(q.Minutes), p.y(of(q))+dy; clear(x, y) {
				return x, y
			}
		}
	}
	q := pointAt(along)
	return p.x(q.Minutes), p.y(of(q)) - 7
}

// across are the minutes that are written, nine steps at most.
func (p plot) across() []tick {
	step := 10.0
	for _, s := range []float64{1, 2, 5, 10, 20, 30, 60} {
		if step = s; p.end/s <= 9 {
			break
		}
	}
	var out []tick
	for m := 0.0; m <= p.end; m += step {
		out = append(out, tick{Y: f1(p.x(m)), Text: fmt.Sprintf("%.0f", m)})
	}
	return out
}

// up are the temperatures that are written, in the kitchen's unit.
func (p plot) up(k measure.Kitchen) []tick {
	marks := []float64{0, 50, 100, 150, 200, 250}
	if k.Fahrenheit {
		marks = []float64{32, 100, 200, 300, 400, 500}
	}
	var out []tick
	for _, t := range marks {
		c := measure.Celsius(t)
		if k.Fahrenheit {
			c = measure.FromFahrenheit(t)
		}
		if float64(c) <= p.hottest {
			out = append(
				out, tick{Y: f1(p.y(float64(c))), Text: fmt.Sprintf("%.0f", t), TextY: f1(p.y(float64(c)) + 4)},
			)
		}
	}
	return out
}

// marks are the moments of a bake; the first look's word stands above, the others'
// where there is room beside it.
func (p plot) marks(b *oven.Simulation) []markView {
	out := []markView{{f1(p.x(b.FirstLook)), f1(chartTop - 10), "first look", f1(chartTop - 6)}}
	for n, m := range []struct {
		at   float64
		text string
	}{{b.Tent, "foil"}, {b.Topping, "topping"}} {
		if m.at > 0 && math.Abs(p.x(m.at)-p.x(b.FirstLook)) > markRoom {
			low := chartFloor - 4 - 16*float64(n+1)
			out = append(out, markView{f1(p.x(m.at)), f1(low - 4), m.text, f1(low)})
		}
	}
	return out
}
