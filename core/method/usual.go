package method

import (
	"kollaris/core/device"
	"kollaris/core/text/en"
	"slices"
	"strings"

	"kollaris/core/larder"
	"kollaris/core/measure"
	"kollaris/core/recipe"
	"kollaris/core/tin"
)

// place puts the lines that no step names where the trade puts them.
func (rd *reading) place() {
	var loose []recipe.Line
	for _, l := range rd.r.Lines {
		if !slices.ContainsFunc(rd.tasks, func(t Task) bool { return t.uses(l.ID) }) {
			loose = append(loose, l)
		}
	}
	for _, l := range loose {
		n := rd.home(l)
		rd.tasks[n].Uses = append(rd.tasks[n].Uses, whole(l.ID))
	}
}

// home is the task that takes a line no step names; where there is none that fits, one is
// added.
func (rd *reading) home(l recipe.Line) int {
	i := rd.l.Get(l.Ingredient)
	part := ""
	if l.Topping() {
		part = l.Section
	}
	note := strings.ToLower(l.Note + " " + l.Text)
	switch {
	case l.Grams == 0 && strings.Contains(note, "greas"), strings.Contains(note, "for the tin"), strings.Contains(note, "for the pan"):
		if n := rd.find("", Line); n >= 0 {
			return n
		}
		return rd.add(Task{Verb: Line, Text: "Grease and line the tin."}, 0)
	case i != nil && l.Grams <= mostForTin && rd.greased(i) >= 0:
		return rd.greased(i)
	case l.Use != recipe.In && !l.Role.Aside() || onTop(note):
		if n := rd.find("", Brush, Top); n >= 0 {
			return n
		}
		return rd.add(Task{Verb: Top, Text: "Scatter over " + l.Name + "."}, rd.before(Bake))
	}
	if n := rd.neighbour(l); n >= 0 {
		return n
	}
	mixes := allOf(Mixes)
	if i != nil && (i.IsBase() || i.Family == larder.FamilyLift || i.Family == larder.FamilyYeast || i.Family == larder.FamilySalt || i.Family == larder.FamilyGum) {
		if cool := slices.DeleteFunc(slices.Clone(mixes), func(v Verb) bool {
			return v == Melt || v == Simmer || v == Foam && i.ID != "cream-of-tartar" && i.Family != larder.FamilySalt
		}); rd.find(part, cool...) >= 0 {
			mixes = cool // never into a pan that melts or warms, nor into a foam that it would bring down
		}
	}
	if i != nil {
		for _, want := range []func(*larder.Ingredient) bool{ // where its like goes
			func(x *larder.Ingredient) bool { return x.Family == i.Family },
			func(x *larder.Ingredient) bool { return x.Shelf.Texture == i.Shelf.Texture },
			func(x *larder.Ingredient) bool { return isDry(x) == isDry(i) && isDry(i) && x.IsBase() },
		} {
			for n, t := range rd.tasks {
				if t.Part != part || !slices.Contains(mixes, t.Verb) || rd.bath(t) && l.Role != recipe.Bath {
					continue
				}
				for _, u := range t.Uses {
					if x := rd.l.Get(rd.r.Line(u.Line).Ingredient); x != nil && x.ID != i.ID && want(x) {
						return n
					}
				}
			}
		}
	}
	if n := rd.find(part, mixes...); n >= 0 {
		return n
	}
	if part != "" {
		at := len(rd.tasks)
		if n := rd.find(part, Ice, Top, Syrup, Brush, Fill); n >= 0 {
			at = n
		}
		return rd.add(Task{Verb: Mix, Part: part, Text: "Mix the " + strings.ToLower(part) + "."}, at)
	}
	at := rd.before(Fill)
	if at == len(rd.tasks) {
		at = rd.before(Bake)
	}
	return rd.add(Task{Verb: Mix, Text: "Mix everything."}, at)
}

// neighbour is the task that takes the line before, where both stand in one line of the text; -1 for none.
func (rd *reading) neighbour(l recipe.Line) int {
	before := rd.r.Line(l.ID - 1)
	if !l.Beside || before == nil || before.Section != l.Section {
		return -1
	}
	return slices.IndexFunc(rd.tasks, func(t Task) bool { return t.uses(before.ID) })
}

// bath reports whether a task uses what is poured away.
func (rd *reading) bath(t Task) bool {
	return slices.ContainsFunc(t.Uses, func(u Use) bool { return rd.r.Line(u.Line).Role == recipe.Bath })
}

