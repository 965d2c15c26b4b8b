package web

import (
	"fmt"
	"math"
	"net/url"
	"regexp"
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
	EatWords      string
	Cooks, Room   field
	Away          string // hours away, as they are set
	Bakes         []planBake
	Faults        []string
	Say           string // what the last step could not do
	Begin, Then   string
	Short         bool   // Begin is a task, not an hour
	State         string // "fine" or "look"
	Late          []string
	Ways          []wayRow // out of a plan that cannot be kept
	Broken        []string
	Clashes       []string // bakes between which all has to be cleaned
	Order         string   // which comes first, and why
	Lanes         *lanesView
	Rows, Done    []planRow
	Calendar      string
	Shop          string
	Keep          string    // what is kept, for one that is not yet
	Kept          *keptView // nil for one that is not
	Baking        []wayRow  // what is in an oven now: its words, and where its looks are noted
	Part          bool      // not every order could be tried
	SoonestAt     string    // as the form has it, "" where it is in time
}

// keptView is what a kept plan has beside.
type keptView struct {
	ID, Rev int64
	Name    string
	Done    int
	From    string // it was begun late: nothing begins before
	Address string // of its calendar, where it is given out
}

// planBake is a bake with what is asked of it.
type planBake struct {
	Name, Code           string
	Serves, Ovens, Rises []choice
	At, Fault            string
	Went                 string // when it went into the oven, as a form has it; "" for not yet
}

// wayRow is a way out; URL is where it is taken at once, "" for one that the kitchen has to find.
type wayRow struct{ Words, Helps, URL string }

// planRow is a task in the list, or something for the day.
type planRow struct {
	Day, At    string // Day only where it changes
	Bake, Text string
	Note, More string // More is what the task itself has to say
	Key        string
	Done, Next bool
	ForDay     bool   // without an hour
	From       string // as a form has it
	Earliest   string // likewise, where it may be done earlier
	Pinned     bool
}

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

// title names the plan.
func (v *planView) title(names []string, bakes int) {
	v.Title = fmt.Sprintf("Plan of %d bakes", bakes)
	switch {
	case bakes == 1 && len(names) == 1:
		v.Title = names[0]
	case len(names) > 1:
		v.Names = phrase.And(names)
	}
}

// planned fills the view with a plan.
func (v *planView) planned(p *plan.Plan, names []string, now time.Time, k measure.Kitchen) {
	v.State, v.Part = "fine", !p.Whole
	if !p.Feasible {
		v.State = "look"
	}
	v.lead(p, names, now, k)
	for _, l := range p.Late {
		v.Late = append(v.Late, fmt.Sprintf("Late by %s: %s", plan.Long(l.By), inShort(k.Say(l.Text))))
	}
	if n := len(v.Late); n > 2 { // the rest is late because of it
		v.Late = append(v.Late[:1], fmt.Sprintf("And %d tasks after it.", n-1))
	}
	if len(v.Late) > 0 && p.Ready.Before(now) && !v.Short {
		v.Late = []string{"That time has passed: choose another."}
	}
	for _, w := range p.Ways {
		if len(v.Late) > 0 && p.Ready.Before(now) && w.Eat.IsZero() {
			continue // nothing but another time helps
		}
		row := wayRow{Words: w.Words, Helps: "Then all fits."}
		switch {
		case !w.Eat.IsZero():
			row.Helps = ""
		case w.Late > 0:
			row.Helps = "Late by " + plan.Long(w.Late) + " even so."
		}
		v.Ways = append(v.Ways, row)
	}
	if v.Broken = p.Broken; !v.Short {
		v.Order = p.Order
	}
	for _, n := range p.Retarded {
		v.Then += " A rise of " + names[n] + " is made in the fridge, since the hours ask for it."
	}
	v.rows(p, names, k)
	v.Lanes = lanesOf(p, names, now)
}

// lead says the first thing: when to begin, or what is next.
func (v *planView) lead(p *plan.Plan, names []string, now time.Time, k measure.Kitchen) {
	when := func(t time.Time) string { return dayOf(t, p.Ready) + " " + t.Format("15:04") }
	v.Begin = "Begin " + when(p.Begin) + "."
	begun, left := false, 0
	var next *plan.Placed
	for n, t := range p.Tasks {
		begun = begun || t.Done
		if t.Done {
			continue
		}
		left++
		if next == nil {
			next = &p.Tasks[n]
		}
	}
	switch {
	case begun && left == 0:
		v.Begin, v.Then = "All is done.", "Enjoy it."
		return
	case begun:
		name := ""
		if len(names) > 1 {
			name = names[next.Bake] + ": "
		}
		v.Begin, v.Short = next.From.Format("15:04")+" "+inShort(name+k.Say(next.Text)), true
		if next.From.Sub(now) > 12*time.Hour || next.From.Day() != now.Day() {
			v.Begin = dayOf(next.From, p.Ready) + " " + v.Begin
		}
		v.Then = fmt.Sprintf("Next of %d that are left. Ready %s.", left, when(p.Ready))
	default:
		if len(p.Notes) > 0 && p.Notes[0].On.Before(p.Ready) {
			v.Then = fmt.Sprintf("Next: %s %s. ", lower(strings.TrimSuffix(p.Notes[0].Text, ".")), dayOf(p.Notes[0].On, p.Ready))
		}
		if end, until := idle(p); !until.IsZero() {
			v.Then += fmt.Sprintf("From %s on nothing for you until %s. ", end.Format("15:04"), when(until))
		}
		v.Then += fmt.Sprintf("You are at it %s in all. Ready %s.", plan.Long(p.Busy), when(p.Ready))
	}
}

