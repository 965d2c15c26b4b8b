package method

import (
	"kollaris/core/text/en"
	"slices"
	"strings"

	"kollaris/core/larder"
	"kollaris/core/measure"
	"kollaris/core/phrase"
	"kollaris/core/recipe"
	"kollaris/core/step"
)

// late are the extra works that come after the mixing: rests, what stands beside a written
// task, how it cools.
func (rw *rewriting) late() {
	for n := range rw.Swaps {
		s := &rw.Swaps[n]
		rw.acidLast(s)
		for k := range s.Steps {
			if p := &s.Steps[k]; p.Place == step.AtLast && s.last {
				rw.foldLast(s, p)
			}
		}
	}
	for n := range rw.Swaps {
		s := &rw.Swaps[n]
		for k := range s.Steps {
			switch p := &s.Steps[k]; p.Place {
			case step.AtMix: // of the ways that take no ingredient of theirs: how to mix
				if !rw.made[p] && !(rw.worked && p.Op == step.Whisk) {
					rw.beside(sayStep(p, "", ""), Mix, Fold, Beat, Sift)
				}
			case step.BesideStep:
				rw.beside(sayStep(p, "", ""), map[step.Besides]Verb{step.BesideKnead: Knead}[p.Beside])
			case step.BeforeOven:
				rw.beforeBaking(p)
			case step.AtEnd:
				rw.end(p)
			}
		}
	}
}

// acidLast stirs the acid of a swap in when all else is mixed.
func (rw *rewriting) acidLast(s *Swap) {
	if len(s.acid) == 0 {
		return
	}
	u := usuals[Mix]
	t := Task{Verb: Mix, Step: -1, Changed: true, AtOnce: true, Where: u.Where, Hands: Time{u.Hands, u.Source}}
	for _, id := range s.acid {
		t.Uses = append(t.Uses, whole(id))
	}
	for n := range s.Steps {
		if p := &s.Steps[n]; p.Op == step.AcidLast {
			t.Text = phrase.Sentence(sayStep(p, rw.weightsOf(t.Uses), ""))
		}
	}
	rw.out = slices.Insert(rw.out, rw.place(Fill, Shape, Bake), t)
}

// soured binds the last work to the oven where soda meets a drink that was soured.
func (rw *rewriting) soured() {
	soda := slices.ContainsFunc(rw.Recipe.Batter(), func(l recipe.Line) bool { return l.Ingredient == "baking-soda" && l.Grams > 0 })
	sour := slices.ContainsFunc(rw.out, func(t Task) bool { return t.Verb == Sour })
	if !soda || !sour || rw.hurried || slices.ContainsFunc(rw.out, saysAtOnce) {
		return
	}
	rw.lastWork("Bake it at once: the soda begins to work as soon as the soured drink meets it")
	rw.bindBefore(rw.place(Bake), "")
}

// lidOn is what is done last before a basin or a pot is heated.
var lidOn = en.SignOf("lid-on")

// foldLast whips a foam and folds it in when all else is mixed.
func (rw *rewriting) foldLast(s *Swap, p *step.Step) {
	at := rw.place(Fill, Bake)
	for at > 0 && lidOn.In(rw.out[at-1].Text) { // a basin is covered when all is in it
		at--
	}
	t := rw.prep(s, p)
	if len(t.Uses) == 0 {
		return
	}
	grams := 0.0
	for _, use := range t.Uses {
		grams += rw.Recipe.Line(use.Line).Grams
	}
	f := usuals[Fold]
	fold := Task{
		Verb: Fold, Step: -1, Changed: true, Takes: []string{s.Title}, Where: f.Where, Hands: Time{f.Hands, f.Source}, AtOnce: true,
		Text: "Fold in the whipped " + strings.TrimPrefix(Short(s.Title), "whipped ") + " (" + measure.Grams(grams).String() + ") last, gently.",
	}
	rw.out = slices.Insert(rw.out, at, t, fold)
}

