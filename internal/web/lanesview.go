package web

import (
	"fmt"
	"math"
	"slices"
	"strings"
	"time"

	"kollaris/core/method"
	"kollaris/core/phrase"
	"kollaris/core/plan"
)

// lanesView is the day to scale: minutes run to the right, hours in which nobody does anything are
// folded.
type lanesView struct {
	Width, Height int
	Ticks         []laneTick
	Folds         []laneFold
	Lanes         []lane
	Now           float64 // x, 0 for none
	Meal          float64 // x of the last that is ready
	Stretches     string  // "x,from,to;…": px, minutes since 1970, by which a place is a time
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
		Name string // as it is written
		Full string
		Y    float64
		Bars []laneBar
		Ties []laneTie
	}
	// laneTie joins bars that follow each other at once.
	laneTie struct{ X, Y, Width float64 }
	laneBar struct {
		X, Y, Width  float64
		Class, Words string // Words only where they fit
		Title        string
		Key          string  // of the task, where it may be moved
		block        int     // what it is bound to
		From         string  // when it begins, as a form has it
		Slack        float64 // px by which it may go to the left
		Earliest     float64 // x of that
		Mid          float64 // y of its middle
		Bake         int
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

// stretches writes the scale for the script that drags: px, from and to in minutes of the local clock.
func (s scale) stretches() string {
	var out []string
	for n := range s.from {
		out = append(out, fmt.Sprintf("%.1f,%s,%s", s.x[n], s.from[n].Format(timeForm), s.to[n].Format(timeForm)))
	}
	return strings.Join(out, ";")
}

// hours are the figures of the clock along the scale, and what of the day is folded.
func (s scale) hours() (ticks []laneTick, folds []laneFold) {
	for n := range s.from {
		every := time.Hour
		if s.perMin*60 > 190 {
			every = 30 * time.Minute
		} else if s.perMin*60 < 56 {
			every = 2 * time.Hour
		}
		for t := s.from[n].Truncate(every).Add(every); t.Before(s.to[n]); t = t.Add(every) {
			if x := s.at(t); (n == 0 || x > s.x[n]+hourWide) && (n == len(s.from)-1 || x < s.at(s.to[n])-hourWide) {
				ticks = append(ticks, laneTick{x, t.Format("15:04")})
			}
		}
		if n > 0 {
			folds = append(folds, laneFold{s.x[n] - foldWide, foldWide, plan.Long(int(s.from[n].Sub(s.to[n-1]) / time.Minute))})
		}
	}
	return ticks, folds
}

// lanesOf draws a plan.
func lanesOf(p *plan.Plan, names []string, now time.Time) *lanesView {
	s := scaleOf(p)
	v := &lanesView{Width: lanesWidth, Meal: s.at(p.Ready), Stretches: s.stretches()}
	v.Ticks, v.Folds = s.hours()
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
	put := func(t plan.Placed, name, class, words, title string, from, to time.Time) {
		a, b := s.at(from), s.at(to)
		if t.Done {
			class += " done"
		}
		bar := laneBar{X: a, Width: math.Max(2, b-a-1), Class: class, Bake: t.Bake, Key: t.Key, block: t.Block, From: t.From.Format(timeForm), Title: fmt.Sprintf("%s–%s %s", from.Format("15:04"), to.Format("15:04"), title)}
		if room := int((bar.Width - 8) / letterWide); len([]rune(words)) <= room || strings.HasPrefix(class, "bakes") && room >= 6 {
			bar.Words = phrase.Clip(words, max(room, 1))
		}
		if strings.HasPrefix(class, "you") && t.Slack >= leastSlack && !t.Done {
			bar.Earliest = math.Max(laneLeft, s.at(t.From.Add(-time.Duration(t.Slack)*time.Minute)))
			bar.Slack = a - bar.Earliest
		}
		l := get(name)
		l.Bars = append(l.Bars, bar)
	}
	for _, t := range p.Tasks {
		name := names[min(t.Bake, len(names)-1)]
		title := name + ": " + t.Text
		u, _ := method.Usuals(t.Verb)
		if t.Hands.After(t.From) && t.Verb != method.Heat {
			put(t, "You", "you", u.Words, title, t.From, t.Hands)
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
			put(t, where, class, words, title, t.Hands, t.To)
		case t.To.Sub(t.Hands) >= 5*time.Minute && t.Where == method.Fridge:
			put(t, "In the fridge", "waits", u.Words, title, t.Hands, t.To)
		case t.To.Sub(t.Hands) >= 5*time.Minute:
			put(t, "Standing", "waits", u.Words, title, t.Hands, t.To)
		}
	}
	rank := func(name string) int {
		return map[string]int{"You": 0, "Standing": 2, "In the fridge": 3}[name] + b2i(name != "You" && name != "Standing" && name != "In the fridge")
	}
	slices.SortStableFunc(order, func(a, b string) int { return rank(a) - rank(b) })
	y := float64(laneTop)
	for _, name := range order {
		l := lanes[name]
		l.Name, l.Full, l.Y = phrase.Capital(phrase.Clip(name, 14)), name, y
		y += float64(l.stack())*rowHigh + laneHigh - rowHigh
		if name == "You" {
			l.tie()
		}
		v.Lanes = append(v.Lanes, *l)
	}
	v.Height = int(y) + 8
	if !now.IsZero() && now.After(p.Begin.Add(-2*time.Hour)) && now.Before(p.Ready) {
		v.Now = s.at(now)
	}
	return v
}

// tie joins the bars of one block, where they are several.
func (l *lane) tie() {
	for n, b := range l.Bars {
		first := slices.IndexFunc(l.Bars, func(o laneBar) bool { return o.block == b.block }) == n
		if !first || b.block == 0 {
			continue
		}
		end := b.X
		for _, o := range l.Bars[n+1:] {
			if o.block == b.block {
				end = o.X + o.Width
			}
		}
		if end > b.X {
			l.Ties = append(l.Ties, laneTie{b.X, b.Y - 5, end - b.X})
		}
	}
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
		b.Mid = b.Y + rowHigh - 3
	}
	return max(1, len(ends))
}

func b2i(b bool) int {
	if b {
		return 1
	}
	return 0
}
