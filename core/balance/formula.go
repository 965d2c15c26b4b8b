package balance

import (
	"slices"
	"sort"

	"kollaris/core/fact"
	"kollaris/core/larder"
)

// Formula is a recipe's batter as the trade writes it: everything as per cent of
// the flour. Flours, starches, ground nuts and oats count as flour, and are named,
// since the convention differs for gluten-free and nut bases.
type Formula struct {
	Base    float64  // g that count as flour, 100 %
	Counted []string // their names
	Mass    float64  // g of batter
	Lines   []Share
	Sums    []Sum
}

// Share is one item against the base.
type Share struct {
	Name           string
	Grams, Percent float64
}

// Sum is one thing of every source against the base.
type Sum struct {
	Share
	From []fact.Term // what brings it, g, the most first
}

// Baker works out a formula's baker's percentages; false when nothing counts as
// flour. Water leaves out the flour's own and whole dried fruit's; fat and sugar
// leave out the flour's own.
func Baker(items []Item) (Formula, bool) {
	b := Add(items)
	if b.Base <= 0 {
		return Formula{}, false
	}
	f := Formula{Base: b.Base, Mass: b.Mass}
	for _, it := range items {
		if it.Ingredient.IsBase() && !slices.Contains(f.Counted, it.Ingredient.Name) {
			f.Counted = append(f.Counted, it.Ingredient.Name)
		}
		f.Lines = append(f.Lines, Share{it.Ingredient.Name, it.Grams, b.Per(it.Grams)})
	}
	notBase := func(of func(*larder.Facts) float64) func(*larder.Ingredient) float64 {
		return func(i *larder.Ingredient) float64 {
			if i.IsBase() {
				return 0
			}
			return of(&i.Facts)
		}
	}
	whole := func(is func(*larder.Ingredient) bool) func(*larder.Ingredient) float64 {
		return func(i *larder.Ingredient) float64 {
			if is(i) {
				return 100
			}
			return 0
		}
	}
	for _, s := range []struct {
		name string
		of   func(*larder.Ingredient) float64
	}{
		{"water", WaterOf},
		{"sugar", notBase(func(f *larder.Facts) float64 { return f.Sugars() })},
		{"fat", notBase(func(f *larder.Facts) float64 { return f[larder.Fat] })},
		{"egg", whole(func(i *larder.Ingredient) bool { return i.Origin == "egg" })},
		{"yeast", whole(func(i *larder.Ingredient) bool { return i.Family == larder.FamilyYeast })},
		{"salt", func(i *larder.Ingredient) float64 {
			if i.Family == larder.FamilySalt {
				return 100 // as it stands in the list, moisture and all
			}
			return SaltOf(i)
		}},
	} {
		sum := Sum{Share: Share{Name: s.name}, From: Term(items, s.of)}
		sort.SliceStable(sum.From, func(a, b int) bool { return sum.From[a].Value > sum.From[b].Value })
		for _, t := range sum.From {
			sum.Grams += t.Value
		}
		if sum.Percent = b.Per(sum.Grams); sum.Percent >= 0.1 {
			f.Sums = append(f.Sums, sum)
		}
	}
	return f, true
}
