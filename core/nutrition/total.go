package nutrition

import (
	"math"

	"kollaris/core/fact"
	"kollaris/core/larder"
	"kollaris/core/measure"
	"kollaris/core/recipe"
)

// Total is what a whole recipe holds, toppings included, baked.
type Total struct {
	Facts   larder.Facts // sums in the columns' own units, what is not known left out
	Unknown larder.Facts // g of food for which a column is not known
	Plus    larder.Facts // ± of each sum, from weighing and from the data
	Added   float64      // g of added sugars
	Raw     float64      // g before baking
	Baked   float64      // g after baking
}

// Loss is the share of its weight that a batter of a kind loses in the oven. Source: the table of kinds, practice, 6 to 14 %.
func Loss(k recipe.Kind) float64 { return k.Trade().Loss }

// kept is the alcohol left after baking or simmering, by minutes. Source:
// published, USDA table of nutrient retention factors, release 6.
var kept = []struct{ minutes, share float64 }{
	{0, 0.85}, {15, 0.40}, {30, 0.35}, {60, 0.25}, {90, 0.20}, {120, 0.10}, {150, 0.05},
}

// AlcoholLeft is the share of the alcohol in a batter that is left after minutes
// in the oven.
func AlcoholLeft(minutes float64) float64 {
	for n := 1; n < len(kept); n++ {
		if a, b := kept[n-1], kept[n]; minutes <= b.minutes {
			return a.share + (b.share-a.share)*(math.Max(minutes, a.minutes)-a.minutes)/(b.minutes-a.minutes)
		}
	}
	return kept[len(kept)-1].share
}

// How far a line may be off: by scale, spoon or cup; and by the data. Source:
// common practice, home weighing and tables.
const (
	offByScale  = 0.02
	offBySpoon  = 0.10
	offByMemory = 0.10 // composition from memory or a typical label
	offByTable  = 0.05 // published, or of the packet itself
)

// offBy is how far what a line brings may be off, as a share: by how it is measured, by
// its data, and for carbohydrate and salt by how far brands lie apart; together.
func offBy(ln recipe.Line, i *larder.Ingredient, byBrand bool) float64 {
	off, data := offByScale, offByTable
	if u, _ := measure.UnitByID(ln.Unit); u.Kind != measure.Mass {
		off = offBySpoon
	}
	if i != nil && (i.Sources["macro"].Tag() == "memory" || i.Sources["macro"].Tag() == "practice") {
		data = offByMemory
	}
	if byBrand && i != nil && i.Sources["macro"].Tag() != fact.Yours {
		data = math.Max(data, i.Shelf.Brands)
	}
	return math.Hypot(off, data)
}

// brandsDiffer are the columns that lie apart from brand to brand, by Shelf.Brands; fat and
// protein hardly do. Source: practice.
func brandsDiffer(c larder.Column) bool {
	switch c {
	case larder.Water, larder.Fat, larder.Saturates, larder.Protein:
		return false
	}
	return true
}

// Plus is the ± of a carbohydrate or salt of one serving, given what 100 g of an ingredient
// hold of it: the lines' errors taken as independent. Most is the line that it is most of.
func Plus(r *recipe.Recipe, l *larder.Larder, of func(*larder.Ingredient) float64) (plus float64, most recipe.Line) {
	sum, top := 0.0, 0.0
	for _, ln := range r.Lines {
		if i := l.Get(ln.Ingredient); i != nil {
			x := of(i) * ln.Grams / 100 * offBy(ln, i, true)
			sum = math.Hypot(sum, x)
			if x > top {
				most, top = ln, x
			}
		}
	}
	return sum / float64(max(1, r.Servings)), most
}

// Sum adds up a recipe. Lines without an ingredient count as food of which nothing
// is known, where their weight is.
func Sum(r *recipe.Recipe, l *larder.Larder) Total {
	var t Total
	share := Loss(r.Kind)
	for _, ln := range r.Lines {
		left := ln.Grams
		if !ln.Topping() {
			left *= 1 - share
		}
		t.Raw, t.Baked = t.Raw+ln.Grams, t.Baked+left
		i := l.Get(ln.Ingredient)
		for c := range larder.Columns {
			if i == nil || !i.Facts.Known(larder.Column(c)) {
				t.Unknown[c] += ln.Grams
				continue
			}
			x := i.Facts[c] * ln.Grams / 100
			if larder.Column(c) == larder.Alcohol && !ln.Topping() {
				x *= AlcoholLeft(r.Bake.Mid())
			}
			t.Facts[c] += x
			off := offBy(ln, i, brandsDiffer(larder.Column(c)))
			t.Plus[c] = math.Sqrt(t.Plus[c]*t.Plus[c] + x*x*off*off)
		}
		if i != nil && IsAdded(i) {
			t.Added += i.Facts.Sugars() * ln.Grams / 100
		}
	}
	return t
}

// Of100 is what has to be multiplied to come to 100 g as baked, 0 for nothing.
func (t Total) Of100() float64 {
	if t.Baked <= 0 {
		return 0
	}
	return 100 / t.Baked
}

// Known is the share of the food, by weight, for which a column is known.
func (t Total) Known(c larder.Column) float64 {
	if t.Raw <= 0 {
		return 0
	}
	return 1 - t.Unknown[c]/t.Raw
}
