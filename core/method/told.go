package method

import (
	"fmt"
	"slices"
	"strings"

	"kollaris/core/fact"
	"kollaris/core/recipe"
)

// told lays the baker's corrections over the tasks: what is done, how long, with what, and
// in which order. A correction of words that are no longer there waits.
func (rd *reading) told() {
	count := map[string]int{}
	for n := range rd.tasks {
		t := &rd.tasks[n]
		t.Key = strings.TrimRight(t.Written, " .;,")
		if count[t.Key]++; count[t.Key] > 1 {
			t.Key += fmt.Sprintf(" #%d", count[t.Key])
		}
	}
	for _, c := range rd.r.Told {
		n := slices.IndexFunc(rd.tasks, func(t Task) bool { return t.Key == c.Clause })
		if n < 0 || c.Move == 0 {
			continue
		}
		to := min(max(n+c.Move, 0), len(rd.tasks)-1)
		t, ms := rd.tasks[n], rd.mentions[n]
		rd.tasks, rd.mentions = slices.Delete(rd.tasks, n, n+1), slices.Delete(rd.mentions, n, n+1)
		rd.tasks, rd.mentions = slices.Insert(rd.tasks, to, t), slices.Insert(rd.mentions, to, ms)
	}
	rd.takes = map[int][]recipe.LineID{}
	for n := range rd.tasks {
		t := &rd.tasks[n]
		k := slices.IndexFunc(rd.r.Told, func(c recipe.Told) bool { return c.Clause == t.Key })
		if k < 0 {
			continue
		}
		c := rd.r.Told[k]
		if u, ok := usuals[Verb(c.Verb)]; ok && t.Verb != u.Verb {
			t.Verb = u.Verb
			rd.details(t, strings.TrimRight(t.Written, " .;,"))
		}
		if c.Minutes.Max > 0 {
			t.lasts(c.Minutes)
		}
		if c.Nothing || len(c.Lines) > 0 {
			rd.takes[n] = []recipe.LineID{}
			for _, l := range rd.r.Lines {
				if slices.Contains(c.Lines, l.Text) {
					rd.takes[n] = append(rd.takes[n], l.ID)
				}
			}
		}
	}
}

// Waits reports whether the verb takes time by itself rather than by hand.
func (v Verb) Waits() bool { return usuals[v].Wait.Max > 0 || v == Bake || v == BakeBlind }

// Yours is the source of a time that the baker typed.
const Yours fact.Source = "yours"

// lasts sets the minutes that the baker says.
func (t *Task) lasts(m recipe.Minutes) {
	if t.Verb.Waits() {
		t.Wait = Time{m, Yours}
	} else {
		t.Hands = Time{m, Yours}
	}
}
