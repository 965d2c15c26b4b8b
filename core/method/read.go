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

// share settles how much of each line the tasks take: first what they name, then the sets.
func (rd *reading) share() {
	left := map[recipe.LineID]float64{}
	named := map[recipe.LineID]bool{}
	for _, l := range rd.r.Lines {
		left[l.ID] = 1
	}
	rd.narrowAll()
	for n := range rd.tasks {
		for _, m := range rd.mentions[n] {
			for _, id := range m.lines {
				named[id] = true
			}
		}
	}
	take := func(t *Task, id recipe.LineID, share float64) {
		share = math.Min(share, left[id])
		if share <= 1e-9 {
			return
		}
		left[id] -= share
		for n := range t.Uses {
			if t.Uses[n].Line == id {
				t.Uses[n].Share += share
				return
			}
		}
		t.Uses = append(t.Uses, Use{id, share})
	}
	for n := range rd.tasks { // what the baker says goes first
		for _, id := range rd.takes[n] {
			take(&rd.tasks[n], id, 1)
		}
	}
	for n := range rd.tasks {
		t := &rd.tasks[n]
		if _, said := rd.takes[n]; said {
			continue
		}
		except := rd.excepted(t, rd.mentions[n])
		if otherHalf.MatchString(t.Written) && (t.Verb.Is(Mixes) || t.Verb == Top || t.Verb == Brush) {
			parts := slices.ContainsFunc(rd.r.Lines, func(l recipe.Line) bool { return left[l.ID] > 1e-9 && left[l.ID] < 1-1e-9 })
			for _, l := range rd.r.Lines {
				if parts && left[l.ID] < 1-1e-9 || !parts && !named[l.ID] && rd.inSet("all", l, t, named) {
					take(t, l.ID, left[l.ID])
				}
			}
		}
		for _, m := range rd.mentions[n] {
			if m.set != "" {
				for _, l := range rd.r.Lines {
					if rd.inSet(m.set, l, t, named) && !except[l.ID] && !(m.set == "all" && rd.comesLater(n, l.ID)) {
						take(t, l.ID, left[l.ID])
					}
				}
				continue
			}
			if rd.spent(m, left) {
				m.lines = rd.unclaimed(m, left)
			}
			for _, id := range rd.fitting(m, t, left) {
				if except[id] {
					continue
				}
				share := left[id]
				switch l := rd.r.Line(id); {
				case t.Verb == Line || t.Verb == Heat || t.Verb == Test:
					share = 0
					if l.Grams == 0 {
						share = left[id]
					}
				case m.share == aPinch && l.Grams <= wholePinch: // "a drop of milk" is all there is
				case m.share > 0:
					share = m.share
				case m.part:
					share = eggPart(t.Written, m)
				case m.grams > 0 && l.Grams > 0 && m.grams < 0.95*l.Grams:
					share = m.grams / l.Grams
				}
				take(t, id, share)
			}
		}
	}
	rd.rest(left)
	rd.byPart(left)
}

// comesLater reports whether a later task of the same part adds a line by its name, so that "everything" leaves it out.
func (rd *reading) comesLater(n int, id recipe.LineID) bool {
	for k := n + 1; k < len(rd.tasks); k++ {
		if t := rd.tasks[k]; t.Part == rd.tasks[n].Part && (t.Verb.Is(Mixes) || t.Verb == Work) && addsLater.In(t.Written) &&
			slices.ContainsFunc(rd.mentions[k], func(m mention) bool { return m.set == "" && m.share == 0 && !m.rest && slices.Contains(m.lines, id) }) {
			return true
		}
	}
	return false
}

// addsLater begins what puts in something new.
var addsLater = en.SignOf("adds-later")

// wholePinch is up to what weight a line is itself a pinch, g.
const wholePinch = 3

// otherHalf says what is left of what was taken in part, without naming it again.
var otherHalf = pattern.Must(`(?i)\bthe (?:other half|rest|remainder)\b(?:$|[.,;]| (?:in|over|on|and|until|to)\b)`)

// eggPart is what of a whole egg's weight a mention of its yolk or white takes. Source: a
// large egg of 50 g has a yolk of 17 g.
func eggPart(text string, m mention) float64 {
	if strings.Contains(strings.ToLower(text[m.name:min(m.to, len(text))]), "yolk") {
		return 0.34
	}
	return 0.66
}

// mostDust is up to what weight a flour may be meant for dusting, g. Source: practice.
const mostDust = 60

