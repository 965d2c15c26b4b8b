package method

import (
	"fmt"
	"slices"
	"strings"

	"kollaris/core/measure"
	"kollaris/core/phrase"
	"kollaris/core/recipe"
	"kollaris/core/text/en"
)

// Answer is the bake that was foretold.
type Answer struct {
	Oven      measure.Celsius
	Heat      string  // the oven in the household's scale: "160 °C"
	FirstLook float64 // minutes
	Low, High float64 // minutes, when it is likely done
	Before    string  // the heat of what is baked before, a crust; "" where nothing is
	Tin       string  // "loaf 9x5 in"
	OtherTin  bool    // than the written one
	Done      string  // the middle when it is done, "" where no probe goes in: "96 °C"
	Lower     []Lower // second heats
	NoFlour   bool    // no wheat flour for the tin
}

// Lower is a heat that the oven is turned to after some minutes.
type Lower struct {
	Heat  string
	After float64
}

var (
	tented  = en.SignOf("tented")
	dusted  = en.SignOf("dusted")
	figures = en.SignOf("figures")
)

// Timed puts the figures of the answer into tasks: no other heat or time of the bake that
// was foretold is left in them. Where parts are baked one after the other that is the last,
// of the whole; what is baked before it stays as written. The tasks given stay as they are.
func Timed(tasks []Task, a Answer) []Task {
	tasks = clone(tasks)
	heated, baked := false, false
	bakings := Bakings(tasks)
	first, before := -1, -1 // of the last baking, and the end of the one before
	if len(bakings) > 1 {
		first = bakings[len(bakings)-1][0]
		before = slices.Max(bakings[len(bakings)-2])
	}
	var out []Task
	for n, t := range tasks {
		if n < first && (t.Verb == Bake || t.Verb == BakeBlind || t.Verb == Heat) {
			if t.Verb == Heat && n > before { // for the last baking, while nothing is in it
				t.Oven, t.Text = a.Oven, "Turn the oven to "+a.Heat+"."+besides(t.Written)
			} else if t.Verb == Heat && a.Before != "" && !heated {
				heated, t.Text = true, "Heat the oven to "+a.Before+"."
			}
			out = append(out, t)
			continue
		}
		if t.Part != "" && t.Verb != Bake {
			out = append(out, t)
			continue
		}
		switch t.Verb {
		case Heat:
			if t.Oven == 0 && heated {
				break // a sheet or a stone that gets hot with it
			}
			if heated {
				continue
			}
			heated = true
			t.Oven, t.Text = a.Oven, heatWith(t.Written, a.Heat)+besides(t.Written)
		case Line:
			if ungreased.In(t.Text) {
				break
			}
			if t.Inferred || a.OtherTin || a.NoFlour && dusted.In(t.Text) {
				t.Text = "Grease and line the " + asTin(a.Tin) + "."
				if strings.Contains(a.Tin, "baking sheet") {
					t.Text = "Line the baking sheet with paper."
				}
				t.Changed = t.Changed || !t.Inferred
			}
		case Fill:
			if a.OtherTin {
				proves := slices.ContainsFunc(tasks, func(t Task) bool { return t.Verb == Prove })
				t.Text, t.Changed = phrase.Sentence(intoTin(a.Tin, proves)), true
			}
		case Bake:
			if baked {
				continue // a further heat of the same bake: it is in the answer
			}
			baked = true
			t = a.bake(t)
		}
		out = append(out, t)
	}
	return out
}

// ungreased is a tin to which a foam has to cling.
var ungreased = en.SignOf("ungreased")

var tinName = en.SignOf("tin-name")

// heatWith is a step that heats the oven, with its new figure and with what stands in the oven meanwhile: a skillet, a stone.
func heatWith(written, heat string) string {
	first, _, _ := strings.Cut(written, ". ")
	said := "Heat the oven to " + heat
	_, _, to, ok := measure.FindOven(first)
	if at := strings.Index(first[min(to, len(first)):], " with "); ok && at >= 0 {
		if with := strings.TrimRight(first[to+at:], " ."); !figures.In(strings.TrimPrefix(with, " with")) || emptyPan.In(with) {
			said += with
		}
	}
	if from, _, found := preheats.Place(first); found && from > 0 && emptyPan.In(first[:from]) { // "put a skillet in the oven and preheat to 425°F"
		return phrase.Sentence(phrase.Capital(strings.TrimRight(first[:from], " ,"))) + " " + said + "."
	}
	return said + "."
}

// emptyPan names what is heated empty, and preheats begins that.
var emptyPan, preheats = en.SignOf("empty-pan"), en.SignOf("and-preheat")

// besides is what a step says after its oven that has no figure of it: "Slice thinly."
func besides(written string) string {
	_, rest, _ := strings.Cut(written, ". ")
	if _, _, _, hot := measure.FindOven(rest); rest == "" || hot || len(en.Times(rest)) > 0 {
		return ""
	}
	return " " + phrase.Sentence(strings.TrimSpace(rest))
}

// asTin names a tin in a sentence: "loaf 9x5 in tin".
func asTin(words string) string {
	if tinName.In(words) {
		return words
	}
	if strings.Contains(words, " × ") {
		return words + " tins"
	}
	return words + " tin"
}

// intoTin says that the batter goes into another tin than the written one.
func intoTin(name string, proves bool) string {
	if strings.Contains(name, "cups") {
		full := "two thirds"
		if proves { // it rises before it is baked
			full = "half"
		}
		return "Spoon it into the " + name + ", " + full + " full, in paper cases or well greased"
	}
	return "Put it into the " + asTin(name) + " and level it"
}

// bake says the bake of the batter.
func (a Answer) bake(t Task) Task {
	text := fmt.Sprintf("Bake at %s", a.Heat)
	for _, l := range a.Lower {
		text += fmt.Sprintf(", at %s from minute %.0f on", l.Heat, l.After)
	}
	text += fmt.Sprintf(". Look first at %.0f minutes; likely done at %s", a.FirstLook, fmtMinutes(a.Low, a.High))
	sign := t.Until
	probe := strings.HasPrefix(sign, "the middle reads")
	if figures.In(sign) && !probe {
		sign = ""
	}
	switch {
	case probe:
		text += ", when " + sign
	case sign != "" && a.Done != "":
		text += ", when " + when(sign) + " (" + a.Done + " in the middle)"
	case sign != "":
		text += ", when " + when(sign)
	case a.Done != "":
		text += ", when it reads " + a.Done + " in the middle"
	}
	text = phrase.Sentence(text)
	if tented.In(t.Text) {
		text += " Cover it loosely with foil if it browns too fast."
	}
	for _, s := range en.Sentences(t.Text) { // what else the writer says of it
		if more := t.Text[s.From:s.To]; !figures.In(more) && !tented.In(more) && s.From > 0 {
			text += " " + more
		}
	}
	t.Text, t.Oven = text, a.Oven
	t.Wait = Time{recipe.Minutes{Min: a.Low, Max: a.High}, "calculated: the bake foretold"}
	return t
}

// when makes a clause of a sign: "golden" → "it is golden", "a skewer comes out clean" stays.
func when(sign string) string {
	first, _, _ := strings.Cut(sign, " ")
	if slices.Contains([]string{"a", "an", "the", "it", "they", "no", "your"}, strings.ToLower(first)) {
		return sign
	}
	return "it is " + sign
}