// mostForTin is up to what weight a fat may be meant for the tin alone, g. Source: practice, a tablespoon and more.
const mostForTin = 30

// greased is the task that coats the tin with a food by its verb ("butter the cups"), -1 for none.
func (rd *reading) greased(i *larder.Ingredient) int {
	return slices.IndexFunc(rd.tasks, func(t Task) bool {
		verb, _, _ := strings.Cut(strings.ToLower(t.Written), " ")
		return t.Verb == Line && (verb == string(i.ID) || verb == string(i.Family))
	})
}

// onTop tells a line's words that say it goes over the bake.
func onTop(note string) bool {
	for _, w := range []string{"to finish", "to decorate", "for dusting", "to dust", "for sprinkling", "to serve", "for the top", "for brushing", "to glaze"} {
		if strings.Contains(note, w) {
			return true
		}
	}
	return false
}

// before is the place before the first task of a verb, the end where there is none.
func (rd *reading) before(v Verb) int {
	if n := slices.IndexFunc(rd.tasks, func(t Task) bool { return t.Verb == v }); n >= 0 {
		return n
	}
	return len(rd.tasks)
}

// add puts in a task that every baker does and the writer does not say.
func (rd *reading) add(t Task, at int) int {
	rd.insert(at, inferred(t))
	return at
}

// inferred marks a task as not written, with the trade's usual times.
func inferred(t Task) Task {
	u := usuals[t.Verb]
	t.Step, t.Inferred, t.Where = -1, true, u.Where
	t.Hands, t.Wait = Time{u.Hands, u.Source}, Time{u.Wait, u.Source}
	t.AtOnce = u.Bound
	return t
}

// usual adds what every baker does and no step says: heat the oven in time, line the tin,
// bake and cool.
// What no oven bakes gets nothing of an oven's.
func (rd *reading) usual(in device.Device) {
	rd.coolsOnce()
	if in.Other() && !in.Foretold {
		return
	}
	baked := slices.ContainsFunc(rd.tasks, func(t Task) bool { return t.Verb == Bake })
	if len(rd.tasks) > 0 && !baked && (rd.r.Bake.Max > 0 || rd.r.Oven > 0) {
		at := len(rd.tasks)
		if n := rd.find("", Cool, CoolTin, Slice); n >= 0 {
			at = n
		}
		for at > 0 && rd.tasks[at-1].Part != "" {
			at--
		}
		t := Task{Verb: Bake, Text: "Bake."}
		n := rd.add(t, at)
		if rd.r.Bake.Max > 0 {
			rd.tasks[n].Wait = Time{rd.r.Bake, Written}
		}
		rd.tasks[n].Oven = rd.r.Oven
		baked = true
	}
	if !baked {
		return
	}
	rd.turnedBetween()
	stage, heat := 0, measure.Celsius(0)
	for n := range rd.tasks { // the bakes of the batter in turn
		t := &rd.tasks[n]
		if (t.Verb == Heat || t.Verb == Bake || t.Verb == BakeBlind) && t.Oven > 0 {
			heat = t.Oven
		}
		if t.Verb != Bake {
			continue
		}
		switch {
		case t.Oven > 0:
		case rd.turned(n):
			t.Oven = heat
		case stage == 0:
			t.Oven = rd.r.Oven
		}
		if t.Wait.Max == 0 && stage == 0 && rd.r.Bake.Max > 0 && !rd.anotherBake(n) {
			t.Wait = Time{rd.r.Bake, Written}
		}
		stage++
	}
	if h := rd.find("", Heat); rd.r.Oven > 0 && (h < 0 || h > rd.before(Bake) || h > rd.before(BakeBlind)) {
		at := rd.warmUp()
		n := rd.add(Task{Verb: Heat, Text: "Heat the oven."}, at)
		rd.tasks[n].Oven = rd.r.Oven
		if first := rd.find("", BakeBlind, Bake); first > n && rd.tasks[first].Oven > 0 && rd.find("", Toast) < 0 {
			rd.tasks[n].Oven = rd.tasks[first].Oven // a crust may want another heat than the whole
		}
	}
	if hot := slices.ContainsFunc(rd.tasks, func(t Task) bool { return t.Verb == Heat && hotSheet.In(t.Text) }); !hot &&
		rd.find("", Line) < 0 && len(rd.r.Tins) > 0 && !rd.sheetReady() && !device.BurntPaper(rd.r) && !in.Other() {
		rd.add(Task{Verb: Line, Text: "Grease and line the tin."}, min(rd.before(Heat)+1, rd.before(Fill), len(rd.tasks)))
	}
	if rd.find("", Cool, CoolTin) < 0 && !uncooled.In(rd.r.Words()) {
		last := 0
		for n, t := range rd.tasks {
			if t.Verb == Bake || t.Verb == Test || t.Verb == Tent || t.Verb == Turn {
				last = n
			}
		}
		for last+1 < len(rd.tasks) && rd.tasks[last+1].Verb.Is(OnWarm) && whileWarm.In(rd.tasks[last+1].Text) {
			last++ // what is done with it warm comes first
		}
		text := "Cool on a rack."
		if doneWarm.In(rd.r.Words()) { // something is done with it warm, where it stands
			text = "Let it cool."
		}
		rd.add(Task{Verb: Cool, Text: text}, last+1)
	}
}

