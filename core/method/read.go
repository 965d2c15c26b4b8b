package method

import (
	"kollaris/core/device"
	"math"
	"slices"
	"strings"

	"kollaris/core/larder"
	"kollaris/core/measure"
	"kollaris/core/pattern"
	"kollaris/core/phrase"
	"kollaris/core/reader"
	"kollaris/core/recipe"
	"kollaris/core/text/en"
)

// reading is a method while it is read.
type reading struct {
	r        *recipe.Recipe
	l        *larder.Larder
	names    names
	tasks    []Task
	mentions [][]mention // of each task
	part     string
	takes    map[int][]recipe.LineID // of tasks for which the baker says it
}

// Read reads a recipe's steps as tasks. Every line is used by some task: what no step
// names is put where the trade puts it, in a task that is marked inferred where the writer
// has none that fits.
func Read(r *recipe.Recipe, l *larder.Larder) []Task { return paced(read(r, l).tasks, r) }

// read reads a method.
func read(r *recipe.Recipe, l *larder.Larder) *reading {
	rd := &reading{r: r, l: l, names: namesOf(r, l)}
	for n, st := range r.Steps {
		rd.step(n, st)
	}
	rd.told()
	rd.early()
	rd.share()
	in := device.Of(r)
	if in.Other() {
		rd.inDevice(in)
	}
	rd.place()
	rd.usual(in)
	rd.products()
	return rd
}

var (
	untilSign = pattern.Must(`(?i)\b(?:until|till)\s+([^,.;()]+)`)
	bind      = en.SignOf("at-once")
	warmPlace = en.SignOf("warm-place")
	inFridge  = en.SignOf("in-fridge")
	inFreezer = en.SignOf("in-freezer")
	onHob     = en.SignOf("on-hob")
	inMicro   = en.SignOf("in-microwave")
)

// step parts a written step into tasks.
func (rd *reading) step(n int, st recipe.Step) {
	for _, s := range en.Sentences(st.Text) {
		for _, c := range en.Clauses(st.Text, s) {
			text := strings.TrimRight(st.Text[c.From:c.To], " .;,")
			if strings.TrimSpace(text) == "" {
				continue
			}
			verb, does := verbOf(text, c.From == s.From)
			switch {
			case does:
			case en.IsBareTin(text):
				verb, does = Fill, true
			case rd.onlyFoods(text): // "Chips."
				verb, does = Mix, true
			}
			if !does && len(rd.tasks) > 0 && rd.tasks[len(rd.tasks)-1].Step == n {
				t := &rd.tasks[len(rd.tasks)-1]
				t.AtOnce = t.AtOnce || bind.In(text)
				rd.more(len(rd.tasks)-1, st, c) // a remark belongs to what it is about
				continue
			}
			if k := len(rd.tasks) - 1; !does && k >= 0 && c.From == 0 && rd.tasks[k].Step == n-1 && rd.followsUp(text) {
				rd.more(k, st, c)
				rd.tasks[k].Step = n
				continue
			}
			if k := len(rd.tasks) - 1; k >= 0 && does && rd.tasks[k].Step == n && rd.joins(k, verb, text, c.From > s.From) {
				rd.more(k, st, c)
				continue
			}
			t := Task{
				Verb: verb, Text: phrase.Sentence(phrase.Capital(text)), Written: st.Text[c.From:c.To], Step: n,
				Span: recipe.Span{From: st.Span.From + c.From, To: st.Span.From + c.To},
			}
			ms := rd.names.all(text)
			rd.part = rd.partOf(text, verb, ms)
			t.Part = rd.part
			rd.details(&t, text)
			rd.tasks = append(rd.tasks, t)
			rd.mentions = append(rd.mentions, rd.names.within(ms, t.Part))
		}
	}
}

// onlyFoods reports whether a clause names lines and says nothing else: that they go in.
func (rd *reading) onlyFoods(text string) bool {
	ms := rd.names.all(text)
	return len(ms) > 0 && ms[0].from == 0 && ms[len(ms)-1].to == len(text) && !slices.ContainsFunc(ms, func(m mention) bool { return m.set != "" })
}

// more lays another clause to a task, of the same step or the next.
func (rd *reading) more(k int, st recipe.Step, c en.Span) {
	t := &rd.tasks[k]
	clause := strings.TrimRight(st.Text[c.From:c.To], " .;,")
	at := len(t.Written) + 1 // where the clause begins in what the task says
	if from := t.Span.From - st.Span.From; from >= 0 && from <= c.From {
		at, t.Written = c.From-from, st.Text[from:c.To]
	} else {
		t.Written += " " + st.Text[c.From:c.To]
	}
	t.Span.To = st.Span.From + c.To
	t.Text = phrase.Sentence(phrase.Capital(strings.TrimRight(t.Written, " .;,")))
	for _, m := range rd.names.mentions(clause, t.Part) {
		m.from, m.state, m.name, m.to = m.from+at, m.state+at, m.name+at, m.to+at
		rd.mentions[k] = append(rd.mentions[k], m)
	}
}

