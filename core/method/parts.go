package method

import "slices"

// Bakings groups the tasks in the oven by what stands in it, as indices: a crust and then
// the crust with its filling are two bakings, two heats of one loaf are one.
func Bakings(tasks []Task) [][]int {
	var out [][]int
	last := -1
	for n, t := range tasks {
		if t.Verb != Bake && t.Verb != BakeBlind {
			continue
		}
		if last < 0 || parted(tasks[last:n], t) {
			out = append(out, nil)
		}
		out[len(out)-1] = append(out[len(out)-1], n)
		last = n
	}
	return out
}

// shortest is the time in the oven of a baking of its own, minutes: less is the colour of
// what was put on top. Source: practice.
const shortest = 10

// parted reports whether what was done since a bake makes the next one another baking: a
// filling went in, or more was mixed for a bake that is no mere browning.
func parted(since []Task, next Task) bool {
	blind := since[0].Verb == BakeBlind && next.Verb == Bake
	return slices.ContainsFunc(since[1:], func(t Task) bool {
		return t.Verb == Fill || len(t.Uses) > 0 && t.Verb.Is(Mixes) && (blind || next.Wait.Max >= shortest)
	})
}