// fitting are the lines that a mention can mean here: of several of one name those that are
// left, and of those one that is for the tin alone only where the tin is spoken of.
func (rd *reading) fitting(m mention, t *Task, left map[recipe.LineID]float64) []recipe.LineID {
	var out []recipe.LineID
	for _, id := range m.lines {
		l := rd.r.Line(id)
		if l == nil || left[id] <= 1e-9 {
			continue
		}
		if bath := rd.bathOf(m); bath && (t.Verb == Simmer) != (l.Role == recipe.Bath) {
			continue // "boil in the malt water" is not the dough's
		}
		over := t.Verb == Top || t.Verb == Brush || t.Verb == Ice
		if t.Verb == Top && !l.Topping() && l.Grams > mostDust {
			if i := rd.l.Get(l.Ingredient); i != nil && i.IsBase() {
				continue // "dust with flour" is not all of it
			}
		}
		if len(m.lines) > 1 && !over && (l.Grams == 0 && l.Known && t.Verb != Line || onTop(strings.ToLower(l.Note+" "+l.Text))) {
			continue
		}
		out = append(out, id)
	}
	return rd.inTurn(m, t, out)
}

// bathOf reports whether a mention names what is in a bath, among others.
func (rd *reading) bathOf(m mention) bool {
	return slices.ContainsFunc(m.lines, func(id recipe.LineID) bool {
		l := rd.r.Line(id)
		return l != nil && l.Role == recipe.Bath
	})
}

// inTurn takes of several lines of one name, in sections that are made one after the other, those of the
// first: where the name is said as often as there are sections, "mix the yeast and flour" is the
// sponge's and "add the flour" the dough's.
func (rd *reading) inTurn(m mention, t *Task, ids []recipe.LineID) []recipe.LineID {
	section := func(id recipe.LineID) string { return strings.ToLower(rd.r.Line(id).Section) }
	sections := map[string]bool{}
	for _, id := range m.lines {
		if l := rd.r.Line(id); l != nil && !l.Topping() {
			sections[section(id)] = true
		}
	}
	if len(sections) < 2 || len(ids) < 2 {
		return ids
	}
	start := strings.ToLower(t.Written)
	for s := range sections { // "Tangzhong: whisk flour and milk"
		if s != "" && (strings.HasPrefix(start, s+":") || strings.HasPrefix(start, "for the "+s) || strings.HasPrefix(start, "make the "+s)) {
			return slices.DeleteFunc(slices.Clone(ids), func(id recipe.LineID) bool { return section(id) != s })
		}
	}
	if own := rd.sectionOf(t, m); own != "" && sections[own] {
		return slices.DeleteFunc(slices.Clone(ids), func(id recipe.LineID) bool { return section(id) != own })
	}
	said := 0
	for _, ms := range rd.mentions {
		if slices.ContainsFunc(ms, func(o mention) bool { return o.set == "" && slices.Equal(o.lines, m.lines) }) {
			said++
		}
	}
	if said < len(sections) {
		return ids
	}
	return slices.DeleteFunc(slices.Clone(ids), func(id recipe.LineID) bool { return section(id) != section(ids[0]) })
}

// sectionOf is the section that a task works on by what else it names: the one of all foods that stand in one section alone; "" where
// they are of several, or none.
func (rd *reading) sectionOf(t *Task, but mention) string {
	own := ""
	for n := range rd.tasks {
		if &rd.tasks[n] != t {
			continue
		}
		for _, m := range rd.mentions[n] {
			if m.set != "" || m.from == but.from {
				continue
			}
			for _, id := range m.lines {
				s := strings.ToLower(rd.r.Line(id).Section)
				if s == "" || own != "" && s != own {
					return ""
				}
				own = s
			}
		}
	}
	return own
}

// rest gives what is left of a line that was taken in parts to the last task that takes it.
func (rd *reading) rest(left map[recipe.LineID]float64) {
	for id, share := range left {
		if share <= 1e-9 || share >= 1-1e-9 {
			continue
		}
		for n := len(rd.tasks) - 1; n >= 0; n-- {
			done := false
			for k := range rd.tasks[n].Uses {
				if u := &rd.tasks[n].Uses[k]; u.Line == id {
					u.Share += share
					left[id], done = 0, true
				}
			}
			if done {
				break
			}
		}
	}
}

