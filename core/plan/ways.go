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
	mostPushed = 8              // times the meal is moved till all fits
)

// waysOut works out what would make a plan that cannot be kept, each by planning anew.
func (p *Plan) waysOut(bakes []Bake, k Kitchen, awake [2]int) {
	late := p.by()
	k.quick = true
	add := func(words string, other []Bake, k Kitchen, awake [2]int) {
		if len(k.Ovens) == 0 || len(other) == 0 {
			return
		}
		o := made(other, k, awake)
		if o == nil || o.by() >= late && len(o.Broken) >= len(p.Broken) || len(o.Broken) > len(p.Broken) || o.by() > late {
			return
		}
		w := Way{Words: words, Late: o.by()}
		p.Ways = append(p.Ways, w)
	}
	changed := func(change func(*method.Task) bool) ([]Bake, bool) {
		any := false
		out := slices.Clone(bakes)
		for n := range out {
			out[n].Tasks = slices.Clone(out[n].Tasks)
			for m := range out[n].Tasks {
				any = change(&out[n].Tasks[m]) || any
			}
		}
		return out, any
	}
	waits := func(t *method.Task, minutes float64) bool {
		if (t.Wait.Min+t.Wait.Max)/2 <= minutes {
			return false
		}
		t.Wait.Min, t.Wait.Max = minutes, minutes
		return true
	}
	if b, any := changed(func(t *method.Task) bool { return t.Verb == method.Soak && waits(t, simmered) }); any {
		add("Simmer the fruit 10 minutes and let it cool an hour instead of soaking: softer, less plump.", b, k, awake)
	}
	if b, any := changed(func(t *method.Task) bool {
		return t.Verb == method.Prove && t.Where != method.Fridge && waits(t, quickRise*(t.Wait.Min+t.Wait.Max)/2)
	}); any {
		add("Let dough rise at 30 °C with half as much yeast again: less taste.", b, k, awake)
	}
	more := k
	if len(bakes) > 1 {
		more.Ovens = append(slices.Clone(k.Ovens), Oven{Name: "another oven", Preheat: preheat(k.Ovens)})
		add("A second oven, a neighbour’s for instance.", bakes, more, awake)
		more = k
	}
	more.Cooks = max(1, k.Cooks) + 1
	add("One more pair of hands.", bakes, more, awake)
	if awake != [2]int{} || len(k.Away) > 0 {
		more = k
		more.Away = nil
		add("Get up earlier, go to bed later, or stay at home that day.", bakes, more, [2]int{})
	}
	if b, any := changed(func(t *method.Task) bool {
		switch t.Verb {
		case method.Bake:
			return t.Wait.Max > 30 && waits(t, cupsTake*t.Wait.Max)
		case method.Cool:
			return waits(t, cupsCool)
		}
		return false
	}); any {
		add("Bake what is a loaf or a cake as cups: a third of the time, more crust, quicker stale.", b, k, awake)
	}
	if b, any := changed(func(t *method.Task) bool { return t.Verb == method.Mature && waits(t, 0) }); any {
		add("Eat it the same day: it is drier and cuts less well.", b, k, awake)
	}
	if b, any := changed(func(t *method.Task) bool { return t.Verb == method.Cool && waits(t, warmCools) }); any {
		add("Eat it warm: it crumbles when it is cut, and what is gluten-free gums.", b, k, awake)
	}
	if b, any := changed(func(t *method.Task) bool { return t.Verb == method.Soften && waits(t, 20) }); any {
		add("Cut the butter small or beat it with a warm whisk: 20 minutes, watched.", b, k, awake)
	}
	if len(bakes) <= mostLeft {
		for n := range bakes {
			if other, ok := partBaked(bakes, n); ok {
				add("Part-bake "+bakes[n].Name+" the day before: out when it is risen, set and still pale; cold, wrapped, in the fridge. Ten minutes at its heat end it: more crust, quicker stale.", other, k, awake)
			}
		}
	}
	if len(bakes) > 1 && len(bakes) <= mostLeft {
		var enough []string // any of them would do
		for n := range bakes {
			rest, kk := without(bakes, k, n)
			if o := made(rest, kk, awake); o != nil && o.by() == 0 && len(o.Broken) == 0 {
				enough = append(enough, bakes[n].Name)
			}
		}
		if len(enough) > 0 {
			p.Ways = append(p.Ways, Way{Words: "Another day, or bought: " + phrase.Or(enough) + "."})
		}
	}
	slices.SortStableFunc(p.Ways, func(a, b Way) int { return a.Late - b.Late })
	if late > 0 {
		p.eatLater(bakes, k, awake)
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

// eatLater finds when all could be ready, everything moved alike.
func (p *Plan) eatLater(bakes []Bake, k Kitchen, awake [2]int) {
	by := p.by()
	for range mostPushed {
		later := slices.Clone(bakes)
		for n := range later {
			later[n].Ready = later[n].Ready.Add(time.Duration(by) * time.Minute)
		}
		o := made(later, k, awake)
		if o == nil {
			return
		}
		if o.by() == 0 {
			p.Soonest = o.Ready
			p.Ways = append(p.Ways, Way{Words: fmt.Sprintf("Eat %s later, at %s.", long(by), p.Soonest.Format("Mon 15:04")), Eat: p.Soonest})
			return
		}
		by += o.by()
	}
}
