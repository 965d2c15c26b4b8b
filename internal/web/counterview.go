package web

import (
	"fmt"
	"math"
	"strconv"
	"strings"
	"time"

	"kollaris/core/bake"
	"kollaris/core/formula"
	"kollaris/core/larder"
	"kollaris/core/measure"
	"kollaris/core/method"
	"kollaris/core/phrase"
	"kollaris/core/recipe"
)

// bakesView lists bakes.
type bakesView struct {
	Rows   []bakeRow
	Undo   *hidden
	Words  string // sought
	Months []choice
	People []choice
	Asked  bool
	Pages  []link
	Say    string
	Bad    bool // it did not do
}

type bakeRow struct {
	ID         int64
	Name, When string
	Over       bool
	Who, Said  string
}

// newBakeView is the page before a bake is begun.
type newBakeView struct {
	Title, Plan string
	Names       []string
	People      []string // who may bake
	Bakes       []newBakeOf
	Running     []bakeRow
	Shut        bool
}

type newBakeOf struct {
	Title, Code, Fault, Last string
	Cautions                 []string
	Ovens                    []choice // to bake it in; none of a kept version, whose oven is settled
	Verdict                  verdictView
	N                        int    // its place among the bakes
	Drinks                   string // what its flour was learned to drink, to put it in from the start; "" for nothing
}

// counterView is the counter.
type counterView struct {
	ID       int64
	Title    string
	Strip    int
	Seq      int64
	Rate     float64 // of the clock
	Strips   []stripTab
	Stop     string // that it is not for this table, as is known today
	Say      string // what could not be used
	Typed    string
	Task     *taskCard
	After    []afterRow
	Looking  bool // at another task than the one at hand
	Back     string
	Forth    string
	Home     string // to the task at hand
	Bowl     bowlStrip
	Told     bake.Told
	Over     *overRow
	Stand    *standView
	Timers   []timerRow
	Working  string // that it may not stand, and how long it has
	Late     bool   // that time is over
	Oven     *ovenPanel
	Devices  []string
	Scale    bool
	Probe    bool
	Last     *lastRow
	Slip     *slipView
	Slips    []string // all that went wrong, for as long as it lies there
	Finished bool
	IsOver   bool
	NewID    func() string
}

type stripTab struct {
	N                 int
	Title, Where, URL string
	Current           bool
}

// taskCard is the task that is shown.
type taskCard struct {
	N        int
	Place    string // "task 5 of 9"
	Text     string
	Until    string
	Note     string
	Wait     string
	AtOnce   bool
	Ready    []bake.Ready
	NotReady bool
	Weigh    *weighCard
	Lines    []weighRow
	Left     []leftRow
	Act      string // what its great button says
	What     string // the event of it
	Done     string // since when it is done, "" while it is not
	Say      string // read aloud
	Long     bool   // so that it is set smaller
}

// weighCard is the line that is weighed.
type weighCard struct {
	Line       int
	Name       string
	Target     string // "92 g"
	Measure    string // by the spoon
	Near       string // "± 1"
	Big        string // what is in, or what is wanted while there is no scale
	Of         string
	ToGo       string
	Fill       string // width of what is in, of 820
	NearX      string
	NearW      string
	Texture    string
	Spoon      bool
	Whole      bool
	Back       string
	Value      string // what a press of "It is in" means
	Over       string
	Factor     string
	FactorText string
	Ready      string // "weighs ready": its own event, "" where it makes no sense
	Expected   string
}

// leftRow asks what is left of a line once it is squeezed, or what it drank.
type leftRow struct {
	Line  int
	Words string
	Is    string // as it was weighed, "" while it was not
}

type weighRow struct {
	Name, Target, In string
	Is, Now          bool
	Undo             string
}

type afterRow struct {
	Lead, Text, Right string
	URL               string
}

// bowlStrip is the recipe's strip, filling as it is weighed in.
type bowlStrip struct {
	Width, Height int
	Blocks        []bowlBlock
	Summary       string
}

type bowlBlock struct {
	X, W, In, Texture, Name, NameX string
	Full, Now                      bool
}

// overRow is too much of a line, and what may be done.
type overRow struct {
	Words, Factor, FactorText string
}

