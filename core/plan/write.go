package plan

import (
	"fmt"
	"slices"
	"time"

	"kollaris/core/method"
)

// plan writes the board as a timetable.
func (b *board) plan() *Plan {
	at := func(back int) time.Time { return b.end.Add(-time.Duration(back) * time.Minute) }
	p := &Plan{Begin: at(b.begin()), Ready: b.end, Broken: b.broke, behind: b.late}
	for n, it := range b.items {
		of := n + 1
		slack := it.until + it.keeps - (it.from - it.size)
		if b.now >= 0 {
			slack = min(slack, b.now-it.from)
		}
		if it.runs {
			slack = 0
		}
		for n, s := range it.steps {
			pl := Placed{
				Bake: it.bake, Key: s.key, Task: s.task, From: at(it.from - s.at), Hands: at(it.from - s.at - s.hands),
				To: at(it.from - s.end()), Block: of,
			}
			if n == 0 {
				pl.Slack = max(0, slack)
			}
			p.Busy += s.hands
			if o := it.ovens[n]; o >= 0 {
				pl.Oven = b.ovens[o].Name
				in := b.inOven(s, it.bake, it.from, o)
				pl.With = b.together(o, in)
				if _, lit := b.done[s.key+heats]; !b.hot(o, in) && !lit {
					heat := heating(b.bakes[it.bake].Tasks, s.task)
					lit := at(in.from)
					p.Tasks = append(p.Tasks, Placed{
						Bake: it.bake, Key: s.key + heats, Task: heat, From: lit, Hands: lit.Add(time.Minute), To: pl.From, Oven: pl.Oven,
					})
					p.Busy++
				}
			}
			p.Tasks = append(p.Tasks, pl)
		}
	}
	slices.SortStableFunc(p.Tasks, func(a, b Placed) int { return a.From.Compare(b.From) })
	return p
}

// heating is the task by which a bake's oven is heated: the method's, or one of its own.
func heating(tasks []method.Task, bake method.Task) method.Task {
	for n, t := range tasks {
		if t.Verb != method.Heat {
			continue
		}
		for _, later := range tasks[n+1:] {
			if later.Verb == method.Heat {
				break
			}
			if (later.Verb == method.Bake || later.Verb == method.BakeBlind) && later.Text == bake.Text {
				return t
			}
		}
	}
	return method.Task{Verb: method.Heat, Text: fmt.Sprintf("Heat the oven to %.0f °C.", float64(bake.Oven)), Where: method.InOven, Oven: bake.Oven, Step: -1, Inferred: true}
}
