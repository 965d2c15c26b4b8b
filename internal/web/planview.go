package web

import (
	"fmt"
	"math"
	"slices"
	"strings"
	"time"

	"kollaris/core/measure"
	"kollaris/core/method"
	"kollaris/core/phrase"
	"kollaris/core/plan"
)

// planView is a timetable as it is shown.
type planView struct {
	Title, Action string
	Names         string // of several bakes
	Rail          []railItem
	Hidden        []hidden
	Eat, From, To string // as their boxes hold them
	Cooks, Room   field
	Faults        []string
	Begin, Then   string
	State         string // "fine" or "look"
	Late          []lateRow
	Broken        []string
	Clashes       []string // bakes between which all has to be cleaned
	Order         string   // which comes first, and why
	Lanes         *lanesView
	Rows          []planRow
	Calendar      string
	Shop          string
}

type lateRow struct {
	Words string
	Ways  []string
}

// planRow is a task in the list.
type planRow struct {
	Day, At    string // Day only where it changes
	Bake, Text string
	Note       string
}

// lanesView is the day to scale: minutes run to the right, hours in which nobody does anything are
// folded.
type lanesView struct {
	Width, Height int
	Ticks         []laneTick
	Folds         []laneFold
	Lanes         []lane
	Now           float64 // x, 0 for none
}

type (
	laneTick struct {
		X     float64
		Words string
	}
	laneFold struct {
		X, Width float64
		Words    string
	}
	lane struct {
		Name string
		Y    float64
		Bars []laneBar
	}
	laneBar struct {
		X, Y, Width  float64
		Class, Words string // Words only where they fit
		Title        string
	}
)

// The measures of the picture, px.
const (
	lanesWidth = 1232
	laneLeft   = 116
	laneTop    = 40
	laneHigh   = 46
	rowHigh    = 34
	foldWide   = 64
	letterWide = 7.4
	hourWide   = 22 // half of an hour's figure
)

// foldFrom is the idle time from which a stretch is folded, and beside is what is kept of it.
const (
	foldFrom = 100 * time.Minute
	beside   = 10 * time.Minute
)

// planned fills the view with a plan.
func (v *planView) planned(p *plan.Plan, names []string, now time.Time, k measure.Kitchen) {
	v.State = "fine"
	if !p.Feasible {
		v.State = "look"
	}
	v.Begin = "Begin " + dayOf(p.Begin, p.Ready) + " " + p.Begin.Format("15:04") + "."
	if end, until := idle(p); !until.IsZero() {
		v.Then = fmt.Sprintf("From %s on nothing for you until %s %s. ", end.Format("15:04"), dayOf(until, p.Ready), until.Format("15:04"))
	}
	v.Then += fmt.Sprintf("You are at it %s in all.", plan.Long(p.Busy))
	for _, l := range p.Late {
		v.Late = append(v.Late, lateRow{fmt.Sprintf("Late by %s: %s", plan.Long(l.By), k.Say(l.Text)), l.WaysOut})
	}
	v.Broken, v.Order = p.Broken, p.Order
	day := ""
	for _, t := range p.Tasks {
		row := planRow{At: t.From.Format("15:04"), Text: k.Say(t.Text)}
		if d := t.From.Format("Monday 2 January"); d != day {
			day, row.Day = d, d
		}
		if len(names) > 1 {
			row.Bake = names[t.Bake]
		}
		note := []string{}
		if m := int(t.Hands.Sub(t.From) / time.Minute); m > 0 {
			note = append(note, plan.Long(m))
		}
		if t.To.After(t.Hands) {
			note = append(note, "till "+t.To.Format("15:04"))
		}
		if t.Oven != "" {
			note = append(note, t.Oven)
		}
		if t.AtOnce {
			note = append(note, "then at once on")
		}
		row.Note = strings.Join(note, " · ")
		v.Rows = append(v.Rows, row)
	}
	v.Lanes = lanesOf(p, names, now)
}

// dayOf names a day near the meal by its weekday, else with its date.
func dayOf(t, ready time.Time) string {
	if ready.Sub(t) < 6*24*time.Hour {
		return t.Format("Monday")
	}
	return t.Format("Monday 2 January")
}

// longPause is what is told as a pause. Source: practice.
const longPause = 2 * time.Hour

// idle is the first long pause of the hands; zero where there is none.
func idle(p *plan.Plan) (from, until time.Time) {
	for _, t := range p.Tasks {
		if t.Hands.Equal(t.From) {
			continue
		}
		if !from.IsZero() && t.From.Sub(from) >= longPause {
			return from, t.From
		}
		if t.Hands.After(from) {
			from = t.Hands
		}
	}
	return from, time.Time{}
}

// scale maps times to places, with what is idle folded.
type scale struct {
	from, to []time.Time // of the stretches that are drawn to scale
	x        []float64   // where each begins
	perMin   float64
}