// standView are the pictures of how it stands.
type standView struct {
	Dough  bool
	Pics   []standPic
	Words  string
	Line   int
	Food   string
	Grams  string
	Button string
}

type standPic struct {
	ID, Words      string
	Wanted, Chosen bool
}

type timerRow struct {
	Key, Name, Left string
	Seconds         int
	Strip           int
	Paused, Rang    bool
	Fixed           bool // a look at the oven: it goes by what is seen, not by a button
}

type lastRow struct {
	ID, Words string
}

// slipView is the page of a slip.
type slipView struct {
	Kinds  []choice
	Lines  []choice
	Remedy *bake.Remedy
	Undo   string
}

// barWidth is the width of the weighing band, px of its drawing; bandTo the share of it at which the
// target stands, so that too much is seen.
const (
	barWidth = 820.0
	bandTo   = 0.9
)

// longTask is how many letters of a task fill a line and a half of the counter.
const longTask = 64

// gramWords writes grams as they are weighed.
func gramWords(x float64) string { return measure.Grams(x).String() }

// taskOf fills the card of a task.
func (s *Server) taskOf(t *sitting, n, task int, open map[recipe.LineID]float64) *taskCard {
	sheet, p := t.sheets[n], &t.state.Strips[n]
	x := sheet.Tasks[task]
	v := &taskCard{
		N: task, Place: fmt.Sprintf("task %d of %d", task+1, len(sheet.Tasks)), Text: x.Text, Until: x.Until, Note: x.Note, AtOnce: x.AtOnce,
		Ready: p.ReadyFor(sheet, n, task, t.state.Timers, t.now, s.kit.Larder), Act: "Done", What: string(bake.Done),
	}
	for _, r := range v.Ready {
		v.NotReady = v.NotReady || !r.Is
	}
	if at, done := p.Done[task]; done {
		v.Done = at.Local().Format("15:04")
	}
	if x.Wait.Max > 0 && x.Verb != method.Bake {
		v.Wait = "Then it is left alone " + minutesRange(x.Wait.Minutes) + "."
	}
	if x.Verb == method.Bake {
		switch in := p.Baking >= 0 && p.Baking <= task && p.Out.IsZero(); {
		case !in:
			v.Act, v.What = "It is in the oven", string(bake.WentIn)
		case sheet.Stays(task):
			v.Act = "On to the next"
		default:
			v.Act, v.What = "It is out", string(bake.CameOut)
		}
	}
	for _, l := range sheet.Recipe.Batter() {
		want, water, after := sheet.Expected(l.ID)
		if !water || after != task {
			continue
		}
		row := leftRow{Line: int(l.ID), Words: fmt.Sprintf("What is left of the %s? Usually about %s of %s.", l.Name, gramWords(want*p.Times), gramWords(l.Grams*p.Times))}
		if x.Verb == method.Soak || x.Verb == method.Simmer {
			row.Words = fmt.Sprintf("What does the %s weigh now? Worked out with %s.", l.Name, gramWords(want*p.Times))
		}
		if g, ok := p.Weighs[l.ID]; ok {
			row.Is = strconv.FormatFloat(g, 'f', -1, 64)
		}
		v.Left = append(v.Left, row)
	}
	v.Say, v.Long = x.Text, len(x.Text) > longTask
	now := true
	for _, w := range p.Weighings(sheet, task, s.kit.Larder, s.kit.Kitchen, open) {
		if w.Target <= 0 {
			continue
		}
		row := weighRow{Name: w.Line.Name, Target: s.weighWords(w), Is: w.Is}
		if w.Is {
			row.In = gramWords(w.In)
		}
		if !w.Is && now && v.Done == "" {
			row.Now, now = true, false
			v.Weigh = s.weighOf(t, n, w)
			v.Act, v.What = "It is in", string(bake.Put)
			v.Say = fmt.Sprintf("%s: %s.", w.Line.Name, s.weighWords(w))
		}
		v.Lines = append(v.Lines, row)
	}
	return v
}

// weighWords are what is wanted of a line: by the scale, or by the spoon.
func (s *Server) weighWords(w bake.Weighing) string {
	g := gramWords(w.Target)
	if w.Food == nil || !w.Spoon && !s.byCup() {
		return g
	}
	m := s.kit.Measure(w.Food, w.Target)
	if m == "" || m == g {
		return g
	}
	return m + " (" + g + ")"
}