// beside lays a sentence to the last task of the first of some verbs that there is.
func (rw *rewriting) beside(text string, verbs ...Verb) {
	for _, v := range verbs {
		for n := len(rw.out) - 1; n >= 0; n-- {
			if t := &rw.out[n]; t.Verb == v && t.Part == "" {
				t.Text = phrase.Sentence(t.Text) + " " + phrase.Sentence(phrase.Capital(text))
				t.Changed = true
				return
			}
		}
	}
}

// lastWork lays a sentence to the last task by hand before the bake.
func (rw *rewriting) lastWork(text string) {
	for n := rw.place(Bake) - 1; n >= 0; n-- {
		if t := &rw.out[n]; t.Part == "" && (t.Verb == Fill || t.Verb.Is(Mixes)) {
			if !strings.Contains(t.Text, phrase.Sentence(text)) { // two flours ask for the same
				t.Text, t.Changed = phrase.Sentence(t.Text)+" "+phrase.Sentence(text), true
			}
			return
		}
	}
}

// restPlace is where the batter can rest: before what is put in last of all and does not wait.
func (rw *rewriting) restPlace() int {
	at := rw.place(Fill, Shape, Bake)
	for at > 0 && rw.out[at-1].Part == "" && rw.out[at-1].AtOnce && rw.out[at-1].Step < 0 {
		at--
	}
	return at
}

// whatWaits reports what of the tasks before an index forbids a rest: foam, or soda and acid
// that have met.
func (rw *rewriting) whatWaits(at int) string {
	foam := slices.ContainsFunc(rw.out[:at], func(t Task) bool { return t.Verb == Foam && t.Part == "" })
	soda, acid := 0.0, 0.0
	for _, l := range rw.Recipe.Batter() {
		if i := rw.Larder.Get(l.Ingredient); i != nil {
			soda += l.Grams / 100 * max(0, i.Facts[larder.Soda])
			if !slices.ContainsFunc(rw.out[at:], func(t Task) bool { return t.uses(l.ID) }) {
				acid += l.Grams / 100 * max(0, i.Facts[larder.Acid])
			}
		}
	}
	once := slices.ContainsFunc(rw.out[:at], func(t Task) bool { return t.AtOnce && t.Part == "" && t.Verb != Bloom })
	switch {
	case foam:
		return "the foam would fall"
	case soda > 0 && acid > gone*soda:
		return sodaWorks
	case once:
		return "what it was mixed with does not wait"
	}
	return ""
}

// gone is the share of the soda's gas that a rest may cost; milk alone has acid for less.
// Source: practice.
const gone = 0.25

const sodaWorks = "the soda has begun to work"

// beforeBaking puts in what is to be done before the oven. A rest is left out, and said
// why, where something in the batter does not wait.
func (rw *rewriting) beforeBaking(p *step.Step) {
	at := rw.restPlace()
	if p.Op == step.AtOnce {
		why := sayStep(p, "", "")
		if rw.hurried {
			why = "" // said for another
		}
		if n := rw.place(Bake); n < len(rw.out) {
			rw.bindBefore(n, why)
		}
		rw.hurried = true
		return
	}
	rests := p.Op == step.Rest || p.Op == step.Chill
	if rests {
		if why := rw.whatWaits(at); why != "" && !(p.Op == step.Chill && why == sodaWorks) { // the cold slows it
			rw.lastWork("No rest for it: " + why + ", so it goes in at once")
			if n := rw.place(Bake); n < len(rw.out) {
				rw.bindBefore(n, "")
			}
			return
		}
	}
	t := begun(p)
	if rests && rw.rested(t) {
		return
	}
	if p.Op == step.Tent {
		if slices.ContainsFunc(rw.out, func(t Task) bool { return t.Verb == Tent && t.Step < 0 }) {
			return // said for another
		}
		at = rw.place(Bake) + 1
	}
	if p.Op == step.FillTin {
		if n := slices.IndexFunc(rw.out, func(t Task) bool { return t.Verb == Fill && t.Part == "" }); n >= 0 {
			if !rw.out[n].Changed {
				rw.out[n].Text, rw.out[n].Changed = t.Text, true
			}
			return
		}
		at = rw.place(Prove, Bake)
	}
	rw.out = slices.Insert(rw.out, min(at, len(rw.out)), t)
}