// excepted are the lines that a set leaves out: "everything but the seeds", "all of the dough with the paste, except butter".
func (rd *reading) excepted(t *Task, ms []mention) map[recipe.LineID]bool {
	out := map[recipe.LineID]bool{}
	set, going, last := false, false, 0
	text := strings.TrimRight(t.Written, " .;,")
	for _, m := range ms {
		if m.set != "" {
			set, going = true, false
			continue
		}
		if !set || m.from > len(text) {
			continue
		}
		if going = butFor.In(text[:m.from]) || going && andOnly(text[last:m.from]); going {
			for _, id := range m.lines {
				out[id] = true
			}
		}
		last = min(m.to, len(text))
	}
	return out
}

// butFor stands before what is left out.
var butFor = en.SignOf("but")

// andOnly reports whether nothing but "and" or a comma stands between two names.
func andOnly(between string) bool {
	switch strings.TrimSpace(between) {
	case "and", "&", ",", "or", "and the":
		return true
	}
	return false
}

// inSet reports whether a line belongs to "the dry ingredients", "the wet ones" or all, of
// this part; what some task names is not meant by dry or wet.
func (rd *reading) inSet(set string, l recipe.Line, t *Task, named map[recipe.LineID]bool) bool {
	section := ""
	if l.Topping() {
		section = l.Section
	}
	if l.Section != "" && set == "all" && !l.Topping() { // "the poolish ingredients"
		for _, other := range rd.r.Lines {
			if s := strings.ToLower(other.Section); s != "" && s != strings.ToLower(l.Section) && strings.Contains(strings.ToLower(t.Written), s+" ingredients") {
				return false
			}
		}
	}
	if section != t.Part || l.Use != recipe.In && !l.Role.Aside() {
		return false
	}
	if name, ok := strings.CutPrefix(set, partSet); ok {
		return l.Section == name && !named[l.ID]
	}
	if name, ok := strings.CutPrefix(set, wholeSet); ok {
		return l.Section == name && l.Use == recipe.In
	}
	i := rd.l.Get(l.Ingredient)
	switch {
	case i == nil:
		return set == "all"
	case l.Grams == 0 && l.Note != "": // for the tin
		return false
	case set == "all":
		return true
	case named[l.ID]:
		return false
	case set == "dry":
		return isDry(i)
	}
	return !isDry(i) && (i.Shelf.Texture != "fruit" || i.Family == larder.FamilyPuree || mashed.In(l.Text))
}

// mashed is fruit that wets.
var mashed = en.SignOf("mashed")

// isDry tells what a baker calls dry: it pours and does not wet.
func isDry(i *larder.Ingredient) bool {
	return i.Facts[larder.Water] < 20 && i.Shelf.Texture != "fat" && i.Facts[larder.Fat] < 75 &&
		!(i.Family == larder.FamilySugar && i.Facts[larder.Water] > 12) && i.Family != larder.FamilyExtract
}

// piecesOf is the share of a line that so many of its pieces are: "2 of the eggs" of three.
func (n *names) piecesOf(number string, ids []recipe.LineID) float64 {
	x := map[string]float64{"one": 1, "two": 2, "three": 3, "four": 4, "five": 5, "six": 6}[number]
	if x == 0 {
		x, _ = measure.ParseDecimal(number)
	}
	if l := n.r.Line(ids[0]); l != nil && l.Unit == "" && l.Amount.Mid() > x {
		return x / l.Amount.Mid()
	}
	return 0
}

// gramsOf is a written amount in grams, by what the line's ingredient weighs; 0 where that
// is not known.
func (n *names) gramsOf(number, unit string, ids []recipe.LineID) float64 {
	q, _, err := measure.ScanQuantity(number)
	if err != nil || len(ids) == 0 {
		return 0
	}
	x := q.Mid()
	id := map[string]string{"tablespoon": "tbsp", "tablespoons": "tbsp", "teaspoon": "tsp", "teaspoons": "tsp", "cups": "cup"}[unit]
	if id == "" {
		id = unit
	}
	if id == "g" {
		return x
	}
	u, ok := measure.UnitByID(id)
	l := n.r.Line(ids[0])
	if !ok || l == nil {
		return 0
	}
	i := n.l.Get(l.Ingredient)
	if i == nil {
		return 0
	}
	k := measure.DefaultKitchen()
	per, _, ok := i.MLGrams(k)
	if !ok {
		return 0
	}
	return x * float64(k.ML(u)) * per
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