// amounts are what a sentence says in brackets of how much.
var amounts = regexp.MustCompile(` \([^)]*\)`)

// inShort is a task in a line: without its amounts, cut between words.
func inShort(s string) string {
	s = amounts.ReplaceAllString(s, "")
	if first, _, ok := strings.Cut(s, ". "); ok {
		s = first + "."
	}
	if len([]rune(s)) <= leadLong {
		return s
	}
	cut := string([]rune(s)[:leadLong])
	if n := strings.LastIndexByte(cut, ' '); n > 0 {
		cut = cut[:n]
	}
	return strings.TrimRight(cut, " ,;:") + " …"
}

// leadLong is how long the first thing said may be, letters.
const leadLong = 90

func lower(s string) string {
	if s == "" {
		return s
	}
	return strings.ToLower(s[:1]) + s[1:]
}

// rows lists the tasks in order, what is done apart, with what is for a day.
func (v *planView) rows(p *plan.Plan, names []string, k measure.Kitchen) {
	day, next, notes := "", 3, p.Notes
	add := func(on time.Time, row planRow) {
		if d := on.Format("Monday 2 January"); d != day {
			day, row.Day = d, d
		}
		v.Rows = append(v.Rows, row)
	}
	said := func(row *planRow, bake int) {
		if len(names) > 1 {
			row.Bake = names[bake]
		}
	}
	note := func(n plan.Note) {
		row := planRow{Text: k.Say(n.Text), ForDay: true, Note: "some time of the day", Key: n.Key}
		said(&row, n.Bake)
		add(n.On, row)
	}
	for _, t := range p.Tasks {
		row := planRow{At: t.From.Format("15:04"), Text: k.Say(t.Text), More: k.Say(t.Note), Key: t.Key, Done: t.Done, From: t.From.Format(timeForm)}
		said(&row, t.Bake)
		if t.Done {
			row.At = t.Hands.Format("15:04")
			v.Done = append(v.Done, row)
			continue
		}
		for len(notes) > 0 && notes[0].On.Before(t.From) {
			note(notes[0])
			notes = notes[1:]
		}
		about := []string{}
		if m := int(t.Hands.Sub(t.From) / time.Minute); m > 0 {
			about = append(about, plan.Long(m))
		}
		if t.To.After(t.Hands) {
			about = append(about, "till "+t.To.Format("15:04"))
		}
		if t.Oven != "" {
			about = append(about, t.Oven)
		}
		for _, m := range t.With {
			about = append(about, "together with "+names[m])
		}
		if t.AtOnce {
			about = append(about, "then at once on")
		}
		from := t.From.Add(-time.Duration(t.Slack) * time.Minute)
		if t.Slack >= leastSlack {
			row.Earliest = from.Format(timeForm)
		}
		if t.Slack >= toldSlack {
			about = append(about, "may begin from "+dayOf(from, p.Ready)+" "+from.Format("15:04"))
		}
		row.Note = strings.Join(about, " · ")
		row.Next = next > 0
		next--
		add(t.From, row)
	}
	for _, n := range notes {
		note(n)
	}
}

// leastSlack is from how many minutes a task may be moved, and toldSlack from how many that is said.
const leastSlack, toldSlack = 30, 240

// later gives the way of eating later its time and, where it can be taken at once, its address.
func (v *planView) later(p *plan.Plan, at func(eat string) string) {
	eat, err := formTime(v.Eat)
	if p.Soonest.IsZero() || err != nil {
		return
	}
	v.SoonestAt = eat.Add(p.Soonest.Sub(p.Ready)).Format(timeForm)
	v.Ways[len(v.Ways)-1].URL = at(v.SoonestAt)
}

// baking lists what is in an oven now.
func (v *planView) baking(p *plan.Plan, now time.Time) {
	for _, t := range p.Tasks {
		if t.Done && t.Verb == method.Bake && t.Bake < len(v.Bakes) && now.Before(t.To.Add(longPause)) {
			b := &v.Bakes[t.Bake]
			b.Went = t.Hands.Format(timeForm)
			v.Baking = append(v.Baking, wayRow{Words: fmt.Sprintf("%s is in the oven since %s", b.Name, t.Hands.Format("15:04")), URL: "/oven?" + url.Values{"b": {b.Code}, "in": {b.Went}}.Encode()})
		}
	}
}

// pinned marks the tasks that were moved.
func (v *planView) pinned(pins []string) {
	for n := range v.Rows {
		v.Rows[n].Pinned = slices.ContainsFunc(pins, func(pin string) bool { return strings.HasPrefix(pin, v.Rows[n].Key+"@") })
	}
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

// stretches writes the scale for the script that drags: px, from and to in minutes of the local clock.
func (s scale) stretches() string {
	var out []string
	for n := range s.from {
		out = append(out, fmt.Sprintf("%.1f,%s,%s", s.x[n], s.from[n].Format(timeForm), s.to[n].Format(timeForm)))
	}
	return strings.Join(out, ";")
}

// lanesOf draws a plan.
func lanesOf(p *plan.Plan, names []string, now time.Time) *lanesView {
	s := scaleOf(p)
	v := &lanesView{Width: lanesWidth, Meal: s.at(p.Ready), Stretches: s.stretches()}
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
