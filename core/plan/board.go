package plan

import (
	"fmt"
	"maps"
	"slices"
	"time"

	"kollaris/core/measure"
)

// board is a timetable while it is filled, in minutes back from the end: a task at 90 begins
// an hour and a half before. Later is less.
type board struct {
	*kitchen
	hands []span
	load  []int8            // how many hands work in the minute that begins so many before the end
	used  [][]span          // by oven
	taken map[string][]span // by what there is only so much of
	items []placed
	broke []string
	late  int // minutes by which what is begun ends after what follows it should begin
}

// kitchen is what all boards of a plan share.
type kitchen struct {
	cooks  int
	ovens  []Oven
	has    map[string]int
	hours  hours
	end    time.Time
	now    int            // minutes before the end, -1 for no such bound
	pins   map[string]int // by task, minutes before the end: it begins no later
	done   map[string]time.Time
	bakes  []Bake
	baking []span   // what is in an oven now
	shares [][2]int // bakes that may be in one oven together
}

// span is a stretch of time, minutes before the end: from is the larger. In an oven it is being
// heated till hard, and baked in from there.
type span struct {
	from, hard, to int
	heat           measure.Celsius
	bake           int
}

func (s span) overlaps(o span) bool { return s.from > o.to && o.from > s.to }

// sameHeat is how far two heats of an oven may lie apart to be one. Source: practice.
const sameHeat measure.Celsius = 10

func (s span) sameHeat(o span) bool { return s.heat-o.heat <= sameHeat && o.heat-s.heat <= sameHeat }

// clashes reports whether two bakes cannot have the oven so: both are in it and may not share it,
// or one is in it while it should be heated otherwise for the other. An oven that is hot anyway
// needs no heating.
func (b *board) clashes(s, o span) bool {
	switch {
	case !s.overlaps(o):
		return false
	case s.bake != o.bake && b.share(s.bake, o.bake):
		return !s.sameHeat(o)
	case s.hard > o.to && o.hard > s.to:
		return true
	}
	return !s.sameHeat(o)
}

// share reports whether two bakes may be in one oven together.
func (k *kitchen) share(a, b int) bool {
	return slices.Contains(k.shares, [2]int{min(a, b), max(a, b)})
}

// placed is a block with its beginning, minutes before the end.
type placed struct {
	*block
	from  int
	until int   // minutes before the end that what it makes has kept its time, or is wanted
	ovens []int // of each step, -1 for none
}

// newBoard is a board on which nothing stands but what is in the ovens now.
func newBoard(k *kitchen) *board {
	b := &board{kitchen: k, used: make([][]span, len(k.ovens)), taken: map[string][]span{}}
	for _, in := range k.baking {
		for n := range k.ovens {
			if k.mayUse(in.bake, n) {
				b.used[n] = append(b.used[n], in)
				break
			}
		}
	}
	return b
}

// clone is a board to go on with.
func (b *board) clone() *board {
	c := *b
	c.load = slices.Clone(b.load)
	c.hands, c.items, c.broke = slices.Clone(b.hands), slices.Clone(b.items), slices.Clone(b.broke)
	c.used, c.taken = cloneSpans(b.used), maps.Clone(b.taken)
	return &c
}

// mark is how far the lists of a board were filled.
type mark struct {
	hands int
	used  []int
	taken map[string][]span
	late  int
}

func (b *board) mark() mark {
	m := mark{hands: len(b.hands), late: b.late, taken: maps.Clone(b.taken)}
	for _, u := range b.used {
		m.used = append(m.used, len(u))
	}
	return m
}

// reset takes off a board what was put on it since.
func (b *board) reset(m mark) {
	for _, h := range b.hands[m.hands:] {
		for at := max(0, h.to+1); at <= h.from; at++ {
			b.load[at]--
		}
	}
	b.hands, b.late = b.hands[:m.hands], m.late
	for n := range b.used {
		b.used[n] = b.used[n][:m.used[n]]
	}
	if len(b.has) > 0 {
		b.taken = maps.Clone(m.taken)
	}
}

