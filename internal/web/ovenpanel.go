package web

import (
	"context"
	"fmt"
	"math"
	"strings"
	"time"

	"kollaris/core/bake"
	"kollaris/core/doneness"
	"kollaris/core/larder"
	"kollaris/core/measure"
	"kollaris/core/method"
	"kollaris/core/phrase"
)

// ovenPanel is a bake that is in the oven, or has come out.
type ovenPanel struct {
	inOvenView
	Since   string
	Chart   *coreChart
	Alarms  []alarm
	Out     bool
	After   []string // once it is out: when it may be cut, iced
	Weight  string
	Loss    string
	Rings   string // seconds till the next look, for the script; "" where it is not to ring
	Station string
}

// alarm is something that is to be done while it bakes.
type alarm struct {
	Words string
	Due   bool
	at    float64 // minutes since it went in
	short string
}

// coreChart is the middle of the bake over time: as foretold, and as measured.
type coreChart struct {
	Width, Height  int
	Foretold       string // path
	Measured       string // points
	Last           *label
	Done           string // y
	DoneText       string
	WinX, WinW     string
	WinText        string
	NowX           string
	From, To       string // what its axis begins and ends with
	Summary        string
	LastX, LastY   string
	HasLast        bool
	TextX, TextEnd string
}

// The chart's own figures, px and °C.
const (
	chartWide, chartHigh = 640, 210
	chartCold            = 15.0
)

// coreChartOf draws the foretold curve and what was measured; fresh is the bake as it was foretold.
func coreChartOf(is, fresh *doneness.Bake, sights []bake.Sight, in, now time.Time, done measure.Celsius, k measure.Kitchen) *coreChart {
	low, _, high := is.End()
	minutes := now.Sub(in).Minutes()
	span := math.Max(high*1.12, minutes+3)
	top := float64(done) + 8
	x := func(m float64) string { return f1(m / span * chartWide) }
	y := func(t float64) string {
		return f1(chartHigh - 18 - (math.Max(t, chartCold)-chartCold)/(top-chartCold)*(chartHigh-26))
	}
	v := &coreChart{
		Width: chartWide, Height: chartHigh, Done: y(float64(done)), DoneText: "done " + k.Temperature(done),
		WinX: x(low), WinW: f1(math.Max((high-low)/span*chartWide, 3)), NowX: x(minutes),
		WinText: fmt.Sprintf("%s more", moreWords(low-minutes, high-minutes)), From: "0", To: fmt.Sprintf("%.0f min", span),
	}
	var path strings.Builder
	for m := 0.0; m <= span; m += span / 40 {
		fmt.Fprintf(&path, "%s%s %s", map[bool]string{true: "M", false: "L"}[m == 0], x(m), y(fresh.Core(m)))
	}
	v.Foretold = path.String()
	var points []string
	for _, s := range sights {
		if s.Look != "" {
			continue
		}
		m := s.At.Sub(in).Minutes()
		points = append(points, x(m)+","+y(s.Core))
		v.HasLast, v.LastX, v.LastY = true, x(m), y(s.Core)
		v.Last = &label{Text: k.Temperature(measure.Celsius(s.Core))}
	}
	v.Measured = strings.Join(points, " ")
	v.Summary = fmt.Sprintf("The middle over time. Likely done in %s; done is %s.", moreWords(low-minutes, high-minutes), k.Temperature(done))
	return v
}

// moreWords writes a window of minutes from now.
func moreWords(low, high float64) string {
	low, high = math.Max(0, math.Round(low)), math.Max(0, math.Round(high))
	if high <= low {
		return fmt.Sprintf("%.0f min", high)
	}
	return fmt.Sprintf("%.0f–%.0f min", low, high)
}

// panel fills what is seen of a bake in the oven.
func (s *Server) panel(t *sitting, n int, is, fresh *doneness.Bake) *ovenPanel {
	p, res := &t.state.Strips[n], t.Of[n].Result
	k := s.kit.Kitchen
	v := &ovenPanel{Since: p.WentIn.Local().Format("15:04"), Out: !p.Out.IsZero()}
	v.Title = t.Of[n].Title
	if v.Out {
		v.cooling(t, n, s.kit.Larder)
		return v
	}
	if is == nil {
		v.Lead = "In the oven since " + v.Since + "."
		v.Degrees = k.Degrees()
		for _, l := range looked {
			v.Buttons = append(v.Buttons, choice{Value: l.code, Words: string(l.look)})
		}
		return v
	}
	var all []seenThing
	for _, x := range p.Sights {
		all = append(all, seenThing{x.At.Sub(p.WentIn).Minutes(), doneness.Look(x.Look), x.Core})
	}
	v.tell(is, res, all, p.WentIn.Local(), t.now.Local(), k)
	v.Chart = coreChartOf(is, fresh, p.Sights, p.WentIn, t.now, res.Bake.Done, k)
	v.Alarms = alarmsOf(t, n, is)
	return v
}

