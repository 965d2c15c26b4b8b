// Package formula finds the amounts of a batter whose parts have been replaced: how much
// of what comes in, and what else moves, so that the sum of the recipe comes back.
//
// A Formula is the recipe of this batch with what is replaced and by which school. What
// the batter is built on from then on is its Becoming; what has to come back are its
// Targets; and Solve searches the amounts by goal programming (package goal). A topping has
// sums of its own (Topping). Nothing here is rounded but soda, which is spooned before the
// powder is settled; the adaptation (package adapt) rounds the rest.
package formula

import (
	"maps"
	"slices"

	"kollaris/core/balance"
	"kollaris/core/diet"
	"kollaris/core/larder"
	"kollaris/core/measure"
	"kollaris/core/recipe"
	"kollaris/core/swap"
)

// Replaced is what goes of one use, in the batter or in a topping, and the school that
// stands for it.
type Replaced struct {
	Use     *swap.Use
	Topping bool
	Lines   []recipe.Line
	School  *swap.School // nil until one is chosen
	Lift    float64      // mmol CO2 that the school needs for one Per, beyond the air that was lost
}

// Per is how many of the use's measure the lines make: eggs, where eggs go.
func (p *Replaced) Per() float64 {
	sum := 0.0
	for _, l := range p.Lines {
		sum += l.Grams
	}
	return sum / p.Use.Per
}

// holds reports whether a line is among those that go.
func (p *Replaced) holds(id recipe.LineID) bool {
	return slices.ContainsFunc(p.Lines, func(l recipe.Line) bool { return l.ID == id })
}

// Part is the ingredient of a school's part that stands for a line; nil where the larder
// does not hold it.
func Part(part swap.Part, line recipe.Line, l *larder.Larder) *larder.Ingredient {
	if part.ID == swap.From {
		return l.Get(line.Ingredient)
	}
	return l.Get(part.ID)
}

// Formula is a batch with what of it is replaced.
type Formula struct {
	Recipe   *recipe.Recipe // of this batch, with the lines that are replaced
	Larder   *larder.Larder
	Kitchen  measure.Kitchen
	Demand   diet.Demand
	Exceeded []diet.Limit          // limits a serving that the recipe as written passes
	Holds    map[larder.ID]float64 // g, held by the baker
	Replaced []*Replaced
	Becoming *Becoming      // nil while the flour stays of a kind
	Aside    []balance.Item // toppings: in no sum of the batter, but in a serving
}

// Of finds what is replaced with a line; nil for a line that stays.
func (f *Formula) Of(id recipe.LineID) *Replaced {
	for _, p := range f.Replaced {
		if p.holds(id) {
			return p
		}
	}
	return nil
}

// For is what the batter replaces of a use, nil where it stays.
func (f *Formula) For(use string) *Replaced {
	for _, p := range f.Replaced {
		if p.Use.ID == use && !p.Topping {
			return p
		}
	}
	return nil
}

// Lift is the gas that the schools need beyond the air that was lost, mmol.
func (f *Formula) Lift() float64 {
	lift := 0.0
	for _, p := range f.Replaced {
		if !p.Topping {
			lift += p.Per() * p.Lift
		}
	}
	return lift
}

// Targets lists what has to come back.
func (f *Formula) Targets() []Target {
	b, _ := f.balance()
	return Targets(b, f.Recipe.Kind.Like(), f.Lift(), f.Becoming, f.For("sugar") != nil)
}

func (f *Formula) balance() (balance.Balance, []balance.Item) {
	items := balance.Items(f.Recipe, f.Larder)
	return balance.Add(items), items
}

// base is what counts as flour once the schools are chosen, g.
func (f *Formula) base(b balance.Balance) float64 {
	if f.Becoming != nil {
		return f.Becoming.grams
	}
	return b.Base
}

// sorted are the keys of a map in order, so that no sum depends on chance.
func sorted[V any](m map[larder.ID]V) []larder.ID { return slices.Sorted(maps.Keys(m)) }
