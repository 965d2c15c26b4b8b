package plan

import (
	"fmt"
	"slices"
	"time"

	"kollaris/core/measure"
	"kollaris/core/method"
)

// board is a timetable while it is filled, in minutes back from the end: a task at 90 begins
// an hour and a half before. Later is less.
type board struct {
	cooks int
	ovens []Oven
	awake [2]int
	end   time.Time
	hands []span
	used  [][]span // by oven
	items []placed
	broke []string
}

// span is a stretch of time, minutes before the end: from is the larger. In an oven it is being
// heated till hard, and baked in from there.
type span struct {
	from, hard, to int
	heat           measure.Celsius
}

func (s span) overlaps(o span) bool { return s.from > o.to && o.from > s.to }

// sameHeat is how far two heats of an oven may lie apart to be one. Source: practice.
const sameHeat measure.Celsius = 10

// clashes reports whether two bakes cannot have the oven so: both are in it, or one is in it
// while it should be heated otherwise for the other. An oven that is hot anyway needs no heating.
func (s span) clashes(o span) bool {
	switch {
	case !s.overlaps(o):
		return false
	case s.hard > o.to && o.hard > s.to:
		return true
	}
	return s.heat-o.heat > sameHeat || o.heat-s.heat > sameHeat
}

// placed is a block with its beginning, minutes before the end.
type placed struct {
	*block
	from  int
	ovens []int // of each step, -1 for none
}

func newBoard(k Kitchen, awake [2]int, end time.Time) *board {
	return &board{cooks: max(1, k.Cooks), ovens: k.Ovens, awake: awake, end: end, used: make([][]span, len(k.Ovens))}
}

// place puts the blocks of a bake on the board, as late as they may: the last ends ready
// minutes before the end, and all is in the oven before those that it has to come before begin,
// first minutes before the end (0 for none). It is false where there is no room within the
// horizon.
func (b *board) place(parts []*block, ready, first int) bool {
	limit := make([]int, len(parts)) // how late each may end at most: minutes before the end
	for n := range limit {
		limit[n] = ready
		if done := parts[n].inOven(); first > 0 && done > 0 {
			limit[n] = max(ready, first+done-parts[n].size)
		}
	}
	least := slices.Clone(limit)
	var got []placed
	hands, used := slices.Clone(b.hands), cloneSpans(b.used)
	for round := 0; ; round++ {
		b.hands, b.used = slices.Clone(hands), cloneSpans(used)
		got = make([]placed, len(parts))
		end, bad := ready, -1
		for n := len(parts) - 1; n >= 0; n-- {
			end = max(end, limit[n])
			p, ok := b.latest(parts[n], end)
			if !ok {
				return false
			}
			got[n] = p
			b.take(p)
			next := ready
			if n+1 < len(parts) {
				next = got[n+1].from
			}
			if ends := p.from - p.size; n+1 < len(parts) && ends-next > parts[n].keeps {
				limit[n+1] = max(limit[n+1], ends-parts[n].keeps-parts[n+1].size)
				bad = n + 1
				break
			}
			end = p.from
		}
		if bad < 0 {
			break
		}
		if round > 60 { // it cannot be helped: it waits too long, which is said
			b.hands, b.used = slices.Clone(hands), cloneSpans(used)
			return b.placeAnyway(parts, least)
		}
	}
	b.items = append(b.items, got...)
	last := got[len(got)-1]
	if wait := last.from - last.size - ready; wait > last.keeps {
		b.broke = append(b.broke, waitsWords(last, wait))
	}
	return true
}

// placeAnyway puts blocks on the board though one waits longer than it should.
func (b *board) placeAnyway(parts []*block, limit []int) bool {
	end := 0
	for n := len(parts) - 1; n >= 0; n-- {
		end = max(end, limit[n])
		p, ok := b.latest(parts[n], end)
		if !ok {
			return false
		}
		if wait := p.from - p.size - end; wait > p.keeps {
			b.broke = append(b.broke, waitsWords(p, wait))
		}
		b.take(p)
		b.items = append(b.items, p)
		end = p.from
	}
	return true
}

func waitsWords(p placed, wait int) string {
	last := p.steps[len(p.steps)-1].task
	return fmt.Sprintf("“%s” would wait %s; it keeps %s.", clip(last.Text), long(wait), long(p.keeps))
}

// latest finds the latest place for a block that ends at least end minutes before the end.
func (b *board) latest(bl *block, end int) (placed, bool) {
	for from := end + bl.size; from <= end+bl.size+horizon; from++ {
		if p, ok := b.fits(bl, from); ok {
			return p, true
		}
	}
	return placed{}, false
}

// fits reports whether a block may begin from minutes before the end, and in which ovens.
func (b *board) fits(bl *block, from int) (placed, bool) {
	p := placed{block: bl, from: from}
	for _, s := range bl.steps {
		at := span{from: from - s.at, to: from - s.at - s.hands}
		if s.hands > 0 && (!b.isAwake(at) || b.busy(at) >= b.cooks) {
			return p, false
		}
		oven := -1
		if s.heat > 0 {
			in := s.inOven(from)
			for n := range b.ovens {
				if !slices.ContainsFunc(b.used[n], in.clashes) {
					oven = n
					break
				}
			}
			if oven < 0 {
				return p, false
			}
		}
		p.ovens = append(p.ovens, oven)
	}
	return p, true
}