// alarmsOf are what is to be done while it bakes, with when: the first look, what the method tells, the
// topping in the last tenth.
func alarmsOf(t *sitting, n int, is *doneness.Bake) []alarm {
	p, res := &t.state.Strips[n], t.Of[n].Result
	minutes := t.now.Sub(p.WentIn).Minutes()
	_, median, _ := is.End()
	var out []alarm
	add := func(at float64, words string) {
		when := p.WentIn.Add(time.Duration(at * float64(time.Minute))).Local().Format("15:04")
		out = append(out, alarm{when + " " + words, minutes >= at, at, words})
	}
	if len(p.Sights) == 0 && res.Bake != nil {
		add(res.Bake.FirstLook, "first look; the door stays shut till then")
		out[0].short = "first look"
	}
	spent := 0.0
	for k := p.Baking; k >= 0 && k < len(res.Method); k++ {
		x := res.Method[k]
		switch x.Verb {
		case method.Bake:
			if k > p.Baking {
				add(spent, x.Text)
			}
			spent += x.Wait.Mid()
		case method.Turn, method.Tent:
			add(math.Max(spent, 0.6*median), x.Text)
		case method.Top, method.Brush:
			add(0.9*median, x.Text)
		default:
			return out
		}
	}
	return out
}

// ringing are the looks of all that is in the oven, as timers that ring: the next look, and what the method tells.
func (s *Server) ringing(c context.Context, t *sitting) ([]timerRow, error) {
	var out []timerRow
	for n := range t.state.Strips {
		p := &t.state.Strips[n]
		if p.WentIn.IsZero() || !p.Out.IsZero() {
			continue
		}
		is, _, err := s.inOven(c, t, n)
		if err != nil {
			return nil, err
		}
		if is == nil {
			continue
		}
		add := func(key, words string, at float64) {
			left := p.WentIn.Add(time.Duration(at * float64(time.Minute))).Sub(t.now)
			out = append(out, timerRow{
				Key: fmt.Sprintf("%s-%d", key, n), Name: phrase.Clip(phrase.Capital(words), 40) + ": " + phrase.Clip(t.Of[n].Title, 24), Left: clockLeft(left),
				Seconds: int(math.Round(left.Seconds())), Strip: n, Rang: left <= 0, Fixed: true,
			})
		}
		for k, a := range alarmsOf(t, n, is) {
			if t.now.Sub(p.WentIn).Minutes() < a.at+quietAfter {
				add(fmt.Sprint("alarm", k), a.short, a.at)
			}
		}
		if len(p.Sights) > 0 {
			last := p.Sights[len(p.Sights)-1].At.Sub(p.WentIn).Minutes()
			add("look", "look again", is.NextLook(last))
		}
	}
	return out, nil
}

// quietAfter is how long an alarm of the oven is shown once it is due, minutes.
const quietAfter = 5.0

// cooling says when it may be cut and iced.
func (v *ovenPanel) cooling(t *sitting, n int, l *larder.Larder) {
	p, res := &t.state.Strips[n], t.Of[n].Result
	at := p.Out.Local()
	v.Lead = fmt.Sprintf("Not to be cut before %s.", at.Add(time.Duration(t.sheets[n].CutAfter(l)*float64(time.Minute))).Format("15:04"))
	v.After = append(v.After, "Out since "+at.Format("15:04")+"; cut warm it tears, and without gluten it gums.")
	for k, x := range res.Method {
		switch {
		case k <= p.Baking:
		case x.Verb == method.Syrup:
			v.After = append(v.After, "Syrup goes on while it is warm: "+x.Text)
		case x.Verb == method.Ice:
			v.After = append(v.After, "Icing waits till it is cold to the touch.")
		}
	}
	mass := p.Mass(t.sheets[n])
	if p.Weight > 0 {
		v.Weight = gramWords(p.Weight)
		if mass > p.Weight {
			v.Loss = fmt.Sprintf("%.0f %% of the %s that went in was baked out; 8 to 14 %% is usual.", 100*(1-p.Weight/mass), gramWords(mass))
		}
	}
}