// mostFollowing is how many words a remark in a paragraph of its own has at most to be about what was done last. Source: practice.
const mostFollowing = 16

// followsUp reports whether a remark that begins a step is about what the step before does: "The batter will be thin."
func (rd *reading) followsUp(text string) bool {
	_, yield := en.Best(en.Yields(text, en.InFacts))
	return !yield && len(strings.Fields(text)) <= mostFollowing && !strings.Contains(text, ":")
}

// joins reports whether a clause is one thing with the task before it: another word for the
// tin, a wait that belongs to what was stirred, stirring once more, the oven after "into it".
func (rd *reading) joins(k int, verb Verb, text string, sameSentence bool) bool {
	t := &rd.tasks[k]
	switch {
	case verb == t.Verb && (verb == Line || verb == Heat && sameSentence):
		return true
	case verb == Bake && t.Verb == Bake && t.Wait.Source != Written && t.Oven == 0:
		rd.details(t, text)
		return true
	case (verb == Simmer && heatsUp.In(text) || verb == Heat && sameSentence) && t.Verb == Bake && t.Wait.Max == 0: // an empty pan in the oven, to get hot
		t.Verb = Heat
		rd.details(t, text)
		return true
	case verb == Mix && t.Verb.Is(Mixes) && asWell.In(text),
		verb == Knead && t.Verb == Knead && len(rd.names.all(text)) == 0,
		verb == Cool && (t.Verb == Cool || t.Verb == CoolTin) && beforeCut.In(text):
		return true
	case !sameSentence:
		return false
	case verb == Rest && t.Verb == Mix && froths.In(text):
		t.Verb = Bloom
		rd.details(t, text)
		return true
	case verb == Gel && (t.Verb == Mix || t.Verb == Beat), verb == Rest && (t.Verb == Bloom || t.Verb == Gel || t.Verb == Soak || t.Verb == Sour):
		if verb == Gel {
			t.Verb = Gel
			t.Hands = Time{usuals[Gel].Hands, usuals[Gel].Source}
		}
		if ds := reader.Durations(text); len(ds) > 0 {
			t.Wait = Time{ds[0].Minutes, Written}
		}
		if m := untilSign.FindStringSubmatch(text); m != nil {
			t.Until = strings.TrimSpace(m[1])
		}
		return true
	case (verb == Mix || verb == Fold || verb == Beat) && t.Verb.Is(Mixes) && t.Verb != Knead && t.Verb != Simmer:
		timed := verb == Beat && (len(reader.Durations(text)) > 0 || untilSign.MatchString(text))
		return !timed && len(rd.names.all(text)) == 0
	}
	return false
}

var (
	asWell    = en.SignOf("as-well")
	beforeCut = en.SignOf("before-cut")
)

var heatsUp = en.SignOf("heats-up")

var froths = en.SignOf("froths") // of yeast that wakes

// cools tells that something gets cold, wherever it is put.
var cools = en.SignOf("cools")

// early makes a rest of what cools before it is baked: melted butter, a custard.
func (rd *reading) early() {
	bake := rd.before(Bake)
	if bake == len(rd.tasks) {
		return
	}
	for n := range rd.tasks[:bake] {
		t := &rd.tasks[n]
		if t.Verb == Slice { // before it is baked: a log into biscuits
			t.Verb = Shape
			t.Hands = Time{usuals[Shape].Hands, usuals[Shape].Source}
		}
		if (t.Verb == Cool || t.Verb == CoolTin) && t.Wait.Source != Written && !cools.In(t.Written) { // "turn out and knead": nothing waits
			t.Verb = Work
			t.Hands, t.Wait = Time{usuals[Work].Hands, usuals[Work].Source}, Time{}
			continue
		}
		if t.Verb == Cool || t.Verb == CoolTin {
			t.Verb = Rest
			if t.Wait.Source != Written {
				t.Wait = Time{usuals[Rest].Wait, usuals[Rest].Source}
			}
		}
	}
}

// mostHands is how long anybody works at one thing, minutes; what takes longer waits. Source: practice.
const mostHands = 90

