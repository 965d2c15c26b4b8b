package balance

import (
	"kollaris/core/larder"
	"kollaris/core/recipe"
)

// Cost adds up what a recipe's lines cost by the household's packs, in its
// currency, and names the weighed lines without a price. Water is free.
func Cost(r *recipe.Recipe, l *larder.Larder) (total float64, unpriced []string) {
	for _, ln := range r.Lines {
		i := l.Get(ln.Ingredient)
		switch {
		case ln.Grams <= 0 || i != nil && i.Family == larder.FamilyWater:
		case i == nil || i.Pack == nil || i.Pack.Grams <= 0:
			unpriced = append(unpriced, ln.Name)
		default:
			total += i.Pack.Per(ln.Grams)
		}
	}
	return total, unpriced
}