// uncooled tells that the writer does not let it cool on a rack: it is eaten warm, wrapped in a towel, hung upside down or left in the oven;
// doneWarm that something is done with it while it is warm.
var uncooled, doneWarm = en.SignOf("uncooled"), en.SignOf("done-warm")

// sheetReady reports whether all is baked on a sheet of which the writer says that it is floured.
func (rd *reading) sheetReady() bool {
	return !slices.ContainsFunc(rd.r.Tins, func(t tin.Tin) bool { return t.Shape != tin.Free }) &&
		slices.ContainsFunc(rd.tasks, func(t Task) bool { return readySheet.In(t.Written) })
}

var readySheet = en.SignOf("ready-sheet")

var whileWarm = en.SignOf("while-warm")

var hotSheet = en.SignOf("hot-sheet")

// coolsOnce takes the usual wait from what cools again: "turn it out, peel off the paper, cool on a rack".
func (rd *reading) coolsOnce() {
	for n := range rd.tasks {
		t := &rd.tasks[n]
		if t.Verb != Cool || t.Wait.Source == Written {
			continue
		}
		for _, next := range rd.tasks[n+1:] {
			if next.Verb == Cool {
				t.Wait = Time{}
			}
			if next.Verb != Cut && next.Verb != Remark {
				break
			}
		}
	}
}

var turns = en.SignOf("turns-oven")

// turnedBetween takes for heating what sets the oven otherwise while nothing is in it: other work comes
// before the next bake.
func (rd *reading) turnedBetween() {
	for n := range rd.tasks {
		t := &rd.tasks[n]
		later := slices.ContainsFunc(rd.tasks[n+1:], func(t Task) bool { return t.Verb == Bake })
		if t.Verb != Bake || t.Wait.Max > 0 || t.Oven == 0 || !later || !turns.In(t.Text) {
			continue
		}
		for _, next := range rd.tasks[n+1:] {
			if next.Verb == Bake || next.Verb == BakeBlind || next.Verb == Tent || next.Verb == Turn || next.Verb == Test {
				break
			}
			if next.Verb.Is(Mixes) || next.Verb == Fill || next.Verb == Beat {
				u := usuals[Heat]
				t.Verb, t.Hands, t.Wait, t.Where = Heat, Time{u.Hands, u.Source}, Time{u.Wait, u.Source}, InOven
				break
			}
		}
	}
}

// turned reports whether the oven was set otherwise since the bake before.
func (rd *reading) turned(n int) bool {
	for k := n - 1; k >= 0; k-- {
		switch rd.tasks[k].Verb {
		case Heat:
			return rd.tasks[k].Oven > 0
		case Bake, BakeBlind:
			return false
		}
	}
	return false
}

// anotherBake reports whether a later task bakes with a time of its own.
func (rd *reading) anotherBake(n int) bool {
	for _, t := range rd.tasks[n+1:] {
		if t.Verb == Bake && t.Wait.Source == Written && t.Wait.Max > 0 {
			return true
		}
	}
	return false
}

// warmUp is where the oven goes on: at the beginning, or, where something long is to be
// waited for, after that: before the last proof, or the first task after a chill or a soak.
func (rd *reading) warmUp() int {
	bake := rd.before(Bake)
	at := 0
	for n, t := range rd.tasks[:bake] {
		if t.Wait.Min >= 30 {
			at = n + 1
			if t.Verb == Prove { // hot when the last of it ends
				at = n
			}
		}
	}
	return at
}
