package formula

import (
	"fmt"
	"maps"
	"math"
	"slices"

	"kollaris/core/balance"
	"kollaris/core/diet"
	"kollaris/core/goal"
	"kollaris/core/larder"
	"kollaris/core/measure"
	"kollaris/core/recipe"
)

// Bowl is a batter on the counter: what was worked out, and what really lies in the bowl or
// stands weighed ready. What is still to come can be worked out anew around it.
type Bowl struct {
	Aim     *recipe.Recipe // as it was worked out; its sums are what has to come back
	Larder  *larder.Larder
	Kitchen measure.Kitchen
	Demand  diet.Demand
	In      map[recipe.LineID]float64 // g that cannot be changed any more: they are in, or weigh what they weigh
	Water   map[recipe.LineID]float64 // g of water that a line brings beyond what was worked out, less where negative: badly squeezed, well soaked
	Held    []recipe.LineID           // stay as they are though they are not in yet
	Extra   []balance.Item            // in, though no line lists it: a spoonful of flour
}

// BowlMove is a line that comes to another amount.
type BowlMove struct {
	Line       recipe.LineID // 0 for water that no line lists
	Ingredient *larder.Ingredient
	From, To   float64 // g; of a line that is in already, To is all of it
	More       bool    // it is in already: To less From is added
}

// BowlSum is one sum of the bowl.
type BowlSum struct {
	Target
	Aim  float64 // as worked out
	Is   float64 // with what is in, and the rest as worked out
	Then float64 // with the rest as it is now worked out
	Miss float64 // of Then, outside the window: above positive, below negative
	Off  float64 // of Is, likewise
}

// BowlAmounts is what is still to come, worked out anew.
type BowlAmounts struct {
	Moves []BowlMove
	Sums  []BowlSum
	Grams map[recipe.LineID]float64 // of every line of the batter
}

// How far what is still to come may move at the counter, as shares of what was worked out, and
// what that costs; then how much more of what is in may follow, as a share of it. Source: practice,
// working values: a baker changes the liquid first, flour when nothing else is left, and takes
// nothing out.
var atBowl = map[string]struct{ min, max, drift, more, moreDrift float64 }{
	"liquid": {0.2, 1.9, 0.02, 0.35, 0.08},
	"flour":  {0.85, 1.2, 0.15, 0.2, 0.25},
	"lift":   {0.5, 1.6, 0.05, 0.6, 0.10},
	"soda":   {0, 1, 0.05, 0, 0},
	"sugar":  {0.7, 1.3, 0.12, 0.3, 0.20},
	"fat":    {0.85, 1.2, 0.15, 0.2, 0.25},
	"salt":   {0.3, 1.6, 0.05, 0.6, 0.10},
}

// AtBowl is what a line may move as at the counter: flour, liquid, lift, soda, sugar, fat, salt, or ""
// for what stays. Soured milk and juice move there as well, a spoonful at a time.
func AtBowl(i *larder.Ingredient) string {
	switch as := MovesAs(i); {
	case i.IsBase():
		return "flour"
	case as == "" && i.Shelf.Rebased == "liquid":
		return "liquid"
	default:
		return as
	}
}

// bowlSlot is an amount to find: of a line that is to come, or more of one that is in.
type bowlSlot struct {
	line *recipe.Line
	ing  *larder.Ingredient
	in   float64 // g of the line that are in
}

// prior is what a slot comes to if nothing is changed, g.
func (s bowlSlot) prior() float64 {
	if s.in > 0 {
		return s.in
	}
	return s.line.Grams
}

// Solve works out what is still to come. An error means that the computation itself broke.
func (b Bowl) Solve() (BowlAmounts, error) {
	aim := balance.Items(b.Aim, b.Larder)
	sum := balance.Add(aim)
	ts := Targets(sum, b.Aim.Kind.Like(), 0, nil, false)
	fixed, slots := b.parts()
	out := BowlAmounts{Grams: map[recipe.LineID]float64{}}
	for _, l := range b.Aim.Batter() {
		out.Grams[l.ID] = l.Grams
	}
	maps.Copy(out.Grams, b.In)
	is := b.items(fixed, slots, bowlSlot.prior)
	off := false
	for _, t := range ts {
		x := BowlSum{Target: t, Aim: t.Sum(aim), Is: t.Sum(is)}
		x.Off = t.Missed(x.Is, sum.Mass)
		off = off || x.Off != 0
		out.Sums = append(out.Sums, x)
	}
	then := is
	if off {
		var err error
		if then, err = b.solve(&out, fixed, slots, is); err != nil {
			return out, fmt.Errorf("at the bowl: %w", err)
		}
	}
	for n := range out.Sums {
		x := &out.Sums[n]
		x.Then = x.Sum(then)
		x.Miss = x.Missed(x.Then, sum.Mass)
	}
	return out, nil
}