// byCup reports whether the household measures by the cup and has no scale that is read.
func (s *Server) byCup() bool { return s.kit.Kitchen.Cups && s.home.Devices.Scale == "" }

// weighOf fills the card of the line that is weighed.
func (s *Server) weighOf(t *sitting, n int, w bake.Weighing) *weighCard {
	v := &weighCard{
		Line: int(w.Line.ID), Name: w.Line.Name, Target: gramWords(w.Target), Spoon: w.Spoon, Whole: w.Whole, Texture: "salt",
		Near: "± " + measure.Digits(w.Tolerance, 1), Value: strconv.FormatFloat(math.Round(w.Target*10)/10, 'f', -1, 64),
		Big: gramWords(w.Target), Of: w.Line.Name, Fill: "0",
	}
	if w.Food != nil {
		v.Texture = w.Food.Shelf.Texture
	}
	if w.Spoon || s.byCup() {
		if words := s.weighWords(w); words != v.Target {
			v.Measure, _, _ = strings.Cut(words, " (")
			v.Big, v.Of = v.Measure, v.Target+" "+w.Line.Name
		}
	}
	x := bandTo * barWidth
	near := math.Max(6, w.Tolerance/math.Max(w.Target, 1)*x*2)
	v.NearX, v.NearW = f1(x-near/2), f1(near)
	if w.Back > 0 {
		v.Back = fmt.Sprintf("%s of it are kept back till you see how it stands.", gramWords(w.Back))
	}
	if want, water, _ := t.sheets[n].Expected(w.Line.ID); w.Whole && !water && t.state.Strips[n].Weighs[w.Line.ID] == 0 {
		v.Ready = "weighs"
		v.Expected = fmt.Sprintf("What does it really weigh? Worked out with %s.", gramWords(want))
	}
	return v
}

// live is what a scale's reading makes of the line that is weighed.
type live struct {
	Grams   string `json:"grams"`
	Say     string `json:"say"`
	Fill    string `json:"fill"`
	Over    bool   `json:"over"`
	Near    bool   `json:"near"` // within the tolerance
	Factor  string `json:"factor,omitempty"`
	Value   string `json:"value"`
	Settled bool   `json:"settled"`
}

// liveOf says what a weight means for a line. A tablespoon holds spoonG, 0 where that is not known.
func liveOf(w bake.Weighing, readings []bake.Reading, spoonG float64) live {
	g := readings[len(readings)-1].Grams
	v := live{Grams: gramWords(math.Max(g, 0)), Value: strconv.FormatFloat(math.Round(g*10)/10, 'f', -1, 64), Settled: w.Settled(readings)}
	v.Fill = f1(math.Min(math.Max(g, 0)/math.Max(w.Target, 1)*bandTo, 1) * barWidth)
	toGo := w.Target - g
	o, over := w.Over(g)
	switch {
	case w.Whole:
		v.Say = "It weighs what it weighs: say when it is in."
	case over:
		v.Over, v.Factor = true, strconv.FormatFloat(math.Round(o.Factor*1000)/1000, 'f', -1, 64)
		v.Say = fmt.Sprintf("%s too much: take some out, or go on with it.", gramWords(o.Over))
	case toGo <= w.Tolerance:
		v.Near, v.Say = true, "That is it."
	case toGo < 0.25*w.Target && spoonG > 0 && toGo > 1:
		v.Say = fmt.Sprintf("Slowly now: %s to go. A tablespoon holds %s.", gramWords(toGo), gramWords(spoonG))
	default:
		v.Say = fmt.Sprintf("%s to go.", gramWords(toGo))
	}
	return v
}

// minutesRange writes a range of minutes.
func minutesRange(m recipe.Minutes) string {
	one := func(x float64) string { return bake.Minutes(time.Duration(x * float64(time.Minute))) }
	if m.Max-m.Min < 1 {
		return one(m.Max)
	}
	if m.Max < 90 {
		return fmt.Sprintf("%.0f to %.0f min", m.Min, m.Max)
	}
	return one(m.Min) + " to " + one(m.Max)
}