// busy is how many hands are at work at once within a span.
func (b *board) busy(at span) int {
	most := 0
	for _, s := range b.hands { // at the beginning of each that overlaps, and at its own
		if !s.overlaps(at) {
			continue
		}
		for _, when := range []int{at.from, min(s.from, at.from)} {
			n := 0
			for _, o := range b.hands {
				if o.from >= when && o.to < when {
					n++
				}
			}
			most = max(most, n)
		}
	}
	return most
}

// isAwake reports whether hands may work through a span.
func (b *board) isAwake(at span) bool {
	if b.awake == [2]int{} {
		return true
	}
	for _, back := range []int{at.from, at.to + 1} {
		t := b.end.Add(-time.Duration(back) * time.Minute)
		m := t.Hour()*60 + t.Minute()
		if in := m >= b.awake[0] && m < b.awake[1]; b.awake[0] < b.awake[1] && !in {
			return false
		} else if b.awake[0] > b.awake[1] && m < b.awake[0] && m >= b.awake[1] { // past midnight
			return false
		}
	}
	return true
}

// take marks what a block uses.
func (b *board) take(p placed) {
	for n, s := range p.steps {
		if s.hands > 0 {
			b.hands = append(b.hands, span{from: p.from - s.at, to: p.from - s.at - s.hands})
		}
		if o := p.ovens[n]; o >= 0 {
			b.used[o] = append(b.used[o], s.inOven(p.from))
		}
	}
}

// inOven is when a step has the oven, in a block that begins from minutes before the end.
func (s step) inOven(from int) span {
	return span{from: from - s.at + s.heat, hard: from - s.at, to: from - s.end(), heat: s.task.Oven}
}

// hot reports whether another bake keeps an oven at a bake's heat till it goes in.
func (b *board) hot(oven int, in span) bool {
	return slices.ContainsFunc(b.used[oven], func(o span) bool {
		return o != in && o.overlaps(in) && o.hard > in.hard && !in.clashes(o)
	})
}

// begin is how many minutes before the end the first hands begin, or the oven is lit.
func (b *board) begin() int {
	most := 0
	for _, p := range b.items {
		most = max(most, p.from)
		for n, s := range p.steps {
			if o := p.ovens[n]; o >= 0 && !b.hot(o, s.inOven(p.from)) {
				most = max(most, p.from-s.at+s.heat)
			}
		}
	}
	return most
}

// better reports whether a timetable is to be preferred: fewer that wait too long, then a later
// beginning, then less time between the first hands and the last of all bakes together.
func (b *board) better(o *board) bool {
	if len(b.broke) != len(o.broke) {
		return len(b.broke) < len(o.broke)
	}
	if x, y := b.begin(), o.begin(); x != y {
		return x < y
	}
	return b.early() < o.early()
}

// dusty is when the first of some bakes begins, minutes before the end; 0 where none is placed.
func (b *board) dusty(before []int) int {
	first := 0
	for _, p := range b.items {
		if slices.Contains(before, p.bake) {
			first = max(first, p.from)
		}
	}
	return first
}

// early is the sum of all beginnings: the less of it the later all is done.
func (b *board) early() int {
	sum := 0
	for _, p := range b.items {
		sum += p.from
	}
	return sum
}

func cloneSpans(s [][]span) [][]span {
	out := make([][]span, len(s))
	for n := range s {
		out[n] = slices.Clone(s[n])
	}
	return out
}

// plan writes the board as a timetable.
func (b *board) plan(bakes []Bake, k Kitchen, end time.Time) *Plan {
	at := func(back int) time.Time { return end.Add(-time.Duration(back) * time.Minute) }
	p := &Plan{Begin: at(b.begin()), Ready: end, Broken: b.broke}
	for _, it := range b.items {
		for n, s := range it.steps {
			pl := Placed{Bake: it.bake, Task: s.task, From: at(it.from - s.at), Hands: at(it.from - s.at - s.hands), To: at(it.from - s.end())}
			p.Busy += s.hands
			if o := it.ovens[n]; o >= 0 {
				pl.Oven = b.ovens[o].Name
				if b.hot(o, s.inOven(it.from)) {
					p.Tasks = append(p.Tasks, pl)
					continue
				}
				heat := heating(bakes[it.bake].Tasks, s.task)
				lit := at(it.from - s.at + s.heat)
				p.Tasks = append(p.Tasks, Placed{Bake: it.bake, Task: heat, From: lit, Hands: lit.Add(time.Minute), To: pl.From, Oven: pl.Oven})
				p.Busy++
			}
			p.Tasks = append(p.Tasks, pl)
		}
	}
	slices.SortStableFunc(p.Tasks, func(a, b Placed) int { return a.From.Compare(b.From) })
	if !k.Now.IsZero() {
		for _, t := range p.Tasks {
			if by := int(k.Now.Sub(t.From) / time.Minute); by > 0 {
				p.Late = append(p.Late, Late{t.Bake, t.Task, by, waysOut(t, by, bakes[t.Bake].Ready)})
			}
		}
	}
	p.Feasible = len(p.Late) == 0 && len(p.Broken) == 0
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
