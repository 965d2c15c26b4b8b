package method

import (
	"slices"
	"strings"

	"kollaris/core/device"
	"kollaris/core/phrase"
	"kollaris/core/text/en"
)

// heatsFirst begins what heats an empty pot.
var heatsFirst = en.SignOf("heats-first")

// inDevice takes the work that cooks for a bake in the device, and whatever would be an oven's for what it is.
func (rd *reading) inDevice(d device.Device) {
	if d.Foretold {
		for n := range rd.tasks {
			if t := &rd.tasks[n]; (t.Verb == Simmer || t.Verb == Mix) && d.Named(t.Text) && heatsFirst.In(t.Text) {
				u := usuals[Heat]
				t.Verb, t.Where, t.Hands, t.Wait = Heat, InOven, Time{u.Hands, u.Source}, Time{u.Wait, u.Source}
			} else if t.Verb != Bake && t.Wait.Source == Written && device.Bakes(t.Text) {
				t.Verb, t.Where = Bake, InOven
			}
		}
		return
	}
	if d.Name != "fridge" && !slices.ContainsFunc(rd.tasks, func(t Task) bool { return t.Verb == Bake }) {
		rd.partCook(d)
	}
	for n := range rd.tasks {
		t := &rd.tasks[n]
		switch {
		case t.Verb == Bake || t.Verb == BakeBlind:
			t.Where, t.Oven = Place(d.Place), 0
		case t.Verb == Heat:
			t.Where, t.Oven = Place(d.Place), 0
		case t.Part == "" && d.Cooks(t.Text) && t.Wait.Source == Written && t.Wait.Max > 0 && len(t.Uses) == 0 &&
			t.Verb.Is(MayCook) && rd.onlyCook(n, d):
			t.Verb, t.Where = Bake, Place(d.Place)
		}
	}
}

// partCook makes a task of its own of the sentence that cooks, where it was read with the work before it.
func (rd *reading) partCook(d device.Device) {
	for n := len(rd.tasks) - 1; n >= 0; n-- {
		t := &rd.tasks[n]
		if t.Part != "" {
			continue
		}
		for _, s := range en.Sentences(t.Written) {
			sentence := strings.TrimRight(t.Written[s.From:s.To], " .;,")
			if s.From == 0 || !d.Cooks(sentence) || !figures.In(sentence) {
				continue
			}
			cook := *t
			cook.Verb, cook.Where, cook.Uses, cook.Oven = Bake, Place(d.Place), nil, 0
			cook.Written, cook.Text = t.Written[s.From:], phrase.Sentence(phrase.Capital(strings.TrimRight(t.Written[s.From:], " .;,")))
			cook.Span.From = t.Span.From + s.From
			u := usuals[t.Verb]
			t.Written = strings.TrimSpace(t.Written[:s.From])
			t.Text, t.Span.To = phrase.Sentence(phrase.Capital(strings.TrimRight(t.Written, " .;,"))), cook.Span.From
			t.Wait = Time{u.Wait, u.Source}
			rd.details(&cook, cook.Text)
			cook.Where, cook.Oven = Place(d.Place), 0
			rd.insert(n+1, cook)
			return
		}
	}
}

// onlyCook reports whether no task before has cooked.
func (rd *reading) onlyCook(n int, d device.Device) bool {
	if d.Name == "fridge" {
		return false
	}
	return !slices.ContainsFunc(rd.tasks[:n], func(t Task) bool { return t.Verb == Bake })
}
