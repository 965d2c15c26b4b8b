package plan

import (
	"fmt"
	"slices"
	"time"

	"kollaris/core/method"
	"kollaris/core/phrase"
)

// How time is won. Source: practice (handbook figures of the trade: simmered fruit cools in an hour,
// cups take a third of a loaf's time, 30 °C and half as much yeast again halve a rise).
const (
	simmered   = 70.0 // minutes in all, instead of a soak
	cupsTake   = 1.0 / 3
	cupsCool   = 30.0
	quickRise  = 0.45
	partAhead  = 10 * time.Hour // before it is eaten at the latest, so the evening before
	partEnds   = 10.0           // minutes in the oven that are left for the day
	mostLeft   = 6              // bakes of which each may be left to another day
	mostPushed = 20             // times the meal is moved till all fits
	leastStep  = 15             // minutes, to which the night is searched
)

// escape looks for ways out of a plan that cannot be kept.
type escape struct {
	*Plan
	bakes []Bake
	k     Kitchen
	awake [2]int
	late  int // minutes
}

// try plans anew, and keeps the way where it is better.
func (e escape) try(words string, other []Bake, k Kitchen, awake [2]int) {
	if len(k.Ovens) == 0 || len(other) == 0 {
		return
	}
	o := made(other, k, awake)
	if o == nil || o.by() >= e.late && len(o.Broken) >= len(e.Broken) || len(o.Broken) > len(e.Broken) || o.by() > e.late {
		return
	}
	e.Ways = append(e.Ways, Way{Words: words, Late: o.by()})
}

// otherwise plans anew with tasks changed, where any is.
func (e escape) otherwise(words string, change func(*method.Task) bool) {
	any := false
	out := slices.Clone(e.bakes)
	for n := range out {
		out[n].Tasks = slices.Clone(out[n].Tasks)
		for m := range out[n].Tasks {
			any = change(&out[n].Tasks[m]) || any
		}
	}
	if any {
		e.try(words, out, e.k, e.awake)
	}
}

// waits shortens a task's wait; false where it is no longer than that.
func waits(t *method.Task, minutes float64) bool {
	if (t.Wait.Min+t.Wait.Max)/2 <= minutes {
		return false
	}
	t.Wait.Min, t.Wait.Max = minutes, minutes
	return true
}

// waysOut works out what would make a plan that cannot be kept, each by planning anew.
func (p *Plan) waysOut(bakes []Bake, k Kitchen, awake [2]int) {
	k.quick = true
	e := escape{p, bakes, k, awake, p.by()}
	e.otherwise("Simmer the fruit 10 minutes and let it cool an hour instead of soaking: softer, less plump.", func(t *method.Task) bool {
		return t.Verb == method.Soak && waits(t, simmered)
	})
	e.otherwise("Let dough rise at 30 °C with half as much yeast again: less taste.", func(t *method.Task) bool {
		return t.Verb == method.Prove && t.Where != method.Fridge && waits(t, quickRise*(t.Wait.Min+t.Wait.Max)/2)
	})
	e.withMore()
	e.otherwise("Bake what is a loaf or a cake as cups: a third of the time, more crust, quicker stale.", func(t *method.Task) bool {
		switch t.Verb {
		case method.Bake:
			return t.Wait.Max > 30 && waits(t, cupsTake*t.Wait.Max)
		case method.Cool:
			return waits(t, cupsCool)
		}
		return false
	})
	e.otherwise("Eat it the same day: it is drier and cuts less well.", func(t *method.Task) bool {
		return t.Verb == method.Mature && waits(t, 0)
	})
	e.otherwise("Eat it warm: it crumbles when it is cut, and what is gluten-free gums.", func(t *method.Task) bool {
		return t.Verb == method.Cool && waits(t, warmCools)
	})
	e.otherwise("Cut the butter small or beat it with a warm whisk: 20 minutes, watched.", func(t *method.Task) bool {
		return t.Verb == method.Soften && waits(t, 20)
	})
	if len(bakes) <= mostLeft {
		e.withLess()
	}
	slices.SortStableFunc(p.Ways, func(a, b Way) int { return a.Late - b.Late })
	if e.late > 0 {
		p.eatLater(bakes, k, awake)
	}
}

// withMore tries another oven, another pair of hands, more hours.
func (e escape) withMore() {
	more := e.k
	if len(e.bakes) > 1 {
		more.Ovens = append(slices.Clone(e.k.Ovens), Oven{Name: "another oven", Preheat: preheat(e.k.Ovens)})
		e.try("A second oven, a neighbour’s for instance.", e.bakes, more, e.awake)
		more = e.k
	}
	more.Cooks = max(1, e.k.Cooks) + 1
	e.try("One more pair of hands.", e.bakes, more, e.awake)
	if e.awake != [2]int{} || len(e.k.Away) > 0 {
		more = e.k
		more.Away = nil
		e.try("Get up earlier, go to bed later, or stay at home that day.", e.bakes, more, [2]int{})
	}
}

