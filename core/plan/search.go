package plan

import (
	"slices"
	"time"
)

// mostPlaced is how many blocks are put on boards in search of the best timetable; past that the
// best so far is taken, and said to be so.
const mostPlaced = 1000

// search finds the timetable that begins latest: by branch and bound over the order in which the
// blocks of all bakes are placed, each as late as it may, of each bake the last first; an order is
// given up where it cannot begin later than the best. whole is false where not all could be tried.
// What each list of blocks gives are the active schedules, among which the best is found (Source:
// published, Kolisch and Hartmann 1999, on serial schedule generation).
type search struct {
	*kitchen
	ks       Kitchen
	parts    [][]*block
	oven     ovenNeed
	best     *board
	finished []Placed // what is done already
	order    []int    // of the best: the bakes as their first blocks were placed
	left     int      // blocks that may still be placed
	whole    bool
}

// run tries the orders, those first that a rule proposes: the latest eaten first, then the longest.
func (s *search) run() {
	order := s.all()
	s.left, s.whole, s.oven = mostPlaced, true, s.needs()
	slices.SortStableFunc(order, func(a, b int) int { return s.bakes[b].Ready.Compare(s.bakes[a].Ready) })
	longest := slices.Clone(order)
	slices.SortStableFunc(longest, func(a, b int) int { return length(s.parts[b]) - length(s.parts[a]) })
	if prefer := s.ks.Prefer; len(prefer) == len(order) && sameSet(prefer, order) {
		s.try(prefer)
	}
	s.try(s.lastFirst(order))
	s.try(s.lastFirst(longest))
	tightest := slices.Clone(longest)
	slices.SortStableFunc(tightest, func(a, b int) int { return s.tight(a) - s.tight(b) })
	s.try(s.lastFirst(tightest))
	if len(s.bakes) > 1 && !s.ks.quick {
		rest := make([]int, len(s.bakes))
		for n := range rest {
			rest[n] = len(s.parts[n])
		}
		s.branch(newBoard(s.kitchen), nil, rest)
	}
}

// try places the bakes in one order, each whole.
func (s *search) try(order []int) {
	b := newBoard(s.kitchen)
	for at, n := range order {
		if !b.place(s.blocks(n, order[:at]), minutesBack(s.end, s.bakes[n].Ready), b.dusty(s.after(n, order[:at]))) {
			return
		}
	}
	s.keep(b, order)
}

func (s *search) keep(b *board, order []int) {
	if s.best == nil || b.better(s.best) {
		s.best, s.order = b, slices.Clone(order)
	}
}

// after are the bakes that begin only when one is in the oven, of those placed before it, which
// stand later.
func (s *search) after(n int, placed []int) []int {
	out := slices.Clone(s.bakes[n].Before)
	for _, m := range s.bakes[n].Clash {
		if slices.Contains(placed, m) {
			out = append(out, m)
		}
	}
	return out
}

// blocks are those of a bake, cleaned before where it stands after one that it clashes with.
func (s *search) blocks(n int, placed []int) []*block {
	for _, m := range s.bakes[n].Clash {
		if m != n && m < len(s.bakes) && !slices.Contains(placed, m) {
			return cleaned(s.parts[n])
		}
	}
	return s.parts[n]
}

// branch goes on from a board; order are the bakes that stand on it, rest how many blocks of each do
// not yet.
func (s *search) branch(b *board, order, rest []int) {
	if !slices.ContainsFunc(rest, func(n int) bool { return n > 0 }) {
		s.keep(b, order)
		return
	}
	var next []int
	for n := range rest {
		if rest[n] > 0 && (slices.Contains(order, n) || s.mayBegin(n, order, rest)) {
			next = append(next, n)
		}
	}
	slices.SortStableFunc(next, func(x, y int) int {
		if d := s.urgent(x, order) - s.urgent(y, order); d != 0 {
			return d
		}
		return s.reach(b, y, rest[y]) - s.reach(b, x, rest[x])
	})
	for _, n := range next {
		if s.left--; s.left < 0 {
			s.whole = false
			return
		}
		c, to, less := b.clone(), order, slices.Clone(rest)
		if !slices.Contains(order, n) {
			to = append(slices.Clone(order), n)
		}
		less[n]--
		if s.add(c, n, less[n], to[:slices.Index(to, n)]) && !s.hopeless(c, less) {
			s.branch(c, to, less)
		}
	}
}