// parts are what cannot move and what may.
func (b Bowl) parts() (fixed []balance.Item, slots []bowlSlot) {
	for _, l := range b.Aim.Batter() {
		ing := b.Larder.Get(l.Ingredient)
		if ing == nil {
			continue
		}
		in, weighed := b.In[l.ID]
		if w := b.Water[l.ID]; w != 0 {
			fixed = append(fixed, balance.Item{Ingredient: b.Larder.Get("water"), Grams: w})
		}
		role := AtBowl(ing)
		switch {
		case weighed && in > 0 && atBowl[role].more > 0 && !slices.Contains(b.Held, l.ID):
			slots = append(slots, bowlSlot{&l, ing, in})
		case weighed:
			fixed = append(fixed, balance.Item{Ingredient: ing, Grams: in})
		case l.Grams <= 0:
		case role != "" && !slices.Contains(b.Held, l.ID):
			slots = append(slots, bowlSlot{&l, ing, 0})
		default:
			fixed = append(fixed, balance.Item{Ingredient: ing, Grams: l.Grams})
		}
	}
	if v, _ := b.Demand.Judge(b.Larder.Get("water")); v != diet.Breaks { // where the liquid there is does not reach
		slots = append(slots, bowlSlot{&recipe.Line{Ingredient: "water", Name: "water"}, b.Larder.Get("water"), 0})
	}
	return append(fixed, b.Extra...), slots
}

// Water that no line lists: at most so much of the batter, and dearer by the gram than the liquid there
// is. Source: practice, a working value.
const (
	mostWater  = 0.12
	waterDrift = 15e-4
)

// items are all that comes together, with each slot's amount.
func (b Bowl) items(fixed []balance.Item, slots []bowlSlot, of func(bowlSlot) float64) []balance.Item {
	all := slices.Clone(fixed)
	for _, s := range slots {
		all = append(all, balance.Item{Ingredient: s.ing, Grams: of(s)})
	}
	return all
}

// solve finds the slots' amounts, rounds them and writes what moved.
func (b Bowl) solve(out *BowlAmounts, fixed []balance.Item, slots []bowlSlot, is []balance.Item) ([]balance.Item, error) {
	var p goal.Programme
	for _, s := range slots {
		m := atBowl[AtBowl(s.ing)]
		v := goal.Var{Name: string(s.ing.ID), Prior: s.line.Grams, Min: m.min * s.line.Grams, Max: m.max * s.line.Grams, Drift: m.drift}
		if s.line.ID == 0 {
			v.Max, v.Drift = mostWater*float64(b.Aim.Mass()), waterDrift
		} else if s.in > 0 {
			v.Prior, v.Min, v.Max, v.Drift = s.in, s.in, s.in+m.more*math.Max(s.in, s.line.Grams), m.moreDrift
		}
		p.Vars = append(p.Vars, v)
	}
	for _, t := range out.Sums {
		// what acid and soda make together, taken as it is with the rest as worked out
		met := t.Is - t.own(is)
		g := goal.Goal{Name: t.ID, Const: t.own(fixed) + met, Lo: t.Lo, Hi: t.Hi, Scale: t.Scale, Weight: t.Weight}
		for _, s := range slots {
			of := t.Of(s.ing) / 100
			if t.ID == "acid" && s.ing.IsBase() { // nobody adds flour to meet soda
				of = 0
			}
			g.Coef = append(g.Coef, of)
		}
		p.Goals = append(p.Goals, g)
	}
	sol, err := p.Solve()
	if err != nil {
		return nil, err
	}
	got := map[bowlSlot]float64{}
	for n, s := range slots {
		got[s] = b.move(out, s, sol.X[n])
	}
	return b.items(fixed, slots, func(s bowlSlot) float64 { return got[s] }), nil
}

// move rounds what was found for a slot and writes it where it is worth measuring; it returns what
// the slot comes to.
func (b Bowl) move(out *BowlAmounts, s bowlSlot, x float64) float64 {
	was := s.prior()
	to := s.in + Round(b.Kitchen, s.ing, x-s.in)
	if math.Abs(to-was) < b.step(s) {
		return was
	}
	if s.line.ID != 0 {
		out.Grams[s.line.ID] = to
	}
	out.Moves = append(out.Moves, BowlMove{Line: s.line.ID, Ingredient: s.ing, From: was, To: to, More: s.in > 0})
	return to
}

// step is the least change of a slot that is worth measuring, g.
func (b Bowl) step(s bowlSlot) float64 {
	if Spooned(s.ing, s.line.Grams) {
		return Teaspoon(b.Kitchen, s.ing) / 8 * 0.9
	}
	return 0.02*s.line.Grams + 1
}

// Word is what a sum that misses by so much is: "drier", "rises more".
func (t Target) Word(miss float64) string {
	if miss < 0 {
		return t.Less
	}
	return t.More
}

// Missed is by how much a sum misses the window beyond what rounding to spoons may move, in a batter of
// so many grams: above positive, below negative.
func (t Target) Missed(sum, mass float64) float64 {
	slack := 0.02*t.Scale + 0.01*math.Abs(t.Hi)
	if t.Unit != "" && t.Unit[0] == 'g' && t.ID != "salt" && t.ID != "yeast" {
		slack += 0.001 * mass // nobody tastes or sees it
	}
	switch {
	case sum > t.Hi+slack:
		return sum - t.Hi
	case sum < t.Lo-slack:
		return sum - t.Lo
	}
	return 0
}