// withLess tries a bake part-baked the day before, and a bake the less.
func (e escape) withLess() {
	for n := range e.bakes {
		if other, ok := partBaked(e.bakes, n); ok {
			e.try("Part-bake "+e.bakes[n].Name+" the day before: out when it is risen, set and still pale; cold, wrapped, in the fridge. Ten minutes at its heat end it: more crust, quicker stale.", other, e.k, e.awake)
		}
	}
	if len(e.bakes) < 2 {
		return
	}
	var enough []string // any of them would do
	for n := range e.bakes {
		rest, k := without(e.bakes, e.k, n)
		if o := made(rest, k, e.awake); o != nil && o.by() == 0 && len(o.Broken) == 0 {
			enough = append(enough, e.bakes[n].Name)
		}
	}
	if len(enough) > 0 {
		e.Ways = append(e.Ways, Way{Words: "Another day, or bought: " + phrase.Or(enough) + "."})
	}
}

// partBaked is a plan's bakes with the baking of one ended on the day, and all else of it done the
// day before; false for what is not part-baked, which is all but what rises, and where an order is to
// be kept between it and another.
func partBaked(bakes []Bake, n int) ([]Bake, bool) {
	b := bakes[n]
	last := -1
	for m, t := range b.Tasks {
		if t.Verb == method.Bake {
			last = m
		}
	}
	rises := slices.ContainsFunc(b.Tasks, func(t method.Task) bool { return t.Verb == method.Prove })
	ordered := len(b.Before)+len(b.Clash) > 0 || slices.ContainsFunc(bakes, func(o Bake) bool { return slices.Contains(o.Before, n) })
	if last < 0 || !rises || ordered || b.Tasks[last].Wait.Max <= partEnds {
		return nil, false
	}
	end := b
	end.Serve, end.Retard, end.Fresh = Warm, "", 0
	bake := b.Tasks[last]
	bake.Wait.Min, bake.Wait.Max = partEnds, partEnds
	end.Tasks = []method.Task{bake}
	out := slices.Clone(bakes)
	out[n].Ready, out[n].Serve, out[n].Fresh = b.Ready.Add(-partAhead), Cold, 0
	out[n].Tasks = slices.Clone(b.Tasks)
	short := &out[n].Tasks[last].Wait
	short.Min, short.Max = max(0, short.Min-partEnds), short.Max-partEnds
	return append(out, end), true
}

// without is a plan's bakes with one left out, and the kitchen for them.
func without(bakes []Bake, k Kitchen, n int) ([]Bake, Kitchen) {
	var out []Bake
	move := func(list []int) []int {
		var to []int
		for _, m := range list {
			switch {
			case m < n:
				to = append(to, m)
			case m > n:
				to = append(to, m-1)
			}
		}
		return to
	}
	for m, b := range bakes {
		if m == n {
			continue
		}
		b.Before, b.Clash = move(b.Before), move(b.Clash)
		out = append(out, b)
	}
	renamed := func(from map[string]time.Time) map[string]time.Time {
		to := map[string]time.Time{}
		for key, t := range from {
			var bake int
			var rest string
			if _, err := fmt.Sscanf(key, "%d.%s", &bake, &rest); err == nil && bake != n {
				if bake > n {
					bake--
				}
				to[fmt.Sprintf("%d.%s", bake, rest)] = t
			}
		}
		return to
	}
	k.Done, k.Pins, k.Prefer = renamed(k.Done), renamed(k.Pins), nil
	return out, k
}

// eatLater finds when all could be ready, everything moved alike. A meal that is moved by what is late is mostly right at once. In the
// evening it is as late again, since the work stays before the night: then it is moved on in longer and longer steps till the night has
// passed, and back as far as all still fits.
func (p *Plan) eatLater(bakes []Bake, k Kitchen, awake [2]int) {
	moved := func(by int) *Plan {
		later := slices.Clone(bakes)
		for n := range later {
			later[n].Ready = later[n].Ready.Add(time.Duration(by) * time.Minute)
		}
		return made(later, k, awake)
	}
	short, by, late := 0, p.by(), p.by() // the last that was not enough; what is tried; how late it was then
	step := leastStep
	for range mostPushed {
		o := moved(by)
		if o == nil {
			return
		}
		if o.by() == 0 {
			for short > 0 && by-short > leastStep { // it may have gone too far
				if half := moved((short + by) / 2); half != nil && half.by() == 0 {
					o, by = half, (short+by)/2
				} else {
					short = (short + by) / 2
				}
			}
			p.Soonest = o.Ready
			p.Ways = append(p.Ways, Way{Words: fmt.Sprintf("Eat %s later, at %s.", long(by), p.Soonest.Format("Mon 15:04")), Eat: p.Soonest})
			return
		}
		short = by
		if o.by() < late {
			by += o.by()
		} else {
			step *= 2
			by += max(step, o.by())
		}
		late = o.by()
	}
}