// details reads the times, the heat, the place and the sign of a clause.
func (rd *reading) details(t *Task, text string) {
	u := usuals[t.Verb]
	t.Where = u.Where
	t.Hands = Time{u.Hands, u.Source}
	t.Wait = Time{u.Wait, u.Source}
	if m := untilSign.FindStringSubmatch(text); m != nil {
		t.Until = strings.TrimSpace(m[1])
	}
	if ds := lasting(text); len(ds) > 0 {
		m := ds[0].Minutes
		for _, d := range ds[1:] {
			m.Min, m.Max = math.Min(m.Min, d.Min), math.Max(m.Max, d.Max)
		}
		switch {
		case t.Verb == Bake && len(ds) > 1:
			m = ds[0].Minutes
			t.Wait = Time{m, Written}
		case m.Max > mostHands && t.Verb.Is(Afterwards) && u.Wait.Max == 0: // "keeps 4 to 5 days" says how long it is good
		case u.Wait.Max == 0 && t.Verb != Bake && t.Verb != BakeBlind && m.Max <= mostHands: // by hand
			t.Hands = Time{m, Written}
		default:
			t.Wait = Time{m, Written}
		}
	}
	if c, _, _, ok := measure.FindOven(text); ok && (t.Where == InOven || t.Verb == Heat) {
		t.Oven = c
	}
	switch {
	case warmPlace.In(text):
		t.Where = Warm
	case inMicro.In(text):
		t.Where = Microwave
	case inFreezer.In(text) && t.Where != InOven:
		t.Where = Freezer
	case inFridge.In(text) && t.Where != InOven:
		t.Where = Fridge
	case onHob.In(text) && t.Where == Counter:
		t.Where = Hob
	}
	if t.Verb == Drain && !salted.In(text) {
		t.Wait = Time{} // what is boiled drains as it is poured
	}
	if t.Verb == Rest && onlyCover.MatchString(text) {
		t.Wait = Time{}
	}
	t.AtOnce = bind.In(text) || u.Bound
}

// within is what a time follows that is no length of the whole: "every 30 minutes", "for the first 2 hours".
var within = en.SignOf("no-length")

// orLonger is what another, longer way follows: "20 minutes, or overnight in the fridge".
var orLonger = en.SignOf("or-longer")

// lasting are the times in a clause that say how long it takes.
func lasting(text string) []reader.Duration {
	all := reader.Durations(text)
	out := slices.DeleteFunc(slices.Clone(all), func(d reader.Duration) bool {
		return within.In(text[:d.From]) || d.From > all[0].From && orLonger.In(text[:d.From])
	})
	if len(out) == 0 {
		return all
	}
	return out
}

// salted is draining that takes its time.
var salted = en.SignOf("drains-slowly")

// onlyCover is covering and nothing more.
var onlyCover = pattern.Must(`(?i)^cover(?:ed)?(?: (?:it|them|the (?:bowl|dough|tin|pan)|loosely|tightly|with [\pL -]{3,30}))*[.,; ]*$`)

// partOf is the section that a clause works on: one that it names, or the one whose lines
// alone it speaks of, else the one before.
func (rd *reading) partOf(text string, verb Verb, ms []mention) string {
	low := strings.ToLower(text)
	for _, l := range rd.r.Lines {
		if s := strings.ToLower(l.Section); s != "" && l.Role.Aside() {
			for _, w := range []string{s, "the " + s} {
				if at := strings.Index(low, w); at >= 0 && !strings.HasPrefix(low[at+len(w):], " sugar") {
					return l.Section
				}
			}
		}
	}
	switch verb {
	case Heat, Line, Bake, BakeBlind, Test, CoolTin, Knead, Prove, Shape, KnockBack:
		return ""
	}
	sections := map[string]int{}
	for _, m := range ms {
		of := map[string]bool{}
		for _, id := range m.lines {
			if l := rd.r.Line(id); l != nil {
				s := ""
				if l.Topping() {
					s = l.Section
				}
				of[s] = true
			}
		}
		if len(of) == 1 { // a name that stands in two parts tells nothing
			for s := range of {
				sections[s]++
			}
		}
	}
	best, most := rd.part, 0
	for _, s := range []string{rd.part, ""} {
		if sections[s] > most {
			best, most = s, sections[s]
		}
	}
	for s, n := range sections {
		if n > most {
			best, most = s, n
		}
	}
	return best
}

// find is the first task of these verbs in a part, -1 for none.
func (rd *reading) find(part string, verbs ...Verb) int {
	return slices.IndexFunc(rd.tasks, func(t Task) bool { return t.Part == part && slices.Contains(verbs, t.Verb) })
}

// insert puts a task before the one at an index.
func (rd *reading) insert(at int, t Task) {
	rd.tasks = slices.Insert(rd.tasks, at, t)
	rd.mentions = slices.Insert(rd.mentions, at, nil)
}