// tight is how long a bake keeps when it is ready, minutes: one that is eaten warm hardly at all.
func (s *search) tight(n int) int {
	if parts := s.parts[n]; len(parts) > 0 {
		return parts[len(parts)-1].keeps
	}
	return horizon
}

// urgent orders bakes that do not stand on a board yet: those first that keep a few hours at most.
func (s *search) urgent(n int, order []int) int {
	if slices.Contains(order, n) {
		return stood
	}
	return min(s.tight(n), stood)
}

// add puts a block of a bake on a board on which those after it stand already. Where it would wait too
// long for them they are placed anew with it.
func (s *search) add(b *board, n, at int, placed []int) bool {
	blocks, ready := s.blocks(n, placed), minutesBack(s.end, s.bakes[n].Ready)
	first := b.dusty(s.after(n, placed))
	if b.placeNext(blocks, at, ready, first) {
		return true
	}
	others := newBoard(s.kitchen)
	others.broke, others.late = slices.Clone(b.broke), b.late
	for _, p := range b.items {
		if p.bake != n {
			others.take(p)
			others.items = append(others.items, p)
		}
	}
	if !others.place(blocks[at:], ready, first) {
		return false
	}
	*b = *others
	return true
}

// reach is how many minutes before the end a bake begins at the latest, with what stands of it.
func (s *search) reach(b *board, n, rest int) int {
	from := minutesBack(s.end, s.bakes[n].Ready)
	for _, p := range b.items {
		if p.bake == n {
			from = max(from, p.from)
		}
	}
	return from + length(s.parts[n][:rest])
}

// hopeless reports whether a board cannot become better than the best whatever is added.
func (s *search) hopeless(b *board, rest []int) bool {
	if s.best == nil {
		return false
	}
	if x, y := len(b.broke), len(s.best.broke); x != y {
		return x > y
	}
	if b.late != s.best.late {
		return b.late > s.best.late
	}
	least := max(b.begin(), s.oven.least)
	for n := range rest {
		least = max(least, s.reach(b, n, rest[n]))
	}
	return least >= s.best.begin()
}

// ovenNeed is what the ovens alone ask for.
type ovenNeed struct {
	least int // minutes before the end that the first is lit or begun at the latest
}

// needs works out the least that the ovens ask for: all that is in them one after the other, before
// it the least that is done or heated, after it the least that follows.
func (s *search) needs() (need ovenNeed) {
	sum, before, after := 0, horizon, horizon
	soonest := slices.MinFunc(s.ovens, func(a, b Oven) int { return a.hot() - b.hot() }).hot()
	for n, parts := range s.parts {
		done := 0
		for k, b := range parts {
			for _, st := range b.steps {
				if st.heat == 0 {
					continue
				}
				sum += st.hands + st.wait
				before = min(before, max(done+st.at, min(st.heat, soonest)))
				after = min(after, minutesBack(s.end, s.bakes[n].Ready)+b.size-st.end()+length(parts[k+1:]))
			}
			done += b.size
		}
	}
	if sum > 0 && len(s.shares) == 0 && len(s.baking) == 0 {
		need.least = before + sum/len(s.ovens) + after
	}
	return need
}

// mayBegin reports whether a bake may be placed after some: those that it comes before have been
// whole, since what is placed last comes to stand first, and none that it clashes with is halfway; in
// a circle any may.
func (s *search) mayBegin(n int, order, rest []int) bool {
	whole := slices.DeleteFunc(slices.Clone(order), func(m int) bool { return rest[m] > 0 })
	if len(whole) < len(order) && slices.ContainsFunc(s.bakes[n].Clash, func(m int) bool { return slices.Contains(order, m) && !slices.Contains(whole, m) }) {
		return false
	}
	return s.next(n, whole)
}

