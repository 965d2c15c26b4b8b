// Package method reads what a recipe's steps tell to do as tasks, and writes them out anew
// for what an adapted recipe became.
//
// A Task is one thing done by hand or left to itself: its Verb (a closed vocabulary of the
// trade, data/verb.csv, with the trade's usual minutes), what lines it uses and how much of
// each, where, until which sign. Read splits the writer's sentences into tasks and settles
// which lines each speaks of; what every baker does and no writer says is added and marked
// inferred. Rewrite keeps the writer's words wherever what they say still stands, and says
// anew what does not.
package method

import (
	"fmt"
	"kollaris/core/device"
	"kollaris/core/text/en"
	"slices"

	"kollaris/core/fact"
	"kollaris/core/larder"
	"kollaris/core/measure"
	"kollaris/core/recipe"
)

// Use is what a task takes of a line.
type Use struct {
	Line  recipe.LineID `json:"line"`
	Share float64       `json:"share"` // of the line's amount, 0 to 1
}

// Time is a range of minutes and how it is known: "written", or the trade's usual.
type Time struct {
	recipe.Minutes
	Source fact.Source `json:"source,omitempty"`
}

// Written is the source of a time that the writer gives.
const Written fact.Source = "written"

// Task is one thing to do.
type Task struct {
	Verb     Verb            `json:"verb"`
	Part     string          `json:"part,omitempty"` // "" for the batter, else a section: "icing"
	Text     string          `json:"text"`           // as it is printed: a sentence, or several
	Written  string          `json:"written,omitempty"`
	Span     recipe.Span     `json:"span"`          // of Written, in the source text
	Key      string          `json:"key,omitempty"` // of what is written, by which the baker corrects it
	Step     int             `json:"step"`          // the written step that it stands in, from 0; -1 for none
	Uses     []Use           `json:"uses,omitempty"`
	Takes    []string        `json:"takes,omitempty"` // what an earlier task made: "flax gel"
	Makes    string          `json:"makes,omitempty"` // what a later task takes
	Where    Place           `json:"where"`
	Oven     measure.Celsius `json:"oven_c,omitempty"`
	Hands    Time            `json:"hands"`
	Wait     Time            `json:"wait"`
	Until    string          `json:"until,omitempty"`    // the sign
	AtOnce   bool            `json:"at_once,omitempty"`  // the next task follows without delay
	Lacks    []larder.ID     `json:"lacks,omitempty"`    // foods that a swap's work takes and that no line brings
	Unlisted []larder.ID     `json:"unlisted,omitempty"` // foods that a swap has it name though no line lists them
	Inferred bool            `json:"inferred,omitempty"`
	Note     string          `json:"note,omitempty"`    // beside the text
	Changed  bool            `json:"changed,omitempty"` // said anew, or come in
}

// Takes the whole of a line.
func whole(id recipe.LineID) Use { return Use{id, 1} }

// uses reports whether the task takes something of a line.
func (t *Task) uses(id recipe.LineID) bool {
	return slices.ContainsFunc(t.Uses, func(u Use) bool { return u.Line == id })
}

// clone copies tasks so that neither shares a slice with the other.
func clone(tasks []Task) []Task {
	out := slices.Clone(tasks)
	for n := range out {
		out[n].Uses, out[n].Takes = slices.Clone(out[n].Uses), slices.Clone(out[n].Takes)
	}
	return out
}

// Hands is the time that tasks keep hands busy, minutes.
func Hands(tasks []Task) recipe.Minutes {
	var sum recipe.Minutes
	for _, t := range tasks {
		sum.Min, sum.Max = sum.Min+t.Hands.Min, sum.Max+t.Hands.Max
	}
	return sum
}

// Total is the time from the first task to when it may be eaten, each after the other but
// for the oven, which heats meanwhile, and what is kept after. Minutes.
func Total(tasks []Task) recipe.Minutes {
	sum := Hands(tasks)
	for _, t := range tasks {
		switch t.Verb {
		case Heat, Store, Mature, Freeze, Thaw, Feed:
		default:
			sum.Min, sum.Max = sum.Min+t.Wait.Min, sum.Max+t.Wait.Max
		}
	}
	return sum
}

// Baking is the time in the oven, minutes.
func Baking(tasks []Task) recipe.Minutes {
	var sum recipe.Minutes
	for _, t := range tasks {
		if t.Verb == Bake || t.Verb == BakeBlind {
			sum.Min, sum.Max = sum.Min+t.Wait.Min, sum.Max+t.Wait.Max
		}
	}
	return sum
}

// tools are what a verb is done with. Source: practice.
var tools = map[Verb]string{
	Sift: "sieve", Foam: "whisk or mixer", Cream: "mixer or wooden spoon", Melt: "small saucepan", Simmer: "saucepan", Grate: "grater",
	Mash: "fork", Blend: "blender", Knead: "board", Shape: "board", Brush: "brush", Test: "skewer", Cool: "wire rack", Tent: "foil",
	Bloom: "jug", Toast: "small tray", Squeeze: "clean cloth", Drain: "colander", Separate: "two small bowls", Cut: "knife and board",
}

// Equipment lists what tasks are done with: bowls, tools and the tins, in the order in
// which they are wanted.
func Equipment(tasks []Task, r *recipe.Recipe) []string {
	small, large := 0, 0
	var out []string
	for _, t := range tasks {
		if t.Makes != "" && t.Step < 0 {
			small++
		}
		if t.Verb.Is(Mixes) && (large == 0 || another.In(t.Text)) {
			large++
		}
		if tool := tools[t.Verb]; tool != "" && !slices.Contains(out, tool) {
			out = append(out, tool)
		}
	}
	count := func(n int, what string) {
		switch {
		case n == 1:
			out = append([]string{"1 " + what}, out...)
		case n > 1:
			out = append([]string{fmt.Sprintf("%d %ss", n, what)}, out...)
		}
	}
	count(small, "small bowl")
	count(large, "mixing bowl")
	for _, t := range r.Tins {
		if device.Of(r).Other() {
			break // the vessel is the writer's
		}
		out = append(out, asTin(t.Words()))
	}
	return append(out, "scale")
}

var another = en.SignOf("another-bowl")
