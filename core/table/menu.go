package table

import (
	"math"
	"math/bits"
	"slices"
	"sort"

	"kollaris/core/adapt"
	"kollaris/core/diet"
	"kollaris/core/recipe"
	"kollaris/core/swap"
)

// Bake is one of the bakes that feed a table.
type Bake struct {
	Recipe int         // index of the recipes given
	Demand diet.Demand // what it is adapted to; empty for as written
	Feeds  []int       // indices of the people it is for
	Wanted float64     // servings they eat
	Strict Strictness  // of the strictest of them
	Labels []string
	Joint  bool           // Demand is that of all whom it feeds
	Made   *recipe.Recipe // what is baked
	New    []string       // allergens it holds and the written recipe did not, by id
	Before []Guard        // later bakes that would get into it
	Clean  []Guard        // earlier bakes that must be cleaned away before it
}

// Menu is the fewest bakes that feed a table.
type Menu struct {
	Bakes  []Bake // in the order of baking: least gets from one into another, then the strictest first
	Unfed  []int  // people whom no recipe feeds
	Trial  bool   // a bake of it is an experiment
	Better *Menu  // one of more bakes, none an experiment, that feeds as many; nil for none
}

// candidate is a bake that could be made, with whom it would feed.
type candidate struct {
	recipe int
	demand diet.Demand
	feeds  uint32
	cost   float64
	trial  bool // an experiment
	labels []string
	made   *recipe.Recipe
	brings []string // new allergens
}

// MostPeople is the largest table that bakes are counted for.
const MostPeople = 24

// Fewest finds the fewest bakes that feed everybody, and of those the dearest to
// bakers: as written before adapted, well tried before an experiment, fewer labels
// to read. It tries each recipe as written, for each person's demand, and for all
// together. People beyond MostPeople are left out.
func Fewest(recipes []*recipe.Recipe, people []Person, kit adapt.Kit) (Menu, error) {
	if len(people) > MostPeople {
		people = people[:MostPeople]
	}
	demands := []diet.Demand{{}}
	add := func(d diet.Demand) {
		if !d.Empty() && !slices.ContainsFunc(demands, func(x diet.Demand) bool { return same(x, d) }) {
			demands = append(demands, d)
		}
	}
	for _, p := range people {
		add(p.Demand())
	}
	add(Join(people))
	of := make([][]candidate, len(recipes))
	err := sideBySide(len(recipes), func(n int) error {
		for _, d := range demands {
			c, ok, err := try(n, recipes[n], d, people, kit)
			if err != nil {
				return err
			}
			if ok {
				of[n] = append(of[n], c)
			}
		}
		return nil
	})
	if err != nil {
		return Menu{}, err
	}
	all := slices.Concat(of...)
	m := serve(people, Cover(len(people), slices.Clone(all)))
	if err := m.settle(recipes, people, kit); err != nil {
		return m, err
	}
	if m.Trial {
		tried := slices.DeleteFunc(slices.Clone(all), func(c candidate) bool { return c.trial })
		if better := serve(people, Cover(len(people), tried)); len(better.Bakes) > 0 &&
			len(better.Unfed) <= len(m.Unfed) {
			if err := better.settle(recipes, people, kit); err != nil {
				return m, err
			}
			m.Better = &better
		}
	}
	return m, nil
}

// settle adapts each bake to all whom it feeds, where that can be had no worse, so that
// its verdict speaks of every one of them, and puts the bakes in order.
func (m *Menu) settle(recipes []*recipe.Recipe, people []Person, kit adapt.Kit) error {
	for n := range m.Bakes {
		b := &m.Bakes[n]
		if b.Demand.Empty() {
			continue
		}
		var fed []Person
		for _, k := range b.Feeds {
			fed = append(fed, people[k])
		}
		c, ok, err := try(b.Recipe, recipes[b.Recipe], Join(fed), people, kit)
		if err != nil {
			return err
		}
		all := uint32(0)
		for _, k := range b.Feeds {
			all |= 1 << k
		}
		if ok && c.feeds&all == all && (!c.trial || m.Trial) {
			b.Demand, b.Joint, b.Labels, b.Made, b.New = c.demand, true, c.labels, c.made, c.brings
		}
	}
	m.Bakes = order(m.Bakes, people, kit)
	return nil
}

func same(a, b diet.Demand) bool {
	return slices.Equal(a.Diets, b.Diets) && slices.Equal(a.Bans, b.Bans) && slices.Equal(a.Limits, b.Limits) &&
		slices.Equal(a.Unread, b.Unread)
}