// next reports whether a bake may be placed after some.
func (s *search) next(n int, placed []int) bool {
	if s.waits(n, placed) {
		return !slices.ContainsFunc(s.all(), func(m int) bool { return !slices.Contains(placed, m) && !s.waits(m, placed) })
	}
	return true
}

func (s *search) waits(n int, placed []int) bool {
	return slices.ContainsFunc(s.bakes[n].Before, func(m int) bool { return m != n && m < len(s.bakes) && !slices.Contains(placed, m) })
}

func (s *search) all() []int {
	out := make([]int, len(s.bakes))
	for n := range out {
		out[n] = n
	}
	return out
}

// lastFirst is the nearest order to one in which each may be placed when it is.
func (s *search) lastFirst(order []int) []int {
	var out []int
	for len(out) < len(order) {
		n := order[slices.IndexFunc(order, func(n int) bool { return !slices.Contains(out, n) && s.next(n, out) })]
		out = append(out, n)
	}
	return out
}

func sameSet(a, b []int) bool {
	a, b = slices.Clone(a), slices.Clone(b)
	slices.Sort(a)
	slices.Sort(b)
	return slices.Equal(a, b)
}

// solved is the best board for bakes, with the rises in the fridge and the ovens shared that it
// needs.
type solved struct {
	*search
	bakes []Bake
}

// solve finds the best board. Where hours do not fit, a rise is made in the fridge; where that
// wins time worth having, two bakes share an oven.
func solve(bakes []Bake, k Kitchen, awake [2]int, end time.Time) *solved {
	base := &kitchen{
		cooks: max(1, k.Cooks), ovens: k.Ovens, has: k.Has, hours: hours{awake: awake, away: k.Away, end: end}, end: end, now: -1,
		pins: map[string]int{}, bakes: bakes, done: k.Done,
	}
	if !k.Now.IsZero() {
		base.now = min(minutesBack(end, k.Now), horizon)
	}
	for key, t := range k.Pins {
		base.pins[key] = minutesBack(end, t)
	}
	var got *solved
	with := func(bakes []Bake, shares [][2]int, order []int) *solved {
		kk := *base
		kk.bakes, kk.shares = bakes, shares
		s := &search{kitchen: &kk, ks: k}
		for n := range bakes {
			full := 0
			if slices.ContainsFunc(shares, func(p [2]int) bool { return p[0] == n || p[1] == n }) {
				full = bakes[n].fuller()
			}
			todos := bakes[n].todos(n, k.Done)
			s.finish(n, todos, full)
			s.parts = append(s.parts, blocksOf(n, todos, k, full))
		}
		if len(order) > 0 {
			s.whole = got.whole
			s.try(order)
		} else {
			s.run()
		}
		base.hours.off = kk.hours.off // what was worked out of the hours
		return &solved{s, bakes}
	}
	got = with(bakes, nil, nil)
	for n := range bakes {
		if got.best != nil && got.best.well() || bakes[n].Retard != RetardIfNeeded {
			continue
		}
		for _, r := range bakes[n].retards() {
			other := slices.Clone(got.bakes)
			other[n].Retard = r
			if o := with(other, nil, nil); o.best != nil && (got.best == nil || betterBy(o.best, got.best, 1)) {
				got = o
			}
			if got.best != nil && got.best.well() {
				break
			}
		}
	}
	if got.best == nil {
		return nil
	}
	shares := [][2]int{}
	for n := range got.bakes {
		for m := range n {
			if len(got.bakes) > mostShared || !mayShare(got.bakes, m, n, k.Ovens) ||
				slices.ContainsFunc(shares, func(p [2]int) bool { return p[0] == m || p[1] == m || p[0] == n || p[1] == n }) {
				continue
			}
			try := append(slices.Clone(shares), [2]int{m, n})
			if o := with(got.bakes, try, got.order); o.best != nil && betterBy(o.best, got.best, worthSharing) {
				got, shares = o, try
			}
		}
	}
	return got
}

