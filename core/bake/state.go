package bake

import (
	"cmp"
	"fmt"
	"maps"
	"slices"
	"strings"
	"time"

	"kollaris/core/larder"
	"kollaris/core/learn"
	"kollaris/core/method"
	"kollaris/core/recipe"
)

// Sheet is one bake of a sitting, as it was begun.
type Sheet struct {
	Name   string
	Recipe *recipe.Recipe
	Tasks  []method.Task
	// Preheat is how long its oven takes to be hot, minutes.
	Preheat int
}

// Spoonful is what was added by the spoon, or by more than the recipe says.
type Spoonful struct {
	At    time.Time
	Line  recipe.LineID // 0 for what no line lists
	Food  larder.ID
	Grams float64
}

// Slipped is something that went wrong at the bowl.
type Slipped struct {
	ID    string // of its event
	At    time.Time
	Kind  SlipKind
	Line  recipe.LineID
	Food  larder.ID // that came in instead, or that got in
	Grams float64
}

// Sight is a look or a reading while it is in the oven.
type Sight struct {
	At   time.Time
	Look string  // "" for a reading
	Core float64 // °C
}

// Strip is how one bake stands.
type Strip struct {
	Done   map[int]time.Time // tasks whose hands are done
	In     map[recipe.LineID]float64
	Each   map[int]map[recipe.LineID]float64 // by task
	Weighs map[recipe.LineID]float64         // of what was weighed ready
	Spoons []Spoonful
	Stands string
	Slips  []Slipped
	Left   map[recipe.LineID]bool // lines that are not in: forgotten, or something else went in for them
	Times  float64                // what is to come is made so many times as much
	Hot    time.Time
	Lined  time.Time
	WentIn time.Time // zero while it is not in
	Baking int       // the task that it is in for
	Sights []Sight
	Out    time.Time
	Weight float64 // g as it came out, 0 not weighed
	Judged Judged
}

// Judged is what people say of a bake once it is eaten. Each part is an event of its own, whose Key names it:
// "symptom:low" with 1 or 0, "answer:cut-warm" and "helped:wet" likewise, "tried", "overall", "height", "cooled", "words"; "overall:cox" and "sweet:cox" of one of the eaters.
type Judged struct {
	At       time.Time
	Symptoms []string        // by their ids, in order
	Answers  map[string]bool // to the questions that tell causes apart
	Helped   map[string]bool // whether a change that this bake tried helped, by its cause
	Tried    string          // the cause whose change the next bake tries, "" for none
	Overall  int             // 1 not again, 2 so-so, 3 good, 4 just so again; 0 not said
	Height   float64         // cm, 0 not measured
	Cooled   float64         // hours till it was cut, 0 not said
	Words    string
	By       map[string]Said // of those who said something for themselves, by their names
}

// Said is what one of the eaters says.
type Said struct {
	Overall int           // as Judged.Overall
	Sweet   learn.Verdict // "" for nothing
}

// say takes in what one of the eaters says.
func (j *Judged) say(who string, change func(*Said)) {
	if j.By == nil {
		j.By = map[string]Said{}
	}
	s := j.By[who]
	change(&s)
	j.By[who] = s
	if s == (Said{}) {
		delete(j.By, who)
	}
}

// take takes one judgement in.
func (j *Judged) take(e Event) {
	what, of, _ := strings.Cut(e.Key, ":")
	j.At = e.At
	switch what {
	case "symptom":
		j.Symptoms = slices.DeleteFunc(j.Symptoms, func(s string) bool { return s == of })
		if e.Value > 0 {
			j.Symptoms = append(j.Symptoms, of)
			slices.Sort(j.Symptoms)
		}
	case "answer":
		if j.Answers == nil {
			j.Answers = map[string]bool{}
		}
		j.Answers[of] = e.Value > 0
	case "helped":
		if j.Helped == nil {
			j.Helped = map[string]bool{}
		}
		j.Helped[of] = e.Value > 0
	case "tried":
		j.Tried = e.Text
	case "overall":
		overall := int(min(max(e.Value, 0), 4))
		if of != "" {
			j.say(of, func(s *Said) { s.Overall = overall })
			return
		}
		j.Overall = overall
	case "sweet":
		j.say(of, func(s *Said) { s.Sweet = learn.Verdict(e.Text) })
	case "height":
		j.Height = e.Value
	case "cooled":
		j.Cooled = e.Value
	case "words":
		j.Words = e.Text
	}
}

// Timer is one that was set, or that a task's wait set.
type Timer struct {
	Key    string
	Bake   int
	Name   string
	From   time.Time
	Ends   time.Time
	Left   time.Duration // while it is paused
	Paused bool
	Gone   bool // stopped, or done early
}

// Remaining is what is left of a timer; negative since it rang.
func (t Timer) Remaining(now time.Time) time.Duration {
	if t.Paused {
		return t.Left
	}
	return t.Ends.Sub(now)
}

