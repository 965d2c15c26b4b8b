package web

import (
	"cmp"
	"fmt"
	"net/url"
	"slices"
	"strings"

	"kollaris/core/adapt"
	"kollaris/core/measure"
	"kollaris/core/method"
	"kollaris/core/phrase"
	"kollaris/core/recipe"
)

// methodView is what is to be done, with how long it takes and what is wanted for it.
type methodView struct {
	Steps []stepRow
	Times string // "Hands on 25 to 35 min, about 2 h in all."
	Tools string
}

// stepRow is one task as it is printed.
type stepRow struct {
	Part    string // a heading before it, where another part begins
	Text    []textPart
	Note    string
	Changed bool
	Written string // the writer's words, where they are others
}

// textPart is a run of a text; New marks what the written recipe does not have.
type textPart struct {
	Text string
	New  bool
}

// methodOf shows tasks; fresh are the names that were not in the written recipe.
func methodOf(tasks []method.Task, r *recipe.Recipe, fresh []string) methodView {
	var v methodView
	part := ""
	for _, t := range tasks {
		row := stepRow{Text: marked(t.Text, fresh), Note: t.Note, Changed: t.Changed}
		if t.Part != part {
			part = t.Part
			row.Part = cmp.Or(phrase.Capital(part), "The batter")
		}
		if written := strings.TrimRight(t.Written, " .;,"); t.Changed && t.Written != "" && written != strings.TrimRight(t.Text, ".") {
			row.Written = phrase.Sentence(phrase.Capital(written))
		}
		v.Steps = append(v.Steps, row)
	}
	if hands, all := method.Hands(tasks), method.Total(tasks); len(tasks) > 0 && tasks[0].Verb != "" {
		v.Times = fmt.Sprintf("Hands on %s, about %s in all.", durationWords(rounded(hands)), durationWords(about(all)))
		v.Tools = strings.Join(method.Equipment(tasks, r), ", ")
	}
	return v
}

// rounded brings minutes to whole ones, and to fives above twenty.
func rounded(m recipe.Minutes) recipe.Minutes {
	to := func(x float64) float64 {
		if x > 20 {
			return 5 * float64(int(x/5+0.5))
		}
		return float64(int(x + 0.5))
	}
	return recipe.Minutes{Min: to(m.Min), Max: to(m.Max)}
}

// about is the middle of a range to the quarter or half of an hour.
func about(m recipe.Minutes) recipe.Minutes {
	mid := m.Mid()
	step := 10.0
	if mid >= 60 {
		step = 30
	}
	mid = step * float64(int(mid/step+0.5))
	return recipe.Minutes{Min: mid, Max: mid}
}

// marked parts a text at the names that are new in it.
func marked(text string, fresh []string) []textPart {
	var out []textPart
	for text != "" {
		at, name := -1, ""
		for _, f := range fresh {
			if n := strings.Index(text, f); n >= 0 && (at < 0 || n < at || n == at && len(f) > len(name)) {
				at, name = n, f
			}
		}
		if at < 0 {
			return append(out, textPart{Text: text})
		}
		if at > 0 {
			out = append(out, textPart{Text: text[:at]})
		}
		out = append(out, textPart{name, true})
		text = text[at+len(name):]
	}
	return out
}

// freshNames are the names of what a result brought in, as its method writes them.
func freshNames(res *adapt.Result) []string {
	var out []string
	put := func(name string) {
		if name = method.Short(name); name != "" && !slices.Contains(out, name) {
			out = append(out, name)
		}
	}
	for _, c := range res.Changes {
		if c.Kind != adapt.Swapped && c.Kind != adapt.Added {
			continue
		}
		put(c.SchoolName)
		for _, to := range c.To {
			if to.Ingredient != "water" {
				put(to.Name)
			}
		}
	}
	return out
}

// byTask lists the lines in the order in which they are used, each task's under its words.
func byTask(rows []lineRow, tasks []method.Task, r *recipe.Recipe) []lineRow {
	row := map[recipe.LineID]lineRow{}
	for _, l := range rows {
		row[recipe.LineID(l.ID)] = l
	}
	var out []lineRow
	seen := map[recipe.LineID]bool{}
	made := map[string]float64{} // g of what an earlier task made
	for _, t := range tasks {
		head := true
		for _, name := range t.Takes {
			l := lineRow{Name: name, New: true, Known: true, Grams: measure.Grams(made[name]).String()}
			if head {
				l.Section, head = taskTitle(t), false
			}
			if made[name] > 0 {
				out = append(out, l)
			}
			made[name] = 0 // it is taken whole
		}
		for _, u := range t.Uses {
			if line := r.Line(u.Line); t.Makes != "" && line != nil {
				made[t.Makes] += line.Grams * u.Share
			}
			l, ok := row[u.Line]
			if !ok {
				continue
			}
			l.Section = ""
			if head {
				l.Section, head = taskTitle(t), false
			}
			if line := r.Line(u.Line); u.Share < 0.999 && line != nil && line.Grams > 0 {
				l.Grams, l.Measure = measure.Grams(line.Grams*u.Share).String(), "of "+measure.Grams(line.Grams).String()
			}
			seen[u.Line] = true
			out = append(out, l)
		}
	}
	head := true
	for _, l := range rows {
		if !seen[recipe.LineID(l.ID)] {
			l.Section = ""
			if head {
				l.Section, head = "beside", false
			}
			out = append(out, l)
		}
	}
	return out
}

// taskTitle names a task over its ingredients: what is made, else what is done.
func taskTitle(t method.Task) string {
	if t.Makes != "" {
		return t.Makes
	}
	u, _ := method.Usuals(t.Verb)
	words := u.Words
	if t.Part != "" {
		words += ", " + t.Part
	}
	return words
}

// orderLinks are the two ways to list the ingredients of the full recipe.
func orderLinks(id int64, query url.Values, byUse bool) []railItem {
	at := func(order string) string {
		q := url.Values{}
		for k, v := range query {
			q[k] = v
		}
		q.Set("tab", "recipe")
		if q.Del("lines"); order != "" {
			q.Set("lines", order)
		}
		return recipeURL(id, "adapt", q.Encode())
	}
	return []railItem{{"By part", at(""), !byUse, ""}, {"As they are used", at("task"), byUse, ""}}
}