// mostShared is how many bakes a plan may hold for shared ovens to be looked for.
const mostShared = 8

// worthSharing is how much later a plan must begin for two bakes to share an oven, in which each
// bakes less evenly, minutes. Source: practice.
const worthSharing = 15

// betterBy reports whether a board is better by some minutes at least, or by what is worth more.
func betterBy(b, o *board, minutes int) bool {
	if len(b.broke) != len(o.broke) || b.late != o.late {
		return b.better(o)
	}
	return o.begin()-b.begin() >= minutes
}

// finish notes of a bake's tasks what is done, and what is in an oven now.
func (s *search) finish(n int, todos []todo, full int) {
	for _, st := range stepsOf(todos, s.ks, full) {
		if lit, ok := s.done[st.key+heats]; ok && st.heat > 0 {
			heat := heating(s.bakes[n].Tasks, st.task)
			s.finished = append(s.finished, Placed{Bake: n, Key: st.key + heats, Task: heat, From: lit.Add(-time.Minute), Hands: lit, To: lit, Oven: s.bakes[n].Oven, Done: true})
		}
		if st.done.IsZero() {
			continue
		}
		pl := Placed{Bake: n, Key: st.key, Task: st.task, Hands: st.done, Done: true}
		pl.From, pl.To = st.done.Add(-time.Duration(st.hands)*time.Minute), st.done.Add(time.Duration(st.wait)*time.Minute)
		if st.heat > 0 {
			pl.Oven = s.bakes[n].Oven
			if s.now >= 0 {
				s.baking = append(s.baking, span{from: s.now, hard: s.now, to: minutesBack(s.end, pl.To), heat: st.task.Oven, bake: n})
			}
		}
		s.finished = append(s.finished, pl)
	}
}

// fuller is how many minutes longer a bake takes with another beside it. Source: practice, 5 to 15 %.
func (b *Bake) fuller() int {
	if b.Full > 0 {
		return b.Full
	}
	longest := 0.0
	for _, t := range b.Tasks {
		if t.Oven > 0 {
			longest = max(longest, t.Wait.Max)
		}
	}
	return minutes(longest / 10)
}

// air is what stays free round a tin, cm. Source: practice, 2 to 3.
const air = 2.5

// mayShare reports whether two bakes may be in one oven together: neither must come before the
// other, both keep to the same heat, and one of the ovens has room for both.
func mayShare(bakes []Bake, m, n int, ovens []Oven) bool {
	a, b := bakes[m], bakes[n]
	if slices.Contains(a.Before, n) || slices.Contains(b.Before, m) || slices.Contains(a.Clash, n) || a.Room == [2]float64{} || b.Room == [2]float64{} {
		return false
	}
	ha, ok := a.heat()
	hb, ok2 := b.heat()
	if !ok || !ok2 || !(span{heat: ha}).sameHeat(span{heat: hb}) {
		return false
	}
	return slices.ContainsFunc(ovens, func(o Oven) bool { return o.holds(a.Room, b.Room) })
}

// holds reports whether both tins stand in an oven with air round them: each on a shelf of its
// own, or side by side.
func (o Oven) holds(a, b [2]float64) bool {
	if o.Width <= 0 || o.Depth <= 0 {
		return false
	}
	fits := func(w, d float64) bool {
		return w+2*air <= o.Width && d+2*air <= o.Depth || d+2*air <= o.Width && w+2*air <= o.Depth
	}
	if o.Shelves >= 2 && fits(a[0], a[1]) && fits(b[0], b[1]) {
		return true
	}
	for _, x := range [][2]float64{a, {a[1], a[0]}} {
		for _, y := range [][2]float64{b, {b[1], b[0]}} {
			if fits(x[0]+air+y[0], max(x[1], y[1])) {
				return true
			}
		}
	}
	return false
}