// State is where a sitting stands.
type State struct {
	Strips []Strip
	Timers []Timer // in order of their beginning
	Over   time.Time
	Last   []Event // what stands, in order
}

// Fold makes the state of events. Events of a bake or task that the sheets do not have change nothing.
func Fold(sheets []Sheet, events []Event) State {
	s := State{Strips: make([]Strip, len(sheets)), Last: standing(events)}
	for n := range s.Strips {
		s.Strips[n] = Strip{
			Done: map[int]time.Time{}, In: map[recipe.LineID]float64{}, Each: map[int]map[recipe.LineID]float64{},
			Weighs: map[recipe.LineID]float64{}, Times: 1, Baking: -1,
		}
	}
	timers := map[string]*Timer{}
	for _, e := range s.Last {
		switch {
		case e.What == Finish:
			s.Over = e.At
		case e.Bake < 0 || e.Bake >= len(sheets):
		default:
			s.Strips[e.Bake].take(e, sheets[e.Bake], timers)
		}
	}
	s.Timers = []Timer{}
	for _, t := range timers {
		s.Timers = append(s.Timers, *t)
	}
	slices.SortFunc(s.Timers, func(a, b Timer) int { return cmp.Or(a.From.Compare(b.From), cmp.Compare(a.Key, b.Key)) })
	return s
}

// TimerKey is the key of the timer of a task's wait.
func TimerKey(bake, task int) string { return fmt.Sprintf("wait-%d-%d", bake, task) }

// take takes one event in.
func (p *Strip) take(e Event, sheet Sheet, timers map[string]*Timer) {
	task := e.Task >= 0 && e.Task < len(sheet.Tasks)
	line := sheet.Recipe.Line(e.Line) != nil
	switch e.What {
	case Done:
		if !task {
			return
		}
		p.Done[e.Task] = e.At
		p.rest(e.Task, sheet)
		p.wait(e, sheet, timers)
		takenUp(e, sheet, timers)
	case Put:
		if !task || !line {
			return
		}
		if p.Each[e.Task] == nil {
			p.Each[e.Task] = map[recipe.LineID]float64{}
		}
		p.Each[e.Task][e.Line] = e.Value
		delete(p.Left, e.Line)
		p.sum(e.Line)
	case Weighs:
		if line {
			p.Weighs[e.Line] = e.Value
		}
	case Spoon:
		p.Spoons = append(p.Spoons, Spoonful{e.At, e.Line, e.Food, e.Value})
		delete(p.Left, e.Line)
		p.sum(e.Line)
	case Stands:
		p.Stands = e.Text
	case Slip:
		p.slip(e, sheet)
	case Scale:
		if e.Value > 0 {
			p.Times *= e.Value
		}
	case Hot:
		p.Hot = e.At
	case Lined:
		p.Lined = e.At
	case WentIn:
		if task {
			p.WentIn, p.Baking, p.Out = e.At, e.Task, time.Time{}
			takenUp(e, sheet, timers)
			if minutes := sheet.Tasks[e.Task].Wait.Min; sheet.Again(e.Task) && minutes > 0 { // nothing is foretold of it
				key := TimerKey(e.Bake, e.Task)
				timers[key] = &Timer{Key: key, Bake: e.Bake, Name: "baking again", From: e.At, Ends: e.At.Add(time.Duration(minutes * float64(time.Minute)))}
			}
		}
	case Seen:
		p.Sights = append(p.Sights, Sight{At: e.At, Look: e.Text})
	case Probe:
		p.Sights = append(p.Sights, Sight{At: e.At, Core: e.Value})
	case CameOut:
		p.Out = e.At
		for n := p.Baking; n >= 0 && n < len(sheet.Tasks) && (n == p.Baking || sheet.Stays(n-1)); n++ {
			if _, done := p.Done[n]; !done {
				p.Done[n] = e.At
			}
		}
	case WeighedOut:
		p.Weight = e.Value
	case Judge:
		p.Judged.take(e)
	default:
		ring(e, timers)
	}
}

// rest takes the lines of a task that is done for in, as they were to be, where nobody weighed them.
func (p *Strip) rest(task int, sheet Sheet) {
	for _, u := range sheet.Tasks[task].Uses {
		if _, weighed := p.Each[task][u.Line]; weighed {
			continue
		}
		if p.Each[task] == nil {
			p.Each[task] = map[recipe.LineID]float64{}
		}
		p.Each[task][u.Line] = p.due(u, sheet)
		p.sum(u.Line)
	}
}

// due is what a task takes of a line, g.
func (p *Strip) due(u method.Use, sheet Sheet) float64 {
	l := sheet.Recipe.Line(u.Line)
	if l == nil {
		return 0
	}
	if w, ok := p.Weighs[u.Line]; ok {
		return w * u.Share
	}
	return l.Grams * u.Share * p.Times
}

