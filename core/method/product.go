package method

import (
	"kollaris/core/text/en"
	"slices"
	"strings"

	"kollaris/core/recipe"
)

// products says which tasks take up what an earlier one made of its lines: "sift the flour and powder … fold in the dry ingredients". A
// line's share goes into the first; where it goes on, it goes as a product.
func (rd *reading) products() {
	first := map[recipe.LineID]int{} // the task that takes the line first
	for n := range rd.tasks {
		t := &rd.tasks[n]
		for _, m := range rd.mentions[n] {
			if !rd.takesUp(t) {
				break
			}
			from := -1
			for _, l := range rd.r.Lines {
				k, used := first[l.ID]
				if m.part { // the yolks went elsewhere than the whites
					k = rd.partsOfEgg(n, m, l.ID)
				}
				if used && !t.uses(l.ID) && k >= 0 && rd.means(m, l, t) && rd.tasks[k].Verb != Bake && !(m.set == "wet" && rd.tasks[k].Verb == RubIn) {
					from = max(from, k)
				}
			}
			if from >= 0 {
				rd.madeIn(from, t, rd.productName(m, t))
			}
		}
		if k := rd.mixedBefore(n); len(t.Uses) == 0 && len(t.Takes) == 0 && k >= 0 && pouredIn.In(t.Written) {
			rd.madeIn(k, t, "mixture") // "make a well, pour it in"
		}
		for _, u := range t.Uses {
			if _, ok := first[u.Line]; !ok {
				first[u.Line] = n
			}
		}
	}
}

// partsOfEgg is the task before n that takes the yolk or the white of a line, as a mention of n names it; -1 for none.
func (rd *reading) partsOfEgg(n int, m mention, id recipe.LineID) int {
	for k, t := range rd.tasks[:n] {
		if t.uses(id) && slices.ContainsFunc(rd.mentions[k], func(x mention) bool {
			return x.part && eggPart(t.Written, x) == eggPart(rd.tasks[n].Written, m)
		}) {
			return k
		}
	}
	return -1
}

// pouredIn is putting what was made last into what stands there.
var pouredIn = en.SignOf("poured-in")

// takesUp tells a task that works on what others have made.
func (rd *reading) takesUp(t *Task) bool {
	return t.Verb.Is(Mixes) || t.Verb.Is(TakesUp)
}

// means reports whether a mention speaks of a line, whether or not something is left of it.
func (rd *reading) means(m mention, l recipe.Line, t *Task) bool {
	switch m.set {
	case "":
		return slices.Contains(m.lines, l.ID)
	case "dry", "wet":
		return rd.inSet(m.set, l, t, nil)
	case "all": // what was warmed, melted or soaked before goes in with it
		return l.Use == recipe.In && slices.ContainsFunc(rd.tasks, func(before Task) bool {
			return before.uses(l.ID) && before.Part == t.Part && before.Verb.Is(Prepares)
		})
	}
	return false
}

// mixedBefore is the last task before n of the same part that takes lines by itself; -1 for none.
func (rd *reading) mixedBefore(n int) int {
	for k := n - 1; k >= 0; k-- {
		if t := rd.tasks[k]; t.Part == rd.tasks[n].Part && t.Verb.Is(Mixes) && len(t.Uses) > 0 {
			return k
		}
	}
	return -1
}

// productName is what a mention calls a product.
func (rd *reading) productName(m mention, t *Task) string {
	if m.set == "all" {
		return "mixture"
	}
	if m.set != "" {
		return m.set + " mixture"
	}
	return strings.ToLower(strings.TrimSpace(strings.TrimRight(t.Written, " .;,")[m.name:m.to]))
}

// madeIn notes that a task takes what an earlier one makes.
func (rd *reading) madeIn(from int, t *Task, name string) {
	made := &rd.tasks[from]
	if made.Makes == "" {
		made.Makes = name
	}
	if !slices.Contains(t.Takes, made.Makes) {
		t.Takes = append(t.Takes, made.Makes)
	}
}
