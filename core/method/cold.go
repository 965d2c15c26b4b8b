package method

import (
	"slices"
	"strings"

	"kollaris/core/larder"
	"kollaris/core/recipe"
)

// WarmAtMost is how long raw egg, milk or cream may stand outside the fridge, minutes. Source: memory, food authorities: two hours.
const WarmAtMost = 120.0

// Spoils reports whether a food does not stand long in the warm while it is raw: egg and what is of milk and wet. Butter does.
func Spoils(i *larder.Ingredient) bool {
	return i != nil && (i.Origin == "egg" || i.Origin == "milk") && i.Facts.Or(larder.Water, 0) >= 40 && i.Shelf.Moves != "fat"
}

// warm is how long what a task makes stands in the warm until it is baked, minutes; the task's own wait counts.
func warm(tasks []Task, from int) float64 {
	sum := 0.0
	for n := from; n < len(tasks); n++ {
		t := tasks[n]
		if t.Verb == Bake || t.Verb == BakeBlind {
			break
		}
		if n > from && t.Part != tasks[from].Part || t.Verb == Heat || t.Where == Fridge || t.Where == Freezer || t.Where == InOven {
			continue
		}
		sum += t.Wait.Min
	}
	return sum
}

// cold finds where a line that came in may go so that it does not stand too long in the warm: where its like goes, else the last mixing
// that is soon enough, else a work of its own after the long wait.
func (rw *rewriting) cold(rd *reading, l recipe.Line) int {
	home := rd.home(l)
	if !Spoils(rw.Larder.Get(l.Ingredient)) || warm(rd.tasks, home) <= WarmAtMost {
		return home
	}
	part := rd.tasks[home].Part
	last := home
	for n := home; n < len(rd.tasks) && rd.tasks[n].Verb != Bake; n++ {
		t := rd.tasks[n]
		if t.Part != part && t.Part != "" {
			continue
		}
		if n > home && len(t.Uses) > 0 && (t.Verb.Is(Mixes) && t.Verb != Simmer && t.Verb != Melt || t.Verb == Knead) && warm(rd.tasks, n) <= WarmAtMost {
			return n
		}
		if t.Wait.Min > 0 && warm(rd.tasks, n) > WarmAtMost {
			last = n
		}
	}
	return rd.add(Task{Verb: Beat, Changed: true, Text: late}, last+1)
}

// late is said of what goes in after a long wait.
const late = "It does not stand in the warm for more than two hours."

// LeftWarm names the writer's own egg and milk that stand in the warm for longer than they should, as it is baked. A line of a part that
// a task makes by name ("mix the poolish") is in from there on.
func LeftWarm(tasks []Task, r *recipe.Recipe, lib *larder.Larder) (out []string) {
	for _, l := range r.Lines {
		if !Spoils(lib.Get(l.Ingredient)) {
			continue
		}
		n := slices.IndexFunc(tasks, func(t Task) bool {
			return t.uses(l.ID) || l.Section != "" && t.Verb.Is(Mixes) && strings.Contains(strings.ToLower(t.Text), strings.ToLower(l.Section))
		})
		if n < 0 || warm(tasks, n) <= WarmAtMost || tasks[n].Verb == Brush || tasks[n].Verb == Simmer {
			continue
		}
		if name := Short(l.Name); !slices.Contains(out, name) {
			out = append(out, name)
		}
	}
	return out
}