// sum adds up what is in of a line.
func (p *Strip) sum(line recipe.LineID) {
	if line == 0 {
		return
	}
	p.In[line] = 0
	for _, task := range slices.Sorted(maps.Keys(p.Each)) {
		p.In[line] += p.Each[task][line]
	}
	for _, s := range p.Spoons {
		if s.Line == line {
			p.In[line] += s.Grams
		}
	}
	p.In[line] += p.twice(line)
}

// slip takes in what went wrong at the bowl: its amounts are what lies there from then on. Where no weight is said it is that of
// the line.
func (p *Strip) slip(e Event, sheet Sheet) {
	s := Slipped{e.ID, e.At, SlipKind(e.Text), e.Line, e.Food, e.Value}
	l := sheet.Recipe.Line(s.Line)
	if l != nil && s.Grams <= 0 && (s.Kind == Twice || s.Kind == Instead) {
		s.Grams = p.Times * l.Grams
	}
	p.Slips = append(p.Slips, s)
	if l == nil {
		return
	}
	if s.Kind == Forgot || s.Kind == Instead {
		for task := range p.Each {
			delete(p.Each[task], s.Line)
		}
		if p.Left == nil {
			p.Left = map[recipe.LineID]bool{}
		}
		p.Left[s.Line] = true
	}
	p.sum(s.Line)
}

// twice is what of a line is in once more than it should, g.
func (p *Strip) twice(line recipe.LineID) float64 {
	sum := 0.0
	for _, s := range p.Slips {
		if s.Kind == Twice && s.Line == line {
			sum += s.Grams
		}
	}
	return sum
}

// wait sets the timer of a task that is left to itself once its hands are done.
func (p *Strip) wait(e Event, sheet Sheet, timers map[string]*Timer) {
	t := sheet.Tasks[e.Task]
	minutes := t.Wait.Min
	switch t.Verb {
	case method.Bake, method.Test, method.Store, method.Mature, method.Freeze, method.Feed:
		return
	case method.Heat:
		p.Hot = time.Time{}
		minutes = float64(sheet.Preheat)
	case method.Line:
		p.Lined = e.At
	}
	if minutes <= 0 {
		return
	}
	key := TimerKey(e.Bake, e.Task)
	timers[key] = &Timer{Key: key, Bake: e.Bake, Name: timerName(t), From: e.At, Ends: e.At.Add(time.Duration(minutes * float64(time.Minute)))}
}

// Stays reports whether what is in the oven stays there after a task: another heat follows, with nothing before
// it but what is done in the oven.
func (s Sheet) Stays(task int) bool {
	for n := task + 1; n > 0 && n < len(s.Tasks); n++ {
		switch v := s.Tasks[n].Verb; {
		case v == method.Bake:
			return true
		case !v.Is(method.Inside):
			return false
		}
	}
	return false
}

// Again reports whether a bake goes into the oven for a second time at a task, as biscuits that are baked, cut
// and baked again: the foretold time is of the first.
func (s Sheet) Again(task int) bool {
	for n, t := range s.Tasks[:task] {
		if t.Verb == method.Bake && !s.Stays(n) {
			return true
		}
	}
	return false
}

// takenUp ends the timers of what a task takes: of what was made for it, of the oven that was heated.
func takenUp(e Event, sheet Sheet, timers map[string]*Timer) {
	for n, t := range sheet.Tasks[:e.Task] {
		taken := t.Makes != "" && slices.Contains(sheet.Tasks[e.Task].Takes, t.Makes) || e.What == WentIn && t.Verb == method.Heat
		if x := timers[TimerKey(e.Bake, n)]; taken && x != nil {
			x.Gone = true
		}
	}
}

// timerName is what a wait is called while it runs.
func timerName(t method.Task) string {
	if t.Makes != "" {
		return t.Makes
	}
	if t.Verb == method.Heat {
		return "oven heating"
	}
	u, _ := method.Usuals(t.Verb)
	return cmp.Or(u.Words, string(t.Verb))
}

// ring changes a timer.
func ring(e Event, timers map[string]*Timer) {
	minutes := time.Duration(e.Value * float64(time.Minute))
	t := timers[e.Key]
	switch {
	case e.What == TimerSet:
		timers[e.Key] = &Timer{Key: e.Key, Bake: e.Bake, Name: e.Text, From: e.At, Ends: e.At.Add(minutes)}
	case t == nil:
	case e.What == TimerMore:
		if t.Paused {
			t.Left += minutes
			return
		}
		if t.Ends.Before(e.At) { // it has rung: from now on
			t.Ends = e.At
		}
		t.Ends = t.Ends.Add(minutes)
	case e.What == TimerPause && !t.Paused:
		t.Paused, t.Left = true, t.Ends.Sub(e.At)
	case e.What == TimerGo && t.Paused:
		t.Paused, t.Ends = false, e.At.Add(t.Left)
	case e.What == TimerStop:
		t.Gone = true
	}
}
