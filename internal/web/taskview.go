package web

import (
	"fmt"
	"net/url"
	"slices"
	"strings"

	"kollaris/core/larder"
	"kollaris/core/measure"
	"kollaris/core/method"
	"kollaris/core/phrase"
	"kollaris/core/recipe"
)

// taskRow is a task of the method on the Read screen, with what can be corrected of it.
type taskRow struct {
	Key, Text string
	Verb      string // in words
	With      string // what it takes
	Time      string
	Lines     string // their numbers, parted by spaces
	Fixed     bool   // corrected by the baker
	Verbs     []choice
	Minutes   field
	Takes     []checkbox
	Open      bool
}

// badTask is a correction of a task that will not do.
type badTask struct {
	form  url.Values
	fault string
}

// wrong lays a correction that will not do over its task, as it was typed.
func (v *readView) wrong(bad *badTask) {
	if bad == nil {
		return
	}
	for n := range v.Tasks {
		t := &v.Tasks[n]
		if t.Key != bad.form.Get("task") {
			continue
		}
		v.TasksOpen, t.Open = true, true
		t.Minutes.Value, t.Minutes.Fault = bad.form.Get("minutes"), phrase.Sentence(bad.fault)
		for k := range t.Verbs {
			t.Verbs[k].On = t.Verbs[k].Value == bad.form.Get("verb")
		}
		for k := range t.Takes {
			t.Takes[k].On = slices.Contains(bad.form["takes"], t.Takes[k].ID)
		}
	}
}

// taskRows are the written tasks of a recipe as they were read.
func taskRows(r *recipe.Recipe, l *larder.Larder) []taskRow {
	var out []taskRow
	for n, t := range method.Read(r, l) {
		if t.Inferred {
			continue
		}
		row := taskRow{
			Key: t.Key, Text: t.Text, Verb: verbWords(t.Verb), Fixed: told(r, t.Key) != nil,
			Minutes: field{ID: fmt.Sprintf("t-min-%d", n), Name: "minutes", Words: "Minutes", Hint: "as usual", Size: 8},
		}
		var with, ids []string
		for _, u := range t.Uses {
			line := r.Line(u.Line)
			name := method.Short(line.Name)
			if u.Share < 0.995 {
				name = fmt.Sprintf("%.0f %% of the %s", 100*u.Share, name)
			}
			with, ids = append(with, name), append(ids, fmt.Sprint(u.Line))
		}
		row.With, row.Lines = strings.Join(with, ", "), strings.Join(ids, " ")
		time := t.Hands
		if t.Verb.Waits() {
			time = t.Wait
		}
		if time.Max > 0 && t.Verb != method.Remark {
			row.Time = durationWords(time.Minutes)
			if time.Source == method.Written || time.Source == method.Yours {
				row.Minutes.Value = strings.ReplaceAll(rangeWords(time.Minutes), "–", "-")
			} else {
				row.Time = "usually " + row.Time
			}
		}
		for _, v := range method.Verbs() {
			row.Verbs = append(row.Verbs, choice{string(v), verbWords(v), v == t.Verb})
		}
		for _, line := range r.Lines {
			on := slices.ContainsFunc(t.Uses, func(u method.Use) bool { return u.Line == line.ID })
			row.Takes = append(row.Takes, checkbox{ID: line.Text, Words: method.Short(line.Name), On: on})
		}
		out = append(out, row)
	}
	return out
}

func verbWords(v method.Verb) string {
	if v == method.Remark {
		return "nothing to do"
	}
	u, _ := method.Usuals(v)
	return u.Words
}

// told is what the baker said of a task, nil for nothing.
func told(r *recipe.Recipe, key string) *recipe.Told {
	for n := range r.Told {
		if r.Told[n].Clause == key {
			return &r.Told[n]
		}
	}
	return nil
}

// readTold lays one correction of a task over those there are; the fault says which minutes
// would do.
func readTold(all []recipe.Told, form url.Values, r *recipe.Recipe, l *larder.Larder) (out []recipe.Told, fault string) {
	key := form.Get("task")
	out = slices.DeleteFunc(slices.Clone(all), func(c recipe.Told) bool { return c.Clause == key })
	if form.Get("undo") != "" {
		return out, ""
	}
	c := recipe.Told{Clause: key}
	if was := told(r, key); was != nil {
		c.Move = was.Move
	}
	read := slices.IndexFunc(method.Read(&recipe.Recipe{
		Title: r.Title, Kind: r.Kind, Oven: r.Oven, Bake: r.Bake, Tins: r.Tins, Lines: r.Lines, Steps: r.Steps,
	}, l), func(t method.Task) bool { return t.Key == key })
	if read < 0 {
		return all, "" // these words are not in the text any more
	}
	switch form.Get("order") {
	case "earlier":
		c.Move--
	case "later":
		c.Move++
	}
	c.Verb = form.Get("verb")
	if typed := strings.TrimSpace(form.Get("minutes")); typed != "" {
		from, to, ranged := strings.Cut(strings.ReplaceAll(typed, "–", "-"), "-")
		lo, err := measure.ParseDecimal(strings.TrimSpace(from), "min")
		hi := lo
		if ranged && err == nil {
			hi, err = measure.ParseDecimal(strings.TrimSpace(to), "min")
		}
		if err != nil || !(lo > 0 && hi >= lo && hi <= 20000) {
			return all, fmt.Sprintf("“%s” is no time: try minutes such as 10, or 10-15", phrase.Clip(typed, 30))
		}
		c.Minutes = recipe.Minutes{Min: lo, Max: hi}
	}
	c.Lines = form["takes"]
	c.Nothing = len(c.Lines) == 0
	return append(out, c), ""
}
