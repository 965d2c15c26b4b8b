package method

import (
	"slices"
	"strings"

	"kollaris/core/larder"
	"kollaris/core/measure"
	"kollaris/core/pattern"
	"kollaris/core/phrase"
	"kollaris/core/recipe"
)

// late are the extra works that come after the mixing: rests, what stands beside a written
// task, how it cools.
func (rw *rewriting) late() {
	for n := range rw.Swaps {
		s := &rw.Swaps[n]
		rw.acidLast(s)
		for _, p := range s.Prep {
			if p.At == "mix" && s.last {
				rw.foldLast(s, p)
			}
		}
	}
	for n := range rw.Swaps {
		s := &rw.Swaps[n]
		for _, p := range s.Prep {
			verb, _ := verbOf(strings.TrimRight(p.Text, " ."))
			switch p.At {
			case "mix": // of the ways that name no ingredient of theirs: how to mix
				switch {
				case s.last, len(s.acid) > 0, rw.worked && verb == Beat: // it is said
				case !rw.made[p.Text]:
					rw.beside(p.Text, Mix, Fold, Beat, Sift)
				}
			case "beside":
				of := map[string]Verb{"knead": Knead, "rise": Prove, "cream": Cream}[p.Beside]
				if !rw.said_(of) {
					rw.beside(p.Text, of)
				}
			case "before-baking":
				rw.beforeBaking(p, verb)
			case "end":
				rw.end(p, verb)
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
	t.Text = phrase.Sentence("Stir in the " + rw.parts(t.Uses) + " last of all, quickly")
	rw.out = slices.Insert(rw.out, rw.place(Fill, Shape, Bake), t)
}

// soured binds the last work to the oven where soda meets a drink that was soured.
func (rw *rewriting) soured() {
	soda := slices.ContainsFunc(rw.Recipe.Batter(), func(l recipe.Line) bool { return l.Ingredient == "baking-soda" && l.Grams > 0 })
	sour := slices.ContainsFunc(rw.out, func(t Task) bool { return t.Verb == Sour })
	if !soda || !sour || slices.ContainsFunc(rw.out, func(t Task) bool { return strings.Contains(t.Text, "at once") }) {
		return
	}
	rw.lastWork("Into the oven at once: the soda begins to work as soon as the soured drink meets it")
	rw.bindBefore(rw.place(Bake), "")
}

// lidOn is what is done last before a basin or a pot is heated.
var lidOn = pattern.Must(`(?i)^(?:cover|tie|put (?:on )?the lid|lid on)\b`)

// foldLast whips a foam and folds it in when all else is mixed.
func (rw *rewriting) foldLast(s *Swap, p Prep) {
	at := rw.place(Fill, Bake)
	for at > 0 && lidOn.MatchString(rw.out[at-1].Text) { // a basin is covered when all is in it
		at--
	}
	text, _, _ := strings.Cut(p.Text, ", and fold it in last")
	text, _, _ = strings.Cut(text, " and fold it in last")
	p.Text = text
	t := rw.prep(s, p)
	if len(t.Uses) == 0 {
		return
	}
	t.Verb, t.AtOnce = Foam, true
	u := usuals[Foam]
	t.Hands, t.Where = Time{u.Hands, u.Source}, u.Where
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

// said_ reports whether what stands beside a verb has been said where the task was turned.
func (rw *rewriting) said_(v Verb) bool {
	return (v == Knead || v == Prove) && !slices.ContainsFunc(rw.out, func(t Task) bool { return t.Verb == v && !t.Changed })
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
		if t := &rw.out[n]; t.Part == "" && (t.Verb == Fill || slices.Contains(mixes, t.Verb)) {
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
func (rw *rewriting) beforeBaking(p Prep, verb Verb) {
	at := rw.restPlace()
	if strings.HasPrefix(p.Text, "Into the oven at once") {
		if n := rw.place(Bake); n < len(rw.out) {
			rw.bindBefore(n, p.Text)
		}
		return
	}
	if verb == Rest || verb == Chill {
		if why := rw.whatWaits(at); why != "" && !(verb == Chill && why == sodaWorks) { // the cold slows it
			rw.lastWork("No rest for it: " + why + ", so it goes in at once")
			if n := rw.place(Bake); n < len(rw.out) {
				rw.bindBefore(n, "")
			}
			return
		}
	}
	if (verb == Chill || verb == Rest) && rw.rested(p, verb) {
		return
	}
	if verb == Tent {
		if slices.ContainsFunc(rw.out, func(t Task) bool { return t.Verb == Tent && t.Step < 0 }) {
			return // said for another
		}
		at = rw.place(Bake) + 1
	}
	if verb == Fill {
		if n := slices.IndexFunc(rw.out, func(t Task) bool { return t.Verb == Fill && t.Part == "" }); n >= 0 {
			if !rw.out[n].Changed {
				rw.out[n].Text, rw.out[n].Changed = phrase.Sentence(p.Text), true
			}
			return
		}
		at = rw.place(Prove, Bake)
	}
	u := usuals[verb]
	t := Task{Verb: verb, Text: phrase.Sentence(p.Text), Step: -1, Changed: true, Where: u.Where, Hands: Time{u.Hands, u.Source}}
	if p.Minutes > 0 {
		t.Wait = Time{recipe.Minutes{Min: float64(p.Minutes), Max: float64(p.Minutes)}, "practice"}
	}
	rw.out = slices.Insert(rw.out, min(at, len(rw.out)), t)
}

// rested reports whether the mixed dough is chilled or rested anyway, if need be for as long
// as a work asks.
func (rw *rewriting) rested(p Prep, verb Verb) bool {
	mixed := -1
	bake := rw.place(Bake)
	for n, t := range rw.out[:bake] {
		if t.Part == "" && slices.Contains(mixes, t.Verb) && len(t.Uses) > 0 {
			mixed = n
		}
	}
	for n := mixed + 1; n < bake; n++ {
		t := &rw.out[n]
		if t.Part != "" || t.Verb != Chill && t.Verb != Rest {
			continue
		}
		if t.Wait.Max < float64(p.Minutes) {
			if t.Verb != verb {
				continue
			}
			t.Text, t.Changed = phrase.Sentence(p.Text), true
			t.Wait = Time{recipe.Minutes{Min: float64(p.Minutes), Max: float64(p.Minutes)}, "practice"}
		}
		return true
	}
	return false
}

// bindBefore binds the task before an index to what follows, with a sentence.
func (rw *rewriting) bindBefore(n int, text string) {
	for k := n - 1; k >= 0; k-- {
		if t := &rw.out[k]; t.Part == "" && t.Verb != Heat && t.Verb != Line {
			t.AtOnce = true
			if text != "" && !strings.Contains(t.Text, "at once") {
				t.Text, t.Changed = phrase.Sentence(t.Text)+" "+phrase.Sentence(text), true
			}
			return
		}
	}
}

// end says how it cools: instead of what is written of that.
func (rw *rewriting) end(p Prep, verb Verb) {
	text := phrase.Sentence(p.Text)
	if strings.HasPrefix(p.Text, "Bake until") {
		sign, rest, _ := strings.Cut(p.Text, ", and ")
		for n := range rw.out {
			if t := &rw.out[n]; t.Verb == Bake && t.Part == "" {
				t.Until = strings.TrimPrefix(sign, "Bake until ")
			}
		}
		text = phrase.Sentence(phrase.Capital(rest))
		verb = Cool
	}
	if verb != CoolTin {
		verb = Cool
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
		for _, p := range s.Prep {
			if p.At != "start" || rw.made[p.Text] {
				continue
			}
			for k := range rw.out {
				t := &rw.out[k]
				if !slices.ContainsFunc(s.To, t.uses) {
					continue
				}
				t.Text, t.Changed = phrase.Sentence(p.Text)+" "+t.Text, true
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
		if t := rw.out[n]; t.Verb == Rest && t.Part == "" && len(t.Uses) == 0 && (t.Wait != Time{} || !lidOn.MatchString(t.Text)) {
			rw.out = slices.Delete(rw.out, n, n+1)
			n--
			rw.out[n].Text, rw.out[n].Changed = phrase.Sentence(rw.out[n].Text)+" Do not let it stand.", true
		}
	}
}
