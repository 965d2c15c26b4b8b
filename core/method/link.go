package method

import (
	"slices"
	"strings"

	"kollaris/core/recipe"
	"kollaris/core/text/en"
)

// narrowAll takes of the lines that mentions may mean those that they can mean beside all the others: an amount tells its line, a line that
// another task names by itself is that task's, and so are the lines of a part that another task makes by its name.
func (rd *reading) narrowAll() {
	rd.byAmount()
	own := rd.namedAlone()
	made := rd.madeByName()
	for n := range rd.tasks {
		for k := range rd.mentions[n] {
			m := &rd.mentions[n][k]
			if m.set != "" || len(m.lines) < 2 {
				continue
			}
			m.lines = rd.without(m.lines, func(id recipe.LineID) bool { t, is := made[id]; return is && t != n })
			if rd.tasks[n].Verb.Is(Mixes) { // what is for the wash or the tin is not mixed in
				m.lines = rd.without(m.lines, func(id recipe.LineID) bool { return rd.r.Line(id).Use != recipe.In })
			}
			if !rd.several(n, *m) {
				m.lines = rd.without(m.lines, func(id recipe.LineID) bool { t, is := own[id]; return is && t != n })
			}
		}
	}
}

// without drops the lines of which something holds, unless it holds of all.
func (rd *reading) without(ids []recipe.LineID, drop func(recipe.LineID) bool) []recipe.LineID {
	if left := slices.DeleteFunc(slices.Clone(ids), drop); len(left) > 0 {
		return left
	}
	return ids
}

// several reports whether a mention means all its lines by its words: "the flours", "the nuts".
func (rd *reading) several(n int, m mention) bool {
	text := rd.tasks[n].Written
	name := strings.ToLower(text[min(m.name, len(text)):min(m.to, len(text))])
	return strings.HasSuffix(name, "s") || classes[name]
}

// sameAmount is how near a written amount must be to that of the line it means.
const sameAmount = 0.02

// byAmount gives a mention with an amount the line of that amount: "the 50 ml water".
func (rd *reading) byAmount() {
	for n := range rd.tasks {
		for k := range rd.mentions[n] {
			m := &rd.mentions[n][k]
			if m.grams <= 0 || len(m.lines) < 2 {
				continue
			}
			m.lines = rd.without(m.lines, func(id recipe.LineID) bool {
				g := rd.r.Line(id).Grams
				return g < m.grams*(1-sameAmount) || g > m.grams*(1+sameAmount)
			})
		}
	}
}

// spent reports whether a mention names lines of which nothing is left.
func (rd *reading) spent(m mention, left map[recipe.LineID]float64) bool {
	return len(m.lines) > 0 && m.share == 0 && !m.rest && !slices.ContainsFunc(m.lines, func(id recipe.LineID) bool { return left[id] > 1e-9 })
}

// unclaimed is the first line of another part that a mention may mean and that no mention takes as its own; else what it was.
func (rd *reading) unclaimed(m mention, left map[recipe.LineID]float64) []recipe.LineID {
	for _, id := range m.wide {
		claimed := slices.ContainsFunc(rd.mentions, func(ms []mention) bool {
			return slices.ContainsFunc(ms, func(o mention) bool { return o.set == "" && slices.Contains(o.lines, id) })
		})
		if l := rd.r.Line(id); !claimed && left[id] > 1-1e-9 && l.Use == recipe.In && !rd.madeOf(l.Section) {
			return []recipe.LineID{id}
		}
	}
	return m.lines
}

// madeOf reports whether a task makes a part by its name, with all that it is of.
func (rd *reading) madeOf(part string) bool {
	return slices.ContainsFunc(rd.mentions, func(ms []mention) bool {
		return slices.ContainsFunc(ms, func(m mention) bool { return m.set == partSet+part || m.set == wholeSet+part })
	})
}

// namedAlone are the lines that a task names by a name which no other line has, and the first task that does.
func (rd *reading) namedAlone() map[recipe.LineID]int {
	out := map[recipe.LineID]int{}
	for n, ms := range rd.mentions {
		for _, m := range ms {
			if m.set != "" || m.rest || m.share > 0 || len(m.lines) != 1 || rd.tasks[n].Verb == Line || rd.tasks[n].Verb == Heat || rd.tasks[n].Verb == Test {
				continue
			}
			if _, known := out[m.lines[0]]; !known {
				out[m.lines[0]] = n
			}
		}
	}
	return out
}

// madeByName are the lines of a part that a task makes by its name ("mix the sponge"), and that task.
func (rd *reading) madeByName() map[recipe.LineID]int {
	out := map[recipe.LineID]int{}
	for n, ms := range rd.mentions {
		for _, m := range ms {
			name, ok := strings.CutPrefix(m.set, partSet)
			if !ok {
				name, ok = strings.CutPrefix(m.set, wholeSet)
			}
			if !ok {
				continue
			}
			if n+1 < len(rd.tasks) && rd.tasks[n+1].Step == rd.tasks[n].Step && rd.namesLineOf(n+1, name) {
				continue // "make the sponge: mix the flour and milk" goes on
			}
			for _, l := range rd.r.Lines {
				if _, known := out[l.ID]; !known && l.Section == name && l.Use == recipe.In {
					out[l.ID] = n
				}
			}
		}
	}
	return out
}

// namesLineOf reports whether a task names a line of a part.
func (rd *reading) namesLineOf(n int, part string) bool {
	return slices.ContainsFunc(rd.mentions[n], func(m mention) bool {
		return slices.ContainsFunc(m.lines, func(id recipe.LineID) bool { return rd.r.Line(id).Section == part })
	})
}

// roleVerbs are the verbs that do what a part is for: a part that no task names is what "ice" spreads. Source: practice.
var roleVerbs = map[recipe.Role][]Verb{recipe.Icing: {Ice, Top}, recipe.Glaze: {Brush, Top, Ice}, recipe.Topping: {Top}, recipe.Filling: {Ice, Fill}}

// byPart gives a part of which nothing is used to the task that names it, or does what it is for: "pipe the cross", "cool and ice".
func (rd *reading) byPart(left map[recipe.LineID]float64) {
	for _, p := range rd.r.Parts {
		if p.Name == "" || !p.Role.Aside() {
			continue
		}
		var lines []recipe.LineID
		untouched := true
		for _, l := range rd.r.Lines {
			if l.Section == p.Name {
				lines = append(lines, l.ID)
				untouched = untouched && left[l.ID] > 1-1e-9
			}
		}
		if !untouched {
			continue
		}
		n := slices.IndexFunc(rd.tasks, func(t Task) bool { return t.Verb != Line && t.Verb != Heat && en.NamesPart(t.Written, p.Name) })
		if n < 0 {
			n = slices.IndexFunc(rd.tasks, func(t Task) bool { return slices.Contains(roleVerbs[p.Role], t.Verb) && len(t.Uses) == 0 })
		}
		if n < 0 {
			continue
		}
		for _, id := range lines {
			rd.tasks[n].Uses = append(rd.tasks[n].Uses, Use{id, left[id]})
			left[id] = 0
		}
		rd.tasks[n].Part = p.Name
	}
}