// bowlOf draws what lies in the bowl of what there is to come.
func (s *Server) bowlOf(t *sitting, n int, open map[recipe.LineID]float64, current int) bowlStrip {
	p, sheet := &t.state.Strips[n], t.sheets[n]
	v := bowlStrip{Width: int(barWidth), Height: 34}
	type part struct {
		l      recipe.Line
		target float64
	}
	var parts []part
	total := 0.0
	for _, l := range sheet.Recipe.Batter() {
		g := l.Grams * p.Times
		if x, ok := open[l.ID]; ok {
			g = x
		}
		if g <= 0 {
			continue
		}
		parts, total = append(parts, part{l, g}), total+g
	}
	x, full := 0.0, 0
	for _, q := range parts {
		w := q.target / math.Max(total, 1) * barWidth
		in := math.Min(1, p.In[q.l.ID]/math.Max(q.target, 0.01))
		b := bowlBlock{X: f1(x + 0.5), W: f1(math.Max(w-1.5, 1)), In: f1(math.Max(w-1.5, 1) * in), Full: in > 0.9, Now: int(q.l.ID) == current}
		b.Texture = texture(s.kit.Larder.Get(q.l.Ingredient), w)
		if w > 58 {
			b.Name, b.NameX = phrase.Clip(q.l.Name, int(w/7.6)), f1(x+w/2)
		}
		if b.Full {
			full++
		}
		v.Blocks = append(v.Blocks, b)
		x += w
	}
	v.Summary = fmt.Sprintf("What is in the bowl: %d of %d things.", full, len(parts))
	return v
}

// standOf are the pictures of how it should stand; nil before all that makes it is together.
func (s *Server) standOf(t *sitting, n, task int) *standView {
	p, sheet := &t.state.Strips[n], t.sheets[n]
	if from := sheet.Together(s.kit.Larder); from < 0 || task < from || !p.WentIn.IsZero() {
		return nil
	}
	want := bake.ConsistencyOf(sheet.Recipe, s.kit.Larder)
	v := &standView{Dough: want.Dough}
	for _, x := range want.Row() {
		v.Pics = append(v.Pics, standPic{x.ID, x.Words, x.ID == want.Wanted, x.ID == p.Stands})
	}
	if c, ok := bake.Correct(sheet.Recipe, p.Stands, s.kit.Larder, s.kit.Kitchen); ok {
		v.Words, v.Line, v.Food, v.Grams = c.Words, int(c.Line), string(c.Food), strconv.FormatFloat(c.Grams, 'f', 1, 64)
		v.Button = "A spoonful is in"
	} else if p.Stands != "" {
		v.Words = "That is how it should stand."
	}
	return v
}

// timersOf are the timers that run or ring, the next to ring first.
func timersOf(st bake.State, now time.Time) []timerRow {
	var out []timerRow
	for _, x := range st.Timers {
		left := x.Remaining(now)
		if x.Gone || left < -longestRing {
			continue
		}
		out = append(out, timerRow{
			Key: x.Key, Name: phrase.Capital(x.Name), Left: clockLeft(left), Seconds: int(math.Round(left.Seconds())), Strip: x.Bake, Paused: x.Paused,
			Rang: left <= 0 && !x.Paused,
		})
	}
	return out
}

// longestRing is how long a timer that rang is shown.
const longestRing = 30 * time.Minute

// clockLeft writes what is left of a timer: "18:20", "1:02:00", "rang 3 min ago".
func clockLeft(d time.Duration) string {
	if d <= -time.Minute {
		return "rang " + bake.Minutes(-d) + " ago"
	}
	if d <= 0 {
		return "rings"
	}
	sec := int(math.Ceil(d.Seconds()))
	if sec >= 3600 {
		return fmt.Sprintf("%d:%02d:%02d", sec/3600, sec/60%60, sec%60)
	}
	return fmt.Sprintf("%d:%02d", sec/60, sec%60)
}

// lastOf is what was told last, to be taken back.
func lastOf(t *sitting, n int, l *larder.Larder) *lastRow {
	for k := len(t.state.Last) - 1; k >= 0; k-- {
		e := t.state.Last[k]
		if e.Bake != n || e.What == bake.Probe {
			continue
		}
		return &lastRow{e.ID, fmt.Sprintf("%s, %s", eventWords(t.sheets[n], e, l), e.At.Local().Format("15:04"))}
	}
	return nil
}