// try makes a bake of a recipe for a demand and sees whom it feeds.
func try(n int, r *recipe.Recipe, d diet.Demand, people []Person, kit adapt.Kit) (candidate, bool, error) {
	c := candidate{recipe: n, demand: d, made: r}
	if !d.Empty() {
		cell, err := Look(r, d, kit)
		if err != nil {
			return c, false, err
		}
		if cell.State == No || cell.Result == nil {
			return c, false, nil // not to be had, or it is the written one
		}
		c.made, c.brings = cell.Result.Recipe, cell.Result.Verdict.New
		c.trial = cell.Result.Confidence == swap.Experiment
		c.cost = map[swap.Confidence]float64{swap.WellTried: 1, swap.Workable: 2, swap.Experiment: 5}[cell.Result.Confidence] + 0.2*float64(
			len(cell.Changes),
		)
	}
	said := adapt.Unlisted(r, d, kit.Larder) // that the adapted method says to leave out
	for k, p := range people {
		if slices.ContainsFunc(adapt.Unlisted(r, p.Demand(), kit.Larder), func(name string) bool { return !slices.Contains(said, name) }) {
			continue
		}
		switch state, labels := holds(c.made, p.Demand(), kit); state {
		case Fits:
			c.feeds |= 1 << k
		case Label:
			c.feeds |= 1 << k
			c.cost += 0.1
			for _, l := range labels {
				if !slices.Contains(c.labels, l) {
					c.labels = append(c.labels, l)
				}
			}
		}
	}
	return c, c.feeds != 0, nil
}

// Cover chooses the fewest candidates whose people together are as many as can be
// fed, and of those the cheapest. It is exact: candidates are tried in all
// combinations of one, two, three, … with what another one covers more cheaply left
// out first.
func Cover(people int, all []candidate) []candidate {
	goal := uint32(0)
	for _, c := range all {
		goal |= c.feeds
	}
	if goal == 0 {
		return nil
	}
	sort.SliceStable(all, func(a, b int) bool {
		na, nb := bits.OnesCount32(all[a].feeds), bits.OnesCount32(all[b].feeds)
		if na != nb {
			return na > nb
		}
		return all[a].cost < all[b].cost
	})
	var kept []candidate
	for _, c := range all {
		if !slices.ContainsFunc(kept, func(k candidate) bool { return c.feeds&^k.feeds == 0 && k.cost <= c.cost }) {
			kept = append(kept, c)
		}
	}
	for size := 1; size <= people; size++ {
		best, cost := []int(nil), math.Inf(1)
		var search func(from int, picked []int, fed uint32, spent float64)
		search = func(from int, picked []int, fed uint32, spent float64) {
			if spent >= cost {
				return
			}
			if fed == goal {
				best, cost = slices.Clone(picked), spent
				return
			}
			if len(picked) == size {
				return
			}
			// whoever is not fed yet must be fed by one of those that follow
			need := bits.TrailingZeros32(goal &^ fed)
			for n := range kept {
				if kept[n].feeds&(1<<need) != 0 && !slices.Contains(picked, n) {
					search(n, append(picked, n), fed|kept[n].feeds, spent+kept[n].cost)
				}
			}
		}
		search(0, nil, 0, 0)
		if best != nil {
			var out []candidate
			for _, n := range best {
				out = append(out, kept[n])
			}
			return out
		}
	}
	return nil
}

// serve shares the people among the bakes: each eats of the one that was changed
// least for others.
func serve(people []Person, chosen []candidate) Menu {
	var m Menu
	order := make([]int, len(chosen))
	for n := range order {
		order[n] = n
	}
	sort.SliceStable(order, func(a, b int) bool { return chosen[order[a]].cost < chosen[order[b]].cost })
	bakes := make([]Bake, len(chosen))
	for n, c := range chosen {
		bakes[n] = Bake{
			Recipe: c.recipe, Demand: c.demand, Strict: Choice, Labels: c.labels, Made: c.made, New: c.brings,
		}
		m.Trial = m.Trial || c.trial
	}
	for k, p := range people {
		fed := false
		for _, n := range order {
			if chosen[n].feeds&(1<<k) == 0 {
				continue
			}
			b := &bakes[n]
			b.Feeds, b.Wanted, fed = append(b.Feeds, k), b.Wanted+p.Servings(), true
			if !p.Demand().Empty() && p.Strict.Rank() < b.Strict.Rank() {
				b.Strict = p.Strict
			}
			break
		}
		if !fed {
			m.Unfed = append(m.Unfed, k)
		}
	}
	for _, b := range bakes {
		if len(b.Feeds) > 0 {
			m.Bakes = append(m.Bakes, b)
		}
	}
	return m
}
