package table

import (
	"math"
	"slices"

	"kollaris/core/adapt"
	"kollaris/core/diet"
	"kollaris/core/larder"
	"kollaris/core/recipe"
)

// Guard is why one bake has to be kept from another: what the other holds, and who of
// this one's eaters must not have it.
type Guard struct {
	Bake  int      // index of the other in Menu.Bakes
	What  []string // in words: "egg"
	For   []int    // people
	Label bool     // it depends on a label whether the other holds it
}

// harms says what of a bake somebody must not be given by a crumb, in words; label where
// that depends on a packet. What is limited by the serving does no harm by the crumb.
func harms(made *recipe.Recipe, p Person, kit adapt.Kit) (what []string, label bool) {
	var single []diet.Demand
	for _, id := range p.Diets {
		switch id {
		case diet.Keto, diet.LowSugar, diet.LowSodium:
		default:
			single = append(single, diet.Demand{Diets: []diet.ID{id}})
		}
	}
	for _, b := range p.Bans {
		single = append(single, diet.Demand{Bans: []string{b}})
	}
	worst := diet.Fine
	for _, d := range single {
		verdict := diet.Fine
		for _, l := range made.Lines {
			if i := kit.Larder.Get(l.Ingredient); i != nil {
				v, _ := d.Judge(i)
				verdict = max(verdict, v)
			}
		}
		if verdict > worst {
			what, worst = nil, verdict // what breaks it comes before what a label says
		}
		if verdict > diet.Fine && verdict == worst {
			what = append(what, crumb(d))
		}
	}
	return what, worst == diet.CheckLabel
}

// crumb names what a demand shuts out: "egg", "coconut", "what is not vegan".
func crumb(d diet.Demand) string {
	if len(d.Bans) > 0 {
		return diet.BanWords(d.Bans[0])
	}
	if x, _ := diet.Find(d.Diets[0]); x.Allergen != "" {
		return larder.AllergenWords(x.Allergen)
	}
	return "what is not " + string(d.Diets[0])
}

// weigh is how much it matters that something of one bake gets into another's, by the
// strictest who would be given it. Each step outweighs any number of the next at a table
// of MostPeople. Source: practice: an allergy before what upsets, a certainty before a
// label.
func weigh(s Strictness, label bool) float64 {
	w := map[Strictness]float64{Allergy: 1e6, Upsets: 100}[s]
	if label {
		w /= 1e3
	}
	return w
}

// guards are, for each bake, what it has to be kept from in each other one; and how much
// that matters.
func guards(bakes []Bake, people []Person, kit adapt.Kit) (from [][]*Guard, weight [][]float64) {
	n := len(bakes)
	from, weight = make([][]*Guard, n), make([][]float64, n)
	for a := range bakes {
		from[a], weight[a] = make([]*Guard, n), make([]float64, n)
		for b := range bakes {
			if a == b {
				continue
			}
			for _, k := range bakes[a].Feeds {
				p := people[k]
				what, label := harms(bakes[b].Made, p, kit)
				w := weigh(p.Strict, label)
				if len(what) == 0 || w == 0 {
					continue
				}
				g := from[a][b]
				if g == nil || g.Label && !label { // a certainty takes the place of a label
					g = &Guard{Bake: b, Label: label}
					from[a][b] = g
				}
				if g.Label == label {
					g.For = append(g.For, k)
					for _, x := range what {
						if !slices.Contains(g.What, x) {
							g.What = append(g.What, x)
						}
					}
				}
				weight[a][b] += w
			}
		}
	}
	return from, weight
}

// mostOrdered is the most bakes whose every order is tried: 5040 of seven.
const mostOrdered = 7

// order puts bakes in the order in which least gets from one into another, the strictest
// first where that leaves a choice, and says at each what it stands before for, and what
// has to be cleaned away before it.
func order(bakes []Bake, people []Person, kit adapt.Kit) []Bake {
	slices.SortStableFunc(bakes, func(a, b Bake) int { return a.Strict.Rank() - b.Strict.Rank() })
	from, weight := guards(bakes, people, kit)
	best := sequence(weight)
	at := make([]int, len(bakes))
	for place, b := range best {
		at[b] = place
	}
	out := make([]Bake, len(bakes))
	for place, b := range best {
		x := bakes[b]
		x.Before, x.Clean = nil, nil
		for _, other := range best {
			g := from[b][other]
			if g == nil {
				continue
			}
			moved := *g
			moved.Bake = at[other]
			if at[other] < place {
				x.Clean = append(x.Clean, moved)
			} else {
				x.Before = append(x.Before, moved)
			}
		}
		out[place] = x
	}
	return out
}

// sequence finds the order whose earlier members harm later ones least: weight[a][b] is
// what b before a costs. The given order wins among equals. Beyond mostOrdered the one
// that does the rest the least harm comes first, again and again.
func sequence(weight [][]float64) []int {
	n := len(weight)
	rest := make([]int, n)
	for k := range rest {
		rest[k] = k
	}
	if n > mostOrdered {
		var out []int
		for len(rest) > 0 {
			least, pick := math.Inf(1), 0
			for k, b := range rest {
				harm := 0.0
				for _, a := range rest {
					harm += weight[a][b]
				}
				if harm < least {
					least, pick = harm, k
				}
			}
			out, rest = append(out, rest[pick]), slices.Delete(rest, pick, pick+1)
		}
		return out
	}
	best, cost := slices.Clone(rest), math.Inf(1)
	var try func(done, rest []int, spent float64)
	try = func(done, rest []int, spent float64) {
		if spent >= cost {
			return
		}
		if len(rest) == 0 {
			best, cost = slices.Clone(done), spent
			return
		}
		for k, b := range rest {
			more := spent
			for _, a := range rest {
				more += weight[a][b]
			}
			try(append(done, b), slices.Delete(slices.Clone(rest), k, k+1), more)
		}
	}
	try(nil, rest, 0)
	return best
}