// eventWords are an event in a few words.
func eventWords(sheet bake.Sheet, e bake.Event, foods *larder.Larder) string {
	name := func() string {
		if l := sheet.Recipe.Line(e.Line); l != nil {
			return l.Name
		}
		return string(e.Food)
	}
	switch e.What {
	case bake.Done:
		if e.Task >= 0 && e.Task < len(sheet.Tasks) {
			return "done: " + phrase.Clip(sheet.Tasks[e.Task].Text, 40)
		}
	case bake.Put:
		return fmt.Sprintf("%s in: %s", name(), gramWords(e.Value))
	case bake.Weighs:
		return fmt.Sprintf("%s weighs %s", name(), gramWords(e.Value))
	case bake.Spoon:
		return fmt.Sprintf("%s more %s", gramWords(e.Value), name())
	case bake.Stands:
		return "it stands: " + e.Text
	case bake.Slip:
		return "a slip: " + bake.Slipped{Kind: bake.SlipKind(e.Text), Line: e.Line, Food: e.Food, Grams: e.Value}.Words(sheet, foods)
	case bake.Scale:
		return "the rest ×" + measure.Digits(e.Value, 3)
	case bake.WentIn:
		return "in the oven"
	case bake.CameOut:
		return "out of the oven"
	case bake.Seen:
		return "seen: " + e.Text
	case bake.WeighedOut:
		return "weighs " + gramWords(e.Value) + " baked"
	case bake.Finish:
		return "finished"
	}
	return string(e.What)
}

// toldOf works out what is to be otherwise because of what lies in the bowl.
func (s *Server) toldOf(t *sitting, n int) bake.Told {
	p := &t.state.Strips[n]
	if !p.WentIn.IsZero() {
		return bake.Told{}
	}
	b := p.Bowl(t.sheets[n], s.bowlKit(t, n))
	if len(b.In)+len(b.Water)+len(b.Extra) == 0 && p.Times == 1 {
		return bake.Told{}
	}
	got, err := b.Solve()
	if err != nil {
		return bake.Told{}
	}
	return bake.Tell(b, got)
}

// overOf is the last line that was put in, where it is too much of it and nothing was done about it.
func (s *Server) overOf(t *sitting, n int) *overRow {
	p, sheet := &t.state.Strips[n], t.sheets[n]
	for k := len(t.state.Last) - 1; k >= 0; k-- {
		e := t.state.Last[k]
		if e.Bake != n {
			continue
		}
		switch e.What {
		case bake.Put:
		case bake.Scale, bake.Done, bake.WentIn:
			return nil
		default:
			continue
		}
		for _, w := range p.Weighings(sheet, e.Task, s.kit.Larder, s.kit.Kitchen, nil) {
			if w.Line.ID != e.Line || w.Whole {
				continue
			}
			if o, over := w.Over(e.Value); over && o.Factor < mostTimes {
				return &overRow{
					fmt.Sprintf("%s too much %s went in.", gramWords(o.Over), w.Line.Name), strconv.FormatFloat(o.Factor, 'f', 4, 64), "×" + measure.Digits(o.Factor, 3),
				}
			}
		}
		return nil
	}
	return nil
}

// workingOf says how long what began to work has stood.
func (s *Server) workingOf(t *sitting, n int) (words string, late bool) {
	p, sheet := &t.state.Strips[n], t.sheets[n]
	task, minutes, why := sheet.Working(s.kit.Larder)
	at, done := p.Done[task]
	if task < 0 || !done || !p.WentIn.IsZero() {
		return "", false
	}
	stood := t.now.Sub(at)
	return fmt.Sprintf("%s: it stands %s, and may %.0f min. Into the oven.", why, bake.Minutes(stood), minutes), stood.Minutes() > minutes
}

// spoonOf is what a tablespoon of a food holds, g; 0 where that is not known.
func (s *Server) spoonOf(w bake.Weighing) float64 {
	if w.Food == nil {
		return 0
	}
	return 3 * formula.Teaspoon(s.kit.Kitchen, w.Food)
}