// place puts the blocks of a bake on the board, as late as they may: the last ends ready
// minutes before the end, and all is in the oven before those that it has to come before begin,
// first minutes before the end (0 for none). It is false where there is no room within the
// horizon.
func (b *board) place(parts []*block, ready, first int) bool {
	if len(parts) == 0 {
		return true
	}
	limit := b.limits(parts, ready, first)
	least := slices.Clone(limit)
	var got []placed
	start := b.mark()
	for round := 0; ; round++ {
		b.reset(start)
		got = make([]placed, len(parts))
		end, bad := ready, -1
		for n := len(parts) - 1; n >= 0; n-- {
			end = max(end, limit[n])
			p, ok := b.latest(parts[n], end)
			if !ok {
				return false
			}
			next := ready
			if n+1 < len(parts) {
				next = got[n+1].from
			}
			p.until = next
			got[n] = p
			b.take(p)
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
			b.reset(start)
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

// limits are how late each block of a bake may end at most, minutes before the end.
func (b *board) limits(parts []*block, ready, first int) []int {
	limit := make([]int, len(parts))
	for n, p := range parts {
		limit[n] = ready
		if done := p.inOven(); first > 0 && done > 0 {
			limit[n] = max(ready, first+done-p.size)
		}
		for _, s := range p.steps {
			if pin, ok := b.pins[s.key]; ok {
				limit[n] = max(limit[n], pin+s.at-p.size)
			}
		}
	}
	return limit
}

// placeNext puts one more block of a bake on the board, those after it standing there; it is false
// where it would wait too long for them, and nothing is put.
func (b *board) placeNext(parts []*block, at, ready, first int) bool {
	end := ready
	for _, p := range b.items {
		if p.bake == parts[at].bake {
			end = max(end, p.from)
		}
	}
	p, ok := b.latest(parts[at], max(end, b.limits(parts, ready, first)[at]))
	if !ok || p.from-p.size-end > p.keeps {
		return false
	}
	p.until = end
	b.take(p)
	b.items = append(b.items, p)
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
		p.until = end
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

// latest finds the latest place for a block that ends at least end minutes before the end; one
// that is begun goes on now, or as soon as hands are free.
func (b *board) latest(bl *block, end int) (placed, bool) {
	if bl.runs && b.now >= 0 {
		for from := b.now; from > b.now-horizon; from-- {
			if p, earlier := b.fits(bl, from); earlier == 0 {
				b.late = max(b.late, end-(from-bl.size))
				return p, true
			}
		}
		return placed{}, false
	}
	for from := end + bl.size; from <= end+bl.size+horizon; {
		p, earlier := b.fits(bl, from)
		if earlier == 0 {
			return p, true
		}
		from += earlier
	}
	return placed{}, false
}

// fits tells in which ovens a block is that begins from minutes before the end; earlier is by how
// many minutes at least it must begin earlier for what is in its way, 0 where it may.
func (b *board) fits(bl *block, from int) (p placed, earlier int) {
	p = placed{block: bl, from: from}
	for _, s := range bl.steps {
		at := span{from: from - s.at, to: from - s.at - s.hands}
		if s.hands > 0 {
			if !bl.runs {
				if n := b.hours.until(at); n > 0 {
					return p, n
				}
			}
			if n := b.handless(at); n > 0 {
				return p, n
			}
		}
		oven := -1
		if s.heat > 0 {
			oven, earlier = b.freeOven(s, bl.bake, from)
			if earlier > 0 {
				return p, earlier
			}
		}
		p.ovens = append(p.ovens, oven)
	}
	for _, u := range b.uses(p) {
		if n := crowded(b.taken[u.what], u.span, b.has[u.what]); n > 0 {
			return p, n
		}
	}
	return p, 0
}

// freeOven is the first oven that a bake may have so, or by how many minutes it must go in
// earlier to have one.
func (b *board) freeOven(s step, bake, from int) (oven, earlier int) {
	earlier = horizon
	for n := range b.ovens {
		if !b.mayUse(bake, n) {
			continue
		}
		wait, in := 0, b.inOven(s, bake, from, n)
		for _, o := range b.used[n] {
			if !b.clashes(in, o) {
				continue
			}
			out := o.from
			if o.sameHeat(in) {
				out = o.hard
			}
			wait = max(wait, out-in.to, 1)
		}
		if wait == 0 {
			return n, 0
		}
		earlier = min(earlier, wait)
	}
	return -1, earlier
}

// mayUse reports whether a bake may have an oven: any, or the one that is asked for.
func (k *kitchen) mayUse(bake, oven int) bool {
	asked := k.bakes[bake].Oven
	return asked == "" || asked == k.ovens[oven].Name ||
		!slices.ContainsFunc(k.ovens, func(o Oven) bool { return o.Name == asked })
}

// use is what a block has of something of which there is only so much.
type use struct {
	what string
	span span
}

// uses are those that a block at its place has of what is counted.
func (b *board) uses(p placed) []use {
	var out []use
	add := func(what string, from, to int) {
		if b.has[what] > 0 && to > from {
			out = append(out, use{what, span{from: p.from - from, to: p.from - to}})
		}
	}
	if from, to, ok := p.inTin(); ok && b.bakes[p.bake].Tin != "" {
		add(tinOf(b.bakes[p.bake].Tin), from, to)
	}
	if from, to, ok := p.inBowl(); ok {
		add(bowls, from, to)
	}
	for _, s := range p.steps {
		add(string(s.task.Where), s.at, s.end())
	}
	return out
}

// bowls is how mixing bowls are counted in Kitchen.Has.
const bowls = "bowl"

// tinOf is how a tin is counted there.
func tinOf(name string) string { return "tin " + name }

// work puts hands to a span.
func (b *board) work(at span) {
	b.hands = append(b.hands, at)
	if n := at.from + 1 - len(b.load); n > 0 {
		b.load = append(b.load, make([]int8, n+200)...)
	}
	for m := max(0, at.to+1); m <= at.from; m++ { // what runs on after the end counts no hands
		b.load[m]++
	}
}

// handless is by how many minutes at least a span must lie earlier for hands to be free all
// through it; 0 where they are.
func (b *board) handless(at span) int {
	for m := min(at.from, len(b.load)-1); m > at.to && m >= 0; m-- {
		if int(b.load[m]) < b.cooks {
			continue
		}
		for m+1 < len(b.load) && int(b.load[m+1]) >= b.cooks {
			m++
		}
		return m - at.to
	}
	return 0
}

// crowded is by how many minutes at least a span must lie earlier for fewer than most of some
// spans to be at work at once within it; 0 where it is so.
func crowded(spans []span, at span, most int) int {
	busiest, first := 0, horizon
	for _, s := range spans { // at the beginning of each that overlaps, and at its own
		if !s.overlaps(at) {
			continue
		}
		first = min(first, s.from-at.to)
		for _, when := range []int{at.from, min(s.from, at.from)} {
			n := 0
			for _, o := range spans {
				if o.from >= when && o.to < when {
					n++
				}
			}
			busiest = max(busiest, n)
		}
	}
	if busiest < most {
		return 0
	}
	return first
}

// take marks what a block uses.
func (b *board) take(p placed) {
	for n, s := range p.steps {
		if s.hands > 0 {
			b.work(span{from: p.from - s.at, to: p.from - s.at - s.hands})
		}
		if o := p.ovens[n]; o >= 0 {
			b.used[o] = append(b.used[o], b.inOven(s, p.bake, p.from, o))
		}
	}
	for _, u := range b.uses(p) {
		b.taken[u.what] = append(slices.Clone(b.taken[u.what]), u.span)
	}
}

// inOven is when a step has an oven, in a block that begins from minutes before the end.
func (k *kitchen) inOven(s step, bake, from, oven int) span {
	return span{from: from - s.at + min(s.heat, max(k.ovens[oven].hot(), s.preheat)), hard: from - s.at, to: from - s.end(), heat: s.task.Oven, bake: bake}
}

// hot reports whether another bake keeps an oven at a bake's heat till it goes in.
func (b *board) hot(oven int, in span) bool {
	return slices.ContainsFunc(b.used[oven], func(o span) bool {
		return o != in && o.overlaps(in) && o.sameHeat(in) && o.hard > in.hard && !b.clashes(in, o)
	})
}

// together are the other bakes that are in an oven with one.
func (b *board) together(oven int, in span) []int {
	var out []int
	for _, o := range b.used[oven] {
		if o.bake != in.bake && o.hard > in.to && in.hard > o.to && !slices.Contains(out, o.bake) {
			out = append(out, o.bake)
		}
	}
	return out
}

// begin is how many minutes before the end the first hands begin, or the oven is lit.
func (b *board) begin() int {
	most := 0
	for _, p := range b.items {
		most = max(most, p.from)
		for n, s := range p.steps {
			if o := p.ovens[n]; o >= 0 && !b.hot(o, b.inOven(s, p.bake, p.from, o)) {
				most = max(most, b.inOven(s, p.bake, p.from, o).from)
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
	if b.late != o.late {
		return b.late < o.late
	}
	if x, y := b.begin(), o.begin(); x != y {
		return x < y
	}
	return b.early() < o.early()
}

// well reports whether nothing is late and nothing waits too long.
func (b *board) well() bool {
	return len(b.broke) == 0 && b.late == 0 && (b.now < 0 || b.begin() <= b.now)
}

// dusty is when the first of some bakes begins, minutes before the end; 0 where none is placed.
func (b *board) dusty(before []int) int {
	first := 0
	for _, p := range b.items {
		if slices.Contains(before, p.bake) && p.soils() {
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