// rested reports whether the mixed dough is chilled or rested anyway, if need be for as long
// as a work asks.
func (rw *rewriting) rested(asked Task) bool {
	mixed := -1
	bake := rw.place(Bake)
	for n, t := range rw.out[:bake] {
		if t.Part == "" && t.Verb.Is(Mixes) && len(t.Uses) > 0 {
			mixed = n
		}
	}
	for n := mixed + 1; n < bake; n++ {
		t := &rw.out[n]
		if t.Part != "" || t.Verb != Chill && t.Verb != Rest {
			continue
		}
		if t.Wait.Max < asked.Wait.Min {
			if t.Verb != asked.Verb {
				continue
			}
			t.Text, t.Changed, t.Wait = asked.Text, true, asked.Wait
		}
		return true
	}
	return false
}

// saysAtOnce reports whether a task says already that it is done without delay.
func saysAtOnce(t Task) bool { return strings.Contains(t.Text, "at once") }

// bindBefore binds the task before an index to what follows, with a sentence.
func (rw *rewriting) bindBefore(n int, text string) {
	for k := n - 1; k >= 0; k-- {
		if t := &rw.out[k]; t.Part == "" && t.Verb != Heat && t.Verb != Line {
			t.AtOnce = true
			if text != "" && !saysAtOnce(*t) {
				t.Text, t.Changed = phrase.Sentence(t.Text)+" "+phrase.Sentence(text), true
			}
			return
		}
	}
}

// end says how it cools: instead of what is written of that.
func (rw *rewriting) end(p *step.Step) {
	text, verb := phrase.Sentence(sayStep(p, "", "")), opVerbs[p.Op]
	if p.Until != "" {
		for n := range rw.out {
			if t := &rw.out[n]; t.Verb == Bake && t.Part == "" {
				t.Until = p.Until
			}
		}
	}
	first := -1
	for n := 0; n < len(rw.out); n++ {
		t := rw.out[n]
		if t.Part != "" || t.Verb != Cool && t.Verb != CoolTin {
			continue
		}
		if first >= 0 && verb == CoolTin { // it stays where it is till then
			rw.out = slices.Delete(rw.out, n, n+1)
			n--
			continue
		}
		first = n
	}
	if first < 0 {
		first = rw.place(Slice, Ice)
		rw.out = slices.Insert(rw.out, first, Task{Verb: verb, Step: -1})
	}
	t := &rw.out[first]
	switch {
	case verb == CoolTin || t.Inferred || t.Text == "":
		t.Text = text
	case strings.Contains(t.Text, strings.TrimSuffix(text, ".")):
	default:
		t.Text = phrase.Sentence(t.Text) + " " + text
	}
	u := usuals[verb]
	t.Verb, t.Changed, t.Inferred, t.Where = verb, true, false, u.Where
	if t.Wait.Source != Written || verb == CoolTin {
		t.Wait = Time{recipe.Minutes{Min: 60, Max: 120}, "practice"}
	}
}

// place is the index of the first task of some verbs of the batter, the end where there is
// none.
func (rw *rewriting) place(verbs ...Verb) int {
	for _, v := range verbs {
		if n := slices.IndexFunc(rw.out, func(t Task) bool { return t.Verb == v && t.Part == "" }); n >= 0 {
			return n
		}
	}
	return len(rw.out)
}

