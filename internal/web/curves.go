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
	f := heatField{Width: s.Width, Height: s.Height, Funnel: s.Funnel, Across: s.Cells[0], Up: s.Cells[1], Done: float64(s.Done), Ready: s.Minutes, Look: s.FirstLook, Slow: s.Slowest}
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
		out := heatFrame{Minutes: math.Round(100*frame.Minutes) / 100, Air: whole(p.Air), Crust: whole(p.Crust), Middle: whole(p.Centre)}
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
	Summary        string
	Curves         []curveView
	Across, Up     []tick
	WindowX        string
	WindowW        string
	Marks          []markView
	DoneY, DoneTxt string
	PerMinute      string // px, from chartLeft on
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

func chartOf(b, a *oven.Simulation, k measure.Kitchen) *chartView {
	end, hottest := 0.0, 0.0
	for _, s := range []*oven.Simulation{a, b} {
		if s == nil {
			continue
		}
		end = math.Max(end, s.High+math.Max(2, s.Minutes*0.06))
		for _, p := range s.Curve {
			hottest = math.Max(hottest, p.Air)
		}
	}
	hottest += 10
	x := func(m float64) float64 { return chartLeft + (chartRight-chartLeft)*m/end }
	y := func(t float64) float64 { return chartFloor - (chartFloor-chartTop)*t/hottest }
	v := &chartView{PerMinute: fmt.Sprintf("%.4f", (chartRight-chartLeft)/end), WindowX: f1(x(b.Low)), WindowW: f1(x(b.High) - x(b.Low)), DoneY: f1(y(float64(b.Done))), DoneTxt: "done " + k.Temperature(b.Done)}
	draw := func(s *oven.Simulation, class string, of func(oven.Point) float64, words string, along float64) {
		path, lastY := "", 0.0
		for n, p := range s.Curve {
			if p.Minutes > end {
				break
			}
			lastY = y(of(p))
			path += fmt.Sprintf("%s%s %s", map[bool]string{true: "M", false: "L"}[n == 0], f1(x(p.Minutes)), f1(lastY))
		}
		at := s.Curve[0] // the word stands on the curve
		for _, p := range s.Curve {
			if p.Minutes <= along*s.Minutes {
				at = p
			}
		}
		v.Curves = append(v.Curves, curveView{class, path, words, f1(x(at.Minutes)), f1(y(of(at)) - 7)})
	}
	if a != nil {
		draw(a, "middle hollow", func(p oven.Point) float64 { return p.Centre }, "A", 0.8)
	}
	draw(b, "air", func(p oven.Point) float64 { return p.Air }, heatedBy(b), 0.3)
	draw(b, "crust", func(p oven.Point) float64 { return p.Crust }, "crust", 0.35)
	draw(b, "middle", func(p oven.Point) float64 { return p.Centre }, "middle", 0.55)
	step := 10.0
	for _, s := range []float64{1, 2, 5, 10, 20, 30, 60} {
		if step = s; end/s <= 9 {
			break
		}
	}
	for m := 0.0; m <= end; m += step {
		v.Across = append(v.Across, tick{Y: f1(x(m)), Text: fmt.Sprintf("%.0f", m)})
	}
	marks := []float64{0, 50, 100, 150, 200, 250}
	if k.Fahrenheit {
		marks = []float64{32, 100, 200, 300, 400, 500}
	}
	for _, t := range marks {
		c := measure.Celsius(t)
		if k.Fahrenheit {
			c = measure.FromFahrenheit(t)
		}
		if float64(c) <= hottest {
			v.Up = append(v.Up, tick{Y: f1(y(float64(c))), Text: fmt.Sprintf("%.0f", t), TextY: f1(y(float64(c)) + 4)})
		}
	}
	for n, m := range []struct {
		at   float64
		text string
	}{{b.FirstLook, "first look"}, {b.Tent, "foil"}, {b.Topping, "topping"}} {
		if m.at > 0 && (n == 0 || x(m.at) > x(b.FirstLook)+markRoom || x(m.at) < x(b.FirstLook)-markRoom) {
			v.Marks = append(v.Marks, markView{f1(x(m.at)), f1(chartFloor - 8 - 16*float64(n)), m.text, f1(chartFloor - 4 - 16*float64(n))})
		}
	}
	v.Marks[0].Y, v.Marks[0].From = f1(chartTop-10), f1(chartTop-6)
	v.Summary = fmt.Sprintf("The middle passes %s at %.0f min and is done at %.0f; the crust is then at %s. First look at %.0f, likely done from %.0f to %.0f min.", k.Temperature(b.Done), b.Passes, b.Minutes, k.Temperature(measure.Celsius(b.Out.Crust)), b.FirstLook, b.Low, b.High)
	return v
}
