package web

import (
	"fmt"
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
	Bake          string    // to the counter
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
	NameRev int64
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