// scaleOf folds the stretches in which nobody does anything.
func scaleOf(p *plan.Plan) scale {
	var s scale
	for _, t := range p.Tasks {
		from, to := t.From.Add(-beside), t.Hands.Add(beside)
		if t.Oven != "" {
			to = t.To.Add(beside)
		}
		if n := len(s.from) - 1; n >= 0 && from.Sub(s.to[n]) < foldFrom {
			if to.After(s.to[n]) {
				s.to[n] = to
			}
			continue
		}
		s.from, s.to = append(s.from, from), append(s.to, to)
	}
	if n := len(s.to) - 1; n >= 0 && p.Ready.Sub(s.to[n]) < foldFrom {
		s.to[n] = p.Ready.Add(beside)
	} else if n >= 0 {
		s.from, s.to = append(s.from, p.Ready.Add(-beside)), append(s.to, p.Ready.Add(beside))
	}
	sum := 0.0
	for n := range s.from {
		sum += s.to[n].Sub(s.from[n]).Minutes()
	}
	s.perMin = (lanesWidth - laneLeft - 8 - foldWide*float64(max(0, len(s.from)-1))) / math.Max(sum, 1)
	x := float64(laneLeft)
	for n := range s.from {
		s.x = append(s.x, x)
		x += s.to[n].Sub(s.from[n]).Minutes()*s.perMin + foldWide
	}
	return s
}

// at is the place of a time; within a fold as far as it has passed.
func (s scale) at(t time.Time) float64 {
	for n := range s.from {
		if !t.After(s.to[n]) {
			if t.Before(s.from[n]) {
				if n == 0 {
					return s.x[0]
				}
				gap := s.from[n].Sub(s.to[n-1]).Minutes()
				return s.x[n] - foldWide*s.from[n].Sub(t).Minutes()/gap
			}
			return s.x[n] + t.Sub(s.from[n]).Minutes()*s.perMin
		}
	}
	return lanesWidth - 8
}

// lanesOf draws a plan.
func lanesOf(p *plan.Plan, names []string, now time.Time) *lanesView {
	s := scaleOf(p)
	v := &lanesView{Width: lanesWidth}
	for n := range s.from {
		every := time.Hour
		if s.perMin*60 > 190 {
			every = 30 * time.Minute
		} else if s.perMin*60 < 56 {
			every = 2 * time.Hour
		}
		for t := s.from[n].Truncate(every).Add(every); t.Before(s.to[n]); t = t.Add(every) {
			if x := s.at(t); (n == 0 || x > s.x[n]+hourWide) && (n == len(s.from)-1 || x < s.at(s.to[n])-hourWide) {
				v.Ticks = append(v.Ticks, laneTick{x, t.Format("15:04")})
			}
		}
		if n > 0 {
			v.Folds = append(v.Folds, laneFold{s.x[n] - foldWide, foldWide, plan.Long(int(s.from[n].Sub(s.to[n-1]) / time.Minute))})
		}
	}
	lanes := map[string]*lane{}
	var order []string
	get := func(name string) *lane {
		if lanes[name] == nil {
			lanes[name] = &lane{Name: name}
			order = append(order, name)
		}
		return lanes[name]
	}
	get("You")
	put := func(name, class, words, title string, from, to time.Time) {
		a, b := s.at(from), s.at(to)
		bar := laneBar{X: a, Width: math.Max(2, b-a-1), Class: class, Title: fmt.Sprintf("%s–%s %s", from.Format("15:04"), to.Format("15:04"), title)}
		if room := int((bar.Width - 8) / letterWide); len([]rune(words)) <= room || class == "bakes" && room >= 6 {
			bar.Words = phrase.Clip(words, max(room, 1))
		}
		l := get(name)
		l.Bars = append(l.Bars, bar)
	}
	for _, t := range p.Tasks {
		name := names[min(t.Bake, len(names)-1)]
		title := name + ": " + t.Text
		u, _ := method.Usuals(t.Verb)
		if t.Hands.After(t.From) && t.Verb != method.Heat {
			put("You", "you", u.Words, title, t.From, t.Hands)
		}
		switch {
		case t.Oven != "" || t.Verb == method.Bake || t.Verb == method.BakeBlind || t.Verb == method.Heat:
			where := t.Oven
			if where == "" {
				where = "Oven"
			}
			class, words := "bakes", name
			if t.Verb == method.Heat {
				class, words = "heats", "heats"
			}
			put(where, class, words, title, t.Hands, t.To)
		case t.To.Sub(t.Hands) >= 5*time.Minute && t.Where == method.Fridge:
			put("In the fridge", "waits", u.Words, title, t.Hands, t.To)
		case t.To.Sub(t.Hands) >= 5*time.Minute:
			put("Standing", "waits", u.Words, title, t.Hands, t.To)
		}
	}
	rank := func(name string) int {
		return map[string]int{"You": 0, "Standing": 2, "In the fridge": 3}[name] + b2i(name != "You" && name != "Standing" && name != "In the fridge")
	}
	slices.SortStableFunc(order, func(a, b string) int { return rank(a) - rank(b) })
	y := float64(laneTop)
	for _, name := range order {
		l := lanes[name]
		l.Name, l.Y = phrase.Capital(phrase.Clip(name, 14)), y
		y += float64(l.stack())*rowHigh + laneHigh - rowHigh
		v.Lanes = append(v.Lanes, *l)
	}
	v.Height = int(y) + 8
	if !now.IsZero() && now.After(p.Begin.Add(-2*time.Hour)) && now.Before(p.Ready) {
		v.Now = s.at(now)
	}
	return v
}

// stack puts bars that overlap one below the other, and tells in how many rows.
func (l *lane) stack() int {
	var ends []float64 // of each row
	for n := range l.Bars {
		b, row := &l.Bars[n], 0
		for row < len(ends) && ends[row] > b.X+1 {
			row++
		}
		if row == len(ends) {
			ends = append(ends, 0)
		}
		ends[row] = b.X + b.Width
		b.Y = l.Y + 8 + float64(row)*rowHigh
	}
	return max(1, len(ends))
}

func b2i(b bool) int {
	if b {
		return 1
	}
	return 0
}
