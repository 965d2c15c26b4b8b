package web

import (
	"regexp"
	"strings"

	"kollaris/core/adapt"
	"kollaris/core/measure"
	"kollaris/core/method"
	"kollaris/core/recipe"
)

// inSpoons puts cups and spoons in place of the grams of a result's amounts, for a kitchen that measures so: of amounts that only one
// measure stands for, so that none is taken for another's. It leaves a text as it is for a kitchen that weighs.
func inSpoons(res *adapt.Result, k measure.Kitchen) func(string) string {
	if !k.Cups {
		return func(s string) string { return s }
	}
	words := map[string]string{}
	put := func(grams float64, spoons string) {
		g := measure.Grams(grams).String()
		switch was, known := words[g]; {
		case grams < 1 || spoons == "":
			words[g] = ""
		case !known:
			words[g] = spoons
		case was != spoons:
			words[g] = ""
		}
	}
	for _, l := range res.Recipe.Lines {
		put(l.Grams, res.Measures[int(l.ID)])
	}
	for _, c := range res.Changes {
		for _, a := range c.From {
			put(a.Grams, a.Measure)
		}
		for _, a := range c.To {
			put(a.Grams, a.Measure)
		}
	}
	return func(s string) string {
		return weights.ReplaceAllStringFunc(s, func(g string) string {
			if w := words[g]; w != "" {
				return w
			}
			return g
		})
	}
}

// weights are amounts in grams as Kollaris writes them.
var weights = regexp.MustCompile(`\b\d+(?:\.\d+)? k?g\b`)

// tasksInSpoons are tasks with their amounts as the kitchen measures.
func tasksInSpoons(res *adapt.Result, k measure.Kitchen) []method.Task {
	if !k.Cups {
		return res.Method
	}
	say := inSpoons(res, k)
	out := append([]method.Task(nil), res.Method...)
	for n := range out {
		out[n].Text = say(out[n].Text)
	}
	return out
}

// pillWords are what stands on a block of the strip: the spoons of its line where the kitchen measures so, else nothing.
func pillWords(ln recipe.Line, res *adapt.Result, isTop bool, k measure.Kitchen) string {
	switch {
	case !k.Cups:
		return ""
	case !isTop:
		return res.Measures[int(ln.ID)]
	case ln.Unit == "cup" || ln.Unit == "tbsp" || ln.Unit == "tsp":
		return strings.TrimSpace(ln.Amount.String() + " " + ln.Unit)
	}
	return ""
}