// complete sees that every line of the recipe is used, in all: what came in by itself or
// lost its task goes where its like goes.
func (rw *rewriting) complete() {
	sum := map[recipe.LineID]float64{}
	for _, t := range rw.out {
		for _, u := range t.Uses {
			sum[u.Line] += u.Share
		}
	}
	rd := &reading{r: rw.Recipe, l: rw.Larder, names: rw.now, tasks: rw.out, mentions: make([][]mention, len(rw.out))}
	for _, l := range rw.Recipe.Lines {
		share := 1 - sum[l.ID]
		if share <= 1e-6 {
			continue
		}
		n := rd.home(l)
		if rw.extra(l) {
			n = rw.cold(rd, l)
		}
		t := &rd.tasks[n]
		if k := slices.IndexFunc(t.Uses, func(u Use) bool { return u.Line == l.ID }); k >= 0 {
			t.Uses[k].Share += share
		} else {
			t.Uses = append(t.Uses, Use{l.ID, share})
		}
		if l.Grams <= 0 && t.Verb == Line {
			continue // a little for the tin
		}
		add := "Add the " + rw.named(l.ID, share) + " too"
		switch {
		case t.Verb == Top || t.Verb == Brush:
			add = phrase.Capital(string(t.Verb)) + " with " + rw.named(l.ID, share)
			if t.Verb == Top {
				add = "Scatter " + rw.named(l.ID, share) + " over it"
			}
		case rw.extra(l):
			add = "Add " + rw.named(l.ID, share) + " as well"
		}
		if t.Inferred && t.Text == late {
			t.Text = phrase.Sentence("Beat in "+rw.named(l.ID, share)+" now") + " " + late
		} else if t.Inferred {
			t.Text = phrase.Sentence(add)
		} else {
			t.Text = phrase.Sentence(t.Text) + " " + phrase.Sentence(add)
		}
		t.Changed = true
	}
	rw.out = rd.tasks
	rw.notes()
}

// extra tells a line that no written one stands behind.
func (rw *rewriting) extra(l recipe.Line) bool { return rw.was.Line(l.ID) == nil && l.Replaces == 0 }

// notes are the extra works at the start that name no line of theirs: they are said where
// the line goes in.
func (rw *rewriting) notes() {
	for n := range rw.Swaps {
		s := &rw.Swaps[n]
		for n := range s.Steps {
			p := &s.Steps[n]
			if p.Place != step.AtStart || rw.made[p] {
				continue
			}
			for k := range rw.out {
				t := &rw.out[k]
				if !slices.ContainsFunc(s.To, t.uses) {
					continue
				}
				t.Text, t.Changed = phrase.Sentence(sayStep(p, "", ""))+" "+t.Text, true
				t.Unlisted = append(t.Unlisted, p.Unlisted...)
				break
			}
		}
	}
}

// bound sees that what must not wait is followed by the oven: the oven is hot and the tin
// lined before it.
func (rw *rewriting) bound() {
	first := slices.IndexFunc(rw.out, func(t Task) bool { return t.AtOnce && t.Part == "" && t.Verb != Bloom })
	if first < 0 {
		return
	}
	for n := first + 1; n < len(rw.out); n++ {
		if t := rw.out[n]; t.Verb == Heat || t.Verb == Line {
			rw.out = slices.Delete(rw.out, n, n+1)
			rw.out = slices.Insert(rw.out, first, t)
			first++
		}
	}
	if first = slices.IndexFunc(rw.out, func(t Task) bool { return t.AtOnce && t.Part == "" && t.Step < 0 && t.Verb != Bloom }); first < 0 {
		return
	}
	for n := first + 1; n < rw.place(Bake); n++ { // a rest of the writer's, who had nothing that would not wait
		if t := rw.out[n]; t.Verb == Rest && t.Part == "" && len(t.Uses) == 0 && (t.Wait != Time{} || !lidOn.In(t.Text)) {
			rw.out = slices.Delete(rw.out, n, n+1)
			n--
			rw.out[n].Text, rw.out[n].Changed = phrase.Sentence(rw.out[n].Text)+" Do not let it stand.", true
		}
	}
}
